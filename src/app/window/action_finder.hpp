#pragma once
#include <QAction>
#include <QDialog>

class QLineEdit;
class QListWidget;

namespace undisona {

/// Finds any action of the menus by its name.
class ActionFinder : public QDialog {
    Q_OBJECT
public:
    ActionFinder(const QList<QAction*>& actions, QWidget* parent);

protected:
    bool eventFilter(QObject*, QEvent*) override;

private:
    void fill();
    void run();

    QList<QAction*> actions_;
    QLineEdit* line_;
    QListWidget* list_;
};

} // namespace undisona
