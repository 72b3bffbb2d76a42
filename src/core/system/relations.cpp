#include "core/system/relations.hpp"

#include "core/system/hold_axes.hpp"
#include "core/system/surface_joint.hpp"
#include "core/system/weighed_pieces.hpp"

#include <fmt/format.h>

#include <numeric>
#include <set>

namespace undisona {

namespace {

class RelationReader {
public:
    RelationReader(const Structure& structure, const FrameMesh& mesh) : structure_(structure), mesh_(mesh)
    {
        found_.leader.resize(mesh.nodes.size());
        std::iota(found_.leader.begin(), found_.leader.end(), 0);
    }

    Relations read()
    {
        for (const auto& tie : structure_.ties)
            if (tie.isRigid()) join(tie);
        for (auto& leader : found_.leader)
            leader = root(leader);
        turns();
        for (const auto& hold : structure_.holds)
            for (const int node : mesh_.nodesOf(hold.on, hold.at))
                held(hold, node);
        for (const auto& tie : structure_.ties)
            if (!tie.isRigid())
                for (const int node : mesh_.nodesOf(tie.on, tie.at))
                    if (node != tie.leader) follow(tie, node);
        for (const auto& mean : structure_.means)
            follow(mean);
        for (const auto& joint : structure_.surfaceJoints)
            if (!joint.springs) follow(joint);
        for (std::size_t at = 0; at < mesh_.elements.size(); ++at)
            for (int end = 0; end < 2; ++end)
                memberEnd(static_cast<int>(at), end);
        return std::move(found_);
    }

private:
    static constexpr std::size_t many = 24; ///< terms of a mean, beyond which it is not eliminated

    const Eigen::Vector3d& placeOf(int node) const { return mesh_.nodes[static_cast<std::size_t>(node)].place; }

    int root(int node) // with paths halved
    {
        auto& leader = found_.leader;
        for (auto at = static_cast<std::size_t>(node);; at = static_cast<std::size_t>(leader[at])) {
            const auto up = static_cast<std::size_t>(leader[at]);
            if (up == at) return static_cast<int>(at);
            leader[at] = leader[up];
        }
    }

    void join(const Tie& tie)
    {
        auto& count = found_.joins[tie.sentence];
        for (const int node : mesh_.nodesOf(tie.on, tie.at)) {
            if (node == tie.leader) continue;
            const int leading = root(tie.leader), other = root(node);
            ++count[0];
            count[1] += leading == other;
            found_.leader[static_cast<std::size_t>(other)] = leading;
        }
    }

    /// Members and sheet turn with their nodes; solids, rods and membranes only shift them. What moves as one body
    /// with others turns, and what a joint asks to turn.
    void turns()
    {
        std::vector<char> turns(mesh_.nodes.size(), 0), shifts(mesh_.nodes.size(), 0);
        for (const auto& element : mesh_.elements)
            for (const int node : element.nodes)
                (structure_.members[static_cast<std::size_t>(element.member)].rod
                     ? shifts
                     : turns)[static_cast<std::size_t>(node)] = 1;
        for (const auto& shell : mesh_.shells)
            for (const int node : shell.nodes)
                if (node >= 0)
                    (structure_.sheets[static_cast<std::size_t>(shell.sheet)].membrane
                         ? shifts
                         : turns)[static_cast<std::size_t>(node)] = 1;
        std::vector<char> onSolid(mesh_.nodes.size(), 0);
        for (const auto& solid : mesh_.solids)
            for (std::size_t node = 0; node < solid.count(); ++node) {
                const auto at = static_cast<std::size_t>(solid.nodes[node]);
                shifts[at] = onSolid[at] = 1;
            }
        const auto turn = [&](int node) { turns[static_cast<std::size_t>(node)] = 1; };
        const auto turnsAt = [](const std::array<double, 6>& springs) {
            return springs[3] + springs[4] + springs[5] > 0.0;
        };
        for (const auto& spring : structure_.springs)
            if (spring.stiffness.diagonal().tail<3>().sum() > 0.0) {
                turn(spring.from);
                turn(spring.to);
            }
        for (const auto& hold : structure_.holds)
            if (hold.on == Target::point && turnsAt(hold.elastic)) turn(hold.at);
        for (const auto& mass : structure_.pointMasses)
            if ((!mass.centre.isZero() || !mass.inertia.isZero()) && !onSolid[static_cast<std::size_t>(mass.point)])
                turn(mass.point);
        for (const auto& tie : structure_.ties)
            if (!tie.isRigid()) turn(tie.leader); // by which it carries what follows at an arm
        std::vector<int> together(mesh_.nodes.size(), 0);
        for (const int leader : found_.leader)
            ++together[static_cast<std::size_t>(leader)];
        found_.turns.resize(mesh_.nodes.size());
        for (std::size_t at = 0; at < mesh_.nodes.size(); ++at) {
            const auto leader = static_cast<std::size_t>(found_.leader[at]);
            found_.turns[at] = together[leader] > 1 || turns[leader] || !shifts[leader];
        }
    }

