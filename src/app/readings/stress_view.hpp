#pragma once
#include "app/readings/page.hpp"
#include "core/modal/modal_stress.hpp"

class QComboBox;
class QLineEdit;
class QPushButton;

namespace undisona {

class PartStressTable;

/// What the mode in view strains when it moves so strongly: one figure is stated, all others follow.
class StressView : public QWidget {
    Q_OBJECT
public:
    StressView(Session&, QWidget* parent);
    void fill();

signals:
    void paintWanted();

private:
    void readScale();
    void sayOwn();
    void light(int key);

    Session& session_;
    QComboBox* by_;
    QLineEdit *value_, *at_;
    QLabel *wrong_, *answer_;
    QPushButton* run_;
    PartStressTable* table_;
};

} // namespace undisona
