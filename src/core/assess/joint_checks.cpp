#include "core/assess/joint_checks.hpp"

#include "core/base/alike_findings.hpp"
#include "core/base/joined_sets.hpp"
#include "core/picks/pick.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/statement/passing.hpp"
#include "core/statement/touching.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

using Sides = std::array<std::set<std::pair<Target, int>>, 2>;

/// Both sides of a joint, whichever is named first.
Sides sidesOf(const SurfaceJoint& joint)
{
    Sides sides{std::set(joint.one.begin(), joint.one.end()), std::set(joint.other.begin(), joint.other.end())};
    for (const int edge : joint.edges)
        sides[0].emplace(Target::edge, edge);
    for (const auto& line : joint.members)
        sides[0].emplace(Target::member, line.member);
    if (sides[1] < sides[0]) std::swap(sides[0], sides[1]);
    return sides;
}

std::string quoteOf(const Model& model, const std::string& sentence)
{
    const SentencePtr said = model.sentence(sentence);
    return said ? "\"" + wordsOf(*said) + "\"" : "another sentence";
}

void jointsSaidTwice(const Structure& structure, const Model& model, Findings& findings)
{
    std::map<Sides, const SurfaceJoint*> known;
    for (const auto& joint : structure.surfaceJoints) {
        const auto [first, isNew] = known.try_emplace(sidesOf(joint), &joint);
        if (isNew) continue;
        const SurfaceJoint& before = *first->second;
        const std::string other = quoteOf(model, before.sentence);
        const bool springs = joint.springs.has_value(), springsBefore = before.springs.has_value();
        findings.push_back(
            springs && springsBefore
                ? warningAt(joint.sentence, fmt::format("{} has springs between the same two sides; both count", other),
                            "Take one of them away, if it is the same layer.")
            : springs || springsBefore
                ? warningAt(
                      joint.sentence,
                      fmt::format("{} is said of the same two sides: what is joined does not move on springs", other),
                      "Take the one away that does not hold.")
                : warningAt(joint.sentence, fmt::format("{} says the same of these two sides", other),
                            "Take one of them away."));
    }
    std::map<std::pair<int, int>, const Spring*> between;
    for (const auto& spring : structure.springs) {
        const auto [first, isNew] = between.try_emplace(std::minmax(spring.from, spring.to), &spring);
        if (isNew) continue;
        const auto nameOf = [&](int point) { return structure.frame.points[static_cast<std::size_t>(point)].name; };
        findings.push_back(
            warningAt(spring.sentence,
                      fmt::format("{} stands between {} and {} too; both count",
                                  quoteOf(model, first->second->sentence), nameOf(spring.from), nameOf(spring.to)),
                      "Take one of them away, if it is the same spring."));
    }
}

/// What belongs together: points, then sheets and solids.
class Wholes {
public:
    explicit Wholes(const Structure& structure)
        : structure_(structure), frame_(structure.frame), points_(static_cast<int>(frame_.points.size())),
          sets_(frame_.points.size() + frame_.parts())
    {
        for (const auto& member : frame_.members)
            sets_.join(member.from, member.to);
        if (frame_.faces) pointsOnParts();
        for (const auto& pair : touchingParts(structure))
            if (pair.joined) sets_.join(points_ + pair.first, points_ + pair.second);
        for (const auto& tie : structure.ties)
            joinAll({{Target::point, tie.leader}, {tie.on, tie.at}});
        for (const auto& mean : structure.means) {
            auto all = mean.of;
            all.emplace_back(Target::point, mean.point);
            joinAll(all);
        }
        for (const auto& spring : structure.springs)
            sets_.join(spring.from, spring.to);
        for (const auto& joint : structure.surfaceJoints) {
            std::vector<std::pair<Target, int>> all = joint.one;
            all.insert(all.end(), joint.other.begin(), joint.other.end());
            for (const int edge : joint.edges)
                all.emplace_back(Target::edge, edge);
            for (const auto& line : joint.members)
                all.emplace_back(Target::member, line.member);
            joinAll(all);
        }
        for (const auto& hold : structure.holds)
            hold_(hold.on, hold.at);
        for (const auto& contact : structure.contacts)
            if (contact.other >= 0)
                sets_.join(contact.point, contact.other);
            else if (contact.over)
                hold_(contact.over->first, contact.over->second);
            else
                hold_(Target::point, contact.point);
        for (const auto& own : structure.attachments)
            if (own.effect == Attachment::Effect::stiffness) hold_(own.over, own.at);
    }