    void held(const Hold& hold, int node)
    {
        const auto axes = axesAt(structure_, mesh_, hold, node);
        if (!axes) {
            if (onAxis_.insert(hold.sentence).second)
                found_.problems.push_back(
                    errorAt(hold.sentence,
                            fmt::format("what is held reaches the axis at {}, from which no way leads outwards",
                                        placeText(placeOf(node))),
                            "Hold that place in a sentence of its own, or move the axis."));
            return;
        }
        for (int direction = 0; direction < 6; ++direction)
            if (hold.rigid[static_cast<std::size_t>(direction)] &&
                (direction < 3 || found_.turns[static_cast<std::size_t>(node)]))
                found_.rows.push_back({{{node, wayAlong(*axes, direction)}}, *axes, hold.sentence});
    }

    void follow(const Tie& tie, int node)
    {
        const Matrix6 move = carry(placeOf(node) - placeOf(tie.leader));
        const Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
        for (int direction = 0; direction < 6; ++direction) {
            if (!tie.directions[static_cast<std::size_t>(direction)] ||
                (direction >= 3 && !found_.turns[static_cast<std::size_t>(node)]))
                continue;
            const Vector6 way = wayAlong(axes, direction);
            found_.rows.push_back({{{node, way}, {tie.leader, -move.transpose() * way}}, axes, tie.sentence});
        }
    }

    /// The mean shift and turn of what is named: integrals over it of the displacement and of its moment about the
    /// centre c, u = int u / int 1, r = J^-1 int d x u with d from c and J = int (d.d - d d'), so that a rigid motion
    /// is its own mean, and what acts on the point is shared out with the same resultants.
    void follow(const MeanMotion& mean)
    {
        std::vector<WeighedPiece> pieces;
        for (const auto& [target, at] : mean.of)
            for (auto& piece : weighedPieces(structure_, mesh_, target, at))
                pieces.push_back(std::move(piece));
        double whole = 0.0;
        Eigen::Vector3d centre = Eigen::Vector3d::Zero();
        for (const auto& piece : pieces) {
            whole += piece.products.sum();
            for (Eigen::Index j = 0; j < piece.products.cols(); ++j)
                centre += piece.products.col(j).sum() * placeOf(piece.nodes[static_cast<std::size_t>(j)]);
        }
        if (!(whole > 0.0)) return;
        centre /= whole;
        Eigen::Matrix3d inertia = Eigen::Matrix3d::Zero();
        std::map<int, double> share;           // by node
        std::map<int, Eigen::Matrix3d> moment; // of a unit displacement, by node
        for (const auto& piece : pieces)
            for (Eigen::Index j = 0; j < piece.products.cols(); ++j) {
                const int node = piece.nodes[static_cast<std::size_t>(j)];
                const Eigen::Vector3d own = placeOf(node) - centre;
                Eigen::Vector3d arm = Eigen::Vector3d::Zero(); // integral of d times the node's interpolation
                for (Eigen::Index i = 0; i < piece.products.rows(); ++i)
                    arm += piece.products(i, j) * (placeOf(piece.nodes[static_cast<std::size_t>(i)]) - centre);
                share[node] += piece.products.col(j).sum() / whole;
                moment.try_emplace(node, Eigen::Matrix3d::Zero()).first->second += crossing(arm);
                inertia += arm.dot(own) * Eigen::Matrix3d::Identity() - own * arm.transpose();
            }
        // Turns that no displacement tells, as about the line that points lie on, are those of the nodes themselves.
        const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> eigen(
            Eigen::Matrix3d((inertia + inertia.transpose()) / 2.0));
        Eigen::Matrix3d inverse = Eigen::Matrix3d::Zero(), untold = Eigen::Matrix3d::Zero();
        const double least = whole * std::pow(1e-9 * std::max(structure_.frame.span(), 1e-9), 2); // of one place alone
        for (int axis = 0; axis < 3; ++axis) {
            const Eigen::Vector3d way = eigen.eigenvectors().col(axis);
            const double value = eigen.eigenvalues()[axis];
            if (value > std::max(1e-9 * eigen.eigenvalues()[2], least))
                inverse += way * way.transpose() / value;
            else
                untold += way * way.transpose();
        }
        const bool turning = std::all_of(share.begin(), share.end(), [&](const auto& entry) {
            return found_.turns[static_cast<std::size_t>(entry.first)] != 0;
        });
        const Eigen::Vector3d arm = placeOf(mean.point) - centre;
        const double reach = std::sqrt(std::max(0.0, eigen.eigenvalues()[2]) / whole) + arm.norm();
        if (!turning && arm.norm() > 1e-9 * reach)
            if (const Eigen::Matrix3d left = untold * crossing(arm); left.norm() > 1e-6 * arm.norm())
                return found_.problems.push_back(errorAt(
                    mean.sentence, "what is followed does not turn and lies on one line, beside which the point is",
                    "Name more of it, or put the point on that line."));
        for (int direction = 0; direction < 6; ++direction) {
            const Vector6 way = wayAlong(Eigen::Matrix3d::Identity(), direction);
            const Eigen::Vector3d shift = way.head<3>();
            // What of the mean turn the point's motion takes.
            const Eigen::Vector3d turn =
                direction < 3 ? Eigen::Vector3d(arm.cross(shift)) : Eigen::Vector3d(way.tail<3>());
            if (direction >= 3 &&
                (!found_.turns[static_cast<std::size_t>(mean.point)] || (!turning && (untold * turn).norm() > 1e-6)))
                continue;
            Relation relation{{{mean.point, way}}, Eigen::Matrix3d::Identity(), mean.sentence};
            for (const auto& [node, part] : share) {
                Vector6 row;
                row << part * shift + moment.at(node).transpose() * (inverse * turn),
                    turning ? Eigen::Vector3d(part * (untold * turn)) : Eigen::Vector3d(Eigen::Vector3d::Zero());
                relation.terms.push_back({node, -row});
            }
            relation.ofMany = relation.terms.size() > many;
            found_.rows.push_back(std::move(relation));
        }
    }

