#include "core/modal/moved_mass.hpp"

#include "core/system/spread.hpp"

#include <numeric>
#include <set>

namespace undisona {

MassPoints massPoints(const Structure& structure, const FrameMesh& mesh)
{
    MassPoints points;
    points.mass.assign(mesh.nodes.size(), 0.0);
    for (const auto& node : mesh.nodes)
        points.place.push_back(node.place);
    std::vector<double> perLength(structure.members.size(), 0.0);
    for (std::size_t at = 0; at < structure.members.size(); ++at)
        perLength[at] = structure.members[at].density() * structure.frame.members[at].section->area;
    points.ofMember.assign(structure.members.size(), 0.0);
    points.ofPart.assign(structure.frame.parts(), 0.0);
    for (const auto& element : mesh.elements) {
        const auto member = static_cast<std::size_t>(element.member);
        const double mass = perLength[member] * mesh.length(element);
        points.ofMember[member] += mass;
        for (const int node : element.nodes)
            points.mass[static_cast<std::size_t>(node)] += mass / 2.0;
    }
    for (const auto& shell : mesh.shells) {
        const ShellEquations own = shellOf(structure, mesh, shell);
        for (std::size_t at = 0; at < shell.corners(); ++at) {
            const double mass =
                own.element.area() * own.element.density * own.element.thickness[at] / double(shell.corners());
            points.mass[static_cast<std::size_t>(shell.nodes[at])] += mass;
            points.ofPart[static_cast<std::size_t>(shell.sheet)] += mass;
        }
    }
    for (const auto& solid : mesh.solids) {
        const SolidElement own = solidOf(structure, mesh, solid);
        const double mass = own.density * volumeOf(own);
        points.ofPart[static_cast<std::size_t>(structure.frame.partOfSolid(solid.solid))] += mass;
        for (std::size_t at = 0; at < solid.count(); ++at)
            points.mass[static_cast<std::size_t>(solid.nodes[at])] += mass / double(solid.count());
    }
    for (const auto& attachment : structure.attachments)
        if (attachment.effect == Attachment::Effect::mass)
            eachPiece(structure, mesh, attachment, [&](const SpreadPiece& piece) {
                for (std::size_t at = 0; at < piece.nodes.size(); ++at)
                    points.mass[static_cast<std::size_t>(piece.nodes[at])] += piece.ofNode[at];
                const auto at = static_cast<std::size_t>(attachment.at);
                if (attachment.over == Target::member) points.ofMember[at] += piece.amount;
                if (attachment.over == Target::sheet) points.ofPart[at] += piece.amount;
                if (attachment.over == Target::solid)
                    points.ofPart[static_cast<std::size_t>(structure.frame.partOfSolid(attachment.at))] += piece.amount;
            });
    for (const auto& mass : structure.pointMasses)
        points.mass[static_cast<std::size_t>(mass.point)] += mass.mass;
    points.total = std::accumulate(points.mass.begin(), points.mass.end(), 0.0);
    Eigen::Vector3d low = Eigen::Vector3d::Constant(1e300), high = -low;
    for (std::size_t at = 0; at < points.place.size(); ++at) {
        points.centre += points.mass[at] / std::max(points.total, 1e-300) * points.place[at];
        low = low.cwiseMin(points.place[at]);
        high = high.cwiseMax(points.place[at]);
    }
    const Eigen::Vector3d size = high - low;
    size.maxCoeff(&points.longAxis);
    double second = 0.0;
    for (int axis = 0; axis < 3; ++axis)
        if (axis != points.longAxis) second = std::max(second, size[axis]);
    points.slender = size[points.longAxis] > 2.0 * second;
    return points;
}

Eigen::Vector3d directionShares(const MassPoints& points, const Motions& motion)
{
    Eigen::Vector3d sums = Eigen::Vector3d::Zero();
    for (std::size_t at = 0; at < points.mass.size(); ++at)
        sums += points.mass[at] * motion[at].head<3>().cwiseAbs2();
    return sums.sum() > 0.0 ? Eigen::Vector3d(sums / sums.sum()) : sums;
}

Vector6 rigidShares(const MassPoints& points, const Motions& motion)
{
    Eigen::Vector3d shift = Eigen::Vector3d::Zero(), turn = shift;
    double total = 0.0, spread = 0.0, all = 0.0;
    Eigen::Matrix3d inertia = Eigen::Matrix3d::Zero();
    for (std::size_t at = 0; at < points.mass.size(); ++at) {
        const Eigen::Vector3d arm = points.place[at] - points.centre, moves = motion[at].head<3>();
        shift += points.mass[at] * moves;
        turn += points.mass[at] * arm.cross(moves);
        all += points.mass[at] * moves.squaredNorm();
        total += points.mass[at];
        spread += points.mass[at] * arm.squaredNorm();
        inertia += points.mass[at] * (arm.squaredNorm() * Eigen::Matrix3d::Identity() - arm * arm.transpose());
    }
    // What stands along a line has no inertia about it.
    inertia.diagonal().array() += 1e-9 * spread + 1e-300;
    const Eigen::Vector3d rate = inertia.ldlt().solve(turn);
    Vector6 shares;
    shares << shift.cwiseAbs2() / std::max(total, 1e-300), rate.cwiseProduct(turn).cwiseMax(0.0);
    return shares / std::max(all, 1e-300);
}

MassPoints only(MassPoints points, const std::set<int>& nodes)
{
    points.total = 0.0;
    points.centre.setZero();
    for (std::size_t at = 0; at < points.mass.size(); ++at) {
        if (!nodes.contains(static_cast<int>(at))) points.mass[at] = 0.0;
        points.total += points.mass[at];
        points.centre += points.mass[at] * points.place[at];
    }
    points.centre /= std::max(points.total, 1e-300);
    return points;
}

MassPoints movingOf(MassPoints points, const Motions& motion)
{
    double most = 0.0;
    for (const auto& node : motion)
        most = std::max(most, node.head<3>().squaredNorm());
    std::set<int> moving;
    for (std::size_t at = 0; at < points.mass.size(); ++at)
        if (motion[at].head<3>().squaredNorm() >= 1e-3 * most) moving.insert(static_cast<int>(at));
    return only(std::move(points), moving);
}

Profile profileOf(const MassPoints& points, const Motions& motion, int axis)
{
    constexpr int slices = 12;
    double low = 1e300, high = -1e300;
    for (const auto& place : points.place) {
        low = std::min(low, place[axis]);
        high = std::max(high, place[axis]);
    }
    Profile profile;
    std::vector<Eigen::Vector3d> sum(slices, Eigen::Vector3d::Zero()), centre(slices, Eigen::Vector3d::Zero());
    std::vector<double> mass(slices, 0.0), moment(slices, 0.0), arm(slices, 0.0);
    const auto sliceOf = [&](std::size_t at) {
        return static_cast<std::size_t>(
            std::clamp((points.place[at][axis] - low) / std::max(high - low, 1e-9) * slices, 0.0, slices - 1.0));
    };
    for (std::size_t at = 0; at < points.mass.size(); ++at) {
        const auto slice = sliceOf(at);
        sum[slice] += points.mass[at] * motion[at].head<3>();
        centre[slice] += points.mass[at] * points.place[at];
        mass[slice] += points.mass[at];
    }
    for (std::size_t at = 0; at < points.mass.size(); ++at) {
        const auto slice = sliceOf(at);
        if (mass[slice] <= 0.0) continue;
        const Eigen::Vector3d r = points.place[at] - centre[slice] / mass[slice];
        const Eigen::Vector3d v = motion[at].head<3>() - sum[slice] / mass[slice];
        moment[slice] += points.mass[at] * r.cross(v)[axis];
        arm[slice] += points.mass[at] * (r.squaredNorm() - r[axis] * r[axis]);
    }
    double all = 0.0, turning = 0.0;
    for (std::size_t at = 0; at < points.mass.size(); ++at)
        all += points.mass[at] * motion[at].head<3>().squaredNorm();
    for (std::size_t slice = 0; slice < slices; ++slice) {
        if (mass[slice] > 0.0) profile.mean.push_back(sum[slice] / mass[slice]);
        if (arm[slice] > 1e-12) turning += moment[slice] * moment[slice] / arm[slice];
    }
    profile.turning = all > 0.0 ? turning / all : 0.0;
    return profile;
}

} // namespace undisona
