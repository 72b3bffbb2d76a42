#pragma once
#include "app/session/session.hpp"

class QLabel;
class QProgressBar;
class QPushButton;
class QToolButton;

namespace undisona {

/// The line under the menu: file, units, total mass and its centre, checks, Solve and Stop.
class Strip : public QWidget {
    Q_OBJECT
public:
    Strip(Session&, QWidget* parent = nullptr);

signals:
    void checksWanted();

private:
    void renew();

    Session& session_;
    QLabel *name_, *state_, *mass_, *proof_, *estimate_;
    QPushButton *units_, *checks_, *solve_;
    QProgressBar* progress_;
};

} // namespace undisona
