#include "core/statement/passing.hpp"

#include "core/base/same_place.hpp"
#include "core/shapes/joined_faces.hpp"

#include <algorithm>

namespace undisona {

std::vector<double> passesThrough(const Frame& frame, int member, const std::vector<int>& faces)
{
    const FrameMember& own = frame.members[static_cast<std::size_t>(member)];
    const Eigen::Vector3d from = frame.points[static_cast<std::size_t>(own.from)].place,
                          to = frame.points[static_cast<std::size_t>(own.to)].place;
    const double length = (to - from).norm();
    Eigen::AlignedBox3d along(from);
    along.extend(to);
    std::vector<double> shares;
    for (const int face : faces) {
        // The kernel is asked only where the two can meet: this is looked at after every edit.
        if (const auto& plane = frame.faces->faces[static_cast<std::size_t>(face)].plane) {
            const double before = plane->normal.dot(from - plane->place), behind = plane->normal.dot(to - plane->place);
            if (before * behind > 0.0 && std::min(std::abs(before), std::abs(behind)) > samePlace) continue;
        }
        if (frame.faces->box(face).squaredExteriorDistance(along) > samePlace * samePlace) continue;
        for (const double share : frame.faces->crossings(face, from, to))
            if (share * length > samePlace && (1.0 - share) * length > samePlace) shares.push_back(share);
    }
    std::sort(shares.begin(), shares.end());
    shares.erase(std::unique(shares.begin(), shares.end(), // where it goes through the line between two faces
                             [&](double one, double other) { return (other - one) * length < samePlace; }),
                 shares.end());
    return shares;
}

std::vector<Passing> membersPassing(const Structure& structure)
{
    std::vector<Passing> passing;
    const Frame& frame = structure.frame;
    if (!frame.faces) return passing;
    constexpr double most = 2e6; // pairs that are worth a look
    if (double(frame.members.size()) * double(frame.faces->faces.size()) > most) return passing;
    std::vector<std::vector<int>> facesOf(frame.parts());
    for (std::size_t face = 0; face < frame.faces->faces.size(); ++face)
        for (const int part : frame.partsOf(frame.faces->faces[face]))
            facesOf[static_cast<std::size_t>(part)].push_back(static_cast<int>(face));
    std::set<std::pair<int, int>> joined; // a member, a part
    for (const auto& joint : structure.surfaceJoints)
        for (const auto& line : joint.members)
            for (const auto& [target, at] : joint.other) {
                if (target == Target::sheet) joined.emplace(line.member, at);
                if (target == Target::solid) joined.emplace(line.member, frame.partOfSolid(at));
                if (target == Target::face)
                    for (const int part : frame.partsOf(frame.faces->faces[static_cast<std::size_t>(at)]))
                        joined.emplace(line.member, part);
            }
    for (int member = 0; member < static_cast<int>(frame.members.size()); ++member) {
        if (!frame.faces->edgesOfMember[static_cast<std::size_t>(member)].empty()) continue;
        const FrameMember& own = frame.members[static_cast<std::size_t>(member)];
        const Eigen::Vector3d from = frame.points[static_cast<std::size_t>(own.from)].place,
                              to = frame.points[static_cast<std::size_t>(own.to)].place;
        for (int part = 0; part < static_cast<int>(frame.parts()); ++part) {
            if (joined.contains({member, part})) continue;
            const auto shares = passesThrough(frame, member, facesOf[static_cast<std::size_t>(part)]);
            if (!shares.empty()) passing.push_back({member, part, from + shares.front() * (to - from)});
        }
    }
    return passing;
}

} // namespace undisona
