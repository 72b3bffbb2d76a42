#include "app/window/action_finder.hpp"

namespace undisona {

ActionFinder::ActionFinder(const QList<QAction*>& actions, QWidget* parent)
    : SearchDialog(tr("Find an action"), tr("what do you want to do?"), parent), actions_(actions)
{
    setObjectName("actionFinder");
    resize(440, 360);
    line_->setObjectName("finderLine");
    list_->setObjectName("finderList");
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

void ActionFinder::choose()
{
    const auto* item = list_->currentItem();
    if (!item) return;
    QAction* action = actions_[item->data(Qt::UserRole).toInt()];
    accept();
    action->trigger();
}

} // namespace undisona
