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

/// The relations that are kept apart, as columns, of what follows with a mass of its own.
Eigen::MatrixXd heavyRelations(const System& system)
{
    Eigen::MatrixXd columns(system.size(), 0);
    for (const auto& apart : system.motions.apart) {
        if (!(system.mass.diagonal(apart.follower) > 0.0)) continue;
        columns.conservativeResize(Eigen::NoChange, columns.cols() + 1);
        columns.rightCols(1).setZero();
        for (const auto& [unknown, weight] : apart.weights)
            columns(unknown, columns.cols() - 1) = weight;
    }
    return columns;
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
    // Under relations that are kept apart: M v + U m = b, U' v = 0. What follows without a mass holds nothing.
    const Eigen::MatrixXd relations = heavyRelations(system);
    const Eigen::Index count = relations.cols();
    Eigen::VectorXd sizes = Eigen::VectorXd::Zero(6 + count); // of relations about what they come to
    sizes.head<6>() = size.cwiseMax(1e-300);
    for (Eigen::Index at = 0; at < system.size() && count > 0; ++at)
        if (system.mass.diagonal(at) > 0.0)
            sizes.tail(count) += relations.row(at).transpose().cwiseAbs2() / system.mass.diagonal(at);
    Eigen::MatrixXd loads(system.size(), 6 + count);
    loads << dragged, relations;
    const Eigen::MatrixXd answers = solveByGradients(system.mass, loads, groups, sizes, within);
    Eigen::MatrixXd more = answers.leftCols(6); // M_ff^-1 M_fs r_s
    if (count > 0) {
        const auto pulled = answers.rightCols(count);
        more -= pulled *
                Eigen::MatrixXd(relations.transpose() * pulled).ldlt().solve(relations.transpose() * (rigid + more));
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
