#pragma once
#include "core/statement/structure.hpp"
#include "core/system/rigid_mass.hpp"

namespace undisona {

/// What a careful colleague would ask before solving: points that look as if they should be held like the
/// others, mass that dwarfs the structure, points that nothing uses or that lie just beside a part, thick bodies taken as
/// sheet and thin ones that could be. What is found offers changes of the model where one is at hand.
Findings checkStructure(const Structure&, const MassSummary&, const Model& = {});

} // namespace undisona
