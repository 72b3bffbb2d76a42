#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// Adds the points that sentences outside the group Shape make, in the middle of what they name: by length, by area, or
/// of points their mean. To be done before anything else is read.
void makePoints(const Model&, Structure&, Findings&);

} // namespace undisona
