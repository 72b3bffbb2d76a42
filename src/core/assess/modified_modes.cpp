#include "core/assess/modified_modes.hpp"

#include "core/numerics/dense_eigen.hpp"
#include "core/pencil/hertz.hpp"

namespace undisona {

ModifiedModes::ModifiedModes(const Solution& solution, Eigen::Index most, const ResidualVectors* beside)
    : solution_(solution), beside_(beside), modes_(std::min(most, static_cast<Eigen::Index>(solution.modes.size())))
{
    const Eigen::Index more = beside_ ? beside_->lambda.size() : 0;
    lambda_.resize(modes_ + more);
    for (Eigen::Index mode = 0; mode < modes_; ++mode)
        lambda_[mode] = std::max(0.0, solution.modes[static_cast<std::size_t>(mode)].lambda);
    if (more > 0) lambda_.tail(more) = beside_->lambda;
}

Eigen::MatrixXd ModifiedModes::motionOf(int node) const
{
    Eigen::MatrixXd motion(6, size());
    for (Eigen::Index mode = 0; mode < modes_; ++mode)
        motion.col(mode) = solution_.motion(node, static_cast<std::size_t>(mode));
    for (Eigen::Index at = modes_; at < size(); ++at)
        motion.col(at) = solution_.system->motionOf(node, beside_->shapes.col(at - modes_));
    return motion;
}

Eigen::MatrixXd ModifiedModes::basis() const
{
    Eigen::MatrixXd all(solution_.shapes.rows(), size());
    all.leftCols(modes_) = solution_.shapes.leftCols(modes_);
    if (beside_) all.rightCols(size() - modes_) = beside_->shapes;
    return all;
}

/// Turned over, (M', K' + s M'), so that rigid motions and a mass that was all there is stay finite.
ModifiedModes::Changed ModifiedModes::with(const Eigen::MatrixXd& stiffness, const Eigen::MatrixXd& mass,
                                           Eigen::Index of) const
{
    const Eigen::Index count = of > 0 ? of : size();
    if (count == 0) return {};
    const double highest = modes_ > 0 ? lambda_[std::min(count, modes_) - 1] : lambda_.head(count).maxCoeff();
    const double shift = std::max(1e-3 * highest, 1e-6);
    Eigen::MatrixXd own = mass.topLeftCorner(count, count);
    own.diagonal().array() += 1.0;
    Eigen::MatrixXd stiff = stiffness.topLeftCorner(count, count) + shift * own;
    stiff.diagonal() += lambda_.head(count);
    stiff.diagonal().array() += 1e-13 * std::max(highest, shift);
    const Eigen::LLT<Eigen::MatrixXd> factor((stiff + stiff.transpose()) / 2.0);
    if (factor.info() != Eigen::Success) return {}; // so much taken away that nothing stands any more
    Eigen::MatrixXd turned = factor.matrixL().solve(own);
    turned = factor.matrixL().solve(turned.transpose()).eval();
    const DenseEigen eigen = denseEigen((turned + turned.transpose()) / 2.0);
    Changed changed{Eigen::VectorXd(count), Eigen::MatrixXd::Zero(size(), count)};
    for (Eigen::Index at = 0; at < count; ++at) {
        const double theta = std::max(eigen.values[count - 1 - at], 1e-300);
        const double lambda = 1.0 / theta - shift;
        changed.hertz[at] = lambda < 1e-6 * shift ? 0.0 : toHertz(lambda);
        changed.shapes.col(at).head(count) =
            factor.matrixU().solve(eigen.vectors.col(count - 1 - at)) / std::sqrt(theta);
    }
    return changed;
}

QuickModes ModifiedModes::quick(const Eigen::MatrixXd& stiffness, const Eigen::MatrixXd& mass) const
{
    QuickModes quick;
    if (size() == 0) return quick;
    const Eigen::VectorXd all = with(stiffness, mass).hertz;
    const Eigen::VectorXd fewer = with(stiffness, mass, std::max<Eigen::Index>(1, 2 * size() / 3)).hertz;
    for (Eigen::Index at = 0; at < std::min(all.size(), modes_); ++at) {
        quick.hertz.push_back(all[at]);
        const double moved = at < fewer.size() ? fewer[at] - all[at] : all[at]; // above the fewer ones nothing is known
        quick.lower.push_back(std::max(0.0, all[at] - std::max(0.0, moved)));
    }
    return quick;
}

} // namespace undisona
