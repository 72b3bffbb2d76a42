#include "core/pencil/residual_vectors.hpp"

#include "core/numerics/dense_eigen.hpp"

namespace undisona {

ResidualVectors residualVectors(const Pencil& pencil, ModeExtractor& extractor, const Extraction& modes,
                                const Eigen::MatrixXd& loads)
{
    if (modes.mechanisms > 0 || loads.cols() == 0) {
        ResidualVectors none;
        none.shapes.resize(pencil.size(), 0);
        none.loads = loads.cols();
        return none;
    }
    return residualVectors(pencil, modes, loads, extractor.staticAnswer(loads));
}

ResidualVectors residualVectors(const Pencil& pencil, const Extraction& modes, const Eigen::MatrixXd& loads,
                                const Eigen::MatrixXd& whole)
{
    ResidualVectors found;
    found.loads = loads.cols();
    Eigen::MatrixXd rest = whole;
    for (int pass = 0; pass < 2; ++pass)
        rest -= modes.shapes * (modes.shapes.transpose() * (pencil.mass * rest)).eval();
    // What is nothing beside the whole answer was in the modes already.
    const Eigen::VectorXd size = (whole.array() * (pencil.mass * whole).array()).colwise().sum().sqrt().transpose();
    const Eigen::VectorXd inverse = size.unaryExpr([](double norm) { return norm > 0.0 ? 1.0 / norm : 0.0; });
    rest = rest * inverse.asDiagonal();
    const DenseEigen gram = denseEigen(rest.transpose() * (pencil.mass * rest));
    std::vector<Eigen::Index> kept;
    for (Eigen::Index at = 0; at < gram.values.size(); ++at)
        if (gram.values[at] > 1e-16) kept.push_back(at);
    const Eigen::MatrixXd basis =
        rest * (gram.vectors(Eigen::all, kept) * gram.values(kept).cwiseSqrt().cwiseInverse().asDiagonal());
    const DenseEigen eigen = denseEigen(basis.transpose() * pencil.stiffnessTimes(basis));
    found.lambda = eigen.values;
    found.shapes = basis * eigen.vectors;
    Eigen::MatrixXd left = whole;
    const auto take = [&](const Eigen::MatrixXd& shapes, const Eigen::VectorXd& lambda) {
        const Eigen::VectorXd soft = lambda.unaryExpr([](double value) { return value > 0.0 ? 1.0 / value : 0.0; });
        left -= shapes * (soft.asDiagonal() * (shapes.transpose() * loads).eval()).eval();
    };
    take(modes.shapes, modes.lambda);
    take(found.shapes, found.lambda);
    const Eigen::VectorXd lost = (left.array() * (pencil.mass * left).array()).colwise().sum().max(0.0).sqrt();
    found.staticError = lost.cwiseProduct(inverse).maxCoeff();
    return found;
}

} // namespace undisona
