#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// Puts each mode into words from its motion, the part that moves first where it is not most of the structure:
/// "first bending in x", "Stays: second bending in z, against each other", "Deck: 2 by 1 half-waves", "Pump: first
/// rocking about y", "shifting in x", "loose, most at p". Order words count the same kind of shape upwards in
/// frequency; of members by themselves, the waves between their ends. With it goes what tells modes apart: Mode::local,
/// matters and noMass.
void nameShapes(const Structure&, const FrameMesh&, const System&, const Extraction&, const Energies&,
                const Participation&, std::vector<Mode>&);

/// The order that a motion in words begins with, of "second bending in y" 2; 0 where it begins with none.
int orderTold(std::string_view motion);

} // namespace undisona
