#include "core/modal/participation.hpp"

#include "core/pencil/hertz.hpp"

namespace undisona {

namespace {

double share(double part, double whole, double scale)
{
    return whole > 1e-12 * scale ? part / whole : 0.0;
}

} // namespace

double Participation::ofMovable(Eigen::Index mode, int d) const
{
    return share(effective(mode, d), movable[d], total[d]);
}
double Participation::ofTotal(Eigen::Index mode, int d) const
{
    return share(effective(mode, d), total[d], total[d]);
}
double Participation::sumOfMovable(Eigen::Index mode, int d) const
{
    return share(effective.col(d).head(mode + 1).sum(), movable[d], total[d]);
}
double Participation::sumOfTotal(Eigen::Index mode, int d) const
{
    return share(effective.col(d).head(mode + 1).sum(), total[d], total[d]);
}

Participation participationOf(const System& system, const Eigen::MatrixXd& shapes, const MassSummary& mass,
                              const Eigen::Vector3d& reference)
{
    Participation participation;
    participation.reference = reference;
    participation.total = movedTo(mass.aboutOrigin, reference).diagonal();
    participation.movable = movedTo(system.baseAnswer().movable, reference).diagonal();
    for (int axis = 0; axis < 3; ++axis) // along which mass does not act, but by rounding
        if (participation.total[axis] < 1e-9 * mass.mass) participation.total[axis] = participation.movable[axis] = 0.0;
    participation.factor = shapes.transpose() * system.baseLoads(reference);
    participation.effective = participation.factor.cwiseAbs2();
    return participation;
}

std::vector<int> groupsOf(const Extraction& extraction)
{
    std::vector<int> groups;
    for (Eigen::Index at = 0; at < extraction.lambda.size(); ++at) {
        const Eigen::Index still = extraction.rigid + extraction.mechanisms;
        bool same = false;
        if (at > 0 && at < still) same = at != extraction.rigid;
        if (at > still) same = sameGroup(extraction.lambda[at - 1], extraction.lambda[at]);
        groups.push_back(groups.empty() ? 1 : groups.back() + (same ? 0 : 1));
    }
    return groups;
}

void settleShapes(Extraction& extraction, const std::vector<int>& groups, const System& system, const FrameMesh& mesh,
                  const Eigen::Vector3d& reference)
{
    const Eigen::MatrixXd loads = system.baseLoads(reference);
    const Vector6 movable = movedTo(system.baseAnswer().movable, reference).diagonal();
    for (std::size_t first = 0; first < groups.size();) {
        std::size_t end = first;
        while (end < groups.size() && groups[end] == groups[first])
            ++end;
        const auto size = static_cast<Eigen::Index>(end - first);
        if (size > 1 && static_cast<Eigen::Index>(first) >= extraction.rigid) {
            // The directions in the group's space that carry x, y, z, ... one after the other; the rest fills up.
            auto block = extraction.shapes.middleCols(static_cast<Eigen::Index>(first), size);
            const Eigen::MatrixXd factors = block.transpose() * loads;
            Eigen::MatrixXd turn(size, 0);
            const auto take = [&](Eigen::VectorXd wish) {
                const double before = wish.norm();
                for (int pass = 0; pass < 2; ++pass)
                    wish -= turn * (turn.transpose() * wish).eval();
                if (turn.cols() == size || !(wish.norm() > 1e-6 * before) || before == 0.0) return;
                turn.conservativeResize(Eigen::NoChange, turn.cols() + 1);
                turn.rightCols(1) = wish.normalized();
            };
            for (int direction = 0; direction < 6; ++direction) {
                const double whole = std::sqrt(std::max(0.0, movable[direction]));
                if (factors.col(direction).norm() > 1e-6 * whole) take(factors.col(direction));
            }
            for (Eigen::Index at = 0; at < size; ++at)
                take(Eigen::VectorXd::Unit(size, at));
            block = (block * turn).eval();
        }
        first = end;
    }
    for (Eigen::Index mode = 0; mode < extraction.shapes.cols(); ++mode) {
        double largest = 0.0;
        for (std::size_t node = 0; node < mesh.nodes.size(); ++node) {
            const Vector6 motion = system.motionOf(static_cast<int>(node), extraction.shapes.col(mode));
            for (int axis = 0; axis < 3; ++axis) // a later one must be clearly larger, so that equals do not flip
                if (std::abs(motion[axis]) > std::abs(largest) * (1.0 + 1e-6)) largest = motion[axis];
        }
        if (largest < 0.0) extraction.shapes.col(mode) *= -1.0;
    }
}

} // namespace undisona
