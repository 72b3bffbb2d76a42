#pragma once
#include "core/geometry/structure.hpp"

namespace undisona {

/// Points that are used, so often each, and lie off a part by less than the part is thick: meant to be on it, and joined
/// to nothing there. With the place on the part where each would lie.
Findings pointsBesideParts(const Structure&, std::vector<int> used);

} // namespace undisona
