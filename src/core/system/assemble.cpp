#include "core/system/assemble.hpp"

#include "core/elements/surface_piece.hpp"
#include "core/geometry/joined_faces.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/numerics/workers.hpp"
#include "core/system/base_motion.hpp"
#include "core/system/sum_parts.hpp"

namespace undisona {

namespace {

/// Columns of a motion by the unknowns they belong to.
class Columns {
public:
    explicit Columns(Eigen::Index rows) : matrix_(rows, 0) {}

    /// matrix rows [row, row + block.rows()) += block * q(unknowns). What cancels but for rounding is nothing: two points
    /// of one body do not part.
    void add(Eigen::Index row, const std::vector<int>& unknowns, const Eigen::MatrixXd& block)
    {
        for (std::size_t at = 0; at < unknowns.size(); ++at) {
            auto sum = matrix_.col(columnOf(unknowns[at])).segment(row, block.rows());
            for (Eigen::Index i = 0; i < block.rows(); ++i) {
                const double more = block(i, static_cast<Eigen::Index>(at)), before = sum[i];
                sum[i] += more;
                if (before != 0.0 && std::abs(sum[i]) < 1e-12 * block.cwiseAbs().maxCoeff()) sum[i] = 0.0;
            }
        }
    }
    const std::vector<int>& unknowns() const { return unknowns_; }
    const Eigen::MatrixXd& matrix() const { return matrix_; }

private:
    Eigen::Index columnOf(int unknown)
    {
        const auto found = std::find(unknowns_.begin(), unknowns_.end(), unknown);
        if (found != unknowns_.end()) return found - unknowns_.begin();
        unknowns_.push_back(unknown);
        matrix_.conservativeResize(Eigen::NoChange, matrix_.cols() + 1);
        matrix_.rightCols(1).setZero();
        return matrix_.cols() - 1;
    }

