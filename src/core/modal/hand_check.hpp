#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// For each hand check of the model: the static deflection under a unit load, the stiffness, and
/// sqrt(k/m)/2 pi with m the movable mass (or inertia) in that direction. A structure that is not held gives none.
std::vector<HandEstimate> handEstimates(const Solution&);

} // namespace undisona
