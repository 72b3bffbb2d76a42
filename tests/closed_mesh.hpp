#pragma once
#include "core/mesh/frame_mesh.hpp"

#include <gtest/gtest.h>

#include <map>
#include <set>

namespace undisona {

/// Each face of an element belongs to one other or is listed as an outer one, sides that two elements share have one
/// middle, no element is turned inside out; gives the volume.
inline double closedVolume(const FrameMesh& mesh, double leastJacobian = 0.05)
{
    std::map<std::set<int>, int> faces;
    std::map<std::set<int>, int> middles;
    double volume = 0.0;
    for (const auto& piece : mesh.solids) {
        SolidElement element{piece.kind, {}, 1.0, 0.0, 1.0};
        for (std::size_t node = 0; node < piece.count(); ++node)
            element.node.push_back(mesh.nodes[static_cast<std::size_t>(piece.nodes[node])].place);
        volume += volumeOf(element);
        EXPECT_GT(jacobianRatio(element), leastJacobian);
        for (const auto& face : facesOf(piece.kind)) {
            std::set<int> corners;
            for (const int corner : face)
                if (corner >= 0) corners.insert(piece.nodes[static_cast<std::size_t>(corner)]);
            ++faces[corners];
        }
        const auto sides = sidesOf(piece.kind);
        if (cornersOf(piece.kind) == piece.count()) continue;
        for (std::size_t side = 0; side < sides.size(); ++side) {
            const int middle = piece.nodes[cornersOf(piece.kind) + side];
            const auto [at, isNew] = middles.emplace(std::set{piece.nodes[static_cast<std::size_t>(sides[side][0])],
                                                              piece.nodes[static_cast<std::size_t>(sides[side][1])]},
                                                     middle);
            EXPECT_EQ(at->second, middle);
        }
    }
    std::set<std::set<int>> outer;
    for (const auto& piece : mesh.outer)
        outer.insert(std::set<int>(piece.corners.begin(), piece.corners.begin() + static_cast<long>(piece.count())));
    std::size_t single = 0;
    for (const auto& [corners, count] : faces) {
        EXPECT_LE(count, 2);
        if (count != 1) continue;
        ++single;
        EXPECT_TRUE(outer.contains(corners));
    }
    EXPECT_EQ(single, outer.size());
    return volume;
}

} // namespace undisona
