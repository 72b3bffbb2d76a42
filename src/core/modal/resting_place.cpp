#include "core/modal/resting_place.hpp"

#include "core/modal/pencil_of.hpp"
#include "core/numerics/signed_factor.hpp"

#include <fmt/format.h>

namespace undisona {

double stiffestRatio(const System& system)
{
    double largest = 0.0;
    for (Eigen::Index at = 0; at < system.size(); ++at)
        if (const double mass = system.mass.diagonal(at); mass > 0.0)
            largest = std::max(largest, system.stiffness.diagonal(at) / mass);
    return largest;
}

namespace {

/// What moves most in a motion: "Mast can move along x".
std::string mostMoved(const System& system, const Eigen::VectorXd& motion)
{
    Eigen::Index most = 0;
    motion.cwiseAbs().maxCoeff(&most);
    return matricesOf(system).motionOf(most);
}

} // namespace

Result<RestingPlace> RestingPlace::of(const System& system, Progress& progress)
{
    if (system.size() == 0)
        return errorAt({}, "nothing can move: every direction of every point is held",
                       "Free some of them, or add members.");
    RestingPlace place;
    place.system_ = &system;
    progress.stage("factorise");
    place.factor_ = SignedFactor::definite(system.stiffness);
    const auto held = [&] {
        if (!place.factor_) return false;
        constexpr double rounding = 1e-13;
        return place.factor_->reciprocalCondition() > rounding;
    };
    if (held() || progress.stopped()) return place;
    // So little mass on springs that what is strained does not feel it, so that the rest stays where it is.
    place.lent_ = 1e-10 * stiffestRatio(system);
    const SparseSymmetric lent = sum(system.stiffness, place.lent_, system.mass);
    place.factor_ = SignedFactor::definite(lent);
    if (!place.factor_) {
        if (const auto pencil = pencilOf(system); !pencil) return pencil.findings();
        return errorAt({}, "it has no place of rest: something moves with neither stiffness nor mass",
                       "Solve, and look at the motions of 0 Hz.");
    }
    return place;
}

Eigen::MatrixXd RestingPlace::solve(const Eigen::MatrixXd& right) const
{
    return BorderedSolve(&system_->apart, [&](const Eigen::MatrixXd& x) { return factor_->solve(x); })(right);
}

Result<Eigen::MatrixXd> RestingPlace::motions(const Eigen::MatrixXd& forces,
                                              const std::vector<std::string>& names) const
{
    if (!factor_) return warningAt({}, "stopped before the structure had come to rest");
    const Pencil pencil = matricesOf(*system_);
    const auto leftOf = [&](const Eigen::MatrixXd& u) {
        Eigen::MatrixXd left = forces - pencil.stiffnessTimes(u);
        system_->apart.balance(left);
        return left;
    };
    Eigen::MatrixXd u = solve(forces);
    constexpr double within = 1e-9; // of the forces
    // Where nothing was lent one round takes off what rounding has left.
    const int rounds = isHeld() ? 1 : 60;
    for (int round = 0; round < rounds; ++round) {
        const Eigen::MatrixXd left = leftOf(u);
        if (!left.allFinite()) break;
        bool done = true;
        for (Eigen::Index column = 0; column < u.cols(); ++column)
            done = done && left.col(column).norm() <= 0.01 * within * forces.col(column).norm();
        if (done) break;
        u += solve(left);
    }
    const Eigen::MatrixXd left = leftOf(u);
    for (Eigen::Index column = 0; column < u.cols(); ++column) {
        const double off = left.col(column).norm(), all = forces.col(column).norm();
        if (u.col(column).allFinite() && off <= within * all) continue;
        if (!isHeld() || !u.col(column).allFinite())
            return errorAt(
                {},
                fmt::format("the state \"{}\" has no place of rest: {} without being strained, and the loads "
                            "push it that way",
                            names[static_cast<std::size_t>(column)], mostMoved(*system_, u.col(column))),
                "Hold it, tie it to the rest, or give it a load that keeps the others in balance.");
    }
    return u;
}

} // namespace undisona
