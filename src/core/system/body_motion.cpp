#include "core/system/body_motion.hpp"

namespace undisona {

namespace {

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
        // A shift that is rounding beside the turn would count as one that is held.
        auto row = rows.row(static_cast<Eigen::Index>(at));
        row = (row.array().abs() < 1e-12 * row.norm()).select(0.0, row);
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
    const Eigen::Matrix3d frame = body.axes.empty() ? Eigen::Matrix3d(Eigen::Matrix3d::Identity()) : body.axes[0];
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

Unknown unknownOf(const Body& body, const Vector6& column)
{
    Unknown unknown{body.name, column.tail<3>().norm() > 1e-12, {}, body.reference, body.memberEnd, {}};
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

NodeMotion motionOf(const Body& stated, MotionMap& map)
{
    Body body = stated;
    const Eigen::Matrix3d own = body.axes.empty() ? Eigen::Matrix3d(Eigen::Matrix3d::Identity()) : body.axes[0];
    for (int direction = 3; direction < 6 && !body.turns; ++direction) { // as if held, in the axes of its supports
        body.rows.push_back(wayAlong(own, direction));
        body.axes.push_back(own);
    }
    auto basis = freeAxes(body, body.memberEnd ? own : Eigen::Matrix3d(Eigen::Matrix3d::Identity()));
    for (std::size_t at = 0; !basis && at < body.axes.size(); ++at)
        basis = freeAxes(body, body.axes[at]);
    NodeMotion motion{basis ? *basis : generalBasis(body), {}};
    for (Eigen::Index column = 0; column < motion.basis.cols(); ++column)
        motion.unknowns.push_back(map.add(unknownOf(body, motion.basis.col(column))));
    addHeld(map, body, motion);
    return motion;
}

} // namespace undisona
