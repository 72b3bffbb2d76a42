#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// Puts each mode into words from its motion: "first bending in x", "second twisting", "third axial",
/// "just Mast.brace-a.3.1", "shifting in x", "turning about z", "loose: ...". Order words count the same
/// kind of shape upwards in frequency.
void nameShapes(const Structure&, const FrameMesh&, const System&, const Extraction&, const Energies&,
                std::vector<Mode>&);

} // namespace undisona
