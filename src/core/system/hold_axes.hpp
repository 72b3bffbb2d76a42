#pragma once
#include "core/mesh/frame_mesh.hpp"

namespace undisona {

/// The axes of a hold at one of its nodes (columns): its own, or outwards from an axis, round it and along it, or along
/// the edge, across it in its surface and square to that. Nothing at a node on the axis, which has no way outwards.
std::optional<Eigen::Matrix3d> axesAt(const Structure&, const FrameMesh&, const Hold&, int node);

} // namespace undisona
