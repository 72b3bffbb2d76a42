#pragma once
#include "core/modal/missing_mass.hpp"
#include "core/modal/solution.hpp"
#include "core/pencil/extract.hpp"

namespace undisona {

/// An estimate of a mesh's error that is larger says no more than that the mesh is coarse.
inline constexpr double mostTold = 0.15;

/// What a solution has to say about itself: mechanisms, what was not found or proven, targets that are not reached, and
/// where its numbers are weak.
Findings findingsOf(const Solution&, const Extraction&, const std::vector<MissingMass>& lacking);

} // namespace undisona