    void follow(const SurfaceJoint& joint)
    {
        std::vector<char> held(mesh_.nodes.size(), 0);
        for (const auto& hold : structure_.holds)
            for (const int node : mesh_.nodesOf(hold.on, hold.at))
                held[static_cast<std::size_t>(node)] = 1;
        for (const auto& follower : followersOf(structure_, mesh_, joint, held, found_.problems)) {
            // Of the axes from `from` until `until`; their first is the way that is told apart, where there is one.
            const auto follow = [&](int first, const ShareOfNodes& shares, const Eigen::Vector3d& way, int from,
                                    int until) {
                Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
                if (!way.isZero()) {
                    const Eigen::Vector3d across = way.unitOrthogonal();
                    axes << way, across, way.cross(across);
                }
                for (int direction = from; direction < until && !shares.empty(); ++direction) {
                    Relation relation{{{follower.node, wayAlong(axes, first + direction)}}, axes, joint.sentence};
                    for (const auto& [node, share] : shares)
                        if (const Vector6 row = share.transpose() * axes.col(direction); !row.isZero(0.0))
                            relation.terms.push_back({node, -row});
                    relation.ofMany = follower.ofMany && relation.terms.size() > many;
                    found_.rows.push_back(std::move(relation));
                }
            };
            if (!follower.lies.isZero())
                follow(0, follower.shift, follower.lies, 0, 1);
            else
                follow(0, follower.shift, follower.slides, follower.slides.isZero() ? 0 : 1, 3);
            if (found_.turns[static_cast<std::size_t>(follower.node)])
                follow(3, follower.turn, follower.spins, follower.spins.isZero() ? 0 : 1, 3);
        }
    }

    /// A stiffener beside the sheet that it follows bends sideways by itself: the sheet holds its foot along a line,
    /// not the turn of its section about the arm, which would be that of the sheet in its own plane.
    bool standsOnSheet(const MeshElement& element, int end) const
    {
        return structure_.frame.faces &&
               !structure_.frame.faces->edgesOfMember[static_cast<std::size_t>(element.member)].empty() &&
               element.arms[static_cast<std::size_t>(end)].norm() > 1e-9;
    }

