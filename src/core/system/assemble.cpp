#include "core/system/assemble.hpp"

#include "core/base/memory.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/numerics/workers.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/system/base_motion.hpp"
#include "core/system/combination.hpp"
#include "core/system/own_motions.hpp"
#include "core/system/spread.hpp"
#include "core/system/sum_parts.hpp"
#include "core/system/surface_joint.hpp"

namespace undisona {

namespace {

class Assembly {
public:
    Assembly(const Structure& structure, const FrameMesh& mesh, System& system)
        : structure_(structure), mesh_(mesh), system_(system)
    {
        system_.lumped = structure.discretised.lumped;
    }

    void members()
    {
        const std::size_t count = mesh_.elements.size();
        system_.elements.resize(count);
        system_.parts.resize(count);
        Workers workers(threadsFor(system_.size()));
        workers.run([&](int hand) {
            const auto hands = static_cast<std::size_t>(workers.count()), own = static_cast<std::size_t>(hand);
            Matrices matrices; // equal along a member
            for (std::size_t at = count * own / hands; at < count * (own + 1) / hands; ++at) {
                equationsOf(at);
                fillPart(at, matrices);
            }
        });
        releaseSprings();
    }

    void sheets()
    {
        useBlasThreads(1); // its threads would spin beside ours
        const std::size_t count = mesh_.shells.size(), before = system_.parts.size();
        system_.shells.resize(count);
        system_.parts.resize(before + count);
        Workers workers(threadsForPieces(count));
        workers.forEach(count, [&](std::size_t at) {
            const MeshShell& shell = mesh_.shells[at];
            auto& equations = system_.shells[at] = shellOf(structure_, mesh_, shell);
            OwnMotions own = undisona::ownMotions(system_.motions, equations);
            Part& part = system_.parts[before + at];
            part = {PartKind::sheet, structure_.frame.sheets[static_cast<std::size_t>(shell.sheet)].sentence,
                    OwnerKind::sheet, shell.sheet, own.unknowns};
            if (!system_.motions.isOneBody(shell.nodes, shell.corners())) {
                part.piece = static_cast<int>(at);
                part.stiffness = undisona::carried(stiffness(equations.element), own, shell.corners());
            }
            const Eigen::MatrixXd mass =
                system_.lumped ? lumpedMass(equations.element) : consistentMass(equations.element);
            part.mass = undisona::carried(mass, own, shell.corners());
            if (own.held.empty()) return;
            part.held = std::move(own.held);
            part.massToHeld = own.toOwn.transpose() * mass * own.heldToOwn;
        });
        std::erase_if(system_.parts, [](const Part& part) { return part.unknowns.empty(); });
    }

    /// Pieces of solids.
    void solids()
    {
        const std::size_t count = mesh_.solids.size(), before = system_.parts.size();
        system_.parts.resize(before + count);
        system_.solids.resize(count);
        Workers workers(threadsForPieces(count));
        workers.forEach(count, [&](std::size_t at) {
            const MeshSolid& solid = mesh_.solids[at];
            Part& part = system_.parts[before + at];
            const std::string& sentence = structure_.frame.solids[static_cast<std::size_t>(solid.solid)].sentence;
            const SolidElement& element = system_.solids[at] = solidOf(structure_, mesh_, solid);
            Eigen::MatrixXd k, m = system_.lumped ? lumpedMass(element) : consistentMass(element);
            if (!system_.motions.isOneBody(solid.nodes, solid.count())) k = stiffness(element);
            bool plain = k.size() > 0; // every node shifts freely along x, y, z, which is the usual case
            for (std::size_t node = 0; node < solid.count() && plain; ++node) {
                const auto& motion = system_.motions.nodes[static_cast<std::size_t>(solid.nodes[node])];
                plain = motion.basis.cols() == 3 && motion.basis.topRows<3>().isIdentity(0.0);
                part.unknowns.insert(part.unknowns.end(), motion.unknowns.begin(), motion.unknowns.end());
            }
            if (plain) {
                part = {PartKind::solid,          sentence,     OwnerKind::solid, solid.solid,
                        std::move(part.unknowns), std::move(k), std::move(m),     static_cast<int>(at)};
                return;
            }
            Combination nodes(element.unknowns());
            for (std::size_t node = 0; node < solid.count(); ++node)
                addNode(nodes, 3 * static_cast<Eigen::Index>(node), solid.nodes[node],
                        Matrix6::Identity().topRows<3>());
            part = partOf(PartKind::solid, sentence, OwnerKind::solid, solid.solid, nodes, k, m);
        });
        std::erase_if(system_.parts, [](const Part& part) { return part.unknowns.empty(); });
    }