    std::vector<int> unknowns_;
    Eigen::MatrixXd matrix_;
};

/// A motion as it is put together from what is free and what is held.
struct Combination {
    Columns free, held;
    explicit Combination(Eigen::Index rows) : free(rows), held(rows) {}
    void add(Eigen::Index row, const NodeMotion& motion, const Eigen::MatrixXd& matrix)
    {
        free.add(row, motion.unknowns, matrix * motion.basis);
        held.add(row, motion.held, matrix * motion.heldBasis);
    }
};

/// A part whose own motions are a combination; a stiffness or a mass of nothing stands for zero.
Part partOf(PartKind kind, const std::string& sentence, int owner, const Combination& own,
            const Eigen::MatrixXd& stiffness, const Eigen::MatrixXd& mass)
{
    Part part{kind, sentence, owner, own.free.unknowns(), {}, {}};
    const Eigen::MatrixXd& a = own.free.matrix();
    if (stiffness.size() > 0) part.stiffness = a.transpose() * stiffness * a;
    if (mass.size() == 0) return part;
    const Eigen::MatrixXd forces = a.transpose() * mass;
    part.mass = forces * a;
    if (own.held.unknowns().empty()) return part;
    part.held = own.held.unknowns();
    part.massToHeld = forces * own.held.matrix();
    return part;
}

class Assembly {
public:
    Assembly(const Structure& structure, const FrameMesh& mesh, System& system)
        : structure_(structure), mesh_(mesh), system_(system)
    {
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

    void alongMembers()
    {
        for (const auto& mass : structure_.lineMasses) {
            const Eigen::Vector3d perLength =
                mass.perLength * Eigen::Vector3d(mass.acts[0], mass.acts[1], mass.acts[2]);
            spread(mass.member, perLength, PartKind::lineMass, mass.sentence);
        }
        for (const auto& bed : structure_.beds)
            spread(bed.member, {bed.stiffness[0], bed.stiffness[1], bed.stiffness[2]}, PartKind::bed, bed.sentence);
    }

    /// Pieces of sheet and what is spread over them.
    void sheets()
    {
        useBlasThreads(1); // its threads would spin beside ours
        const std::size_t count = mesh_.shells.size(), before = system_.parts.size();
        system_.shells.resize(count);
        const std::size_t each = 1 + structure_.areaMasses.size() + structure_.areaBeds.size();
        system_.parts.resize(before + count * each);
        std::vector<std::vector<const AreaBed*>> beds(structure_.sheets.size());
        for (const auto& bed : structure_.areaBeds)
            beds[static_cast<std::size_t>(bed.sheet)].push_back(&bed);
        std::vector<std::vector<const AreaMass*>> masses(structure_.sheets.size());
        for (const auto& mass : structure_.areaMasses)
            masses[static_cast<std::size_t>(mass.sheet)].push_back(&mass);
        Workers workers(threadsFor(system_.size()));
        workers.run([&](int hand) {
            const auto hands = static_cast<std::size_t>(workers.count()), own = static_cast<std::size_t>(hand);
            for (std::size_t at = count * own / hands; at < count * (own + 1) / hands; ++at) {
                const MeshShell& shell = mesh_.shells[at];
                const auto sheet = static_cast<std::size_t>(shell.sheet);
                auto& equations = system_.shells[at] = shellOf(structure_, mesh_, shell);
                const auto [unknowns, toOwn, held, heldToOwn] = ownMotions(shell, equations);
                const auto fill = [&, &unknowns = unknowns](Part& part, PartKind kind, const std::string& sentence) {
                    part.kind = kind;
                    part.sentence = sentence;
                    part.owner = shell.sheet;
                    part.unknowns = unknowns;
                };
                const auto fillMass = [&, &unknowns = unknowns, &toOwn = toOwn, &held = held,
                                       &heldToOwn = heldToOwn](Part& part, const Eigen::MatrixXd& mass, bool blocks) {
                    part.mass = blocks ? carriedBlocks(mass, toOwn, shell) : toOwn.transpose() * mass * toOwn;
                    if (held.empty()) return;
                    part.held = held;
                    part.massToHeld = toOwn.transpose() * mass * heldToOwn;
                };
                Part* part = &system_.parts[before + at * each];
                fill(*part, PartKind::sheet, structure_.frame.sheets[sheet].sentence);
                if (!system_.motions.isOneBody(shell.nodes, shell.corners()))
                    part->stiffness = carriedBlocks(stiffness(equations.element), toOwn, shell);
                fillMass(*part,
                         structure_.ask.lumped ? lumpedMass(equations.element) : consistentMass(equations.element),
                         true);
                for (const AreaMass* mass : masses[sheet]) {
                    fill(*++part, PartKind::areaMass, mass->sentence);
                    const Eigen::Matrix3d inAxes = equations.axes.transpose() *
                                                   (mesh_.weight[static_cast<std::size_t>(shell.face)] * mass->perArea *
                                                    Eigen::Vector3d(mass->acts[0], mass->acts[1], mass->acts[2]))
                                                       .asDiagonal() *
                                                   equations.axes;
                    fillMass(*part,
                             structure_.ask.lumped ? lumpedOverArea(equations.element, inAxes)
                                                   : overArea(equations.element, inAxes),
                             false);
                }
                for (const AreaBed* bed : beds[sheet]) {
                    fill(*++part, PartKind::areaBed, bed->sentence);
                    const Eigen::Matrix3d inAxes =
                        equations.axes.transpose() *
                        (mesh_.weight[static_cast<std::size_t>(shell.face)] *
                         Eigen::Vector3d(bed->stiffness[0], bed->stiffness[1], bed->stiffness[2]))
                            .asDiagonal() *
                        equations.axes;
                    part->stiffness = toOwn.transpose() * overArea(equations.element, inAxes) * toOwn;
                }
            }
        });
        std::erase_if(system_.parts, [](const Part& part) { return part.unknowns.empty(); });
    }

    /// Pieces of solids.
    void solids()
    {
        const std::size_t count = mesh_.solids.size(), before = system_.parts.size();
        system_.parts.resize(before + count);
        Workers workers(threadsFor(system_.size()));
        workers.run([&](int hand) {
            const auto hands = static_cast<std::size_t>(workers.count()), own = static_cast<std::size_t>(hand);
            for (std::size_t at = count * own / hands; at < count * (own + 1) / hands; ++at) {
                const MeshSolid& solid = mesh_.solids[at];
                Part& part = system_.parts[before + at];
                const std::string& sentence = structure_.frame.solids[static_cast<std::size_t>(solid.solid)].sentence;
                const SolidElement element = solidOf(structure_, mesh_, solid);
                const Eigen::MatrixXd k = stiffness(element),
                                      m = structure_.ask.lumped ? lumpedMass(element) : consistentMass(element);
                bool plain = true; // every node shifts freely along x, y, z, which is the usual case
                for (std::size_t node = 0; node < solid.count() && plain; ++node) {
                    const auto& motion = system_.motions.nodes[static_cast<std::size_t>(solid.nodes[node])];
                    plain = motion.basis.cols() == 3 && motion.basis.topRows<3>().isIdentity(0.0);
                    part.unknowns.insert(part.unknowns.end(), motion.unknowns.begin(), motion.unknowns.end());
                }
                if (plain) {
                    part.kind = PartKind::solid;
                    part.owner = solid.solid;
                    part.sentence = sentence;
                    part.stiffness = k;
                    part.mass = m;
                    continue;
                }
                Combination nodes(element.unknowns());
                for (std::size_t node = 0; node < solid.count(); ++node)
                    addNode(nodes, 3 * static_cast<Eigen::Index>(node), solid.nodes[node],
                            Matrix6::Identity().topRows<3>());
                part = partOf(PartKind::solid, sentence, solid.solid, nodes, k, m);
            }
        });
        std::erase_if(system_.parts, [](const Part& part) { return part.unknowns.empty(); });
    }

    /// Mass and beds along edges of sheet, linear between the nodes.
    void alongEdges()
    {
        for (const auto& mass : structure_.edgeMasses)
            spreadEdge(mass.edge, mass.perLength * Eigen::Vector3d(mass.acts[0], mass.acts[1], mass.acts[2]),
                       PartKind::edgeMass, mass.sentence);
        for (const auto& bed : structure_.edgeBeds)
            spreadEdge(bed.edge, {bed.stiffness[0], bed.stiffness[1], bed.stiffness[2]}, PartKind::edgeBed,
                       bed.sentence);
    }

    /// Mass and beds over faces of solids, by the interpolation that the elements have there.
    void overFaces()
    {
        for (const auto& mass : structure_.faceMasses)
            spreadFace(mass.face, mass.perArea * Eigen::Vector3d(mass.acts[0], mass.acts[1], mass.acts[2]),
                       PartKind::faceMass, mass.sentence);
        for (const auto& bed : structure_.faceBeds)
            spreadFace(bed.face, {bed.stiffness[0], bed.stiffness[1], bed.stiffness[2]}, PartKind::faceBed,
                       bed.sentence);
    }

    void spreadFace(int face, const Eigen::Vector3d& perArea, PartKind kind, const std::string& sentence)
    {
        const int solid = structure_.frame.faces->faces[static_cast<std::size_t>(face)].solids.front();
        const bool lump = kind == PartKind::faceMass && structure_.ask.lumped;
        for (const auto& [nodes, products] : mesh_.piecesOfFace(structure_, face)) {
            Combination own(3 * products.rows());
            for (std::size_t at = 0; at < nodes.size(); ++at)
                addNode(own, 3 * Eigen::Index(at), nodes[at], Matrix6::Identity().topRows<3>());
            const Eigen::MatrixXd matrix = inEachDirection(lump ? lumpedProducts(products) : products, perArea);
            addPart(kind == PartKind::faceBed ? partOf(kind, sentence, solid, own, matrix, {})
                                              : partOf(kind, sentence, solid, own, {}, matrix));
        }
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
            addAt(hold.point, turn.transpose() * springs.asDiagonal() * turn, {}, PartKind::support, hold.sentence);
        }
        for (const auto& spring : structure_.springs) {
            const auto &from = mesh_.nodes[static_cast<std::size_t>(spring.from)].place,
                       &to = mesh_.nodes[static_cast<std::size_t>(spring.to)].place;
            const Eigen::Vector3d middle = (from + to) / 2.0;
            Combination stretch(6);
            addNode(stretch, 0, spring.to, turned(spring.axes) * carry(middle - to));
            addNode(stretch, 0, spring.from, -turned(spring.axes) * carry(middle - from));
            const Vector6 springs = Eigen::Map<const Vector6>(spring.stiffness.data());
            addPart(partOf(PartKind::spring, spring.sentence, spring.from, stretch,
                           Matrix6(springs.asDiagonal()), {}));
        }
    }

