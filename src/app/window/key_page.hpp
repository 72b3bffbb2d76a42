#pragma once
#include <QAction>
#include <QDialog>

namespace undisona {

/// One page of keys and habits.
class KeyPage : public QDialog {
    Q_OBJECT
public:
    KeyPage(const QList<QAction*>& actions, QWidget* parent);
};

} // namespace undisona