    /// By whole that has a member or a part: the sentences that made it, in their order.
    std::map<int, std::vector<std::string>> madeBy()
    {
        std::map<int, std::vector<std::string>> made;
        const auto note = [&](int thing, const std::string& sentence) {
            auto& list = made[sets_.of(thing)];
            if (std::find(list.begin(), list.end(), sentence) == list.end()) list.push_back(sentence);
        };
        for (const auto& member : frame_.members)
            note(member.from, member.sentence);
        for (std::size_t part = 0; part < frame_.parts(); ++part)
            if (!isSpent(part)) note(points_ + static_cast<int>(part), frame_.partSentence(static_cast<int>(part)));
        return made;
    }
    bool isHeld(int whole)
    {
        return std::any_of(held_.begin(), held_.end(), [&](int thing) { return sets_.of(thing) == whole; });
    }
    /// The part of a whole, and one of another, that are nearest to each other, with their distance by their boxes.
    std::optional<std::pair<double, std::array<int, 2>>> nearest(int whole)
    {
        if (!frame_.faces) return std::nullopt;
        std::vector<Eigen::AlignedBox3d> boxes(frame_.parts());
        for (std::size_t face = 0; face < frame_.faces->faces.size(); ++face)
            for (const int part : frame_.partsOf(frame_.faces->faces[face]))
                boxes[static_cast<std::size_t>(part)].extend(frame_.faces->box(static_cast<int>(face)));
        std::optional<std::pair<double, std::array<int, 2>>> found;
        for (std::size_t own = 0; own < boxes.size(); ++own)
            for (std::size_t other = 0; other < boxes.size(); ++other) {
                const int one = static_cast<int>(own), two = static_cast<int>(other);
                if (boxes[own].isEmpty() || boxes[other].isEmpty() || sets_.of(points_ + one) != whole ||
                    sets_.of(points_ + two) == whole)
                    continue;
                const double apart = boxes[own].exteriorDistance(boxes[other]);
                if (!found || apart < found->first) found = {apart, {one, two}};
            }
        return found;
    }

private:
    bool isSpent(std::size_t part) const
    {
        return part >= frame_.sheets.size() && frame_.solids[part - frame_.sheets.size()].spent;
    }

    /// Those that something is or has.
    std::vector<int> thingsOf(Target target, int at) const
    {
        const auto index = static_cast<std::size_t>(at);
        std::vector<int> parts;
        switch (target) {
        case Target::point:
            return {at};
        case Target::member:
            return {frame_.members[index].from};
        case Target::sheet:
            return {points_ + at};
        case Target::solid:
            return {points_ + frame_.partOfSolid(at)};
        case Target::edge:
            parts =
                frame_.partsOf(frame_.faces->faces[static_cast<std::size_t>(frame_.faces->edges[index].faces.front())]);
            break;
        case Target::face:
            parts = frame_.partsOf(frame_.faces->faces[index]);
            break;
        }
        for (int& part : parts)
            part += points_;
        return parts;
    }

    void joinAll(const std::vector<std::pair<Target, int>>& all)
    {
        std::optional<int> first;
        for (const auto& [target, at] : all)
            for (const int thing : thingsOf(target, at)) {
                if (first) sets_.join(*first, thing);
                first = thing;
            }
    }

    void hold_(Target target, int at)
    {
        for (const int thing : thingsOf(target, at))
            held_.push_back(thing);
    }

