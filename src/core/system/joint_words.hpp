#pragma once
#include "core/system/facing.hpp"

namespace undisona {

// What is said of the sides of a joint.

std::string millimetres(double length); ///< "1.25 mm" of m
/// By name, the parts that a side is of.
std::string partsOf(const Structure&, const std::vector<SurfaceFacet>&);
/// That nothing is within reach, and how far the nearest is (m; infinite: there is none).
Finding nothingFaces(const SurfaceJoint&, double nearest);

} // namespace undisona
