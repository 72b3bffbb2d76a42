#include "core/modal/support_forces.hpp"

#include "core/modal/pencil_of.hpp"
#include "core/numerics/dense_eigen.hpp"
#include "core/system/hold_axes.hpp"
#include "core/system/spread.hpp"

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
    /// A force on the structure, N, at a place, and a moment, N m.
    void add(const std::string& sentence, const std::string& point, const Eigen::Vector3d& force,
             const Eigen::Vector3d& place, const Eigen::Vector3d& moment = Eigen::Vector3d::Zero())
    {
        Carrier& carrier = carriers_[{sentence, point}];
        carrier.load.force += force;
        carrier.load.moment += moment + place.cross(force); // about the origin, until all are there
        carrier.load.place += place;
        carrier.parts += 1.0;
        carrier.farthest = std::max(carrier.farthest, place.norm());
    }
    /// All but what is nothing beside a force and a moment.
    std::vector<CarriedLoad> loads(double force, double moment) const
    {
        std::vector<CarriedLoad> loads;
        for (const auto& [by, carrier] : carriers_) {
            CarriedLoad load = carrier.load;
            load.place /= carrier.parts;
            load.moment -= load.place.cross(load.force);
            if (load.moment.norm() < 1e-9 * std::max(moment, carrier.farthest * force)) load.moment.setZero();
            if (load.force.norm() < 1e-9 * force) load.force.setZero();
            if (load.force.isZero(0.0) && load.moment.isZero(0.0)) continue;
            std::tie(load.sentence, load.point) = by;
            loads.push_back(std::move(load));
        }
        std::stable_sort(loads.begin(), loads.end(),
                         [](const auto& a, const auto& b) { return a.force.norm() > b.force.norm(); });
        return loads;
    }

private:
    struct Carrier {
        CarriedLoad load;
        double parts = 0.0, farthest = 0.0;
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
        const Vector6 motion = system.motionOf(hold.at, u);
        const auto force = [&](std::size_t first) -> Eigen::Vector3d {
            const Eigen::Vector3d springs(hold.elastic[first], hold.elastic[first + 1], hold.elastic[first + 2]);
            const Eigen::Vector3d moved = motion.segment<3>(static_cast<Eigen::Index>(first));
            return -(hold.axes * springs.cwiseProduct(hold.axes.transpose() * moved));
        };
        carriers.add(hold.sentence, nameOf(structure, hold), force(0),
                     mesh.nodes[static_cast<std::size_t>(hold.at)].place, force(3));
    }
    const Eigen::MatrixXd whole = u; // once, not for each piece
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
                own = system.ownMotion(mesh.shells[static_cast<std::size_t>(piece.shell)], shell, whole);
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
    Eigen::Vector3d direction;
    bool turns;
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
                                axes.col(way % 3), way >= 3, mesh.nodes[static_cast<std::size_t>(node)].place});
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
            const Eigen::Vector3d held = forces[static_cast<Eigen::Index>(at)] * way.direction, none(0.0, 0.0, 0.0);
            carriers.add(way.hold->sentence, way.point, way.turns ? none : held, way.place, way.turns ? held : none);
        }
    }
}

} // namespace

SupportForces::SupportForces(const Structure& structure, const FrameMesh& mesh, const System& system,
                             Progress& progress)
    : structure_(structure), mesh_(mesh), system_(system), free_(assemble(released(structure), mesh, progress))
{
}

std::vector<CarriedLoad> SupportForces::carried(const Eigen::VectorXd& u, const Eigen::VectorXd& forces, double force,
                                                double moment) const
{
    const Eigen::VectorXd moved = Embedding(system_, free_, u).values();
    Eigen::VectorXd left = matricesOf(free_).stiffnessTimes(moved) - forces;
    const auto ways = heldWays(structure_, mesh_, free_);
    withoutRelations(free_, ways, left);
    Carriers carriers;
    carrySupports(carriers, ways, left);
    carrySprings(carriers, structure_, mesh_, system_, u);
    return carriers.loads(force, moment);
}

} // namespace undisona
