#pragma once
#include "core/mesh/frame_mesh.hpp"

namespace undisona {

/// A piece of what something has of the mesh, with the products of its nodes' interpolation over it: lengths, areas, or
/// 1 for a point.
struct WeighedPiece {
    std::vector<int> nodes;
    Eigen::MatrixXd products; ///< nodes x nodes; their sum is the length or the area
};

/// Of points, members, edges, sheets and faces.
std::vector<WeighedPiece> weighedPieces(const Structure&, const FrameMesh&, Target, int at);

} // namespace undisona
