#pragma once
#include "app/readings/page.hpp"

namespace undisona {

class BookView;
class Plot;
class WeightView;

/// How much mass takes part, by mode and direction, and in sum; where it comes from; and what it weighs on
/// the supports.
class MassPage : public PartedPage {
    Q_OBJECT
public:
    MassPage(Session&, QWidget* parent);
    void showBook() { showPart(1); }
    void showWeight() { showPart(2); }
    void askStiffness(const QString& point);

private:
    void fill() override;
    void fillPart(int part) override;
    void fillSoFar();
    void select() override;
    BookView* book_;
    WeightView* weight_;
    QLabel *words_, *remark_;
    Plot* plot_;
    ReadingTable* table_;
};

} // namespace undisona
