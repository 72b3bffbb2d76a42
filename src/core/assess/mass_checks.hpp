#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// What a careful colleague would ask of added mass: a weight typed as a mass, the same mass said twice, one that
/// stands where nothing moves.
void checkMasses(const Structure&, const Model&, Findings&);

} // namespace undisona
