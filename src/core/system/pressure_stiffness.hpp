#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// What pressure that turns and grows with the surface it acts on adds to the stiffness of small motions, in a state
/// with so many times each load: -df/du of f = -p integral N (x,r cross x,s), of the places as they move (Hibbitt,
/// Some follower forces and load stiffness, Int. J. Num. Meth. Eng. 14, 1979). Its symmetric half, which is all of it
/// on closed surfaces and on those whose edges are held.
std::vector<Part> pressureParts(const Structure&, const FrameMesh&, const System&, const std::vector<double>& factors);

} // namespace undisona
