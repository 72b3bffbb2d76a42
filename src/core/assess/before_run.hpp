#pragma once
#include "core/statement/structure.hpp"
#include "core/system/rigid_mass.hpp"
#include "core/units/display.hpp"

namespace undisona {

/// What is told of a run before it is made, under a heading.
struct ToldBefore {
    std::string heading;
    std::vector<std::string> lines;
};

/// What will be solved, what is asked, what can be read afterwards, what is assumed, and what nobody asks for and so
/// will not be there. Nothing is solved or meshed for it; what the run costs is another question (studies/cost.hpp).
std::vector<ToldBefore> toldBeforeRun(const Model&, const Structure&, const MassSummary&, const DisplayUnits&);

} // namespace undisona
