#pragma once
#include "app/readings/page.hpp"

namespace undisona {

class Plot;
class WeightView;

/// How much mass takes part, by mode and direction, and in sum; and what it weighs on the supports.
class MassPage : public Page {
    Q_OBJECT
public:
    MassPage(Session&, QWidget* parent);
    void showWeight() { which_->setCurrentIndex(1); }

private:
    void fill() override;
    void fillSoFar();
    void select() override;
    QTabBar* which_;
    QWidget* taking_;
    WeightView* weight_;
    QLabel *words_, *remark_;
    Plot* plot_;
    ReadingTable* table_;
};

} // namespace undisona
