#pragma once
#include "core/modal/solution.hpp"

#include <cstdint>
#include <vector>

namespace undisona {

/// Both sides and the free rims of all sheets and the outside of all solids, with what the animation needs at each
/// vertex: the node whose motion it takes, and its arm from that node through half of the thickness.
struct PartSurface {
    std::vector<float> place; ///< 3 per vertex, from the origin, m
    std::vector<float> arm;   ///< 3 per vertex
    std::vector<int> node;    ///< of the mesh, by vertex
    std::vector<int> part;    ///< by vertex: sheet or solid, as Frame::partName counts them
    /// By vertex: the face that a sheet's one lies on, -1 - solid for a solid's; with the node, what vertices share.
    std::vector<int> owner;
    std::vector<int> coloured; ///< by vertex: the face that its file gives a colour of its own; -1: none
    std::vector<std::int64_t> triangles;
    std::vector<std::int64_t> meshLines; ///< sides of the elements, on both faces
    std::vector<float> lineArm;          ///< as `arm`, a little further out, so that lines stand clear of the faces
};

/// `thick`: with the true thickness, else one face without any.
PartSurface partSurface(const Structure&, const FrameMesh&, const Eigen::Vector3d& origin, bool thick);

/// Where the motion along the normal passes through zero: lines on both faces of the sheets, as pairs of vertices that
/// take part of the motion of two nodes each.
struct NodeLines {
    std::vector<float> place, arm; ///< 3 per vertex
    std::vector<std::int64_t> lines;
    std::vector<std::array<int, 2>> nodes; ///< between which the vertex lies
    std::vector<double> share;             ///< of the second
    std::vector<int> part;                 ///< by vertex
};
NodeLines nodeLines(const Structure&, const FrameMesh&, const Eigen::Vector3d& origin,
                    const std::vector<Eigen::Matrix<double, 6, 1>>& motions);

} // namespace undisona