    void finish()
    {
        std::vector<const std::vector<int>*> nodes;
        for (const auto& node : system_.motions.nodes)
            nodes.push_back(&node.unknowns);
        std::tie(system_.stiffness, system_.mass) = sumParts(system_.size(), system_.parts, nodes);
        system_.baseLoad = baseLoadOf(system_);
    }

private:
    void addPart(Part part)
    {
        if (!part.unknowns.empty()) system_.parts.push_back(std::move(part));
    }

    /// A' matrix A; by blocks of a corner each where corners move freely of each other, which is the usual case.
    Eigen::MatrixXd carriedBlocks(const Eigen::MatrixXd& matrix, const Eigen::MatrixXd& a, const MeshShell& shell) const
    {
        const auto corners = static_cast<Eigen::Index>(shell.corners());
        bool free = a.cols() == 6 * corners;
        for (std::size_t corner = 0; corner < shell.corners() && free; ++corner)
            free = system_.motions.nodes[static_cast<std::size_t>(shell.nodes[corner])].unknowns.size() == 6;
        if (!free) return a.transpose() * matrix * a;
        Eigen::MatrixXd carried(6 * corners, 6 * corners);
        for (Eigen::Index j = 0; j < 6 * corners; j += 6)
            for (Eigen::Index i = 0; i <= j; i += 6) {
                const Matrix6 left = a.block<6, 6>(i, i), right = a.block<6, 6>(j, j), own = matrix.block<6, 6>(i, j);
                const Matrix6 half = own.lazyProduct(right);
                carried.block<6, 6>(i, j) = left.transpose().lazyProduct(half);
                if (i < j) carried.block<6, 6>(j, i) = carried.block<6, 6>(i, j).transpose();
            }
        return carried;
    }

