#pragma once
#include "core/system/assemble.hpp"

#include <optional>

namespace undisona {

/// What has no mass must be held by its own stiffness: the unknown that moves most where it is not. Unknowns without
/// mass, and combinations of the few of a place that have none together (lumped turns of a slender bar, in axes
/// askew to it). Nothing where all is held, or where there are too many to look through.
std::optional<std::int64_t> looseWithoutMass(const System&);

} // namespace undisona
