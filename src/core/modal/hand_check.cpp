#include "core/modal/hand_check.hpp"

namespace undisona {

std::vector<HandEstimate> handEstimates(const Solution& solution)
{
    std::vector<HandEstimate> estimates;
    const auto& checks = solution.structure->handChecks;
    if (checks.empty()) return estimates;
    const auto factor = SignedFactor::definite(solution.system->stiffness);
    const BorderedSolve solve(&solution.system->apart, [&](const Eigen::MatrixXd& x) {
        return factor ? factor->solve(x) : Eigen::MatrixXd(Eigen::MatrixXd::Zero(x.rows(), x.cols()));
    });
    const bool loose = !solution.modes.empty() && (solution.modes[0].rigid || solution.modes[0].mechanism);
    for (const auto& check : checks) {
        HandEstimate estimate;
        estimate.sentence = check.sentence;
        const auto& motion = solution.system->motions.nodes[static_cast<std::size_t>(check.point)];
        const int direction = check.direction + (check.moment ? 3 : 0);
        Eigen::VectorXd load = Eigen::VectorXd::Zero(solution.system->size());
        for (std::size_t at = 0; at < motion.unknowns.size(); ++at)
            load[motion.unknowns[at]] += motion.basis(direction, static_cast<Eigen::Index>(at));
        if (factor && !loose && load.norm() > 0.0) {
            const Eigen::VectorXd q = solve(load).col(0);
            estimate.deflection = load.dot(q);
            estimate.stiffness = 1.0 / estimate.deflection;
            // The mass that, set at the point, has the kinetic energy of the deflected shape (Rayleigh).
            estimate.mass = q.dot((solution.system->mass * q).col(0)) / (estimate.deflection * estimate.deflection);
            estimate.frequency =
                estimate.mass > 0.0 ? std::sqrt(estimate.stiffness / estimate.mass) / (2.0 * std::numbers::pi) : 0.0;
        }
        double most = 0.0;
        for (std::size_t mode = 0; mode < solution.modes.size(); ++mode) {
            if (!(solution.modes[mode].lambda > 0.0)) continue;
            // What the mode gives to the static deflection: phi^2 / lambda.
            const double moved =
                std::pow(solution.motion(check.point, mode)[direction], 2) / solution.modes[mode].lambda;
            if (moved > most * (1.0 + 1e-9)) {
                most = moved;
                estimate.nearestMode = solution.modes[mode].number;
            }
        }
        estimates.push_back(estimate);
    }
    return estimates;
}

} // namespace undisona
