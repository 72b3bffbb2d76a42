#pragma once
#include <Eigen/Dense>

#include <array>
#include <utility>
#include <vector>

namespace undisona {

/// Pairs of triangles that cross or touch where they have no corner or side in common; exact. None for a surface that
/// can be filled.
std::vector<std::pair<int, int>> crossingTriangles(const std::vector<Eigen::Vector3d>& points,
                                                   const std::vector<std::array<int, 3>>& triangles);

} // namespace undisona
