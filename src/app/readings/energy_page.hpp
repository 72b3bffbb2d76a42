#pragma once
#include "app/readings/page.hpp"

namespace undisona {

class StressView;
class ValuesView;

/// What the energy of the shown mode sits in, and what the mode strains; a row paints the Scene.
class EnergyPage : public PartedPage {
    Q_OBJECT
public:
    EnergyPage(Session&, QWidget* parent);

signals:
    void paintWanted();
    void stressWanted();

private:
    void fill() override {}
    void fillPart(int part) override;
    void select() override;
    StressView* stress_;
    ValuesView* values_;
    QLabel* words_;
    ReadingTable* table_;
    std::vector<EnergyRow> rows_;
};

} // namespace undisona
