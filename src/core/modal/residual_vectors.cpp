#include "core/modal/residual_vectors.hpp"

#include "core/numerics/dense_eigen.hpp"

namespace undisona {

ResidualVectors residualVectors(const System& system, const ModeExtractor& extractor, const Extraction& modes,
                                const Eigen::MatrixXd& loads)
{
    const Eigen::MatrixXd whole = extractor.staticAnswer(loads);
    Eigen::MatrixXd rest = whole;
    for (int pass = 0; pass < 2; ++pass)
        rest -= modes.shapes * (modes.shapes.transpose() * (system.mass * rest)).eval();
    // What is nothing beside the whole answer was in the modes already.
    const Eigen::VectorXd size = (whole.array() * (system.mass * whole).array()).colwise().sum().sqrt().transpose();
    const Eigen::VectorXd inverse = size.unaryExpr([](double norm) { return norm > 0.0 ? 1.0 / norm : 0.0; });
    rest = rest * inverse.asDiagonal();
    const DenseEigen gram = denseEigen(rest.transpose() * (system.mass * rest));
    std::vector<Eigen::Index> kept;
    for (Eigen::Index at = 0; at < gram.values.size(); ++at)
        if (gram.values[at] > 1e-16) kept.push_back(at);
    const Eigen::MatrixXd basis =
        rest * (gram.vectors(Eigen::all, kept) * gram.values(kept).cwiseSqrt().cwiseInverse().asDiagonal());
    const DenseEigen eigen = denseEigen(basis.transpose() * (system.stiffness * basis));
    return {eigen.values, basis * eigen.vectors};
}

} // namespace undisona
