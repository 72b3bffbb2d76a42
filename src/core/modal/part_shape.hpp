#pragma once
#include "core/modal/part_form.hpp"

namespace undisona {

/// The shape of a mode on a part of that form in words, from the motion across it: "2 by 1 half-waves" on a rectangle
/// (Leissa 1969), "3 nodal diameters, 1 circle" on a disc, "4 waves round, 1 half-wave along" or "breathing" on what is
/// turned about an axis. Empty where it moves otherwise. `motion` is the displacement of each node, m.
std::string partShape(const FormedPart&, const FrameMesh&, const std::vector<Eigen::Vector3d>& motion);

} // namespace undisona
