#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// What a careful colleague would ask of joints: two that say the same or stand in each other's way, and parts that
/// neither a joint nor a support holds. Findings name both sentences.
Findings checkJoints(const Structure&, const Model&);

} // namespace undisona
