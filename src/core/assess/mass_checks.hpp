#pragma once
#include "core/system/rigid_mass.hpp"

namespace undisona {

/// What a careful colleague would ask of added mass: a weight typed as a mass, the same mass said twice, one that
/// stands where nothing moves, most of all there is in one spot, a density that no material has.
void checkMasses(const Structure&, const MassSummary&, const Model&, Findings&);

} // namespace undisona