    void memberEnd(int at, int end)
    {
        const MeshElement& element = mesh_.elements[static_cast<std::size_t>(at)];
        const auto which = static_cast<std::size_t>(end);
        const MemberProperties& properties = structure_.members[static_cast<std::size_t>(element.member)];
        const bool atEnd = end == 0 ? element.share[0] == 0.0 : element.share[1] == 1.0;
        std::array<bool, 6> freed{};
        for (std::size_t direction = 0; atEnd && direction < 6; ++direction)
            freed[direction] = properties.released[6 * which + direction];
        if (freed != std::array<bool, 6>{}) {
            found_.endOf[{at, end}] = addEnd(element, end, drawnAxes(element), freed);
        } else if (standsOnSheet(element, end)) {
            const auto [known, isNew] = standing_.try_emplace({element.member, element.nodes[which]}, -1);
            if (isNew) {
                const Eigen::Vector3d about = element.arms[which].normalized(), across = about.unitOrthogonal();
                Eigen::Matrix3d axes;
                axes << across, about.cross(across), about;
                known->second = addEnd(element, end, axes, {false, false, false, false, false, true});
            }
            found_.endOf[{at, end}] = known->second;
        }
    }

    /// Releases are stated in the section's axes y and z, which may be turned from the principal ones.
    Eigen::Matrix3d drawnAxes(const MeshElement& element) const
    {
        // Uneven offsets turn the member away from the line between its points.
        const Eigen::Vector3d x = (mesh_.end(element, 1) - mesh_.end(element, 0)).normalized();
        const Eigen::Vector3d& drawn = structure_.frame.members[static_cast<std::size_t>(element.member)].zAxis;
        Eigen::Matrix3d axes;
        axes.col(0) = x;
        axes.col(2) = (drawn - drawn.dot(x) * x).normalized();
        axes.col(1) = axes.col(2).cross(x);
        return axes;
    }

    /// An end that follows its node but in the freed directions.
    int addEnd(const MeshElement& element, int end, const Eigen::Matrix3d& axes, const std::array<bool, 6>& freed)
    {
        const auto which = static_cast<std::size_t>(end);
        const int own = static_cast<int>(mesh_.nodes.size() + found_.ends.size()), node = element.nodes[which];
        found_.ends.push_back({element.member, node, mesh_.end(element, end), axes});
        found_.leader.push_back(own);
        found_.turns.push_back(1);
        const Matrix6 move = carry(element.arms[which]);
        for (int direction = 0; direction < 6; ++direction) {
            if (freed[static_cast<std::size_t>(direction)]) continue;
            const Vector6 way = wayAlong(axes, direction);
            found_.rows.push_back({{{own, way}, {node, -move.transpose() * way}}, axes, {}});
        }
        return static_cast<int>(found_.ends.size()) - 1;
    }

    const Structure& structure_;
    const FrameMesh& mesh_;
    Relations found_;
    std::set<std::string> onAxis_;                ///< sentences of which it has been said
    std::map<std::pair<int, int>, int> standing_; ///< ends of stiffeners, by member and node
};

} // namespace

Matrix6 carry(const Eigen::Vector3d& arm)
{
    Matrix6 move = Matrix6::Identity();
    move(0, 4) = arm.z();
    move(0, 5) = -arm.y();
    move(1, 3) = -arm.z();
    move(1, 5) = arm.x();
    move(2, 3) = arm.y();
    move(2, 4) = -arm.x();
    return move;
}

Matrix6 matrixOf(const PointMass& mass)
{
    Matrix6 own = Matrix6::Zero();
    own.diagonal().head<3>() = mass.mass * Eigen::Vector3d(mass.acts[0], mass.acts[1], mass.acts[2]);
    if (mass.acts == Mask3{true, true, true}) own.bottomRightCorner<3, 3>() = mass.inertia;
    return own;
}

Eigen::Matrix3d crossing(const Eigen::Vector3d& arm)
{
    Eigen::Matrix3d matrix;
    matrix << 0.0, -arm.z(), arm.y(), arm.z(), 0.0, -arm.x(), -arm.y(), arm.x(), 0.0;
    return matrix;
}

Matrix6 turned(const Eigen::Matrix3d& axes)
{
    Matrix6 turn = Matrix6::Zero();
    turn.topLeftCorner<3, 3>() = axes.transpose();
    turn.bottomRightCorner<3, 3>() = axes.transpose();
    return turn;
}

Vector6 wayAlong(const Eigen::Matrix3d& axes, int direction)
{
    Vector6 way = Vector6::Zero();
    way.segment<3>(direction < 3 ? 0 : 3) = axes.col(direction % 3);
    return way;
}

Relations relationsOf(const Structure& structure, const FrameMesh& mesh)
{
    return RelationReader(structure, mesh).read();
}

} // namespace undisona
