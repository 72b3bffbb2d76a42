#include "core/modal/self_weight.hpp"

#include "core/modal/contacts.hpp"
#include "core/modal/pencil_of.hpp"
#include "core/numerics/signed_factor.hpp"
#include "core/system/rigid_mass.hpp"
#include "core/units/unit.hpp"

#include <fmt/format.h>

#include <functional>

namespace undisona {

namespace {

/// The loads of gravity along -z, N.
Eigen::VectorXd weightOn(const System& system)
{
    return -standardGravity * system.baseLoad.col(2);
}

using StaticSolve = std::function<Eigen::MatrixXd(const Eigen::MatrixXd&)>;

PointStiffness stiffnessAt(const std::string& name, const NodeMotion& node, Eigen::Index size, const StaticSolve& solve)
{
    Eigen::MatrixXd loads = Eigen::MatrixXd::Zero(size, 6);
    for (std::size_t at = 0; at < node.unknowns.size(); ++at)
        loads.row(node.unknowns[at]) += node.basis.col(static_cast<Eigen::Index>(at)).transpose();
    const Eigen::MatrixXd moved = solve(loads);
    PointStiffness stiffness{name};
    for (int direction = 0; direction < 6; ++direction) {
        const double gives = loads.col(direction).dot(moved.col(direction));
        const double own = gives > 0.0 ? 1.0 / gives : 0.0;
        (direction < 3 ? stiffness.along[direction] : stiffness.about[direction - 3]) = own;
    }
    return stiffness;
}

} // namespace

Result<SelfWeight> selfWeightOf(const Structure& structure, const MeshPlan& plan,
                                const std::vector<std::string>& points, Progress& progress)
{
    for (const auto& name : points)
        if (structure.frame.pointNamed(name) < 0)
            return errorAt({}, fmt::format("there is no point \"{}\" to ask how stiff it is there", name),
                           "Name a point of the model.");
    progress.stage("mesh");
    const FrameMesh mesh = meshOf(structure, plan.splits, plan.sizes, &progress);
    if (hasError(mesh.problems)) return mesh.problems;
    System system = assemble(structure, mesh, progress);
    if (hasError(system.motions.problems)) return system.motions.problems;
    std::vector<ContactState> contacts;
    if (!structure.contacts.empty() && system.size() > 0) {
        const auto rested = restingStates(structure, mesh, system, weightOn(system), {"own weight"}, progress);
        if (!rested) return rested.findings();
        contacts = rested->contacts.front();
        addContacts(system, structure, mesh, contacts);
    }
    const auto stopped = [&] { return warningAt({}, "stopped before the structure had come to rest"); };
    if (progress.stopped()) return stopped();
    const auto pencil = pencilOf(system);
    if (!pencil) return pencil.findings();
    if (pencil->free.cols() > 0) {
        Eigen::Index most = 0;
        pencil->free.cwiseAbs().rowwise().maxCoeff().maxCoeff(&most);
        return errorAt({},
                       "it has no place of rest: " + system.motions.unknowns[static_cast<std::size_t>(most)].where +
                           " can move as a rigid body",
                       "Hold it where it stands, or tie it to the rest.");
    }
    progress.stage("factorise");
    const auto factor = SignedFactor::definite(system.stiffness);
    if (progress.stopped()) return stopped();
    const auto loose = [] {
        return errorAt({}, "it has no place of rest: something moves without being strained",
                       "Solve, and look at the motions of 0 Hz.");
    };
    if (!factor) return loose();
    progress.stage("rest");
    const BorderedSolve solve(&system.apart, [&](const Eigen::MatrixXd& x) { return factor->solve(x); });
    const Eigen::VectorXd u = solve(weightOn(system)).col(0);
    if (!u.allFinite()) return loose();
    std::vector<PointStiffness> stiffness;
    for (const auto& name : points)
        stiffness.push_back(
            stiffnessAt(name, system.motions.nodes[static_cast<std::size_t>(structure.frame.pointNamed(name))],
                        system.size(), solve));

    SelfWeight rest;
    rest.unknowns = system.size();
    rest.stiffness = std::move(stiffness);
    double turns = 0.0;
    for (std::size_t node = 0; node < mesh.nodes.size(); ++node) {
        const Vector6 motion = system.motionOf(static_cast<int>(node), u);
        const Eigen::Vector3d moved = motion.head<3>();
        turns = std::max(turns, motion.tail<3>().norm());
        if (!(moved.norm() > rest.sinks * (1.0 + 1e-9))) continue;
        rest.sinks = moved.norm();
        rest.moved = moved;
        rest.at = mesh.nodes[node].place;
        const auto& own = system.motions.nodes[node].unknowns;
        rest.where = own.empty() ? "" : system.motions.unknowns[static_cast<std::size_t>(own.front())].where;
    }
    if (const auto [low, high] = structure.frame.box(); rest.sinks > 10.0 * (high - low).norm() || turns > 10.0)
        return loose();

    const SupportForces supports(structure, mesh, system, progress);
    if (progress.stopped()) return stopped();
    rest.mass = massSummary(structure, mesh).aboutOrigin(2, 2);
    rest.weight = standardGravity * rest.mass;
    rest.carried =
        supports.carried(u, weightOn(supports.free()) + contactForces(structure, mesh, supports.free(), contacts),
                         std::abs(rest.weight), 0.0);
    for (auto& load : carriedByContacts(structure, bearingPlaces(structure, mesh, supports.free(), contacts)))
        rest.carried.push_back(std::move(load));
    Eigen::Vector3d sum(0.0, 0.0, -rest.weight);
    for (const auto& load : rest.carried)
        sum += load.force;
    rest.unbalanced = rest.weight > 0.0 ? sum.norm() / rest.weight : 0.0;
    return rest;
}

} // namespace undisona
