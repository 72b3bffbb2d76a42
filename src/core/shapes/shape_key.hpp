#pragma once
#include "core/shapes/frame.hpp"

namespace undisona {

/// Every number that the joined faces of a frame follow from, in a fixed order; equal keys mean equal faces.
std::vector<double> shapeKey(const Frame&);
/// The same of one solid.
std::vector<double> shapeKey(const SolidShape&);

} // namespace undisona
