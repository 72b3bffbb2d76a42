#pragma once
#include "core/mesh/frame_mesh.hpp"

namespace undisona {

using UsedDirections = Eigen::Matrix<double, 6, 6>;

/// By point (those that lead a body of tied points stand for it): the sum of w w' over all that resists or weighs in
/// the body's motion w (ux uy uz rx ry rz at its reference), each way as a unit vector, however soft or light. What
/// lies in its null space has neither stiffness nor mass, as the turn of a point at which every member's end is
/// released: no mode depends on it. `root` gives the leading point of a point.
std::map<std::size_t, UsedDirections> usedDirections(const Structure&, const FrameMesh&,
                                                     const std::function<std::size_t(std::size_t)>& root);

} // namespace undisona
