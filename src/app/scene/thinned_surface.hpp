#pragma once
#include "core/surface/part_surface.hpp"

namespace undisona {

/// Fewer triangles that look alike from afar, between some of a surface's own vertices.
struct ThinnedSurface {
    std::vector<std::int64_t> vertex;    ///< of the whole surface, by vertex of this one
    std::vector<std::int64_t> triangles; ///< three vertices of this one each
};

/// About `most` triangles of those given: vertices that share a cell of a grid, a part and a side become one, and what
/// is left of the triangles between them stays (Rossignac and Borrel, Multi-resolution 3D approximations, 1993).
ThinnedSurface thinned(const PartSurface&, const std::vector<std::int64_t>& triangles, std::size_t most);

} // namespace undisona
