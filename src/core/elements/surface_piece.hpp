#pragma once
#include "core/elements/plane_shapes.hpp"

#include <Eigen/Dense>

#include <vector>

namespace undisona {

/// Of a piece with so many nodes: three or four.
inline std::size_t surfaceCorners(std::size_t nodes)
{
    return nodes % 3 == 0 ? 3 : 4;
}

/// What each node of such a piece interpolates at one place, by nodes.
std::vector<plane::Shape> surfaceShapes(std::size_t nodes, double r, double s);

/// The integral of N_i N_j over a piece of a surface, N the interpolation of its nodes: nodes x nodes, m2; all together
/// its area. Three or four corners in turn, linear, or followed by the middles of the sides 01 12 ..., of the second
/// order (serendipity), straight or curved. m.
Eigen::MatrixXd surfaceProducts(const std::vector<Eigen::Vector3d>& nodes);

/// The same with nothing between different nodes: the diagonal, scaled to the same area (Hinton, Rock and Zienkiewicz
/// 1976).
Eigen::MatrixXd lumpedProducts(const Eigen::MatrixXd& products);

/// Such products times what stands on an area, by the nodes' x y z in turn.
Eigen::MatrixXd inEachDirection(const Eigen::MatrixXd& products, const Eigen::Matrix3d& perArea);

} // namespace undisona