    /// The unknowns that move a piece of sheet, and its own motions by them.
    struct OwnMotions {
        std::vector<int> unknowns;
        Eigen::MatrixXd toOwn;
        std::vector<int> held;
        Eigen::MatrixXd heldToOwn;
    };
    OwnMotions ownMotions(const MeshShell& shell, const ShellEquations& equations) const
    {
        std::vector<int> unknowns;
        bool held = false;
        for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
            const auto& own = system_.motions.nodes[static_cast<std::size_t>(shell.nodes[corner])];
            unknowns.insert(unknowns.end(), own.unknowns.begin(), own.unknowns.end());
            held = held || !own.held.empty();
        }
        std::vector<int> once = unknowns;
        std::sort(once.begin(), once.end());
        if (!held && std::adjacent_find(once.begin(), once.end()) == once.end()) { // nor two corners with one body
            const Eigen::MatrixXd toOwn = equations.toOwn();
            Eigen::MatrixXd motions = Eigen::MatrixXd::Zero(toOwn.rows(), static_cast<Eigen::Index>(unknowns.size()));
            Eigen::Index column = 0;
            for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
                const auto& basis = system_.motions.nodes[static_cast<std::size_t>(shell.nodes[corner])].basis;
                const auto row = 6 * static_cast<Eigen::Index>(corner);
                motions.block(row, column, 6, basis.cols()) = toOwn.block<6, 6>(row, row).lazyProduct(basis);
                column += basis.cols();
            }
            return {std::move(unknowns), std::move(motions), {}, {}};
        }
        Combination nodes(6 * static_cast<Eigen::Index>(shell.corners()));
        for (std::size_t corner = 0; corner < shell.corners(); ++corner)
            addNode(nodes, 6 * static_cast<Eigen::Index>(corner), shell.nodes[corner], Matrix6::Identity());
        const Eigen::MatrixXd toOwn = equations.toOwn();
        return {nodes.free.unknowns(), toOwn * nodes.free.matrix(), nodes.held.unknowns(),
                toOwn * nodes.held.matrix()};
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
        const Eigen::Vector3d x = (mesh_.end(element, 1) - mesh_.end(element, 0)).normalized();
        const Eigen::Vector3d z = (shape.zAxis - shape.zAxis.dot(x) * x).normalized();
        auto& equations = system_.elements[at];
        equations.element = memberElement(*shape.section, *properties.material, mesh_.length(element),
                                          structure_.materialMassFactor);
        equations.element.rod = properties.rod;
        equations.axes = principalAxes(*shape.section, x, z);
        const std::array<const NodeMotion*, 2> ends{
            &system_.motions.nodes[static_cast<std::size_t>(element.nodes[0])],
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
            springs_.push_back(partOf(PartKind::spring, properties.releaseSentence, element.member, difference,
                                      Eigen::MatrixXd::Constant(1, 1, spring), {}));
        }
    }

