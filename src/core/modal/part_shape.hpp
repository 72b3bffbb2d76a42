#pragma once
#include "core/geometry/structure.hpp"
#include "core/mesh/frame_mesh.hpp"

namespace undisona {

/// The shape of a mode on one sheet or solid (as Frame::partName counts them) in words, from the motion across it,
/// where its form has words for it: "2 by 1 half-waves" on a rectangle (Leissa 1969), "3 nodal diameters, 1 circle" on
/// a disc, "4 waves round, 1 half-wave along" or "breathing" on a body turned about an axis. Empty where it has none,
/// or moves in its own face. `motion` is the displacement of each node, m.
std::string partShape(const Structure&, const FrameMesh&, int part, const std::vector<Eigen::Vector3d>& motion);

} // namespace undisona
