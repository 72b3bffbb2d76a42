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

namespace undisona {

namespace {

class Assembly {
public:
    Assembly(const Structure& structure, const FrameMesh& mesh, System& system)
        : structure_(structure), mesh_(mesh), system_(system)
    {
        system_.lumped = structure.ask.lumped;
    }

    void members()
    {
        const std::size_t count = mesh_.elements.size();
        system_.elements.resize(count);
        for (std::size_t at = 0; at < count; ++at) // each of these adds unknowns
            if (hasOwnUnknowns(mesh_.elements[at])) equationsOf(at);
        system_.parts.resize(count);
        Workers workers(threadsFor(system_.size()));
        workers.run([&](int hand) {
            const auto hands = static_cast<std::size_t>(workers.count()), own = static_cast<std::size_t>(hand);
            Matrices matrices; // equal along a member
            for (std::size_t at = count * own / hands; at < count * (own + 1) / hands; ++at) {
                if (!hasOwnUnknowns(mesh_.elements[at])) equationsOf(at);
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
            Eigen::MatrixXd k = stiffness(element), m = system_.lumped ? lumpedMass(element) : consistentMass(element);
            bool plain = true; // every node shifts freely along x, y, z, which is the usual case
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
                OwnMotions own = ownMotions(piece);
                const auto [of, owner] = ownerOf(attachment);
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

    void atPoints()
    {
        for (const auto& mass : structure_.pointMasses) {
            Matrix6 own = Matrix6::Zero();
            own.diagonal().head<3>() = mass.mass * Eigen::Vector3d(mass.acts[0], mass.acts[1], mass.acts[2]);
            if (mass.acts == Mask3{true, true, true}) own.bottomRightCorner<3, 3>() = mass.inertia;
            const Matrix6 move = carry(mass.centre);
            addAt(mass.point, {}, move.transpose() * own * move, PartKind::pointMass, mass.sentence);
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
            const Vector6 springs = Eigen::Map<const Vector6>(spring.stiffness.data());
            addPart(partOf(PartKind::spring, spring.sentence, OwnerKind::point, spring.from, stretch,
                           Matrix6(springs.asDiagonal()), {}));
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
        system_.baseLoad = baseLoadOf(system_);
    }

private:
    void addPart(Part part)
    {
        if (!part.unknowns.empty()) system_.parts.push_back(std::move(part));
    }

    OwnMotions ownMotions(const SpreadPiece& piece) const
    {
        if (piece.element >= 0) {
            const ElementEquations& own = system_.elements[static_cast<std::size_t>(piece.element)];
            return {own.unknowns, own.toOwn, own.held, own.heldToOwn};
        }
        if (piece.shell >= 0) {
            const auto at = static_cast<std::size_t>(piece.shell);
            return undisona::ownMotions(system_.motions, system_.shells[at]);
        }
        Combination shifts(3 * static_cast<Eigen::Index>(piece.nodes.size()));
        for (std::size_t at = 0; at < piece.nodes.size(); ++at)
            addNode(shifts, 3 * static_cast<Eigen::Index>(at), piece.nodes[at], Matrix6::Identity().topRows<3>());
        return {shifts.free.unknowns(), shifts.free.matrix(), shifts.held.unknowns(), shifts.held.matrix()};
    }

    /// Of a face, the solid that has it.
    std::pair<OwnerKind, int> ownerOf(const Attachment& own) const
    {
        switch (own.over) {
        case Target::member:
            return {OwnerKind::member, own.at};
        case Target::sheet:
            return {OwnerKind::sheet, own.at};
        case Target::edge:
            return {OwnerKind::edge, own.at};
        case Target::solid:
            return {OwnerKind::solid, own.at};
        case Target::face:
        case Target::point:
            break;
        }
        return {OwnerKind::solid, structure_.frame.faces->faces[static_cast<std::size_t>(own.at)].solids.front()};
    }

    void addNode(Combination& combination, Eigen::Index row, int node, const Eigen::MatrixXd& matrix) const
    {
        combination.add(row, system_.motions.nodes[static_cast<std::size_t>(node)], matrix);
    }

    /// A stiffener beside the sheet that it follows bends sideways by itself: the sheet holds its foot along a line,
    /// not the turn of its section about the arm, which would be that of the sheet in its own plane.
    bool standsOnSheet(const MeshElement& element) const
    {
        return structure_.frame.faces &&
               !structure_.frame.faces->edgesOfMember[static_cast<std::size_t>(element.member)].empty() &&
               (element.arms[0].norm() > 1e-9 || element.arms[1].norm() > 1e-9);
    }
    bool hasOwnUnknowns(const MeshElement& element) const { return releasedAtAnEnd(element) || standsOnSheet(element); }

    /// The node's motion with the turn about the member's arm its own.
    void addStanding(Combination& combination, const MeshElement& element, int end, const Eigen::MatrixXd& rows)
    {
        const auto which = static_cast<std::size_t>(end);
        const int node = element.nodes[which];
        const Eigen::Vector3d about = element.arms[which].normalized();
        Matrix6 rest = Matrix6::Identity();
        rest.bottomRightCorner<3, 3>() -= about * about.transpose();
        addNode(combination, 6 * end, node, rows * rest);
        const auto [at, isNew] = ownTurns_.emplace(std::pair(element.member, node), 0);
        if (isNew) {
            Unknown unknown{structure_.frame.members[static_cast<std::size_t>(element.member)].name,
                            true,
                            about,
                            mesh_.end(element, end),
                            true,
                            Vector6::Zero()};
            unknown.fromRigid.tail<3>() = about;
            at->second = system_.motions.add(unknown);
        }
        combination.free.add(6 * end, {at->second}, rows.rightCols<3>() * about);
    }

    bool releasedAtAnEnd(const MeshElement& element) const
    {
        return structure_.members[static_cast<std::size_t>(element.member)].released != std::array<bool, 12>{};
    }

    void equationsOf(std::size_t at)
    {
        const auto& element = mesh_.elements[at];
        const auto index = static_cast<std::size_t>(element.member);
        const auto& shape = structure_.frame.members[index];
        const auto& properties = structure_.members[index];
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
        if (held || hasOwnUnknowns(element) || shared()) {
            const Combination combination = ownMotions(element, properties, equations.axes, shape);
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
                        structure_.ask.lumped ? lumpedMass(equations.element) : consistentMass(equations.element)};
        Part& part = system_.parts[at];
        part.kind = PartKind::member;
        part.sentence = structure_.frame.members[static_cast<std::size_t>(element.member)].sentence;
        part.owner = element.member;
        part.unknowns = equations.unknowns;
        if (hasOwnUnknowns(element) || !system_.motions.isOneBody(element.nodes, 2))
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

    /// The element's twelve own motions; a released one at a member's end is an unknown of its own.
    Combination ownMotions(const MeshElement& element, const MemberProperties& properties, const Eigen::Matrix3d& axes,
                           const FrameMember& shape)
    {
        Combination combination(12);
        for (int end = 0; end < 2; ++end) {
            const auto which = static_cast<std::size_t>(end);
            Eigen::MatrixXd rows = turned(axes) * carry(element.arms[which]);
            const bool memberEnd = end == 0 ? element.share[0] == 0.0 : element.share[1] == 1.0;
            std::array<bool, 6> released{};
            if (memberEnd)
                for (std::size_t direction = 0; direction < 6; ++direction)
                    released[direction] = properties.released[6 * which + direction];
            if (released == std::array<bool, 6>{}) {
                if (standsOnSheet(element) && element.arms[which].norm() > 1e-9)
                    addStanding(combination, element, end, rows);
                else
                    addNode(combination, 6 * end, element.nodes[which], rows);
                continue;
            }
            releasedEnd(combination, element, properties, axes, shape, end, released);
        }
        return combination;
    }

    /// Releases are stated in the section's axes y and z, which may be turned from the principal ones.
    void releasedEnd(Combination& combination, const MeshElement& element, const MemberProperties& properties,
                     const Eigen::Matrix3d& axes, const FrameMember& shape, int end,
                     const std::array<bool, 6>& released)
    {
        const auto which = static_cast<std::size_t>(end);
        Eigen::Matrix3d drawn;
        const Eigen::Vector3d x = axes.col(0), z = (shape.zAxis - shape.zAxis.dot(x) * x).normalized();
        drawn << x, z.cross(x), z; // uneven offsets turn the member away from the line between its points
        const Matrix6 toDrawn = turned(drawn) * carry(element.arms[which]);
        const Matrix6 toOwn = turned(axes) * turned(drawn).transpose();
        const auto& node = system_.motions.nodes[static_cast<std::size_t>(element.nodes[which])];
        for (int direction = 0; direction < 6; ++direction) {
            const Eigen::MatrixXd column = toOwn.col(direction);
            if (!released[static_cast<std::size_t>(direction)]) {
                combination.add(6 * end, node, column * toDrawn.row(direction));
                continue;
            }
            Unknown unknown{shape.name, direction >= 3, drawn.col(direction % 3), mesh_.end(element, end),
                            true,       Vector6::Zero()};
            if (unknown.rotation)
                unknown.fromRigid.tail<3>() = unknown.direction;
            else {
                unknown.fromRigid.head<3>() = unknown.direction;
                unknown.fromRigid.tail<3>() = unknown.place.cross(unknown.direction);
            }
            const int own = system_.motions.add(unknown);
            combination.free.add(6 * end, {own}, column);
            const double spring = properties.releaseSpring[6 * which + static_cast<std::size_t>(direction)];
            if (spring == 0.0) continue;
            Combination difference(1);
            difference.free.add(0, {own}, Eigen::MatrixXd::Identity(1, 1));
            difference.add(0, node, -toDrawn.row(direction));
            springs_.push_back(partOf(PartKind::spring, properties.releaseSentence, OwnerKind::member, element.member,
                                      difference, Eigen::MatrixXd::Constant(1, 1, spring), {}));
        }
    }

    void releaseSprings()
    {
        for (auto& part : springs_)
            system_.parts.push_back(std::move(part));
        springs_.clear();
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
    std::vector<Part> springs_;
    std::map<std::pair<int, int>, int> ownTurns_; ///< unknowns of stiffeners, by member and node
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
    assembly.atPoints();
    assembly.finish();
    return system;
}

} // namespace undisona
