#include "app/scene/thinned_surface.hpp"

#include <algorithm>
#include <cmath>
#include <set>
#include <unordered_map>

namespace undisona {

namespace {

Eigen::Vector3d placeOf(const PartSurface& surface, std::int64_t vertex)
{
    const auto* at = &surface.place[3 * static_cast<std::size_t>(vertex)];
    return {at[0], at[1], at[2]};
}

/// Which of the two sides of a sheet a vertex lies on: they stand one after the other there.
int sideOf(const PartSurface& surface, std::int64_t vertex)
{
    if (surface.owner[static_cast<std::size_t>(vertex)] < 0) return 0; // of a solid
    const std::int64_t beside = vertex ^ 1;
    return beside >= 0 && static_cast<std::size_t>(beside) < surface.node.size() &&
                   surface.node[static_cast<std::size_t>(beside)] == surface.node[static_cast<std::size_t>(vertex)]
               ? static_cast<int>(vertex & 1)
               : 0;
}

struct GridCell {
    std::array<int, 3> at;
    int owner, side;
    bool operator==(const GridCell&) const = default;
};
struct GridCellHash {
    std::size_t operator()(const GridCell& cell) const
    {
        std::size_t hash = 1469598103934665603ull;
        for (const int value : {cell.at[0], cell.at[1], cell.at[2], cell.owner, cell.side})
            hash = (hash ^ static_cast<std::size_t>(static_cast<unsigned>(value))) * 1099511628211ull;
        return hash ^ (hash >> 29);
    }
};

} // namespace

ThinnedSurface thinned(const PartSurface& surface, const std::vector<std::int64_t>& triangles, std::size_t most)
{
    double area = 0.0;
    for (std::size_t at = 0; at + 2 < triangles.size(); at += 3) {
        const Eigen::Vector3d a = placeOf(surface, triangles[at]), b = placeOf(surface, triangles[at + 1]),
                              c = placeOf(surface, triangles[at + 2]);
        area += 0.5 * (b - a).cross(c - a).norm();
    }
    const double width = std::max(1e-12, std::sqrt(2.0 * area / double(most))); // two triangles to a cell of a face
    std::unordered_map<GridCell, std::int64_t, GridCellHash> vertexOf;
    std::vector<std::int64_t> thin(surface.node.size(), -1);
    ThinnedSurface result;
    for (const std::int64_t vertex : triangles) {
        auto& own = thin[static_cast<std::size_t>(vertex)];
        if (own >= 0) continue;
        const Eigen::Vector3d place = placeOf(surface, vertex) / width;
        const GridCell cell{{static_cast<int>(std::floor(place.x())), static_cast<int>(std::floor(place.y())),
                             static_cast<int>(std::floor(place.z()))},
                            surface.owner[static_cast<std::size_t>(vertex)],
                            sideOf(surface, vertex)};
        const auto [at, isNew] = vertexOf.emplace(cell, static_cast<std::int64_t>(result.vertex.size()));
        if (isNew) result.vertex.push_back(vertex);
        own = at->second;
    }
    std::set<std::array<std::int64_t, 3>> met;
    for (std::size_t at = 0; at + 2 < triangles.size(); at += 3) {
        std::array<std::int64_t, 3> corner;
        for (std::size_t k = 0; k < 3; ++k)
            corner[k] = thin[static_cast<std::size_t>(triangles[at + k])];
        if (corner[0] == corner[1] || corner[1] == corner[2] || corner[2] == corner[0]) continue;
        std::array<std::int64_t, 3> sorted = corner;
        std::sort(sorted.begin(), sorted.end());
        if (met.insert(sorted).second) result.triangles.insert(result.triangles.end(), corner.begin(), corner.end());
    }
    return result;
}

} // namespace undisona
