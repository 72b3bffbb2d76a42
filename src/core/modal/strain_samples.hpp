#pragma once
#include "core/modal/recovered_strains.hpp"
#include "core/system/assemble.hpp"

namespace undisona {

/// Places of a piece of sheet (an index of the mesh's) in the model's axes, m.
std::vector<Eigen::Vector3d> globalPlaces(const FrameMesh&, std::size_t shell, const ShellPlaces&);

/// Where the pieces of sheet say how they are strained in their plane (coarsePlaces), or how they are bent and sheared
/// (middlePlace, and coarsePlaces where those lie on one line); fitted within one face each.
std::vector<StrainSamples> sheetSamples(const FrameMesh&, const System&, bool membrane);
/// Where the pieces of solids do (bestPlaces); fitted within one solid each.
std::vector<StrainSamples> solidSamples(const FrameMesh&, const System&);

} // namespace undisona