    void pointsOnParts()
    {
        const JoinedFaces& faces = *frame_.faces;
        std::map<int, std::vector<int>> pointsAt;
        for (std::size_t point = 0; point < faces.vertexOfPoint.size(); ++point)
            if (faces.vertexOfPoint[point] >= 0 && !structure_.carried.contains(static_cast<int>(point)))
                pointsAt[faces.vertexOfPoint[point]].push_back(static_cast<int>(point));
        const auto on = [&](int vertex, const JoinedFace& face) {
            const auto here = pointsAt.find(vertex);
            if (here == pointsAt.end()) return;
            for (const int point : here->second)
                for (const int part : frame_.partsOf(face))
                    sets_.join(point, points_ + part);
        };
        for (const auto& edge : faces.edges)
            for (const int face : edge.faces)
                for (const int vertex : {edge.first, edge.last})
                    on(vertex, faces.faces[static_cast<std::size_t>(face)]);
        for (const auto& face : faces.faces)
            for (const int vertex : face.innerVertices)
                on(vertex, face);
    }

    const Structure& structure_;
    const Frame& frame_;
    int points_;
    JoinedSets sets_;
    std::vector<int> held_;
};

/// Parts that neither a joint nor a support holds, where something else is held, or stands alone as they do.
void joinedToNothing(const Structure& structure, const Model& model, Findings& findings)
{
    if (structure.frame.faces && structure.frame.faces->given) return; // which are known by their nodes alone
    Wholes wholes(structure);
    const auto made = wholes.madeBy();
    constexpr std::size_t most = 200; // of so many it is no oversight
    if (made.size() < 2 || made.size() > most) return;
    const bool any = std::any_of(made.begin(), made.end(), [&](const auto& own) { return wholes.isHeld(own.first); });
    bool first = true;
    for (const auto& [whole, sentences] : made) {
        const bool stays = any ? wholes.isHeld(whole) : std::exchange(first, false);
        if (stays) continue;
        std::vector<std::string> names;
        for (const auto& sentence : sentences) {
            const SentencePtr said = model.sentence(sentence);
            names.push_back(said && said->has("name") ? said->text("name") : sentence);
        }
        const bool one = names.size() == 1;
        findings.push_back(warningAt(
            sentences.front(),
            fmt::format("{} {} joined to nothing{}", someOf(names), one ? "is" : "are", any ? " that is held" : ""),
            one ? "Join it, hold it, or leave it if it is to move by itself."
                : "Join them, hold them, or leave them if they are to move by themselves."));
        const auto near = wholes.nearest(whole);
        constexpr double far = 0.1; // of the whole, beyond which something else is meant
        if (!near || near->first > far * structure.frame.span()) continue;
        const std::string own = structure.frame.partName(near->second[0]),
                          other = structure.frame.partName(near->second[1]);
        findings.back().cures = {{fmt::format("Join {} to {}", own, other),
                                  {{"join", {}, {}, {{"what", quotedName(own)}, {"other", quotedName(other)}}}}}};
    }
}

/// Members that go through a part without a word of it.
void membersThroughParts(const Structure& structure, Findings& findings)
{
    constexpr std::size_t most = 20; // of so many it is meant
    const auto passing = membersPassing(structure);
    if (passing.size() > most) return;
    for (const auto& [member, part, place] : passing) {
        const FrameMember& own = structure.frame.members[static_cast<std::size_t>(member)];
        const std::string& other = structure.frame.partName(part);
        findings.push_back(warningAt(
            own.sentence,
            fmt::format("{} goes through {} at {} and is not joined to it", own.name, other, placeText(place)),
            "Join them, or cut a hole where it goes through freely."));
        findings.back().cures = {{fmt::format("Join {} to {}", own.name, other),
                                  {{"join", {}, {}, {{"what", quotedName(own.name)}, {"other", quotedName(other)}}}}}};
    }
}

} // namespace

Findings checkJoints(const Structure& structure, const Model& model)
{
    Findings findings;
    jointsSaidTwice(structure, model, findings);
    joinedToNothing(structure, model, findings);
    membersThroughParts(structure, findings);
    return findings;
}

} // namespace undisona
