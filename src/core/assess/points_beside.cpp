#include "core/assess/points_beside.hpp"

#include "core/base/alike_findings.hpp"
#include "core/base/joined_sets.hpp"
#include "core/base/number_text.hpp"
#include "core/shapes/joined_faces.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Of what a face belongs to, m: of a body twice its volume over its surface; 0 where it belongs to nothing.
double thicknessOf(const Structure& structure, const JoinedFace& face)
{
    if (face.sheet >= 0) return structure.frame.sheets[static_cast<std::size_t>(face.sheet)].leastThickness();
    const JoinedFaces& faces = *structure.frame.faces;
    double least = 1e300;
    for (const int solid : face.solids)
        for (const auto& body : faces.solids)
            if (body.solid == solid) least = std::min(least, 2.0 * body.volume / faces.areaOf(body));
    return least < 1e299 ? least : 0.0;
}

/// A point that lies beside something, and where on it it would lie.
struct Miss {
    int point;
    double apart; ///< m
    Eigen::Vector3d foot;
};

std::string namesOf(const Structure& structure, const std::vector<Miss>& misses)
{
    std::vector<std::string> names;
    for (const Miss& miss : misses)
        names.push_back(structure.frame.points[static_cast<std::size_t>(miss.point)].name);
    return someOf(names);
}

std::string besideWords(const Structure& structure, const std::vector<Miss>& misses, const std::string& what)
{
    const double millimetres = std::round(1e6 * misses[0].apart) / 1e3;
    return fmt::format("{} {} {} {}, and not joined to it", namesOf(structure, misses),
                       misses.size() == 1 ? "lies" : "lie", millimetres > 0.0 ? "beside" : "on",
                       millimetres > 0.0 ? fmt::format("{}, {} mm off", what, shortest(millimetres)) : what);
}

/// Puts the points where they were meant to be; none where the place of one is not what a sentence says of it alone.
std::optional<Cure> moveOnto(const Structure& structure, const Model& model, const std::vector<Miss>& misses,
                             const std::string& part)
{
    Cure cure{fmt::format("Move {} onto {}", namesOf(structure, misses), part), {}};
    for (const Miss& miss : misses) {
        const FramePoint& point = structure.frame.points[static_cast<std::size_t>(miss.point)];
        const SentencePtr said = model.sentence(point.sentence);
        Statement statement{{}, point.sentence};
        std::array<double, 3> now{};
        if (said && said->kind->key == "points") {
            for (const Row& row : *said->table("rows").rows)
                if (row.size() == 4 && textOf(row[0]) == point.name)
                    for (std::size_t axis = 0; axis < 3; ++axis)
                        now[axis] = std::get<Quantity>(row[axis + 1]).si;
            statement.row = point.name;
            for (int axis = 0; axis < 3; ++axis)
                statement.words[std::string(1, "xyz"[axis])] =
                    shortest(std::round(1e6 * miss.foot[axis]) / 1e6 + 0.0) + " m";
        } else if (said && said->kind->key == "point" && !said->has("from")) {
            now = said->vector("at");
            statement.words["at"] = placeText(miss.foot);
        } else
            return std::nullopt;
        if ((Eigen::Map<const Eigen::Vector3d>(now.data()) - point.place).norm() > 1e-9)
            return std::nullopt; // moved since
        cure.statements.push_back(std::move(statement));
    }
    return cure;
}

/// By point, one that stands for all that members, ties and springs join it to; whatever lies on a part is one.
std::vector<int> joinedTogether(const Structure& structure)
{
    JoinedSets sets(structure.frame.points.size());
    for (const auto& member : structure.frame.members)
        sets.join(member.from, member.to);
    for (const auto& tie : structure.ties) {
        if (tie.on == Target::point) sets.join(tie.leader, tie.at);
        if (tie.on != Target::member) continue;
        const FrameMember& member = structure.frame.members[static_cast<std::size_t>(tie.at)];
        for (const int end : {member.from, member.to})
            sets.join(tie.leader, end);
    }
    for (const auto& spring : structure.springs)
        sets.join(spring.from, spring.to);
    std::vector<int> together(structure.frame.points.size());
    std::optional<int> onAPart;
    for (std::size_t at = 0; structure.frame.faces && at < together.size(); ++at)
        if (structure.frame.faces->vertexOfPoint[at] >= 0) {
            if (onAPart) sets.join(int(at), *onAPart);
            onAPart = int(at);
        }
    for (const auto& mean : structure.means)
        for (const auto& [target, at] : mean.of)
            if (target == Target::point)
                sets.join(mean.point, at);
            else if (onAPart && target != Target::member)
                sets.join(mean.point, *onAPart);
    for (const auto& tie : structure.ties)
        if (onAPart && !(Targets(tie.on) & (Target::edge | Target::face | Target::sheet | Target::solid)).none())
            sets.join(tie.leader, *onAPart);
    for (std::size_t at = 0; at < together.size(); ++at)
        together[at] = sets.of(int(at));
    return together;
}

