#include "core/modal/self_weight.hpp"

#include "core/modal/pencil_of.hpp"
#include "core/numerics/dense_eigen.hpp"
#include "core/numerics/signed_factor.hpp"
#include "core/system/hold_axes.hpp"
#include "core/system/rigid_mass.hpp"
#include "core/system/spread.hpp"
#include "core/units/unit.hpp"

#include <fmt/format.h>

#include <functional>
#include <numeric>

namespace undisona {

namespace {

/// Without what holds it rigidly; where that was stays known, as what follows what depends on it.
Structure released(Structure structure)
{
    for (auto& hold : structure.holds)
        hold.rigid.fill(false);
    return structure;
}

/// The loads of gravity along -z, N.
Eigen::VectorXd weightOn(const System& system)
{
    return -standardGravity * system.baseLoad.col(2);
}

/// The values of the free structure's unknowns in a motion of the held one.
class Embedding {
public:
    Embedding(const System& held, const System& free, const Eigen::VectorXd& u)
        : values_(Eigen::VectorXd::Zero(free.size())), known_(static_cast<std::size_t>(free.size()), false)
    {
        std::vector<std::size_t> nodes(free.motions.nodes.size());
        std::iota(nodes.begin(), nodes.end(), std::size_t(0));
        // What follows others by a relation comes after them.
        std::stable_sort(nodes.begin(), nodes.end(), [&](std::size_t a, std::size_t b) {
            return free.motions.nodes[a].unknowns.size() < free.motions.nodes[b].unknowns.size();
        });
        for (const std::size_t node : nodes)
            take(free.motions.nodes[node], held.motionOf(static_cast<int>(node), u));
        if (free.size() <= mostDense && off(held, free, u) > 1e-9) fitAll(held, free, u);
        for (const auto& [end, at] : free.motions.endOf) { // beside what their nodes know already
            const auto found = held.motions.endOf.find(end);
            if (found == held.motions.endOf.end()) continue;
            const NodeMotion& own = held.motions.ends[static_cast<std::size_t>(found->second)].motion;
            take(free.motions.ends[static_cast<std::size_t>(at)].motion, own.basis * u(own.unknowns));
        }
    }
    const Eigen::VectorXd& values() const { return values_; }

private:
    static constexpr Eigen::Index mostDense = 3000;

    /// By how much a node moves otherwise, beside the largest motion: a few relations that name each other are not
    /// followed one after the other.
    double off(const System& held, const System& free, const Eigen::VectorXd& u) const
    {
        double most = 0.0, largest = 1e-300;
        for (std::size_t node = 0; node < free.motions.nodes.size(); ++node) {
            const Vector6 wanted = held.motionOf(static_cast<int>(node), u);
            largest = std::max(largest, wanted.cwiseAbs().maxCoeff());
            most = std::max(most, (free.motionOf(static_cast<int>(node), values_) - wanted).cwiseAbs().maxCoeff());
        }
        return most / largest;
    }

    /// All nodes at once, by least squares.
    void fitAll(const System& held, const System& free, const Eigen::VectorXd& u)
    {
        Eigen::MatrixXd normal = Eigen::MatrixXd::Zero(free.size(), free.size());
        Eigen::VectorXd right = Eigen::VectorXd::Zero(free.size());
        std::fill(known_.begin(), known_.end(), false);
        for (std::size_t node = 0; node < free.motions.nodes.size(); ++node) {
            const NodeMotion& motion = free.motions.nodes[node];
            normal(motion.unknowns, motion.unknowns) += motion.basis.transpose() * motion.basis;
            right(motion.unknowns) += motion.basis.transpose() * held.motionOf(static_cast<int>(node), u);
            for (const int unknown : motion.unknowns)
                known_[static_cast<std::size_t>(unknown)] = true;
        }
        for (Eigen::Index at = 0; at < free.size(); ++at)
            if (!known_[static_cast<std::size_t>(at)]) normal(at, at) = 1.0;
        values_ = normal.ldlt().solve(right);
    }

    /// Those of the motion's unknowns that are not known yet, by least squares.
    void take(const NodeMotion& motion, Vector6 rest)
    {
        std::vector<int> unknowns;
        std::vector<Eigen::Index> columns;
        for (std::size_t at = 0; at < motion.unknowns.size(); ++at) {
            const int unknown = motion.unknowns[at];
            if (known_[static_cast<std::size_t>(unknown)]) {
                rest -= motion.basis.col(static_cast<Eigen::Index>(at)) * values_[unknown];
            } else {
                unknowns.push_back(unknown);
                columns.push_back(static_cast<Eigen::Index>(at));
            }
        }
        if (unknowns.empty()) return;
        const Eigen::MatrixXd basis = motion.basis(Eigen::all, columns);
        values_(unknowns) = basis.colPivHouseholderQr().solve(Eigen::MatrixXd(rest)).col(0);
        for (const int unknown : unknowns)
            known_[static_cast<std::size_t>(unknown)] = true;
    }

