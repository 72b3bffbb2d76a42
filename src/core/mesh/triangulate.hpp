#pragma once
#include <Eigen/Dense>

#include <array>
#include <vector>

namespace undisona {

/// Delaunay triangles of points in a plane that keep the given segments as edges (Chew 1989), counter-clockwise, of the
/// whole convex hull. Segments may meet at points only.
std::vector<std::array<int, 3>> constrainedTriangles(const std::vector<Eigen::Vector2d>& points,
                                                     const std::vector<std::array<int, 2>>& segments);

} // namespace undisona