/// How far the outline of a section reaches from the member's line, m.
double reachOf(const Section& section)
{
    double reach = 0.0;
    for (const auto& [y, z] : section.outline)
        reach = std::max(reach, std::hypot(y, z));
    return reach;
}

} // namespace

Findings pointsBesideParts(const Structure& structure, const Model& model, std::vector<int> used)
{
    if (!structure.frame.faces) return {};
    const JoinedFaces& faces = *structure.frame.faces;
    for (const auto& hold : structure.holds)
        if (hold.on == Target::point) ++used[static_cast<std::size_t>(hold.at)];
    for (const auto& contact : structure.contacts)
        for (const int point : {contact.point, contact.other})
            if (point >= 0) ++used[static_cast<std::size_t>(point)];
    for (const auto& tie : structure.ties)
        for (const int point : tie.points())
            used[static_cast<std::size_t>(point)] = 0; // joined on purpose
    for (const auto& mean : structure.means)
        used[static_cast<std::size_t>(mean.point)] = 0;
    for (const auto& joint : structure.surfaceJoints)
        for (const auto& line : joint.members) {
            const FrameMember& member = structure.frame.members[static_cast<std::size_t>(line.member)];
            for (const int point : {member.from, member.to})
                used[static_cast<std::size_t>(point)] = 0;
        }
    // A face's box, so that few faces are measured.
    std::vector<Eigen::AlignedBox3d> boxes(faces.faces.size());
    for (std::size_t face = 0; face < boxes.size(); ++face)
        for (const auto& loop : faces.faces[face].loops)
            for (const auto& use : loop)
                for (const auto& place : faces.edges[static_cast<std::size_t>(use.edge)].along)
                    boxes[face].extend(place);
    std::vector<double> thicknesses;
    for (const auto& face : faces.faces)
        thicknesses.push_back(thicknessOf(structure, face));
    std::map<std::string, std::vector<Miss>> missed; // by the part
    std::set<std::string> solid;
    for (std::size_t at = 0; at < used.size(); ++at) {
        if (used[at] == 0 || faces.vertexOfPoint[at] >= 0) continue;
        const Eigen::Vector3d& place = structure.frame.points[at].place;
        double nearest = 1e300;
        int which = -1;
        for (std::size_t face = 0; face < boxes.size(); ++face) {
            const double thickness = thicknesses[face];
            const double bulge = 0.5 * (faces.faces[face].plane ? 0.0 : boxes[face].sizes().maxCoeff());
            if (boxes[face].isEmpty() || boxes[face].exteriorDistance(place) > thickness + bulge) continue;
            if (const double apart = faces.distance(int(face), place); apart < nearest && apart <= thickness) {
                nearest = apart;
                which = int(face);
            }
        }
        if (which < 0) continue;
        Eigen::Vector3d slope; // of the distance, towards the foot
        const double step = 1e-3 * nearest;
        for (int axis = 0; axis < 3; ++axis)
            slope[axis] = (faces.distance(which, place + step * Eigen::Vector3d::Unit(axis)) -
                           faces.distance(which, place - step * Eigen::Vector3d::Unit(axis))) /
                          (2.0 * step);
        const JoinedFace& face = faces.faces[static_cast<std::size_t>(which)];
        const std::string part = structure.frame.partName(structure.frame.partsOf(face).front());
        if (face.sheet < 0) solid.insert(part);
        missed[part].push_back({int(at), nearest, place - nearest * slope.normalized()});
    }
    Findings findings;
    for (const auto& [part, misses] : missed) {
        const auto& first = structure.frame.points[static_cast<std::size_t>(misses[0].point)];
        findings.push_back(warningAt(first.sentence, besideWords(structure, misses, part),
                                     fmt::format("On it {} would lie at {}; or tie it rigidly to a point there.",
                                                 first.name, placeText(misses[0].foot))));
        auto& cures = findings.back().cures;
        if (auto move = moveOnto(structure, model, misses, part)) cures.push_back(std::move(*move));
        if (solid.contains(part)) continue; // a point of it would not hold what turns
        Cure tie{fmt::format("Tie {} to {}", namesOf(structure, misses), part), {}};
        for (const Miss& miss : misses) {
            const std::string& name = structure.frame.points[static_cast<std::size_t>(miss.point)].name;
            tie.statements.push_back({"point", {}, {}, {{"name", name + "-foot"}, {"at", placeText(miss.foot)}}});
            tie.statements.push_back({"rigid", {}, {}, {{"points", name}, {"to", name + "-foot"}}});
        }
        cures.push_back(std::move(tie));
    }
    return findings;
}

