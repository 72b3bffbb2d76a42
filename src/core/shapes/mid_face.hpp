#pragma once
#include "core/shapes/solid.hpp"

namespace undisona {

/// A body that is a sheet: everywhere as thin, with two sides and a rim.
struct EvenThinness {
    double thickness = 0.0; ///< m; 0 where the body is none
    std::string why;        ///< it is none
};
/// Of bodies of up to 300 faces, so that it can be asked after every change; midFaceOf looks at any.
EvenThinness evenThinness(const SolidShape&);

/// The faces half way between the two sides of such a body.
struct MidFace {
    std::optional<KeptShape> faces;
    double thickness = 0.0; ///< m
    std::string why;        ///< there are none
};
MidFace midFaceOf(const SolidShape&);

} // namespace undisona
