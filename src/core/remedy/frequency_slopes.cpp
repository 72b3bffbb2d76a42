#include "core/remedy/frequency_slopes.hpp"

#include <numbers>

namespace undisona {

namespace {

/// The largest eigenvalue of S' S, with S the motions along the directions that count.
double largestMotion(const Eigen::Matrix3Xd& motions, int axis)
{
    if (axis >= 0) return motions.row(axis).squaredNorm();
    if (motions.cols() == 1) return motions.squaredNorm();
    return Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(motions * motions.transpose(), Eigen::EigenvaluesOnly)
        .eigenvalues()
        .maxCoeff();
}

template <class Slope>
Eigen::VectorXd byNode(const Solution& solution, std::size_t mode, Slope slope)
{
    const auto group = groupOf(solution, mode);
    Eigen::VectorXd slopes(static_cast<Eigen::Index>(solution.mesh.nodes.size()));
    Eigen::Matrix3Xd motions(3, static_cast<Eigen::Index>(group.size()));
    for (Eigen::Index node = 0; node < slopes.size(); ++node) {
        for (std::size_t at = 0; at < group.size(); ++at)
            motions.col(static_cast<Eigen::Index>(at)) = solution.motion(static_cast<int>(node), group[at]).head<3>();
        slopes[node] = slope(motions);
    }
    return slopes;
}

} // namespace

std::vector<std::size_t> groupOf(const Solution& solution, std::size_t mode)
{
    std::vector<std::size_t> group;
    for (std::size_t at = 0; at < solution.modes.size(); ++at)
        if (solution.modes[at].group == solution.modes[mode].group) group.push_back(at);
    return group;
}

double slopeOfMass(const Eigen::Matrix3Xd& motions, double hertz)
{
    return -0.5 * hertz * largestMotion(motions, -1);
}

double slopeOfSpring(const Eigen::Matrix3Xd& motions, double hertz, int axis)
{
    return hertz > 0.0 ? largestMotion(motions, axis) / (8.0 * std::numbers::pi * std::numbers::pi * hertz) : 0.0;
}

Eigen::VectorXd slopesOfMass(const Solution& solution, std::size_t mode)
{
    const double hertz = solution.modes[mode].frequency;
    return byNode(solution, mode, [&](const Eigen::Matrix3Xd& motions) { return slopeOfMass(motions, hertz); });
}

Eigen::VectorXd slopesOfSpring(const Solution& solution, std::size_t mode, int axis)
{
    const double hertz = solution.modes[mode].frequency;
    return byNode(solution, mode, [&](const Eigen::Matrix3Xd& motions) { return slopeOfSpring(motions, hertz, axis); });
}

} // namespace undisona
