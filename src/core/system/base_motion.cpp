#include "core/system/base_motion.hpp"

#include "core/numerics/conjugate_gradients.hpp"

namespace undisona {

Eigen::MatrixXd rigidOf(const std::vector<Unknown>& unknowns)
{
    Eigen::MatrixXd rigid(static_cast<Eigen::Index>(unknowns.size()), 6);
    for (std::size_t at = 0; at < unknowns.size(); ++at)
        rigid.row(static_cast<Eigen::Index>(at)) = unknowns[at].fromRigid.transpose();
    return rigid;
}

namespace {

/// M_fs r_s: what the held unknowns put on the free ones when they move with the base.
Eigen::MatrixXd draggedOf(const System& system)
{
    const Eigen::MatrixXd held = rigidOf(system.motions.held);
    Eigen::MatrixXd dragged = Eigen::MatrixXd::Zero(system.size(), 6);
    for (const auto& part : system.parts)
        if (!part.held.empty()) {
            const Eigen::MatrixXd forces = part.massToHeld * held(part.held, Eigen::all);
            for (std::size_t at = 0; at < part.unknowns.size(); ++at)
                dragged.row(part.unknowns[at]) += forces.row(static_cast<Eigen::Index>(at));
        }
    return dragged;
}

System::BaseAnswer answerOf(const System& system)
{
    const Eigen::MatrixXd rigid = rigidOf(system.motions.unknowns), dragged = draggedOf(system);
    System::BaseAnswer base{rigid, rigid.transpose() * (system.mass * rigid)};
    if (dragged.isZero(0.0) && system.motions.apart.empty()) return base;
    std::vector<const std::vector<int>*> groups;
    for (const auto& node : system.motions.nodes)
        groups.push_back(&node.unknowns);
    // Against the mass that the direction moves about: what is dragged is a small part of it.
    Eigen::VectorXd size = base.movable.diagonal().cwiseAbs();
    size.head<3>().setConstant(size.head<3>().maxCoeff());
    size.tail<3>().setConstant(size.tail<3>().maxCoeff());
    // Of small models the sum over all modes is known as well as this.
    const double within = system.size() < 3000 ? 1e-20 : 1e-12;
    const auto byMass = [&](const Eigen::MatrixXd& loads, const Eigen::VectorXd& sizes) {
        return solveByGradients(system.mass, loads, groups, sizes, within);
    };
    Eigen::MatrixXd more = byMass(dragged, size.cwiseMax(1e-300)); // M_ff^-1 M_fs r_s
    // Under relations that are kept apart: M v + U m = dragged, U' v = 0. What follows without a mass holds nothing.
    std::vector<Eigen::Index> heavy;
    for (const auto& apart : system.motions.apart)
        if (system.mass.diagonal(apart.follower) > 0.0)
            heavy.push_back(static_cast<Eigen::Index>(&apart - system.motions.apart.data()));
    if (!heavy.empty()) {
        Eigen::MatrixXd rows = Eigen::MatrixXd::Zero(system.size(), static_cast<Eigen::Index>(heavy.size()));
        for (std::size_t at = 0; at < heavy.size(); ++at)
            for (const auto& [unknown, weight] : system.motions.apart[static_cast<std::size_t>(heavy[at])].weights)
                rows(unknown, static_cast<Eigen::Index>(at)) = weight;
        const Eigen::MatrixXd pulled = byMass(rows, Eigen::VectorXd::Constant(rows.cols(), 1e-300));
        more -= pulled * (rows.transpose() * pulled).ldlt().solve(rows.transpose() * (rigid + more));
        base.motion += more;
        const Matrix6 moved = baseLoadOf(system).transpose() * base.motion;
        base.movable = (moved + moved.transpose()) / 2.0;
        return base;
    }
    const Matrix6 cross = rigid.transpose() * dragged, square = dragged.transpose() * more;
    base.motion += more;
    base.movable += cross + cross.transpose() + (square + square.transpose()) / 2.0;
    return base;
}

} // namespace

Eigen::MatrixXd baseLoadOf(const System& system)
{
    return system.mass * rigidOf(system.motions.unknowns) + draggedOf(system);
}

const System::BaseAnswer& System::baseAnswer() const
{
    std::call_once(answeredOnce->asked, [this] { answeredOnce->answer = answerOf(*this); });
    return answeredOnce->answer;
}

std::vector<HeldMass> heldMassOf(const System& system)
{
    std::map<std::pair<int, int>, double> sums; // by column, then row
    for (const auto& part : system.parts)
        for (std::size_t row = 0; row < part.unknowns.size(); ++row)
            for (std::size_t column = 0; column < part.held.size(); ++column)
                if (const double value =
                        part.massToHeld(static_cast<Eigen::Index>(row), static_cast<Eigen::Index>(column));
                    value != 0.0)
                    sums[{part.held[column], part.unknowns[row]}] += value;
    std::vector<HeldMass> mass;
    for (const auto& [place, value] : sums)
        mass.push_back({place.second, place.first, value});
    return mass;
}

} // namespace undisona
