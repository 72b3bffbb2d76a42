#pragma once
#include "core/model/section.hpp"

#include <vector>

namespace undisona {

/// A small piece of a section.
struct SectionPlace {
    double y, z; ///< of the drawing, from the centroid, m
    double area; ///< m2
};

/// Places all over a section, dense enough that a plane field and what little bends in it are integrated over it. Of a
/// section that is given by its constants, over a rectangle with the same radii of gyration.
std::vector<SectionPlace> placesOver(const Section&);

} // namespace undisona
