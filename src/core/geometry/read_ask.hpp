#pragma once
#include "core/geometry/structure.hpp"

namespace undisona {

/// The group Ask: what is asked for, how it is found, and the hand checks, into a structure whose frame is there.
void readAsk(const Model&, Structure&, Findings&);

} // namespace undisona
