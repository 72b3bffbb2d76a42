#include "core/elements/surface_piece.hpp"

namespace undisona {

using namespace plane;

namespace {

/// What each node interpolates at one place: a corner's is linear, less half of what the middles beside it have.
std::vector<Shape> shapesAt(std::size_t corners, bool middles, double r, double s)
{
    std::vector<Shape> shapes;
    for (std::size_t i = 0; i < corners; ++i)
        shapes.push_back(cornerShape(corners, i, r, s));
    for (std::size_t i = 0; middles && i < corners; ++i) {
        const Shape middle = edgeShape(corners, i, r, s);
        shapes.push_back(middle);
        for (const std::size_t end : {i, (i + 1) % corners}) {
            shapes[end].value -= middle.value / 2.0;
            shapes[end].r -= middle.r / 2.0;
            shapes[end].s -= middle.s / 2.0;
        }
    }
    return shapes;
}

} // namespace

std::vector<Shape> surfaceShapes(std::size_t nodes, double r, double s)
{
    return shapesAt(surfaceCorners(nodes), nodes > 4, r, s);
}

Eigen::MatrixXd surfaceProducts(const std::vector<Eigen::Vector3d>& nodes)
{
    const std::size_t corners = surfaceCorners(nodes.size());
    Eigen::MatrixXd products = Eigen::MatrixXd::Zero(Eigen::Index(nodes.size()), Eigen::Index(nodes.size()));
    for (const auto& [r, s, weight] : corners == 3 ? triangleRule() : squareRule(3)) {
        const auto shapes = surfaceShapes(nodes.size(), r, s);
        Eigen::Vector3d byR = Eigen::Vector3d::Zero(), byS = byR;
        Eigen::VectorXd values(products.rows());
        for (std::size_t node = 0; node < nodes.size(); ++node) {
            values[Eigen::Index(node)] = shapes[node].value;
            byR += shapes[node].r * nodes[node];
            byS += shapes[node].s * nodes[node];
        }
        products += weight * byR.cross(byS).norm() * values * values.transpose();
    }
    return products;
}

Eigen::MatrixXd lumpedProducts(const Eigen::MatrixXd& products)
{
    return (products.sum() / products.trace() * products.diagonal()).asDiagonal();
}

Eigen::MatrixXd inEachDirection(const Eigen::MatrixXd& products, const Eigen::Matrix3d& perArea)
{
    Eigen::MatrixXd matrix = Eigen::MatrixXd::Zero(3 * products.rows(), 3 * products.cols());
    for (Eigen::Index row = 0; row < products.rows(); ++row)
        for (Eigen::Index column = 0; column < products.cols(); ++column)
            matrix.block<3, 3>(3 * row, 3 * column) = products(row, column) * perArea;
    return matrix;
}

} // namespace undisona
