#include "core/assess/moved_mass.hpp"

#include "core/pencil/hertz.hpp"
#include "core/system/motion_map.hpp"
#include "core/system/relations.hpp"

namespace undisona {

MovedMass::MovedMass(const Solution& solution, const PointMass& mass, Eigen::Index most)
    : solution_(solution), mass_(carry(mass.centre).transpose() * matrixOf(mass) * carry(mass.centre))
{
    lambda_.resize(std::min(most, static_cast<Eigen::Index>(solution.modes.size())));
    for (Eigen::Index mode = 0; mode < lambda_.size(); ++mode)
        lambda_[mode] = std::max(0.0, solution.modes[static_cast<std::size_t>(mode)].lambda);
    const Eigen::MatrixXd own = motionOf(mass.point);
    without_ = Eigen::MatrixXd::Identity(lambda_.size(), lambda_.size()) - own.transpose() * mass_ * own;
}

Eigen::MatrixXd MovedMass::motionOf(int node) const
{
    Eigen::MatrixXd motion(6, lambda_.size());
    for (Eigen::Index mode = 0; mode < lambda_.size(); ++mode)
        motion.col(mode) = solution_.motion(node, static_cast<std::size_t>(mode));
    return motion;
}

/// Ascending. Turned over, (M', K' + s M'), so that rigid motions and a mass that was all there is stay finite.
Eigen::VectorXd MovedMass::lowest(const Eigen::MatrixXd& mass, Eigen::Index modes) const
{
    const double shift = std::max(1e-3 * lambda_[modes - 1], 1e-6);
    const Eigen::MatrixXd own = mass.topLeftCorner(modes, modes);
    Eigen::MatrixXd stiff = shift * own;
    stiff.diagonal() += lambda_.head(modes);
    stiff.diagonal().array() += 1e-13 * stiff.diagonal().maxCoeff();
    const Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd> eigen(
        (own + own.transpose()) / 2.0, (stiff + stiff.transpose()) / 2.0, Eigen::EigenvaluesOnly);
    Eigen::VectorXd hertz(modes);
    for (Eigen::Index at = 0; at < modes; ++at) {
        const double theta = std::max(eigen.eigenvalues()[modes - 1 - at], 1e-300);
        const double lambda = 1.0 / theta - shift;
        hertz[at] = lambda < 1e-6 * shift ? 0.0 : toHertz(lambda);
    }
    return hertz;
}

QuickModes MovedMass::at(int node) const
{
    QuickModes quick;
    const Eigen::Index modes = lambda_.size();
    if (modes == 0) return quick;
    const Eigen::MatrixXd motion = motionOf(node);
    const Eigen::MatrixXd mass = without_ + motion.transpose() * mass_ * motion;
    const Eigen::VectorXd all = lowest(mass, modes), fewer = lowest(mass, std::max<Eigen::Index>(1, 2 * modes / 3));
    for (Eigen::Index at = 0; at < modes; ++at) {
        quick.hertz.push_back(all[at]);
        const double moved = at < fewer.size() ? fewer[at] - all[at] : all[at]; // above the fewer ones nothing is known
        quick.lower.push_back(std::max(0.0, all[at] - std::max(0.0, moved)));
    }
    return quick;
}

} // namespace undisona
