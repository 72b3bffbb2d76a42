#pragma once
#include "core/elements/shell.hpp"

namespace undisona {

/// A stack from below up, x along its direction: classical lamination (Jones, Mechanics of Composite Materials, 2nd ed.
/// 1999, ch. 4) for stretching, bending and what couples them; its transverse shear stiffness from the energy of the
/// shear stresses that balance its bending, along x and along y (Whitney, Stress analysis of thick laminated composite
/// and sandwich plates, 1972), which leaves 5/6 G where all layers are one.
/// @pre at least one layer, all thicker than nothing
PlaneElasticity laminateElasticity(const std::vector<Ply>&);

/// A material of that name made of a stack: its density and damping ratio in the mean, E and Poisson ratio of bending.
Material layeredMaterial(std::string name, std::vector<Ply>);

} // namespace undisona
