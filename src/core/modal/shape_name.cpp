#include "core/modal/shape_name.hpp"

#include "core/modal/part_shape.hpp"

#include <fmt/format.h>

#include <numeric>

namespace undisona {

namespace {

const char* ordinal(int number)
{
    constexpr const char* words[] = {"first", "second",  "third",  "fourth", "fifth",
                                     "sixth", "seventh", "eighth", "ninth",  "tenth"};
    return number >= 1 && number <= 10 ? words[number - 1] : "higher";
}

constexpr const char* axes[3] = {"x", "y", "z"};

/// Nodes with the mass that goes with them.
struct MassPoints {
    std::vector<double> mass;
    std::vector<Eigen::Vector3d> place;
    Eigen::Vector3d centre = Eigen::Vector3d::Zero();
    int longAxis = 2; ///< global axis along which the structure is longest
    bool slender = false;
};

MassPoints massPoints(const Structure& structure, const FrameMesh& mesh)
{
    MassPoints points;
    points.mass.assign(mesh.nodes.size(), 0.0);
    for (const auto& node : mesh.nodes)
        points.place.push_back(node.place);
    std::vector<double> perLength(structure.members.size(), 0.0);
    for (std::size_t at = 0; at < structure.members.size(); ++at)
        perLength[at] = structure.materialMassFactor * structure.members[at].material->density *
                        structure.frame.members[at].section->area;
    for (const auto& line : structure.lineMasses)
        perLength[static_cast<std::size_t>(line.member)] += line.perLength;
    for (const auto& element : mesh.elements)
        for (const int node : element.nodes)
            points.mass[static_cast<std::size_t>(node)] +=
                perLength[static_cast<std::size_t>(element.member)] * mesh.length(element) / 2.0;
    const auto added = addedPerArea(structure);
    for (const auto& shell : mesh.shells) {
        const auto sheet = static_cast<std::size_t>(shell.sheet);
        const ShellEquations own = shellOf(structure, mesh, shell);
        for (std::size_t at = 0; at < shell.corners(); ++at)
            points.mass[static_cast<std::size_t>(shell.nodes[at])] +=
                own.element.area() * (own.element.density * own.element.thickness[at] + added[sheet]) /
                double(shell.corners());
    }
    for (const auto& solid : mesh.solids) {
        const SolidElement own = solidOf(structure, mesh, solid);
        const double mass = own.density * volumeOf(own);
        for (std::size_t at = 0; at < solid.count(); ++at)
            points.mass[static_cast<std::size_t>(solid.nodes[at])] += mass / double(solid.count());
    }
    for (const auto& mass : structure.pointMasses)
        points.mass[static_cast<std::size_t>(mass.point)] += mass.mass;
    const double total = std::accumulate(points.mass.begin(), points.mass.end(), 0.0);
    Eigen::Vector3d low = Eigen::Vector3d::Constant(1e300), high = -low;
    for (std::size_t at = 0; at < points.place.size(); ++at) {
        points.centre += points.mass[at] / std::max(total, 1e-300) * points.place[at];
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

struct Motion {
    std::vector<Vector6> node;
};

/// Kinetic shares of the translations x, y, z.
Eigen::Vector3d directionShares(const MassPoints& points, const Motion& motion)
{
    Eigen::Vector3d sums = Eigen::Vector3d::Zero();
    for (std::size_t at = 0; at < points.mass.size(); ++at)
        sums += points.mass[at] * motion.node[at].head<3>().cwiseAbs2();
    return sums.sum() > 0.0 ? Eigen::Vector3d(sums / sums.sum()) : sums;
}

/// Along the long axis in slices: the mean motion of each, and how much of the cross motion is turning.
struct Profile {
    std::vector<Eigen::Vector3d> mean;
    double turning = 0.0;
};

Profile profileOf(const MassPoints& points, const Motion& motion)
{
    constexpr int slices = 12;
    const int axis = points.longAxis;
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
        sum[slice] += points.mass[at] * motion.node[at].head<3>();
        centre[slice] += points.mass[at] * points.place[at];
        mass[slice] += points.mass[at];
    }
    for (std::size_t at = 0; at < points.mass.size(); ++at) {
        const auto slice = sliceOf(at);
        if (mass[slice] <= 0.0) continue;
        const Eigen::Vector3d r = points.place[at] - centre[slice] / mass[slice];
        const Eigen::Vector3d v = motion.node[at].head<3>() - sum[slice] / mass[slice];
        moment[slice] += points.mass[at] * r.cross(v)[axis];
        arm[slice] += points.mass[at] * (r.squaredNorm() - r[axis] * r[axis]);
    }
    double all = 0.0, turning = 0.0;
    for (std::size_t at = 0; at < points.mass.size(); ++at)
        all += points.mass[at] * motion.node[at].head<3>().squaredNorm();
    for (std::size_t slice = 0; slice < slices; ++slice) {
        if (mass[slice] > 0.0) profile.mean.push_back(sum[slice] / mass[slice]);
        if (arm[slice] > 1e-12) turning += moment[slice] * moment[slice] / arm[slice];
    }
    profile.turning = all > 0.0 ? turning / all : 0.0;
    return profile;
}

/// The members that hold nearly all of the kinetic energy, if they are a small part of the structure.
std::vector<std::string> localMembers(const Energies& energies, Eigen::Index mode, std::size_t memberCount)
{
    std::vector<std::pair<double, std::string>> shares;
    for (std::size_t row = 0; row < energies.rows.size(); ++row)
        if (energies.rows[row].kind == PartKind::member)
            shares.emplace_back(energies.kinetic(static_cast<Eigen::Index>(row), mode), energies.rows[row].name);
    std::sort(shares.begin(), shares.end(), [](const auto& a, const auto& b) {
        return a.first != b.first ? a.first > b.first : a.second < b.second;
    });
    const std::size_t few = std::min<std::size_t>(8, memberCount / 6);
    std::vector<std::string> names;
    double sum = 0.0;
    for (std::size_t at = 0; at < few && at < shares.size() && sum < 0.85; ++at) {
        sum += shares[at].first;
        names.push_back(shares[at].second);
    }
    if (sum < 0.85) names.clear();
    return names;
}

/// The sheet or solid that has most of the kinetic energy, its own and that of what is spread over it, and its share.
std::pair<int, double> mainPart(const Frame& frame, const Energies& energies, Eigen::Index mode)
{
    std::vector<double> shares(frame.parts(), 0.0);
    for (std::size_t row = 0; row < energies.rows.size(); ++row) {
        const OwnerKind kind = ownerOf(energies.rows[row].kind);
        if (kind != OwnerKind::sheet && kind != OwnerKind::solid) continue;
        const int owner = energies.rows[row].owner;
        shares[static_cast<std::size_t>(kind == OwnerKind::sheet ? owner : frame.partOfSolid(owner))] +=
            energies.kinetic(static_cast<Eigen::Index>(row), mode);
    }
    const auto most = std::max_element(shares.begin(), shares.end());
    if (most == shares.end()) return {-1, 0.0};
    return {static_cast<int>(most - shares.begin()), *most};
}

std::string rigidName(const Vector6& sizes)
{
    int which = 0;
    sizes.maxCoeff(&which);
    return which < 3 ? fmt::format("shifting in {}", axes[which]) : fmt::format("turning about {}", axes[which - 3]);
}

} // namespace

void nameShapes(const Structure& structure, const FrameMesh& mesh, const System& system, const Extraction& extraction,
                const Energies& energies, std::vector<Mode>& modes)
{
    const MassPoints points = massPoints(structure, mesh);
    std::map<std::string, int> used;
    for (std::size_t index = 0; index < modes.size(); ++index) {
        const auto mode = static_cast<Eigen::Index>(index);
        Motion motion;
        for (std::size_t node = 0; node < mesh.nodes.size(); ++node)
            motion.node.push_back(system.motionOf(static_cast<int>(node), extraction.shapes.col(mode)));
        if (modes[index].rigid) {
            Vector6 sizes = Vector6::Zero(); // energy of the mean shift and of the mean turn
            Eigen::Vector3d shift = Eigen::Vector3d::Zero(), turn = Eigen::Vector3d::Zero();
            double total = 0.0, spread = 0.0;
            Eigen::Matrix3d inertia = Eigen::Matrix3d::Zero();
            for (std::size_t at = 0; at < points.mass.size(); ++at) {
                const Eigen::Vector3d arm = points.place[at] - points.centre;
                shift += points.mass[at] * motion.node[at].head<3>();
                turn += points.mass[at] * arm.cross(Eigen::Vector3d(motion.node[at].head<3>()));
                total += points.mass[at];
                spread += points.mass[at] * arm.squaredNorm();
                inertia += points.mass[at] * (arm.squaredNorm() * Eigen::Matrix3d::Identity() - arm * arm.transpose());
            }
            // What stands along a line has no inertia about it.
            inertia.diagonal().array() += 1e-9 * spread + 1e-300;
            sizes << (shift / std::max(total, 1e-300)).cwiseAbs2(),
                inertia.ldlt().solve(turn).cwiseAbs2() * spread / std::max(total, 1e-300);
            modes[index].name = rigidName(sizes);
            continue;
        }
        if (modes[index].mechanism) {
            std::size_t most = 0;
            double size = 0.0;
            for (std::size_t at = 0; at < structure.frame.points.size(); ++at)
                if (motion.node[at].head<3>().norm() > size) {
                    size = motion.node[at].head<3>().norm();
                    most = at;
                }
            modes[index].name = fmt::format("loose, most at {}", structure.frame.points[most].name);
            continue;
        }
        if (const auto names = localMembers(energies, mode, structure.members.size()); !names.empty()) {
            modes[index].name = names.size() == 1 ? fmt::format("just {}", names[0])
                                                  : fmt::format("just {} and {} more", names[0], names.size() - 1);
            continue;
        }
        const auto [part, share] = mainPart(structure.frame, energies, mode);
        if (share > 0.7) {
            std::vector<Eigen::Vector3d> shifts;
            for (const auto& node : motion.node)
                shifts.push_back(node.head<3>());
            if (const std::string words = partShape(structure, mesh, part, shifts); !words.empty()) {
                modes[index].name = words;
                if (structure.frame.parts() > 1 || !structure.members.empty())
                    modes[index].name += " of " + structure.frame.partName(part);
                continue;
            }
        }
        const Profile profile = profileOf(points, motion);
        const Eigen::Vector3d shares = directionShares(points, motion);
        int main = 0;
        shares.maxCoeff(&main);
        std::string kind;
        if (profile.turning > 0.5)
            kind = "twisting";
        else if (main == points.longAxis && points.slender)
            kind = "axial";
        else if (shares[main] > 0.6)
            kind = fmt::format("{} in {}", points.slender ? "bending" : "swaying", axes[main]);
        else {
            std::string both;
            for (int axis = 0; axis < 3; ++axis)
                if (shares[axis] > 0.25) both += (both.empty() ? "" : " and ") + std::string(axes[axis]);
            kind = fmt::format("{} in {}", points.slender ? "bending" : "swaying", both.empty() ? axes[main] : both);
        }
        modes[index].name = fmt::format("{} {}", ordinal(++used[kind]), kind);
        if (share > 0.6 && structure.frame.parts() > 1)
            modes[index].name += (share > 0.97 ? " of " : ", mostly ") + structure.frame.partName(part);
    }
}

} // namespace undisona
