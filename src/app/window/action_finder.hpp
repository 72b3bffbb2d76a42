#pragma once
#include "app/session/search_dialog.hpp"

#include <QAction>

namespace undisona {

/// Finds any action of the menus by its name.
class ActionFinder : public SearchDialog {
    Q_OBJECT
public:
    ActionFinder(const QList<QAction*>& actions, QWidget* parent);

private:
    void fill() override;
    void choose() override;

    QList<QAction*> actions_;
};

} // namespace undisona
