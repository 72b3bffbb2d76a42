#include "core/elements/surface_piece.hpp"

#include <array>
#include <cmath>

namespace undisona {

namespace {

/// The nodes' interpolation at one place, and its derivatives by r and s.
struct Shapes {
    Eigen::VectorXd value, r, s;
};

Shapes triangle(double r, double s, bool second)
{
    const std::array<double, 3> l{1.0 - r - s, r, s}, lr{-1.0, 1.0, 0.0}, ls{-1.0, 0.0, 1.0};
    const Eigen::Index count = second ? 6 : 3;
    Shapes shapes{Eigen::VectorXd(count), Eigen::VectorXd(count), Eigen::VectorXd(count)};
    for (std::size_t i = 0; i < 3; ++i) {
        const auto at = Eigen::Index(i), middle = at + 3;
        const std::size_t next = (i + 1) % 3;
        shapes.value[at] = second ? l[i] * (2.0 * l[i] - 1.0) : l[i];
        shapes.r[at] = lr[i] * (second ? 4.0 * l[i] - 1.0 : 1.0);
        shapes.s[at] = ls[i] * (second ? 4.0 * l[i] - 1.0 : 1.0);
        if (!second) continue;
        shapes.value[middle] = 4.0 * l[i] * l[next];
        shapes.r[middle] = 4.0 * (lr[i] * l[next] + l[i] * lr[next]);
        shapes.s[middle] = 4.0 * (ls[i] * l[next] + l[i] * ls[next]);
    }
    return shapes;
}

Shapes quadrilateral(double r, double s, bool second)
{
    const Eigen::Index count = second ? 8 : 4;
    Shapes shapes{Eigen::VectorXd(count), Eigen::VectorXd(count), Eigen::VectorXd(count)};
    for (Eigen::Index i = 0; i < 4; ++i) {
        const double a = i == 0 || i == 3 ? -1.0 : 1.0, b = i < 2 ? -1.0 : 1.0;
        const double ra = 1.0 + a * r, sb = 1.0 + b * s;
        shapes.value[i] = ra * sb / 4.0 * (second ? a * r + b * s - 1.0 : 1.0);
        shapes.r[i] = a * sb / 4.0 * (second ? 2.0 * a * r + b * s : 1.0);
        shapes.s[i] = b * ra / 4.0 * (second ? a * r + 2.0 * b * s : 1.0);
        if (!second) continue;
        const double sign = i == 1 || i == 2 ? 1.0 : -1.0; // of the side from here on
        const bool alongR = i % 2 == 0;
        const double along = alongR ? r : s, across = 1.0 + sign * (alongR ? s : r);
        const double byAlong = -along * across, byAcross = sign * (1.0 - along * along) / 2.0;
        shapes.value[4 + i] = (1.0 - along * along) * across / 2.0;
        shapes.r[4 + i] = alongR ? byAlong : byAcross;
        shapes.s[4 + i] = alongR ? byAcross : byAlong;
    }
    return shapes;
}

} // namespace

Eigen::MatrixXd surfaceProducts(const std::vector<Eigen::Vector3d>& nodes)
{
    const auto count = Eigen::Index(nodes.size());
    Eigen::MatrixXd products = Eigen::MatrixXd::Zero(count, count);
    const auto add = [&](const Shapes& shapes, double weight) {
        Eigen::Vector3d byR = Eigen::Vector3d::Zero(), byS = byR;
        for (Eigen::Index i = 0; i < count; ++i) {
            byR += shapes.r[i] * nodes[static_cast<std::size_t>(i)];
            byS += shapes.s[i] * nodes[static_cast<std::size_t>(i)];
        }
        products += weight * byR.cross(byS).norm() * shapes.value * shapes.value.transpose();
    };
    if (count % 3 == 0) { // Radon's seven points, exact to the fifth degree
        const double root = std::sqrt(15.0);
        add(triangle(1.0 / 3.0, 1.0 / 3.0, count == 6), 9.0 / 80.0);
        for (const double sign : {-1.0, 1.0}) {
            const double a = (6.0 + sign * root) / 21.0, b = 1.0 - 2.0 * a, weight = (155.0 + sign * root) / 2400.0;
            for (const auto& [r, s] : {std::pair(a, a), std::pair(a, b), std::pair(b, a)})
                add(triangle(r, s, count == 6), weight);
        }
    } else {
        const double a = std::sqrt(0.6);
        for (const auto& [r, wr] : {std::pair(-a, 5.0 / 9.0), std::pair(0.0, 8.0 / 9.0), std::pair(a, 5.0 / 9.0)})
            for (const auto& [s, ws] : {std::pair(-a, 5.0 / 9.0), std::pair(0.0, 8.0 / 9.0), std::pair(a, 5.0 / 9.0)})
                add(quadrilateral(r, s, count == 8), wr * ws);
    }
    return products;
}

Eigen::MatrixXd lumpedProducts(const Eigen::MatrixXd& products)
{
    return (products.sum() / products.trace() * products.diagonal()).asDiagonal();
}

Eigen::MatrixXd inEachDirection(const Eigen::MatrixXd& products, const Eigen::Vector3d& perArea)
{
    Eigen::MatrixXd matrix = Eigen::MatrixXd::Zero(3 * products.rows(), 3 * products.cols());
    for (Eigen::Index row = 0; row < products.rows(); ++row)
        for (Eigen::Index column = 0; column < products.cols(); ++column)
            matrix.block<3, 3>(3 * row, 3 * column).diagonal() = products(row, column) * perArea;
    return matrix;
}

} // namespace undisona
