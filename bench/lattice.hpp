#pragma once
#include "bench/brick_block.hpp"

namespace undisona {

/// A long lattice bridge of square cross-section, clamped at one end and standing on stiff springs every 20 bays: 4
/// legs, 4 girts and 4 crossing diagonals a bay, each one Timoshenko member, so 12 members and 24 unknowns a bay.
MatrixPair latticeBridge(int bays);

} // namespace undisona