    Eigen::VectorXd values_;
    std::vector<bool> known_;
};

/// Sums forces by the sentence that carries them.
class Carriers {
public:
    /// A force on the structure, N, at a place.
    void add(const std::string& sentence, const std::string& point, const Eigen::Vector3d& force,
             const Eigen::Vector3d& place)
    {
        Carrier& carrier = carriers_[{sentence, point}];
        carrier.load.force += force;
        carrier.load.place += place;
        carrier.parts += 1.0;
    }
    /// All but what is nothing beside the whole.
    std::vector<CarriedLoad> loads(double weight) const
    {
        std::vector<CarriedLoad> loads;
        for (const auto& [by, carrier] : carriers_) {
            if (carrier.load.force.norm() < 1e-9 * std::abs(weight)) continue;
            loads.push_back(carrier.load);
            std::tie(loads.back().sentence, loads.back().point) = by;
            loads.back().place /= carrier.parts;
        }
        std::stable_sort(loads.begin(), loads.end(),
                         [](const auto& a, const auto& b) { return a.force.norm() > b.force.norm(); });
        return loads;
    }

private:
    struct Carrier {
        CarriedLoad load;
        double parts = 0.0;
    };
    std::map<std::pair<std::string, std::string>, Carrier> carriers_; ///< by sentence and point
};

std::string nameOf(const Structure& structure, const Hold& hold)
{
    return hold.point() < 0 ? std::string() : structure.frame.points[static_cast<std::size_t>(hold.point())].name;
}

/// Springs and beds to ground, by their motions.
void carrySprings(Carriers& carriers, const Structure& structure, const FrameMesh& mesh, const System& system,
                  const Eigen::VectorXd& u)
{
    for (const auto& hold : structure.holds) {
        if (hold.elastic == std::array<double, 6>{}) continue;
        const Eigen::Vector3d shift = system.motionOf(hold.at, u).head<3>();
        const Eigen::Vector3d springs(hold.elastic[0], hold.elastic[1], hold.elastic[2]);
        carriers.add(hold.sentence, nameOf(structure, hold),
                     -(hold.axes * springs.cwiseProduct(hold.axes.transpose() * shift)),
                     mesh.nodes[static_cast<std::size_t>(hold.at)].place);
    }
    for (const auto& attachment : structure.attachments) {
        if (attachment.effect != Attachment::Effect::stiffness) continue;
        eachPiece(structure, mesh, attachment, [&](const SpreadPiece& piece) {
            Eigen::MatrixXd own;
            Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
            Eigen::Index stride = 6; // from one end, or corner, to the next
            if (piece.element >= 0) {
                const auto& element = system.elements[static_cast<std::size_t>(piece.element)];
                own = element.toOwn * u(element.unknowns);
                axes = element.axes;
            } else if (piece.shell >= 0) {
                const auto& shell = system.shells[static_cast<std::size_t>(piece.shell)];
                own = system.ownMotion(mesh.shells[static_cast<std::size_t>(piece.shell)], shell, u);
                axes = shell.axes;
            } else {
                stride = 3;
                own.resize(3 * static_cast<Eigen::Index>(piece.nodes.size()), 1);
                for (std::size_t at = 0; at < piece.nodes.size(); ++at)
                    own.middleRows<3>(3 * static_cast<Eigen::Index>(at)) =
                        system.motionOf(piece.nodes[at], u).head<3>();
            }
            const Eigen::VectorXd forces = -(piece.matrix * own).col(0);
            Eigen::Vector3d sum = Eigen::Vector3d::Zero();
            for (Eigen::Index at = 0; at < forces.size(); at += stride)
                sum += forces.segment<3>(at);
            carriers.add(attachment.sentence, {}, axes * sum, piece.moment / piece.amount);
        });
    }
}

/// One motion that a support takes away, as a row over the free structure's unknowns.
struct HeldWay {
    const Hold* hold;
    std::string point; ///< that is held; empty of something else
    std::vector<int> unknowns;
    Eigen::VectorXd weights;
    Eigen::Vector3d direction; ///< none of a turn
    Eigen::Vector3d place;
};

std::vector<HeldWay> heldWays(const Structure& structure, const FrameMesh& mesh, const System& free)
{
    std::vector<HeldWay> ways;
    for (const auto& hold : structure.holds)
        for (int way = 0; way < 6; ++way) {
            if (!hold.rigid[static_cast<std::size_t>(way)]) continue;
            for (const int node : mesh.nodesOf(hold.on, hold.at)) {
                const Eigen::Matrix3d axes = axesAt(structure, mesh, hold, node).value_or(hold.axes);
                const Vector6 along = wayAlong(axes, way);
                const NodeMotion& motion = free.motions.nodes[static_cast<std::size_t>(node)];
                ways.push_back({&hold, nameOf(structure, hold), motion.unknowns, motion.basis.transpose() * along,
                                way < 3 ? Eigen::Vector3d(axes.col(way)) : Eigen::Vector3d(Eigen::Vector3d::Zero()),
                                mesh.nodes[static_cast<std::size_t>(node)].place});
            }
        }
    return ways;
}

/// Takes off what the relations that are kept apart do: their forces are known where nothing is held.
void withoutRelations(const System& free, const std::vector<HeldWay>& ways, Eigen::VectorXd& left)
{
    if (free.motions.apart.empty()) return;
    Eigen::VectorXd unheld = Eigen::VectorXd::Ones(free.size());
    for (const auto& way : ways)
        unheld(way.unknowns).setZero();
    Eigen::MatrixXd columns = Eigen::MatrixXd::Zero(free.size(), static_cast<Eigen::Index>(free.motions.apart.size()));
    for (std::size_t at = 0; at < free.motions.apart.size(); ++at)
        for (const auto& [unknown, weight] : free.motions.apart[at].weights)
            columns(unknown, static_cast<Eigen::Index>(at)) = weight;
    const Eigen::MatrixXd known = unheld.asDiagonal() * columns;
    left -= columns * Eigen::MatrixXd(known.transpose() * known).ldlt().solve(known.transpose() * left);
}

/// What supports carry: the forces along what they hold whose work is that of `left`, the least ones where supports of
/// one rigid body leave them open.
void carrySupports(Carriers& carriers, const std::vector<HeldWay>& ways, const Eigen::VectorXd& left)
{
    constexpr std::size_t mostTogether = 1500; // unknowns
    std::map<int, std::vector<std::size_t>> byUnknown;
    for (std::size_t at = 0; at < ways.size(); ++at)
        for (const int unknown : ways[at].unknowns)
            byUnknown[unknown].push_back(at);
    std::vector<bool> done(ways.size(), false);
    for (std::size_t first = 0; first < ways.size(); ++first) {
        if (done[first]) continue;
        std::vector<std::size_t> together{first};
        std::map<int, Eigen::Index> columns;
        done[first] = true;
        for (std::size_t at = 0; at < together.size(); ++at)
            for (const int unknown : ways[together[at]].unknowns)
                if (columns.emplace(unknown, static_cast<Eigen::Index>(columns.size())).second)
                    for (const std::size_t other : byUnknown[unknown])
                        if (!done[other]) {
                            done[other] = true;
                            together.push_back(other);
                        }
        if (columns.empty() || columns.size() > mostTogether) continue; // then the sum will not be the weight
        Eigen::MatrixXd work = Eigen::MatrixXd::Zero(static_cast<Eigen::Index>(together.size()),
                                                     static_cast<Eigen::Index>(columns.size()));
        Eigen::VectorXd own(work.cols());
        for (const auto& [unknown, column] : columns)
            own[column] = left[unknown];
        for (std::size_t at = 0; at < together.size(); ++at) {
            const HeldWay& way = ways[together[at]];
            for (std::size_t which = 0; which < way.unknowns.size(); ++which)
                work(static_cast<Eigen::Index>(at), columns[way.unknowns[which]]) +=
                    way.weights[static_cast<Eigen::Index>(which)];
        }
        const DenseEigen square = denseEigen(work.transpose() * work);
        const double least = 1e-12 * square.values.maxCoeff();
        const Eigen::VectorXd shares = square.vectors.transpose() * own;
        const Eigen::VectorXd forces =
            work * (square.vectors *
                    (square.values.array() > least).select(shares.array() / square.values.array(), 0.0).matrix());
        for (std::size_t at = 0; at < together.size(); ++at) {
            const HeldWay& way = ways[together[at]];
            if (!way.direction.isZero())
                carriers.add(way.hold->sentence, way.point, forces[static_cast<Eigen::Index>(at)] * way.direction,
                             way.place);
        }
    }
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
    const System system = assemble(structure, mesh, progress);
    if (hasError(system.motions.problems)) return system.motions.problems;
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

    const System free = assemble(released(structure), mesh, progress);
    if (progress.stopped()) return stopped();
    const Eigen::VectorXd moved = Embedding(system, free, u).values();
    Eigen::VectorXd left = matricesOf(free).stiffnessTimes(moved) - weightOn(free);
    const auto ways = heldWays(structure, mesh, free);
    withoutRelations(free, ways, left);
    rest.mass = massSummary(structure, mesh).aboutOrigin(2, 2);
    rest.weight = standardGravity * rest.mass;
    Carriers carriers;
    carrySupports(carriers, ways, left);
    carrySprings(carriers, structure, mesh, system, u);
    rest.carried = carriers.loads(rest.weight);
    Eigen::Vector3d sum(0.0, 0.0, -rest.weight);
    for (const auto& load : rest.carried)
        sum += load.force;
    rest.unbalanced = rest.weight > 0.0 ? sum.norm() / rest.weight : 0.0;
    return rest;
}

} // namespace undisona
