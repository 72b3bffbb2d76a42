#include "core/modal/shape_name.hpp"

#include "core/modal/part_shape.hpp"
#include "core/system/spread.hpp"

#include <fmt/format.h>

#include <set>

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
        perLength[at] = structure.members[at].density() * structure.frame.members[at].section->area;
    for (const auto& element : mesh.elements)
        for (const int node : element.nodes)
            points.mass[static_cast<std::size_t>(node)] +=
                perLength[static_cast<std::size_t>(element.member)] * mesh.length(element) / 2.0;
    for (const auto& shell : mesh.shells) {
        const ShellEquations own = shellOf(structure, mesh, shell);
        for (std::size_t at = 0; at < shell.corners(); ++at)
            points.mass[static_cast<std::size_t>(shell.nodes[at])] +=
                own.element.area() * own.element.density * own.element.thickness[at] / double(shell.corners());
    }
    for (const auto& solid : mesh.solids) {
        const SolidElement own = solidOf(structure, mesh, solid);
        const double mass = own.density * volumeOf(own);
        for (std::size_t at = 0; at < solid.count(); ++at)
            points.mass[static_cast<std::size_t>(solid.nodes[at])] += mass / double(solid.count());
    }
    for (const auto& attachment : structure.attachments)
        if (attachment.effect == Attachment::Effect::mass)
            eachPiece(structure, mesh, attachment, [&](const SpreadPiece& piece) {
                for (std::size_t at = 0; at < piece.nodes.size(); ++at)
                    points.mass[static_cast<std::size_t>(piece.nodes[at])] += piece.ofNode[at];
            });
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

/// In slices along an axis: the mean motion of each, and how much of the motion is a turning of each about the axis.
struct Profile {
    std::vector<Eigen::Vector3d> mean;
    double turning = 0.0;
};

Profile profileOf(const MassPoints& points, const Motion& motion, int axis)
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

/// Whether every slice moves along the axis about alike: the whole sways that way, and is not stretched.
bool shiftsAlike(const Profile& profile, int axis)
{
    double least = 1e300, most = 0.0;
    for (const auto& mean : profile.mean) {
        if (mean[axis] * profile.mean.front()[axis] < 0.0) return false;
        least = std::min(least, std::abs(mean[axis]));
        most = std::max(most, std::abs(mean[axis]));
    }
    return least > 0.5 * most;
}

/// The axis about which slices along it turn; of what is slender its length alone. What leans, floor by floor, moves
/// one way across the axis and turns nothing.
std::optional<int> twistingAxis(const MassPoints& points, const Motion& motion, const Eigen::Vector3d& shares)
{
    std::optional<int> most;
    double turning = points.slender ? 0.5 : 0.65;
    Eigen::Vector3d reach = Eigen::Vector3d::Zero();
    for (std::size_t at = 0; at < points.mass.size(); ++at)
        reach += points.mass[at] * (points.place[at] - points.centre).cwiseAbs2();
    for (int axis = 0; axis < 3; ++axis) {
        if (points.slender && axis != points.longAxis) continue;
        const int one = (axis + 1) % 3, other = (axis + 2) % 3; // a turn moves one by how far the other reaches
        const double both = std::max(reach[one] + reach[other], 1e-300);
        const bool leans =
            !points.slender && (shares[one] < 0.4 * reach[other] / both || shares[other] < 0.4 * reach[one] / both);
        if (leans) continue;
        if (const double own = profileOf(points, motion, axis).turning; own > turning) {
            turning = own;
            most = axis;
        }
    }
    return most;
}

