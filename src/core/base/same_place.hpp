// How near places are one, in the whole program.
#pragma once
#include <algorithm>

namespace undisona {

/// Points and lines as they are written (m): 39.37 in is meant to be 1 m and 2 um off. Mending moves faces less, too.
inline constexpr double samePlace = 1e-5;

/// Vertices, edges and faces of shapes (m), as the CAD kernel tells them apart; shorter lengths are none.
inline constexpr double sameInShapes = 1e-6;

/// Where each of two is as far off as it may be (m).
inline constexpr double touching = 2.0 * sameInShapes;

/// Of picks by a coordinate (m), in a model of a span (m): what is far from the origin is written to as many digits.
inline double sameCoordinate(double span) { return sameInShapes * std::max(1.0, span); }

} // namespace undisona