Findings pointsBesideMembers(const Structure& structure, const std::vector<int>& used)
{
    const Frame& frame = structure.frame;
    if (frame.members.empty()) return {};
    const auto place = [&](int point) { return frame.points[static_cast<std::size_t>(point)].place; };
    const auto together = joinedTogether(structure);
    std::map<int, std::size_t> sizes;
    for (const int one : together)
        ++sizes[one];
    if (sizes.size() == 1) return {};
    const int largest = std::max_element(sizes.begin(), sizes.end(), [](const auto& a, const auto& b) {
                            return a.second < b.second;
                        })->first;
    double widest = 0.0;
    std::map<const Section*, double> reaches;
    for (const auto& member : frame.members)
        widest = std::max(widest, reaches.try_emplace(member.section.get(), reachOf(*member.section)).first->second);
    // Members by their place along x, so that few are measured; for the points of the largest whole only the others.
    using ByEnd = std::vector<std::pair<double, std::size_t>>;
    ByEnd all, others;
    for (std::size_t at = 0; at < frame.members.size(); ++at) {
        const FrameMember& member = frame.members[at];
        all.emplace_back(std::max(place(member.from).x(), place(member.to).x()), at);
        if (together[static_cast<std::size_t>(member.from)] != largest) others.push_back(all.back());
    }
    std::sort(all.begin(), all.end());
    std::sort(others.begin(), others.end());
    std::map<std::size_t, std::vector<Miss>> missed; // by the member
    for (std::size_t at = 0; at < frame.points.size(); ++at) {
        if (used[at] == 0) continue;
        const Eigen::Vector3d& own = frame.points[at].place;
        const ByEnd& byEnd = together[at] == largest ? others : all;
        std::optional<std::pair<std::size_t, Miss>> nearest;
        for (auto one = std::lower_bound(byEnd.begin(), byEnd.end(), std::pair(own.x() - widest, std::size_t(0)));
             one != byEnd.end(); ++one) {
            const FrameMember& member = frame.members[one->second];
            if (together[at] == together[static_cast<std::size_t>(member.from)]) continue;
            const Eigen::Vector3d from = place(member.from), along = place(member.to) - from;
            if (std::min(from.x(), from.x() + along.x()) > own.x() + widest) continue;
            const double share = std::clamp((own - from).dot(along) / along.squaredNorm(), 0.0, 1.0);
            const Eigen::Vector3d foot = from + share * along;
            const double off = (own - foot).norm();
            if (off > reaches[member.section.get()] || (nearest && off >= nearest->second.apart)) continue;
            nearest = {one->second, {int(at), off, foot}};
        }
        if (nearest) missed[nearest->first].push_back(nearest->second);
    }
    Findings findings;
    std::set<std::pair<int, int>> said; // ends beside each other are said once
    for (const auto& [which, misses] : missed) {
        const FrameMember& member = frame.members[which];
        const auto& first = frame.points[static_cast<std::size_t>(misses[0].point)];
        const Eigen::Vector3d& foot = misses[0].foot;
        const int nearEnd = (place(member.from) - foot).norm() < 0.5 * frame.length(member) ? member.from : member.to;
        const FramePoint& end = frame.points[static_cast<std::size_t>(nearEnd)];
        const bool atEnd = (end.place - foot).norm() <= reaches[member.section.get()];
        if (atEnd && misses.size() == 1 && !said.insert(std::minmax(misses[0].point, nearEnd)).second) continue;
        findings.push_back(
            warningAt(first.sentence, besideWords(structure, misses, member.name),
                      atEnd ? fmt::format("Use {} itself, or tie {} rigidly to it.", end.name, first.name)
                            : fmt::format("Members join at their points: give it one at {} and tie {} rigidly to that.",
                                          placeText(foot), first.name)));
        if (atEnd && misses.size() == 1)
            findings.back().cures = {{fmt::format("Tie {} to {}", first.name, end.name),
                                      {{"rigid", {}, {}, {{"points", first.name}, {"to", end.name}}}}}};
    }
    return findings;
}

} // namespace undisona
