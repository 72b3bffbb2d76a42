#include "core/numerics/mass_orthonormal.hpp"

#include <cmath>

namespace undisona {

Eigen::MatrixXd newDirections(const SparseSymmetric& mass, const Eigen::MatrixXd& basis, const Eigen::MatrixXd& block,
                              double least)
{
    Eigen::MatrixXd kept(block.rows(), 0);
    for (Eigen::Index at = 0; at < block.cols(); ++at) {
        Eigen::VectorXd x = block.col(at);
        const auto size = [&] { return std::sqrt(std::max(0.0, x.dot((mass * x).col(0)))); };
        const double before = size();
        if (!(before > 0.0)) continue;
        for (int pass = 0; pass < 2; ++pass) {
            const Eigen::VectorXd massive = mass * x;
            if (basis.cols() > 0) x -= basis * (basis.transpose() * massive).eval();
            if (kept.cols() > 0) x -= kept * (kept.transpose() * massive).eval();
        }
        const double after = size();
        if (!(after > least * before)) continue;
        kept.conservativeResize(Eigen::NoChange, kept.cols() + 1);
        kept.rightCols(1) = x / after;
    }
    return kept;
}

} // namespace undisona