    void releaseSprings()
    {
        for (auto& part : springs_)
            system_.parts.push_back(std::move(part));
        springs_.clear();
    }

    void spread(int member, const Eigen::Vector3d& perLength, PartKind kind, const std::string& sentence)
    {
        const auto index = static_cast<std::size_t>(member);
        for (int at = mesh_.firstElement[index]; at < mesh_.firstElement[index + 1]; ++at) {
            const auto& equations = system_.elements[static_cast<std::size_t>(at)];
            const Eigen::Matrix3d own = equations.axes.transpose() * perLength.asDiagonal() * equations.axes;
            const bool lump = kind == PartKind::lineMass && structure_.ask.lumped;
            const Matrix12 matrix =
                lump ? lumpedAlongLength(equations.element, own) : alongLength(equations.element, own);
            Part part{kind, sentence, member, equations.unknowns, {}, {}};
            (kind == PartKind::bed ? part.stiffness : part.mass) =
                equations.toOwn.transpose() * matrix * equations.toOwn;
            if (kind == PartKind::lineMass) holdBack(part, equations, matrix);
            addPart(std::move(part));
        }
    }

    void spreadEdge(int edge, const Eigen::Vector3d& perLength, PartKind kind, const std::string& sentence)
    {
        for (const auto& [first, second, length] : mesh_.piecesOfEdge(structure_, edge)) {
            Combination ends(6);
            addNode(ends, 0, first, Matrix6::Identity().topRows<3>());
            addNode(ends, 3, second, Matrix6::Identity().topRows<3>());
            Matrix6 matrix = Matrix6::Zero();
            const Eigen::Matrix3d own = (perLength * length).asDiagonal();
            const bool lump = kind == PartKind::edgeMass && structure_.ask.lumped;
            matrix.topLeftCorner<3, 3>() = matrix.bottomRightCorner<3, 3>() = own / (lump ? 2.0 : 3.0);
            if (!lump) matrix.topRightCorner<3, 3>() = matrix.bottomLeftCorner<3, 3>() = own / 6.0;
            addPart(kind == PartKind::edgeBed ? partOf(kind, sentence, edge, ends, matrix, {})
                                              : partOf(kind, sentence, edge, ends, {}, matrix));
        }
    }

    void addAt(int point, const Eigen::MatrixXd& stiffness, const Eigen::MatrixXd& mass, PartKind kind,
               const std::string& sentence)
    {
        Combination own(6);
        addNode(own, 0, point, Matrix6::Identity());
        addPart(partOf(kind, sentence, point, own, stiffness, mass));
    }

    const Structure& structure_;
    const FrameMesh& mesh_;
    System& system_;
    std::vector<Part> springs_;
    std::map<std::pair<int, int>, int> ownTurns_; ///< unknowns of stiffeners, by member and node
};

} // namespace

OwnerKind ownerOf(PartKind kind)
{
    switch (kind) {
    case PartKind::member:
    case PartKind::lineMass:
    case PartKind::bed:
        return OwnerKind::member;
    case PartKind::sheet:
    case PartKind::areaMass:
    case PartKind::areaBed:
        return OwnerKind::sheet;
    case PartKind::solid:
    case PartKind::faceMass:
    case PartKind::faceBed:
        return OwnerKind::solid;
    case PartKind::edgeMass:
    case PartKind::edgeBed:
        return OwnerKind::edge;
    case PartKind::spring:
    case PartKind::support:
    case PartKind::pointMass:
        break;
    }
    return OwnerKind::point;
}

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
    assembly.alongMembers();
    assembly.sheets();
    assembly.solids();
    assembly.alongEdges();
    assembly.overFaces();
    assembly.atPoints();
    assembly.finish();
    return system;
}

} // namespace undisona
