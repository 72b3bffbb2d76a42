#include "app/window/action_finder.hpp"

#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>

namespace undisona {

ActionFinder::ActionFinder(const QList<QAction*>& actions, QWidget* parent) : QDialog(parent), actions_(actions)
{
    setObjectName("actionFinder");
    setWindowTitle(tr("Find an action"));
    resize(440, 360);
    line_ = new QLineEdit(this);
    line_->setPlaceholderText(tr("what do you want to do?"));
    line_->setObjectName("finderLine");
    list_ = new QListWidget(this);
    list_->setObjectName("finderList");
    list_->setFocusPolicy(Qt::NoFocus);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(line_);
    layout->addWidget(list_);
    line_->installEventFilter(this);
    connect(line_, &QLineEdit::textChanged, this, &ActionFinder::fill);
    connect(list_, &QListWidget::itemClicked, this, &ActionFinder::run);
    fill();
}

void ActionFinder::fill()
{
    list_->clear();
    const QStringList words = line_->text().toLower().split(' ', Qt::SkipEmptyParts);
    for (qsizetype at = 0; at < actions_.size(); ++at) {
        QString text = actions_[at]->text();
        text.remove('&');
        const QString low = text.toLower();
        if (!actions_[at]->isEnabled() ||
            !std::all_of(words.begin(), words.end(), [&](const QString& word) { return low.contains(word); }))
            continue;
        const QString key = actions_[at]->shortcut().toString(QKeySequence::NativeText);
        auto* item = new QListWidgetItem(key.isEmpty() ? text : text + "    " + key, list_);
        item->setData(Qt::UserRole, static_cast<int>(at));
    }
    if (list_->count() > 0) list_->setCurrentRow(0);
}

void ActionFinder::run()
{
    const auto* item = list_->currentItem();
    if (!item) return;
    QAction* action = actions_[item->data(Qt::UserRole).toInt()];
    accept();
    action->trigger();
}

bool ActionFinder::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Down || key == Qt::Key_Up) {
            const int row = list_->currentRow() + (key == Qt::Key_Down ? 1 : -1);
            if (row >= 0 && row < list_->count()) list_->setCurrentRow(row);
            return true;
        }
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            run();
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

} // namespace undisona
