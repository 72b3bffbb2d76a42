#pragma once
#include "app/session/session.hpp"

#include <QDialog>

class QLabel;

namespace undisona {

/// One page before a run: what will be solved and at what cost, what can be read afterwards, what is assumed, and what
/// will not be there.
class BeforeDialog : public QDialog {
    Q_OBJECT
public:
    BeforeDialog(Session&, QWidget* parent);

private:
    void fill();
    Session& session_;
    QLabel* words_;
};

} // namespace undisona