    /// What is spread over parts, edges and faces.
    void attachments()
    {
        for (const auto& attachment : structure_.attachments)
            eachPiece(structure_, mesh_, attachment, [&](const SpreadPiece& piece) {
                OwnMotions own = undisona::ownMotions(system_, piece);
                const auto [of, owner] = ownerOf(structure_, attachment);
                const bool mass = attachment.effect == Attachment::Effect::mass;
                Part part{mass ? PartKind::spreadMass : PartKind::bed, attachment.sentence, of, owner,
                          std::move(own.unknowns)};
                const Eigen::MatrixXd forces = own.toOwn.transpose() * piece.matrix;
                (mass ? part.mass : part.stiffness) = forces * own.toOwn;
                if (mass && !own.held.empty()) {
                    part.held = std::move(own.held);
                    part.massToHeld = forces * own.heldToOwn;
                }
                addPart(std::move(part));
            });
    }

    /// Springs between surfaces that face each other.
    void layers()
    {
        for (const auto& joint : structure_.surfaceJoints) {
            if (!joint.springs && !joint.hingeStiffness) continue;
            Findings saidBefore; // of a hinge, by what it follows
            eachSprings(structure_, mesh_, joint, joint.springs ? system_.motions.problems : saidBefore,
                        [&](const SurfaceSprings& springs) {
                            Combination own(springs.stiffness.rows());
                            for (std::size_t at = 0; at < springs.nodes.size(); ++at)
                                addNode(own, 6 * static_cast<Eigen::Index>(at), springs.nodes[at], Matrix6::Identity());
                            const int part = springs.part, sheets = static_cast<int>(structure_.frame.sheets.size());
                            addPart(partOf(PartKind::spring, joint.sentence,
                                           part < sheets ? OwnerKind::sheet : OwnerKind::solid,
                                           part < sheets ? part : part - sheets, own, springs.stiffness, {}));
                        });
        }
    }

    void atPoints()
    {
        for (const auto& mass : structure_.pointMasses) {
            const Matrix6 move = carry(mass.centre);
            addAt(mass.point, {}, move.transpose() * matrixOf(mass) * move, PartKind::pointMass, mass.sentence);
        }
        for (const auto& hold : structure_.holds) {
            if (hold.elastic == std::array<double, 6>{}) continue;
            const Matrix6 turn = turned(hold.axes);
            const Vector6 springs = Eigen::Map<const Vector6>(hold.elastic.data());
            addAt(hold.at, turn.transpose() * springs.asDiagonal() * turn, {}, PartKind::support, hold.sentence);
        }
        for (const auto& spring : structure_.springs) {
            const auto &from = mesh_.nodes[static_cast<std::size_t>(spring.from)].place,
                       &to = mesh_.nodes[static_cast<std::size_t>(spring.to)].place;
            const Eigen::Vector3d middle = (from + to) / 2.0;
            Combination stretch(6);
            addNode(stretch, 0, spring.to, turned(spring.axes) * carry(middle - to));
            addNode(stretch, 0, spring.from, -turned(spring.axes) * carry(middle - from));
            addPart(partOf(PartKind::spring, spring.sentence, OwnerKind::point, spring.from, stretch, spring.stiffness,
                           {}));
        }
    }

