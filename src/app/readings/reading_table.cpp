#include "app/readings/reading_table.hpp"

#include "app/readings/printed_table.hpp"
#include "app/session/theme.hpp"
#include "app/session/written_file.hpp"
#include "core/base/number_text.hpp"

#include <QApplication>
#include <QClipboard>
#include <QContextMenuEvent>
#include <QFileDialog>
#include <QHeaderView>
#include <QKeyEvent>
#include <QMenu>

namespace undisona {

namespace {

constexpr int keyRole = Qt::UserRole, sortRole = Qt::UserRole + 1, tipRole = Qt::UserRole + 2;

class SortedItem : public QTableWidgetItem {
public:
    using QTableWidgetItem::QTableWidgetItem;
    bool operator<(const QTableWidgetItem& other) const override
    {
        const QVariant mine = data(sortRole), theirs = other.data(sortRole);
        if (mine.isValid() && theirs.isValid()) return mine.toDouble() < theirs.toDouble();
        return text() < other.text();
    }
};

} // namespace

ReadingTable::ReadingTable(QWidget* parent) : QTableWidget(parent)
{
    setTabKeyNavigation(false); // rows are chosen by the arrows, and Tab leads on
    setSelectionBehavior(SelectRows);
    setSelectionMode(SingleSelection);
    setEditTriggers(NoEditTriggers);
    setShowGrid(false);
    setWordWrap(false);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(24);
    verticalHeader()->setMinimumSectionSize(20);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setMinimumSectionSize(24);
    setHorizontalScrollMode(ScrollPerPixel);
    connect(this, &QTableWidget::currentCellChanged, this, [this](int row, int, int before, int) {
        if (!filling_ && row != before && row >= 0) emit keyChosen(keyOfRow(row));
    });
    horizontalHeader()->setSectionsClickable(true);
    connect(horizontalHeader(), &QHeaderView::sectionClicked, this, [this](int column) {
        descending_ = column == sortedBy_ && !descending_;
        sortedBy_ = column;
        sortItems(column, descending_ ? Qt::DescendingOrder : Qt::AscendingOrder);
    });
    connect(this, &QTableWidget::cellClicked, this, [this](int row, int) { emit keyActivated(keyOfRow(row)); });
}

ReadingTable::Cell ReadingTable::number(double value, int digits, const QColor& colour)
{
    return {QString::fromStdString(rounded(value, digits)), value, colour, false, true, {}};
}

void ReadingTable::setHeads(const QStringList& heads)
{
    setColumnCount(static_cast<int>(heads.size()));
    setHorizontalHeaderLabels(heads);
    heads_ = heads;
}

void ReadingTable::foldLastColumns()
{
    folds_ = true;
}

void ReadingTable::cutShort(int column, int least)
{
    cut_ = column;
    cutTo_ = least;
}

void ReadingTable::resizeEvent(QResizeEvent* event)
{
    QTableWidget::resizeEvent(event);
    fold();
}

void ReadingTable::fold()
{
    if (!folds_ || natural_.size() != static_cast<std::size_t>(columnCount()) || columnCount() == 0) return;
    constexpr int least = 3; // columns that are seen in any case
    const auto mark = [](int count) { return count > 0 ? QString("  +%1").arg(count) : QString(); };
    const auto leastOf = [this](int column) {
        const int natural = natural_[static_cast<std::size_t>(column)];
        return column == cut_ ? std::min(natural, cutTo_) : natural;
    };
    int room = viewport()->width(), seen = 0;
    for (; seen < columnCount(); ++seen) {
        const int after = columnCount() - seen - 1;
        if (seen >= least && leastOf(seen) + fontMetrics().horizontalAdvance(mark(after)) > room) break;
        room -= leastOf(seen);
    }
    const int folded = columnCount() - seen;
    for (int column = 0; column < columnCount(); ++column) {
        setColumnHidden(column, column >= seen);
        const bool last = column + 1 == seen;
        const int natural = natural_[static_cast<std::size_t>(column)],
                  marked = fontMetrics().horizontalAdvance(mark(folded));
        const int own = column == cut_
                            ? std::clamp(leastOf(column) + room - (folded > 0 ? marked : 0), leastOf(column), natural)
                            : natural;
        setColumnWidth(column, own + (last ? marked : 0));
        auto* head = horizontalHeaderItem(column);
        head->setText(heads_.value(column) + (last ? mark(folded) : QString()));
        head->setToolTip(
            last && folded > 0
                ? tr("%1 more with more room (F7): %2").arg(folded).arg(QStringList(heads_.mid(seen)).join(", "))
                : QString());
    }
    for (int row = 0; row < rowCount(); ++row) {
        QStringList rest;
        for (int column = seen; column < columnCount(); ++column)
            if (const auto* cell = item(row, column); cell && !cell->text().isEmpty())
                rest << heads_.value(column) + ": " + cell->text();
        for (int column = 0; column < seen; ++column)
            if (auto* cell = item(row, column)) {
                QString own = cell->data(tipRole).toString();
                if (own.isEmpty() && column == cut_) own = cell->text(); // in full
                cell->setToolTip(own + (own.isEmpty() || rest.isEmpty() ? "" : "\n") + rest.join("\n"));
            }
    }
}

void ReadingTable::fitRows()
{
    constexpr int frame = 20;
    for (int row = 0; row < rowCount(); ++row) {
        int high = verticalHeader()->minimumSectionSize();
        for (int column = 0; column < columnCount(); ++column)
            if (const auto* own = item(row, column)) {
                const bool last = column + 1 == columnCount() && horizontalHeader()->stretchLastSection();
                const int wide = last ? viewport()->width() - columnViewportPosition(column) : columnWidth(column);
                const QRect room(0, 0, std::max(20, wide - frame), 10000);
                high = std::max(
                    high, QFontMetrics(own->font()).boundingRect(room, Qt::TextWordWrap, own->text()).height() + 6);
            }
        setRowHeight(row, high);
    }
}

void ReadingTable::setRows(const std::vector<std::vector<Cell>>& rows, const std::vector<int>& keys)
{
    filling_ = true;
    const int keptKey = currentRow() >= 0 ? keyOfRow(currentRow()) : -1;
    if (folds_)
        for (int column = 0; column < columnCount(); ++column)
            setColumnHidden(column, false); // so that its width is found anew
    setRowCount(static_cast<int>(rows.size()));
    for (std::size_t row = 0; row < rows.size(); ++row)
        for (std::size_t column = 0; column < rows[row].size(); ++column) {
            const Cell& cell = rows[row][column];
            auto* item = new SortedItem(cell.text);
            item->setData(keyRole, keys[row]);
            if (cell.sortBy.isValid()) item->setData(sortRole, cell.sortBy);
            if (cell.colour.isValid()) item->setForeground(cell.colour);
            if (cell.bold) item->setFont(textFont(0.0, true));
            item->setTextAlignment((cell.numeric ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
            if (!cell.tip.isEmpty()) {
                item->setToolTip(cell.tip);
                item->setData(tipRole, cell.tip);
            }
            setItem(static_cast<int>(row), static_cast<int>(column), item);
            if (auto* head = horizontalHeaderItem(static_cast<int>(column)))
                head->setTextAlignment((cell.numeric ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
        }
    resizeColumnsToContents();
    for (int column = 0; column < columnCount(); ++column)
        setColumnWidth(column, std::min(columnWidth(column) - 2, 260));
    natural_.clear();
    for (int column = 0; column < columnCount(); ++column)
        natural_.push_back(columnWidth(column));
    fold();
    selectKey(keptKey);
    filling_ = false;
}

int ReadingTable::keyOfRow(int row) const
{
    return item(row, 0) ? item(row, 0)->data(keyRole).toInt() : -1;
}

void ReadingTable::selectKey(int key)
{
    const bool before = filling_;
    filling_ = true;
    for (int row = 0; row < rowCount(); ++row)
        if (keyOfRow(row) == key) {
            if (currentRow() != row) setCurrentCell(row, 0);
            scrollToItem(item(row, 0));
        }
    filling_ = before;
}

QString ReadingTable::asText(QChar separator) const
{
    QString text;
    const auto put = [&](const QString& cell, int column) {
        if (column > 0) text += separator;
        QString plain = cell;
        plain.remove(QChar(0x2009));
        text += separator == ',' && plain.contains(QRegularExpression("[,\"\n]"))
                    ? '"' + QString(plain).replace("\"", "\"\"") + '"'
                    : plain;
    };
    for (int column = 0; column < columnCount(); ++column)
        put(horizontalHeaderItem(column)->text(), column);
    text += '\n';
    for (int row = 0; row < rowCount(); ++row) {
        for (int column = 0; column < columnCount(); ++column)
            put(item(row, column) ? item(row, column)->text() : QString(), column);
        text += '\n';
    }
    return text;
}

void ReadingTable::copy() const
{
    QApplication::clipboard()->setText(asText('\t'));
}

void ReadingTable::setPrinted(const QString& title, const QString& words)
{
    title_ = title;
    words_ = words;
}

QString ReadingTable::save(const QString& path) const
{
    const bool pdf = path.endsWith(".pdf", Qt::CaseInsensitive);
    return writtenWords(path, pdf ? pdfOf(title_, words_, *this) : asText(',').toStdString());
}

void ReadingTable::print()
{
    printTable(this, title_, words_, *this);
}

void ReadingTable::keyPressEvent(QKeyEvent* event)
{
    if (event->matches(QKeySequence::Copy)) return copy();
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
        if (currentRow() >= 0) emit keyActivated(keyOfRow(currentRow()));
        return;
    }
    if (event->key() == Qt::Key_PageUp || event->key() == Qt::Key_PageDown)
        return event->ignore(); // they step the modes everywhere
    QTableWidget::keyPressEvent(event);
}

void ReadingTable::contextMenuEvent(QContextMenuEvent* event)
{
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("Copy the table"), this, &ReadingTable::copy);
    menu->addAction(tr("Export the table …"), this, [this] {
        const QString path = QFileDialog::getSaveFileName(this, tr("Export the table"), {},
                                                          tr("Comma-separated (*.csv);;Document (*.pdf)"));
        if (!path.isEmpty()) emit told(save(path));
    });
    menu->addAction(tr("Print the table …"), this, &ReadingTable::print);
    menu->popup(event->globalPos());
}

} // namespace undisona
