#include "app/session/search_dialog.hpp"

#include <QKeyEvent>

namespace undisona {

SearchDialog::SearchDialog(const QString& title, const QString& prompt, QWidget* parent) : QDialog(parent, Qt::Dialog)
{
    setWindowTitle(title);
    line_ = new QLineEdit(this);
    line_->setPlaceholderText(prompt);
    list_ = new QListWidget(this);
    list_->setFocusPolicy(Qt::NoFocus);
    column_ = new QVBoxLayout(this);
    column_->addWidget(line_);
    column_->addWidget(list_);
    line_->installEventFilter(this);
    connect(line_, &QLineEdit::textChanged, this, [this] { fill(); });
    connect(list_, &QListWidget::itemClicked, this, [this] { choose(); });
}

bool SearchDialog::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() != QEvent::KeyPress) return QDialog::eventFilter(watched, event);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Down || key == Qt::Key_Up) {
        const int by = key == Qt::Key_Down ? 1 : -1;
        int row = list_->currentRow() + by;
        while (row >= 0 && row < list_->count() && !(list_->item(row)->flags() & Qt::ItemIsSelectable))
            row += by; // over headings
        if (row >= 0 && row < list_->count()) list_->setCurrentRow(row);
        return true;
    }
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        choose();
        return true;
    }
    return QDialog::eventFilter(watched, event);
}

} // namespace undisona
