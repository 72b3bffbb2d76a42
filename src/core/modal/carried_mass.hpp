#pragma once
#include "core/modal/moving_part.hpp"

namespace undisona {

/// Whether a mode is one of a small part alone, and, of one that carries no mass along x, y and z, why.
void readCarried(Mode&, const Participation&, const MassPoints&, const Motions&, const MovingPart&);

/// Marks, of each of the six directions, the fewest modes that together carry nine tenths of what all found carry
/// there; none of less than a twentieth of the total.
void markThatMatter(const Participation&, std::vector<Mode>&);

} // namespace undisona
