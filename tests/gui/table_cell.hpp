#pragma once
#include <QTableWidget>

namespace undisona {

/// Where a cell is on the screen, brought into view.
inline QPoint cell(QTableWidget* table, int row, int column)
{
    table->scrollToItem(table->item(row, column));
    return table->viewport()->mapToGlobal(table->visualItemRect(table->item(row, column)).center());
}

} // namespace undisona