    void finish()
    {
        std::vector<const std::vector<int>*> nodes;
        for (const auto& node : system_.motions.nodes)
            nodes.push_back(&node.unknowns);
        std::tie(system_.stiffness, system_.mass) = sumParts(system_.size(), system_.parts, nodes);
        for (auto& part : system_.parts)
            if (part.piece >= 0) part.stiffness = part.mass = Eigen::MatrixXd();
        if (!system_.solids.empty() || !system_.shells.empty()) giveBackFreed(); // which would be more than the sums
        keepApart();
        system_.baseLoad = baseLoadOf(system_);
    }

private:
    /// The relations of points that follow many. What follows may have no stiffness of its own, and would then be a
    /// pivot of nothing: it gets one among the equations, and a term apart takes it back.
    void keepApart()
    {
        system_.apart.size = system_.size();
        const auto columnOf = [](const std::map<int, double>& weights) {
            LowRank::Column column;
            for (const auto& [unknown, weight] : weights) {
                column.row.push_back(unknown);
                column.value.push_back(weight);
            }
            return column;
        };
        for (const auto& [follower, weights] : system_.motions.apart) {
            double squares = 0.0, stiff = 0.0; // as what it follows has it of its own, so that norms stay what they are
            for (const auto& [unknown, weight] : weights)
                if (unknown != follower) {
                    squares += weight * weight;
                    stiff += weight * weight * system_.stiffness.diagonal(unknown);
                }
            system_.apart.columns.push_back(columnOf(weights));
            if (!(stiff > 0.0)) continue;
            const double weight = weights.at(follower),
                         lent = weight * weight * stiff / (squares * squares * double(weights.size()));
            system_.stiffness
                .value[static_cast<std::size_t>(system_.stiffness.columnStart[static_cast<std::size_t>(follower)])] +=
                lent;
            system_.apart.columns.push_back(columnOf({{follower, 1.0}}));
            system_.apart.columns.back().compliance = -1.0 / lent;
        }
    }

    void addPart(Part part)
    {
        if (!part.unknowns.empty()) system_.parts.push_back(std::move(part));
    }

    void addNode(Combination& combination, Eigen::Index row, int node, const Eigen::MatrixXd& matrix) const
    {
        combination.add(row, system_.motions.nodes[static_cast<std::size_t>(node)], matrix);
    }

    void equationsOf(std::size_t at)
    {
        const auto& element = mesh_.elements[at];
        auto& equations = system_.elements[at];
        const OwnMember own = memberOf(structure_, mesh_, element);
        equations.element = own.element;
        equations.axes = own.axes;
        const std::array<const NodeMotion*, 2> ends{&system_.motions.nodes[static_cast<std::size_t>(element.nodes[0])],
                                                    &system_.motions.nodes[static_cast<std::size_t>(element.nodes[1])]};
        const bool held = !ends[0]->held.empty() || !ends[1]->held.empty();
        const auto shared = [&] { // both ends move with one body
            for (const int unknown : ends[0]->unknowns)
                if (std::find(ends[1]->unknowns.begin(), ends[1]->unknowns.end(), unknown) != ends[1]->unknowns.end())
                    return true;
            return false;
        };
        if (held || hasOwnEnd(at) || shared()) {
            const Combination combination = ownMotions(at, equations.axes);
            equations.unknowns = combination.free.unknowns();
            equations.toOwn = combination.free.matrix();
            equations.held = combination.held.unknowns();
            equations.heldToOwn = combination.held.matrix();
            return;
        }
        const Matrix6 turn = turned(equations.axes);
        const Eigen::Index first = ends[0]->basis.cols(), second = ends[1]->basis.cols();
        equations.toOwn.setZero(12, first + second);
        equations.toOwn.topLeftCorner(6, first).noalias() = (turn * carry(element.arms[0])).lazyProduct(ends[0]->basis);
        equations.toOwn.bottomRightCorner(6, second).noalias() =
            (turn * carry(element.arms[1])).lazyProduct(ends[1]->basis);
        equations.unknowns = ends[0]->unknowns;
        equations.unknowns.insert(equations.unknowns.end(), ends[1]->unknowns.begin(), ends[1]->unknowns.end());
    }

    /// Of an element in its own axes.
    struct Matrices {
        int member = -1;
        double length = 0.0;
        Matrix12 stiffness, mass;
    };

    void fillPart(std::size_t at, Matrices& matrices)
    {
        const auto& element = mesh_.elements[at];
        const auto& equations = system_.elements[at];
        if (matrices.member != element.member || matrices.length != equations.element.length)
            matrices = {element.member, equations.element.length, stiffness(equations.element),
                        structure_.discretised.lumped ? lumpedMass(equations.element)
                                                      : consistentMass(equations.element)};
        Part& part = system_.parts[at];
        part.kind = PartKind::member;
        part.sentence = structure_.frame.members[static_cast<std::size_t>(element.member)].sentence;
        part.owner = element.member;
        part.unknowns = equations.unknowns;
        if (hasOwnEnd(at) || !system_.motions.isOneBody(element.nodes, 2))
            part.stiffness = carried(matrices.stiffness, equations.toOwn);
        part.mass = carried(matrices.mass, equations.toOwn);
        holdBack(part, equations, matrices.mass);
    }

