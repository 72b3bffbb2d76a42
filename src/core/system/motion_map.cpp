#include "core/system/motion_map.hpp"

#include "core/system/used_directions.hpp"

#include <numeric>
#include <set>

namespace undisona {

namespace {

/// A body of tied points (or one node): its constraint rows in terms of its six motions at the reference.
struct Body {
    Eigen::Vector3d reference;
    std::string name;
    std::vector<Vector6> rows;
    std::vector<Eigen::Matrix3d> frames;
    bool turns = true; ///< has turns of its own; the nodes of solids have none
};

/// The directions that the rows leave free when they are unit vectors of the given frame; nothing if not.
std::optional<Matrix6X> freeAxes(const Body& body, const Eigen::Matrix3d& frame)
{
    std::array<bool, 6> held{};
    for (const auto& row : body.rows) {
        Vector6 own;
        own << frame.transpose() * row.head<3>(), frame.transpose() * row.tail<3>();
        int which = -1;
        own.cwiseAbs().maxCoeff(&which);
        Vector6 rest = own;
        rest[which] = 0.0;
        if (rest.norm() > 1e-12 * own.norm()) return std::nullopt;
        held[static_cast<std::size_t>(which)] = true;
    }
    Matrix6X basis(6, 0);
    for (int direction = 0; direction < 6; ++direction) {
        if (held[static_cast<std::size_t>(direction)]) continue;
        basis.conservativeResize(6, basis.cols() + 1);
        basis.col(basis.cols() - 1).setZero();
        basis.col(basis.cols() - 1).segment<3>(direction < 3 ? 0 : 3) = frame.col(direction % 3);
    }
    return basis;
}

/// An orthonormal basis of the null space of the rows of `matrix`, relative to its largest singular value.
Eigen::MatrixXd nullSpace(const Eigen::MatrixXd& matrix)
{
    if (matrix.rows() == 0) return Eigen::MatrixXd::Identity(matrix.cols(), matrix.cols());
    const Eigen::JacobiSVD<Eigen::MatrixXd> svd(matrix, Eigen::ComputeFullV);
    const auto& sizes = svd.singularValues();
    Eigen::Index rank = 0;
    while (rank < sizes.size() && sizes[rank] > 1e-10 * std::max(sizes[0], 1e-300))
        ++rank;
    return svd.matrixV().rightCols(matrix.cols() - rank);
}

/// Pure translations first, then turnings about axes that the holds leave free.
Matrix6X generalBasis(const Body& body)
{
    double arm = 1e-3;
    for (const auto& row : body.rows)
        arm = std::max(arm, row.tail<3>().norm());
    Eigen::MatrixXd rows(static_cast<Eigen::Index>(body.rows.size()), 6);
    for (std::size_t at = 0; at < body.rows.size(); ++at) {
        rows.row(static_cast<Eigen::Index>(at)).head<3>() = body.rows[at].head<3>().transpose();
        rows.row(static_cast<Eigen::Index>(at)).tail<3>() = body.rows[at].tail<3>().transpose() / arm;
    }
    const Eigen::MatrixXd translations = nullSpace(rows.leftCols(3));
    const Eigen::MatrixXd all = nullSpace(rows);
    Matrix6X basis(6, all.cols());
    if (all.cols() == 0) return basis; // several holds that together leave nothing
    basis.leftCols(translations.cols()).setZero();
    basis.topLeftCorner(3, translations.cols()) = translations;
    Eigen::MatrixXd turning = all; // without what pure translations already say
    for (Eigen::Index k = 0; k < turning.cols(); ++k)
        turning.col(k).head(3) -= translations * (translations.transpose() * turning.col(k).head(3));
    const Eigen::MatrixXd rotations = turning.bottomRows(3);
    const Eigen::JacobiSVD<Eigen::MatrixXd> svd(rotations, Eigen::ComputeThinU | Eigen::ComputeThinV);
    for (Eigen::Index k = 0; k < all.cols() - translations.cols(); ++k) {
        Eigen::VectorXd motion = turning * svd.matrixV().col(k);
        motion.tail(3) /= arm;
        basis.col(translations.cols() + k) = motion / motion.tail(3).norm();
    }
    // What is rounding must be nothing: a mass that it moves by would count as one that moves.
    for (Eigen::Index k = 0; k < basis.cols(); ++k) {
        auto shift = basis.col(k).head<3>(), turn = basis.col(k).tail<3>();
        const double reach = k < translations.cols() ? 1.0 : arm;
        shift = (shift.array().abs() < 1e-13 * reach).select(0.0, shift);
        turn = (turn.array().abs() < 1e-13).select(0.0, turn);
    }
    return basis;
}

/// The unknown that a column of a basis stands for.
Unknown unknownOf(const Body& body, const Vector6& column)
{
    Unknown unknown{body.name, column.tail<3>().norm() > 1e-12, {}, body.reference, false, {}};
    unknown.direction = unknown.rotation ? column.tail<3>() : column.head<3>();
    if (unknown.rotation) { // the point of the axis nearest to the reference: u = r x (reference - place)
        const Eigen::Vector3d turn = column.tail<3>();
        unknown.place += turn.cross(column.head<3>()) / turn.squaredNorm();
    }
    unknown.fromRigid.setZero();
    if (unknown.rotation) {
        unknown.fromRigid.tail<3>() = unknown.direction;
    } else {
        unknown.fromRigid.head<3>() = unknown.direction;
        unknown.fromRigid.tail<3>() = unknown.place.cross(unknown.direction); // d . (r x p) = r . (p x d)
    }
    return unknown;
}

/// Unit vectors that complete orthonormal ones to three, along the axes of a frame where they can be.
std::vector<Eigen::Vector3d> completing(std::vector<Eigen::Vector3d> known, const Eigen::Matrix3d& frame)
{
    std::vector<Eigen::Vector3d> more;
    while (known.size() < 3) {
        Eigen::Vector3d most = Eigen::Vector3d::Zero();
        for (int axis = 0; axis < 3; ++axis) {
            Eigen::Vector3d rest = frame.col(axis);
            for (int pass = 0; pass < 2; ++pass)
                for (const auto& direction : known)
                    rest -= direction.dot(rest) * direction;
            if (rest.norm() > most.norm() + 1e-9) most = rest;
        }
        known.push_back(most.normalized());
        more.push_back(known.back());
    }
    return more;
}

/// The held unknowns of a body beside its free ones: shifts and turns square to those that are free. With F the rows
/// `fromRigid` of the free ones and m the base's motion at the reference, B_s q_s = m - B_f F m.
void addHeld(MotionMap& map, const Body& body, NodeMotion& motion)
{
    std::vector<Eigen::Vector3d> shifts, turns;
    Eigen::MatrixXd rows(static_cast<Eigen::Index>(motion.unknowns.size()), 6);
    for (std::size_t at = 0; at < motion.unknowns.size(); ++at) {
        const Unknown& unknown = map.unknowns[static_cast<std::size_t>(motion.unknowns[at])];
        (unknown.rotation ? turns : shifts).push_back(unknown.direction);
        rows.row(static_cast<Eigen::Index>(at)) = unknown.fromRigid.transpose();
    }
    const Matrix6 rest = carry(body.reference) - motion.basis * rows;
    const Eigen::Matrix3d frame = body.frames.empty() ? Eigen::Matrix3d(Eigen::Matrix3d::Identity()) : body.frames[0];
    const auto add = [&](const Eigen::Vector3d& direction, bool rotation) {
        Vector6 column = Vector6::Zero();
        column.segment<3>(rotation ? 3 : 0) = direction;
        motion.heldBasis.conservativeResize(6, motion.heldBasis.cols() + 1);
        motion.heldBasis.rightCols(1) = column;
        motion.held.push_back(static_cast<int>(map.held.size()));
        map.held.push_back({body.name, rotation, direction, body.reference, false, rest.transpose() * column});
    };
    for (const auto& direction : completing(shifts, frame))
        add(direction, false);
    if (!body.turns) return; // it has none that could be held
    for (const auto& direction : completing(turns, frame))
        add(direction, true);
}

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

Matrix6 turned(const Eigen::Matrix3d& axes)
{
    Matrix6 turn = Matrix6::Zero();
    turn.topLeftCorner<3, 3>() = axes.transpose();
    turn.bottomRightCorner<3, 3>() = axes.transpose();
    return turn;
}

MotionMap mapMotions(const Structure& structure, const FrameMesh& mesh)
{
    const std::size_t points = structure.frame.points.size();
    std::vector<std::size_t> leader(points);
    std::iota(leader.begin(), leader.end(), std::size_t{0});
    const auto root = [&](std::size_t at) {
        while (leader[at] != at)
            at = leader[at];
        return at;
    };
    for (const auto& tie : structure.ties) {
        const auto a = root(static_cast<std::size_t>(tie.leader)), b = root(static_cast<std::size_t>(tie.follower));
        if (a != b) leader[b] = a;
    }
    std::vector<bool> used(points, false); // a point that nothing touches has no unknowns
    for (const auto& member : structure.frame.members)
        used[static_cast<std::size_t>(member.from)] = used[static_cast<std::size_t>(member.to)] = true;
    for (const auto& mass : structure.pointMasses)
        used[static_cast<std::size_t>(mass.point)] = true;
    for (const auto& spring : structure.springs)
        used[static_cast<std::size_t>(spring.from)] = used[static_cast<std::size_t>(spring.to)] = true;
    for (const auto& shell : mesh.shells)
        for (const int node : shell.nodes)
            if (node >= 0 && static_cast<std::size_t>(node) < points) used[static_cast<std::size_t>(node)] = true;
    for (std::size_t at = 0; at < points; ++at)
        if (used[at]) used[root(at)] = true;

    // Members and sheet turn with their nodes; solids, rods and membranes only shift them.
    std::vector<bool> turns(mesh.nodes.size(), false), shifts(mesh.nodes.size(), false);
    for (const auto& element : mesh.elements)
        for (const int node : element.nodes)
            (structure.members[static_cast<std::size_t>(element.member)].rod ? shifts
                                                                             : turns)[static_cast<std::size_t>(node)] =
                true;
    for (const auto& shell : mesh.shells)
        for (const int node : shell.nodes)
            if (node >= 0)
                (structure.sheets[static_cast<std::size_t>(shell.sheet)].membrane
                     ? shifts
                     : turns)[static_cast<std::size_t>(node)] = true;
    for (const auto& solid : mesh.solids)
        for (std::size_t node = 0; node < solid.count(); ++node) {
            const auto at = static_cast<std::size_t>(solid.nodes[node]);
            shifts[at] = true;
            if (at < points) used[root(at)] = true;
        }
    // What is asked to turn by a joint turns: a rod's end does, where a mass or a spring brings its own turning.
    const auto turn = [&](int point) { turns[static_cast<std::size_t>(point)] = true; };
    std::vector<char> onSolid(points, 0);
    for (const auto& solid : mesh.solids)
        for (std::size_t node = 0; node < solid.count(); ++node)
            if (solid.nodes[node] < static_cast<int>(points)) onSolid[static_cast<std::size_t>(solid.nodes[node])] = 1;
    for (const auto& spring : structure.springs)
        if (spring.stiffness[3] + spring.stiffness[4] + spring.stiffness[5] > 0.0) {
            turn(spring.from);
            turn(spring.to);
        }
    for (const auto& hold : structure.holds)
        if (hold.on == Target::point && hold.elastic[3] + hold.elastic[4] + hold.elastic[5] > 0.0) turn(hold.at);
    for (const auto& mass : structure.pointMasses)
        if ((!mass.centre.isZero() || !mass.inertia.isZero()) && !onSolid[static_cast<std::size_t>(mass.point)])
            turn(mass.point);
    std::vector<int> tied(points, 0); // how many points move as one
    for (std::size_t at = 0; at < points; ++at)
        ++tied[root(at)];
    const auto bodyTurns = [&](std::size_t node) {
        if (node >= points) return turns[node] || !shifts[node];
        return tied[node] > 1 || turns[node] || !shifts[node];
    };

    std::map<std::size_t, Body> bodies; // also the nodes of a sheet that an edge's support holds
    for (std::size_t at = 0; at < points; ++at)
        if (used[root(at)] && root(at) == at)
            bodies[at] = {structure.frame.points[at].place, structure.frame.points[at].name, {}, {}, bodyTurns(at)};
    const auto holdAt = [&](const Hold& hold, std::size_t node) {
        auto body = bodies.find(node < points ? root(node) : node);
        if (body == bodies.end() && node < points) return;
        if (body == bodies.end())
            body = bodies.emplace(node, Body{mesh.nodes[node].place, {}, {}, {}, bodyTurns(node)}).first;
        const Matrix6 move = carry(mesh.nodes[node].place - body->second.reference);
        for (int direction = 0; direction < 6; ++direction) {
            if (!hold.rigid[static_cast<std::size_t>(direction)] || (direction >= 3 && !body->second.turns)) continue;
            Vector6 row = Vector6::Zero();
            row.segment<3>(direction < 3 ? 0 : 3) = hold.axes.col(direction % 3);
            body->second.rows.push_back(move.transpose() * row);
            body->second.frames.push_back(hold.axes);
        }
    };
    for (const auto& hold : structure.holds)
        for (const int node : mesh.nodesOf(hold.on, hold.at))
            holdAt(hold, static_cast<std::size_t>(node));

    MotionMap map;
    const auto usedBy = usedDirections(structure, mesh, root);
    for (auto& [index, body] : bodies) {
        if (index >= points) continue; // nodes of sheet and solids
        UsedDirections ways = UsedDirections::Zero();
        if (const auto known = usedBy.find(index); known != usedBy.end()) ways = known->second;
        for (const auto& row : body.rows)
            ways += row * row.transpose() / std::max(row.squaredNorm(), 1e-300);
        if (!body.turns) ways.bottomRightCorner<3, 3>() += Eigen::Matrix3d::Identity();
        const Eigen::SelfAdjointEigenSolver<UsedDirections> eigen(ways);
        if (eigen.eigenvalues()[0] > 1e-9) continue;
        map.idle.push_back(body.name);
        for (int at = 0; at < 6 && eigen.eigenvalues()[at] <= 1e-9; ++at) { // as if held: nothing comes of it
            body.rows.push_back(eigen.eigenvectors().col(at));
            body.frames.push_back(Eigen::Matrix3d::Identity());
        }
    }
    map.nodes.resize(mesh.nodes.size());
    for (std::size_t at = 0; at < mesh.nodes.size(); ++at)
        map.body.push_back(at < points ? root(at) : at);
    std::map<std::size_t, NodeMotion> ofBody;
    for (auto& [index, body] : bodies) {
        if (!body.turns) { // as if its turns were held, in the frame of its supports
            const Eigen::Matrix3d frame =
                body.frames.empty() ? Eigen::Matrix3d(Eigen::Matrix3d::Identity()) : body.frames[0];
            for (int axis = 0; axis < 3; ++axis) {
                Vector6 row = Vector6::Zero();
                row.tail<3>() = frame.col(axis);
                body.rows.push_back(row);
                body.frames.push_back(frame);
            }
        }
        auto basis = freeAxes(body, Eigen::Matrix3d::Identity());
        for (std::size_t at = 0; !basis && at < body.frames.size(); ++at)
            basis = freeAxes(body, body.frames[at]);
        NodeMotion motion{basis ? *basis : generalBasis(body), {}};
        for (Eigen::Index column = 0; column < motion.basis.cols(); ++column)
            motion.unknowns.push_back(map.add(unknownOf(body, motion.basis.col(column))));
        addHeld(map, body, motion);
        ofBody[index] = std::move(motion);
    }
    for (std::size_t at = 0; at < mesh.nodes.size(); ++at) {
        if (at >= points && !ofBody.contains(at)) {
            const Body own{mesh.nodes[at].place, "", {}, {}, true};
            const int directions = bodyTurns(at) ? 6 : 3;
            map.nodes[at].basis = Matrix6::Identity().leftCols(directions);
            for (int direction = 0; direction < directions; ++direction)
                map.nodes[at].unknowns.push_back(map.add(unknownOf(own, Vector6::Unit(direction))));
            continue;
        }
        const auto body = ofBody.find(at < points ? root(at) : at);
        if (body == ofBody.end()) {
            map.nodes[at].basis.resize(6, 0);
            continue;
        }
        map.nodes[at] = body->second;
        if (at < points && root(at) != at) {
            const Matrix6 move = carry(mesh.nodes[at].place - bodies[root(at)].reference);
            map.nodes[at].basis = move * body->second.basis;
            map.nodes[at].heldBasis = move * body->second.heldBasis;
        }
    }
    for (const auto& element : mesh.elements) // inner nodes are named after their member
        for (const int node : element.nodes)
            if (static_cast<std::size_t>(node) >= points)
                for (const int unknown : map.nodes[static_cast<std::size_t>(node)].unknowns)
                    map.unknowns[static_cast<std::size_t>(unknown)].where =
                        structure.frame.members[static_cast<std::size_t>(element.member)].name;
    for (const auto& solid : mesh.solids)
        for (std::size_t at = 0; at < solid.count(); ++at)
            if (const int node = solid.nodes[at]; node >= static_cast<int>(points))
                for (const int unknown : map.nodes[static_cast<std::size_t>(node)].unknowns)
                    map.unknowns[static_cast<std::size_t>(unknown)].where =
                        structure.frame.solids[static_cast<std::size_t>(solid.solid)].name;
    for (const auto& shell : mesh.shells)
        for (const int node : shell.nodes)
            if (node >= static_cast<int>(points))
                for (const int unknown : map.nodes[static_cast<std::size_t>(node)].unknowns)
                    map.unknowns[static_cast<std::size_t>(unknown)].where =
                        structure.frame.sheets[static_cast<std::size_t>(shell.sheet)].name;
    return map;
}

} // namespace undisona
