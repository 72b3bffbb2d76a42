#pragma once
#include "app/readings/page.hpp"

namespace undisona {

/// What the energy of the shown mode sits in; a row paints the Scene.
class EnergyPage : public Page {
    Q_OBJECT
public:
    EnergyPage(Session&, QWidget* parent);

signals:
    void paintWanted();

private:
    void fill() override {}
    void select() override;
    QLabel* words_;
    ReadingTable* table_;
    std::vector<EnergyRow> rows_;
};

} // namespace undisona