    /// What the held ends of an element bring to the loads of a moving base.
    static void holdBack(Part& part, const ElementEquations& equations, const Matrix12& mass)
    {
        if (equations.held.empty()) return;
        part.held = equations.held;
        part.massToHeld = equations.toOwn.transpose() * mass * equations.heldToOwn;
    }

    /// A' matrix A; for twelve unknowns with fixed sizes, which is the usual case.
    static Eigen::MatrixXd carried(const Matrix12& matrix, const Eigen::Matrix<double, 12, Eigen::Dynamic>& a)
    {
        if (a.cols() != 12) return a.transpose() * matrix * a;
        const Matrix12 fixed = a, half = matrix.lazyProduct(fixed);
        return Matrix12(fixed.transpose().lazyProduct(half));
    }

    bool hasOwnEnd(std::size_t at) const { return system_.motions.ownEnd(at, 0) || system_.motions.ownEnd(at, 1); }

    /// The element's twelve own motions.
    Combination ownMotions(std::size_t at, const Eigen::Matrix3d& axes) const
    {
        const auto& element = mesh_.elements[at];
        Combination combination(12);
        for (int end = 0; end < 2; ++end) {
            const auto which = static_cast<std::size_t>(end);
            if (const auto* own = system_.motions.ownEnd(at, end))
                combination.add(6 * end, own->motion, turned(axes));
            else
                addNode(combination, 6 * end, element.nodes[which], turned(axes) * carry(element.arms[which]));
        }
        return combination;
    }

    /// Between released ends and the nodes that they do not follow.
    void releaseSprings()
    {
        for (const auto& [place, which] : system_.motions.endOf) {
            const auto& element = mesh_.elements[static_cast<std::size_t>(place[0])];
            const auto end = static_cast<std::size_t>(place[1]);
            const auto& properties = structure_.members[static_cast<std::size_t>(element.member)];
            const auto& own = system_.motions.ends[static_cast<std::size_t>(which)];
            const bool atEnd = end == 0 ? element.share[0] == 0.0 : element.share[1] == 1.0;
            for (std::size_t direction = 0; atEnd && direction < 6; ++direction) {
                const double spring = properties.releaseSpring[6 * end + direction];
                if (spring == 0.0) continue;
                const Eigen::MatrixXd way = wayAlong(own.axes, static_cast<int>(direction)).transpose();
                Combination difference(1);
                difference.add(0, own.motion, way);
                addNode(difference, 0, element.nodes[end], -way * carry(element.arms[end]));
                addPart(partOf(PartKind::spring, properties.releaseSentence, OwnerKind::member, element.member,
                               difference, Eigen::MatrixXd::Constant(1, 1, spring), {}));
            }
        }
    }

    void addAt(int point, const Eigen::MatrixXd& stiffness, const Eigen::MatrixXd& mass, PartKind kind,
               const std::string& sentence)
    {
        Combination own(6);
        addNode(own, 0, point, Matrix6::Identity());
        addPart(partOf(kind, sentence, OwnerKind::point, point, own, stiffness, mass));
    }

    const Structure& structure_;
    const FrameMesh& mesh_;
    System& system_;
};

} // namespace

Eigen::MatrixXd System::baseLoads(const Eigen::Vector3d& about) const
{
    return baseLoad * carry(-about);
}

Vector6 System::motionOf(int node, const Eigen::Ref<const Eigen::VectorXd>& q) const
{
    const auto& motion = motions.nodes[static_cast<std::size_t>(node)];
    Vector6 sum = Vector6::Zero();
    for (std::size_t at = 0; at < motion.unknowns.size(); ++at)
        sum += motion.basis.col(static_cast<Eigen::Index>(at)) * q[motion.unknowns[at]];
    return sum;
}

System kinematicsOf(const Structure& structure, const FrameMesh& mesh)
{
    System system;
    system.motions = mapMotions(structure, mesh);
    Assembly(structure, mesh, system).members();
    system.parts.clear();
    return system;
}

System assemble(const Structure& structure, const FrameMesh& mesh, Progress& progress)
{
    progress.stage("assemble");
    System system;
    system.motions = mapMotions(structure, mesh);
    Assembly assembly(structure, mesh, system);
    assembly.members();
    assembly.sheets();
    assembly.solids();
    assembly.attachments();
    assembly.layers();
    assembly.atPoints();
    assembly.finish();
    return system;
}

} // namespace undisona