/// The motion of the whole as a rigid body that fits best: its shares of the energy of shifting along and turning
/// about x, y and z.
Vector6 rigidShares(const MassPoints& points, const Motion& motion)
{
    Eigen::Vector3d shift = Eigen::Vector3d::Zero(), turn = shift;
    double total = 0.0, spread = 0.0, all = 0.0;
    Eigen::Matrix3d inertia = Eigen::Matrix3d::Zero();
    for (std::size_t at = 0; at < points.mass.size(); ++at) {
        const Eigen::Vector3d arm = points.place[at] - points.centre, moves = motion.node[at].head<3>();
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

/// What has a part in a motion, by itself, and its share of the mass: what stands still tells nothing of how it moves.
std::pair<MassPoints, double> movingOf(MassPoints points, const Motion& motion)
{
    double most = 0.0, total = 0.0, left = 0.0;
    for (const auto& node : motion.node)
        most = std::max(most, node.head<3>().squaredNorm());
    Eigen::Vector3d moment = Eigen::Vector3d::Zero();
    for (std::size_t at = 0; at < points.mass.size(); ++at) {
        total += points.mass[at];
        if (motion.node[at].head<3>().squaredNorm() < 1e-3 * most) points.mass[at] = 0.0;
        left += points.mass[at];
        moment += points.mass[at] * points.place[at];
    }
    points.centre = moment / std::max(left, 1e-300);
    return {std::move(points), left / std::max(total, 1e-300)};
}

std::vector<std::pair<double, int>> kineticOfMembers(const Energies& energies, Eigen::Index mode)
{
    std::map<int, double> sums; // with what is spread along them
    for (std::size_t row = 0; row < energies.rows.size(); ++row)
        if (energies.rows[row].of == OwnerKind::member)
            sums[energies.rows[row].owner] += energies.kinetic(static_cast<Eigen::Index>(row), mode);
    std::vector<std::pair<double, int>> shares;
    for (const auto& [member, share] : sums)
        shares.emplace_back(share, member);
    std::stable_sort(shares.begin(), shares.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    return shares;
}

bool isAmong(const std::vector<int>& list, int one)
{
    return std::find(list.begin(), list.end(), one) != list.end();
}

/// What all of a list of members, the liveliest first, are called together: the one; the sentence or part of one that
/// made just these; else the smallest that made them among others, with where in it they are.
std::string togetherCalled(const Frame& frame, std::vector<int> members)
{
    const FrameMember& liveliest = frame.members[static_cast<std::size_t>(members[0])];
    if (members.size() == 1) return liveliest.name;
    const std::size_t more = members.size() - 1;
    std::sort(members.begin(), members.end());
    const std::string* of = nullptr;
    std::size_t smallest = frame.members.size() + 1;
    for (const auto& [name, group] : frame.groups) {
        if (group.members.size() < members.size() || group.members.size() >= smallest) continue;
        std::vector<int> own = group.members;
        std::sort(own.begin(), own.end());
        if (!std::includes(own.begin(), own.end(), members.begin(), members.end())) continue;
        smallest = own.size();
        of = &name;
    }
    if (!of) {
        std::set<std::string> sentences; // of each the name of what it made
        for (const int member : members)
            for (const auto& [name, group] : frame.groups)
                if (name.find(" of ") == std::string::npos && isAmong(group.members, member)) {
                    sentences.insert(name);
                    break;
                }
        return sentences.size() == 2 ? fmt::format("{} and {} near {}", *sentences.begin(), *sentences.rbegin(),
                                                   frame.points[static_cast<std::size_t>(liveliest.from)].name)
                                     : fmt::format("{} and {} more", liveliest.name, more);
    }
    if (smallest == members.size()) return *of;
    return fmt::format("{} near {}", *of, frame.points[static_cast<std::size_t>(liveliest.from)].name);
}

/// The members that have nearly all of the kinetic energy, if they are a small part of the structure.
std::string localMembers(const Structure& structure, const Energies& energies, Eigen::Index mode)
{
    constexpr double nearlyAll = 0.85;
    const bool parts = structure.frame.parts() > 0;
    const std::size_t few = std::min<std::size_t>(8, parts ? structure.members.size() : structure.members.size() / 6);
    std::vector<int> members;
    double sum = 0.0;
    for (const auto& [share, member] : kineticOfMembers(energies, mode)) {
        if (members.size() == few || sum > nearlyAll) break;
        sum += share;
        members.push_back(member);
    }
    if (sum < nearlyAll) return {};
    return togetherCalled(structure.frame, members);
}

/// Members that swing between their joints while these rest, of a structure of many: "12 members between their joints".
std::string betweenJoints(const Structure& structure, const Energies& energies, Eigen::Index mode, const Motion& motion,
                          bool twisting)
{
    if (structure.members.size() < 6) return {};
    double atPoints = 0.0, most = 0.0;
    for (std::size_t at = 0; at < motion.node.size(); ++at) {
        const double size = motion.node[at].head<3>().norm();
        most = std::max(most, size);
        if (at < structure.frame.points.size()) atPoints = std::max(atPoints, size);
    }
    if (!twisting && atPoints > 0.15 * most) return {};
    const auto shares = kineticOfMembers(energies, mode);
    double all = 0.0;
    std::size_t count = 0;
    for (const auto& [share, member] : shares) {
        all += share;
        count += share > 0.2 * shares[0].first;
    }
    if (all < 0.85 || count < 2 || 10 * count > 9 * structure.members.size()) return {};
    return fmt::format("{} members {}between their joints", count, twisting ? "twisting " : "");
}

/// Sums over the members of the parts of the strain energy, and what springs, beds and elastic supports have.
struct Strained {
    double axial = 0.0, twisting = 0.0, bending = 0.0, springs = 0.0;
};
Strained strainedParts(const Energies& energies, Eigen::Index mode)
{
    Strained sums;
    for (std::size_t at = 0; at < energies.rows.size(); ++at) {
        const auto row = static_cast<Eigen::Index>(at);
        switch (energies.rows[at].kind) {
        case PartKind::member:
            sums.axial += energies.axial(row, mode);
            sums.twisting += energies.twisting(row, mode);
            sums.bending += energies.bending(row, mode);
            break;
        case PartKind::spring:
        case PartKind::support:
        case PartKind::bed:
            sums.springs += energies.strain(row, mode);
            break;
        default:
            break;
        }
    }
    return sums;
}

/// A body that moves as a whole on its springs.
std::string onSprings(const Vector6& shares)
{
    int which = 0;
    shares.maxCoeff(&which);
    if (which == 2) return "bouncing in z";
    if (which < 3) return fmt::format("shifting in {}", axes[which]);
    return fmt::format("{} about {}", which == 5 ? "turning" : "rocking", axes[which - 3]);
}

/// The sheet or solid that has most of the kinetic energy, its own and that of what is spread over it, and its share.
std::pair<int, double> mainPart(const Frame& frame, const Energies& energies, Eigen::Index mode)
{
    std::vector<double> shares(frame.parts(), 0.0);
    for (std::size_t row = 0; row < energies.rows.size(); ++row) {
        const OwnerKind kind = energies.rows[row].of;
        if (kind != OwnerKind::sheet && kind != OwnerKind::solid) continue;
        const int owner = energies.rows[row].owner;
        shares[static_cast<std::size_t>(kind == OwnerKind::sheet ? owner : frame.partOfSolid(owner))] +=
            energies.kinetic(static_cast<Eigen::Index>(row), mode);
    }
    const auto most = std::max_element(shares.begin(), shares.end());
    if (most == shares.end()) return {-1, 0.0};
    return {static_cast<int>(most - shares.begin()), *most};
}

/// The axes along which most of the motion is: "z", or "x and y".
std::string along(const Eigen::Vector3d& shares)
{
    int main = 0;
    if (shares.maxCoeff(&main) > 0.6) return axes[main];
    std::string all;
    for (int axis = 0; axis < 3; ++axis)
        if (shares[axis] > 0.25) all += (all.empty() ? "" : " and ") + std::string(axes[axis]);
    return all.empty() ? axes[main] : all;
}

std::string rigidName(const Vector6& shares)
{
    int which = 0;
    shares.maxCoeff(&which);
    return which < 3 ? fmt::format("shifting in {}", axes[which]) : fmt::format("turning about {}", axes[which - 3]);
}

} // namespace

namespace {

/// "most at a": the point that moves most, or the part that does where its places move more than every point.
std::string mostMoved(const Frame& frame, const FrameMesh& mesh, const Motion& motion)
{
    const auto size = [&](int node) { return motion.node[static_cast<std::size_t>(node)].head<3>().norm(); };
    std::string words;
    double most = 0.0;
    for (std::size_t at = 0; at < frame.points.size(); ++at)
        if (size(static_cast<int>(at)) > most) {
            most = size(static_cast<int>(at));
            words = "most at " + frame.points[at].name;
        }
    constexpr double clearly = 1.01; // a point of the part itself is said before the part
    const auto look = [&](const auto& nodes, std::size_t count, int part) {
        for (std::size_t node = 0; node < count; ++node)
            if (size(nodes[node]) > clearly * most) {
                most = size(nodes[node]);
                words = "most of all " + frame.partName(part);
            }
    };
    for (const auto& shell : mesh.shells)
        look(shell.nodes, shell.corners(), shell.sheet);
    for (const auto& solid : mesh.solids)
        look(solid.nodes, solid.count(), frame.partOfSolid(solid.solid));
    return words.empty() ? "nothing moves with it" : words;
}

} // namespace

void nameShapes(const Structure& structure, const FrameMesh& mesh, const System& system, const Extraction& extraction,
                const Energies& energies, std::vector<Mode>& modes)
{
    const MassPoints points = massPoints(structure, mesh);
    std::map<std::string, int> used;
    std::map<int, std::optional<FormedPart>> formed;
    std::map<std::string, double> round; // Hz, of the first mode of each name
    const auto parts =
        structure.frame.sheets.size() +
        static_cast<std::size_t>(std::count_if(structure.frame.solids.begin(), structure.frame.solids.end(),
                                               [](const Solid& solid) { return !solid.spent; }));
    for (std::size_t index = 0; index < modes.size(); ++index) {
        const auto mode = static_cast<Eigen::Index>(index);
        Motion motion;
        for (std::size_t node = 0; node < mesh.nodes.size(); ++node)
            motion.node.push_back(system.motionOf(static_cast<int>(node), extraction.shapes.col(mode)));
        if (modes[index].rigid) {
            modes[index].name = rigidName(rigidShares(points, motion));
            continue;
        }
        if (modes[index].mechanism) {
            modes[index].name = "loose, " + mostMoved(structure.frame, mesh, motion);
            continue;
        }
        const Strained strained = strainedParts(energies, mode);
        const auto [part, share] = mainPart(structure.frame, energies, mode);
        const auto ofPart = [&, part = part, share = share] {
            return (share > 0.9 ? " of " : ", mostly ") + structure.frame.partName(part);
        };
        if (strained.springs > 0.7) {
            const auto [moving, ofMass] = movingOf(points, motion);
            if (const Vector6 rigid = rigidShares(moving, motion); rigid.sum() > 0.8) {
                const std::string kind = onSprings(rigid);
                modes[index].name = fmt::format("{} {}", ordinal(++used[kind]), kind);
                if (ofMass < 0.9 && share > 0.6 && parts > 1) modes[index].name += ofPart();
                continue;
            }
        }
        const Eigen::Vector3d shares = directionShares(points, motion);
        const bool twists = strained.twisting > 0.5;
        if (const std::string few = localMembers(structure, energies, mode); !few.empty()) {
            const std::string kind = twists                 ? "twisting"
                                     : strained.axial > 0.5 ? "axial"
                                                            : "bending in " + along(shares);
            modes[index].name = fmt::format("{} alone, {} {}", few, ordinal(++used[kind + few]), kind);
            continue;
        }
        int main = 0;
        shares.maxCoeff(&main);
        if (const std::string many = betweenJoints(structure, energies, mode, motion, twists); !many.empty()) {
            modes[index].name = twists ? many : fmt::format("{}, in {}", many, axes[main]);
            continue;
        }
        if (share > 0.5) {
            std::vector<Eigen::Vector3d> shifts;
            for (const auto& node : motion.node)
                shifts.push_back(node.head<3>());
            auto known = formed.find(part);
            if (known == formed.end()) known = formed.emplace(part, formedPart(structure.frame, mesh, part)).first;
            if (const std::string words = known->second ? partShape(*known->second, mesh, shifts) : std::string();
                !words.empty()) {
                modes[index].name = words;
                if (parts > 1 || !structure.members.empty())
                    modes[index].name += " of " + structure.frame.partName(part);
                if (known->second->form.kind == PartForm::Kind::rectangle) continue;
                // The same shape turned about its axis; a coarse mesh parts their frequencies.
                constexpr double alike = 0.05;
                const auto [first, isNew] = round.try_emplace(modes[index].name, modes[index].frequency);
                if (!isNew && modes[index].frequency < (1.0 + alike) * first->second) modes[index].name += " (twin)";
                continue;
            }
        }
        const Profile profile = profileOf(points, motion, points.longAxis);
        const auto turnsAbout = twistingAxis(points, motion, shares);
        // Of members their strain says whether they are stretched; of others that hardly anything moves across.
        const bool ofMembers = strained.axial + strained.bending + strained.twisting > 0.5;
        const bool stretched = main == points.longAxis && points.slender && !shiftsAlike(profile, main) &&
                               (ofMembers ? strained.bending < 0.5 : shares[main] > 0.85);
        const char* verb = points.slender && !(main == points.longAxis && !stretched) ? "bending" : "swaying";
        std::string kind;
        if (twists)
            kind = "twisting";
        else if (turnsAbout)
            kind = points.slender ? "twisting" : fmt::format("twisting about {}", axes[*turnsAbout]);
        else if (stretched)
            kind = "axial";
        else
            kind = fmt::format("{} in {}", verb, along(shares));
        modes[index].name = fmt::format("{} {}", ordinal(++used[kind]), kind);
        if (share > 0.6 && parts > 1) modes[index].name += ofPart();
    }
}

} // namespace undisona
