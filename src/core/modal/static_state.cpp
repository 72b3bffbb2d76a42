#include "core/modal/static_state.hpp"

#include "core/modal/pencil_of.hpp"
#include "core/numerics/block_lanczos.hpp"
#include "core/numerics/shifted_factor.hpp"
#include "core/pencil/bordered.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// The largest K_ii / M_ii, (rad/s)2.
double stiffestRatio(const System& system)
{
    double largest = 0.0;
    for (Eigen::Index at = 0; at < system.size(); ++at)
        if (const double mass = system.mass.diagonal(at); mass > 0.0)
            largest = std::max(largest, system.stiffness.diagonal(at) / mass);
    return largest;
}

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

namespace {

/// The sentence that asks for modes about a state may have been answered wrongly; what is wrong is kept with it.
void giveState(System& system, const Structure& structure, const FrameMesh& mesh, Progress& progress)
{
    Findings& problems = system.motions.problems;
    const auto& state = structure.staticStates[static_cast<std::size_t>(structure.aboutState)];
    const auto place = RestingPlace::of(system, progress);
    if (!place) {
        problems.insert(problems.end(), place.findings().begin(), place.findings().end());
        return;
    }
    progress.stage("rest");
    StaticLoads loads = staticLoadsOf(structure, mesh, system);
    const auto u = place->motions(loads.forces.col(structure.aboutState), {state.name});
    if (!u) {
        problems.insert(problems.end(), u.findings().begin(), u.findings().end());
        return;
    }
    const double scale = stiffestRatio(system);
    stiffenBy(system, structure, mesh, prestressOf(mesh, system, loads, structure.aboutState, *u));
    // Motions that release energy, but for those that only rounding makes so.
    const auto factor =
        ShiftedFactor::factorise(Analysis::of(system.stiffness), system.stiffness, -1e-11 * scale, system.mass,
                                 {.keepFactor = !system.apart.empty(), .progress = &progress});
    if (!factor) return;
    const std::int64_t released = negativeOf(matricesOf(system), *factor);
    if (released > 0)
        problems.push_back(
            errorAt(state.sentence,
                    fmt::format("the state \"{}\" has buckled: {} motion{} energy in it, and it has no modes",
                                state.name, released, released == 1 ? " releases" : "s release"),
                    "Load it less, or hold what gives way: Rest tells by which factor it buckles, and how."));
}

} // namespace

System systemOf(const Structure& structure, const FrameMesh& mesh, Progress& progress)
{
    System system = assemble(structure, mesh, progress);
    if (structure.aboutState >= 0 && !hasError(system.motions.problems) && system.size() > 0 && !progress.stopped())
        giveState(system, structure, mesh, progress);
    return system;
}

Buckling bucklingOf(const System& system, const RestingPlace& place, const SparseSymmetric& stateStiffness,
                    Eigen::Index count)
{
    Buckling buckling{Eigen::VectorXd(0), Eigen::MatrixXd(system.size(), 0)};
    if (stateStiffness.norm() == 0.0 || count <= 0) return buckling;
    const Pencil pencil = matricesOf(system);
    const ShiftedPencil problem{
        system.size(), [&](const Eigen::MatrixXd& x) { return pencil.stiffnessTimes(x); },
        [&](const Eigen::MatrixXd& kx) { return place.solve(-(stateStiffness * place.solve(kx))); }};
    BlockLanczos lanczos(problem, std::min<Eigen::Index>(4, system.size()));
    constexpr int mostSteps = 60;
    constexpr double within = 1e-8;
    const auto ofSign = [&](Eigen::Index found, double sign) {
        const Eigen::VectorXd thetas = lanczos.thetas(found);
        return (sign * thetas.array() > 1e-9 * thetas.cwiseAbs().maxCoeff()).count();
    };
    Eigen::Index found = 0;
    for (int step = 0; step < mostSteps && !lanczos.exhausted(); ++step) {
        lanczos.step();
        found = lanczos.converged(within);
        if (found > 0 && ofSign(found, 1.0) >= count) break;
    }
    if (lanczos.exhausted()) found = lanczos.converged(within);
    if (found == 0) return buckling;
    const RitzPairs pairs = lanczos.pairs(found);
    std::vector<Eigen::Index> kept;
    for (const double sign : {1.0, -1.0}) {
        const auto before = static_cast<Eigen::Index>(kept.size());
        for (Eigen::Index at = 0; at < pairs.theta.size(); ++at)
            if (sign * pairs.theta[at] > 1e-9 * std::abs(pairs.theta[0]) && Eigen::Index(kept.size()) < before + count)
                kept.push_back(at);
    }
    buckling.known =
        lanczos.exhausted() ? std::numeric_limits<double>::infinity() : 1.0 / std::abs(pairs.theta[found - 1]);
    buckling.factors = pairs.theta(kept).cwiseInverse();
    buckling.shapes = pairs.vectors(Eigen::all, kept);
    for (Eigen::Index at = 0; at < buckling.shapes.cols(); ++at)
        buckling.shapes.col(at) /= buckling.shapes.col(at).cwiseAbs().maxCoeff();
    return buckling;
}

} // namespace undisona
