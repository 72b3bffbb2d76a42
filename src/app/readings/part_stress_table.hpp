#pragma once
#include "app/readings/reading_table.hpp"
#include "core/modal/modal_stress.hpp"
#include "core/units/display.hpp"

namespace undisona {

/// Parts with their stresses and what members carry.
class PartStressTable : public ReadingTable {
    Q_OBJECT
public:
    explicit PartStressTable(QWidget* parent);

    /// So many times the figures; of a swing magnitudes, else what pulls and what presses are told apart.
    void fill(const std::vector<PartStress>&, double factor, bool swings, const DisplayUnits&);
    const PartStress* part(int key) const; ///< null for none

private:
    std::vector<PartStress> rows_;
};

} // namespace undisona
