#pragma once
#include "core/shapes/frame.hpp"

namespace undisona {

/// What the edges and faces of a placed frame have become in the whole: several where other parts divide them, none
/// where one was cut away. By those of the placed frame alone.
struct PlacedFaces {
    std::vector<std::vector<int>> edges, faces;
};

/// Found by where they lie and of which parts they are.
PlacedFaces placedFaces(const Frame& whole, const PlacedFrame&);

} // namespace undisona
