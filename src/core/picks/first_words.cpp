#include "core/picks/first_words.hpp"

#include "core/picks/pick.hpp"
#include "core/shapes/joined_faces.hpp"

#include <set>

namespace undisona {

namespace {

using Names = std::array<std::string, 2>;

/// By part, the box of its faces; empty of those that are spent.
std::vector<Eigen::AlignedBox3d> boxesOf(const Frame& frame)
{
    std::vector<Eigen::AlignedBox3d> boxes(frame.parts());
    for (std::size_t face = 0; face < frame.faces->faces.size(); ++face)
        for (const int part : frame.partsOf(frame.faces->faces[face]))
            boxes[static_cast<std::size_t>(part)].extend(frame.faces->box(static_cast<int>(face)));
    return boxes;
}

std::set<std::pair<int, int>> partsThatTouch(const Frame& frame)
{
    std::set<std::pair<int, int>> pairs;
    for (const auto& edge : frame.faces->edges) {
        std::set<int> here;
        for (const int face : edge.faces)
            for (const int part : frame.partsOf(frame.faces->faces[static_cast<std::size_t>(face)]))
                here.insert(part);
        for (auto one = here.begin(); one != here.end(); ++one)
            for (auto other = std::next(one); other != here.end(); ++other)
                pairs.emplace(*one, *other);
    }
    return pairs;
}

/// The two parts that are nearest to each other; of those that touch, or that do not, where there are such.
std::optional<Names> nearestParts(const Frame& frame, bool touching)
{
    constexpr std::size_t most = 1000;
    if (!frame.faces || frame.parts() > most) return std::nullopt;
    const auto boxes = boxesOf(frame);
    const auto touch = partsThatTouch(frame);
    std::optional<Names> nearest;
    std::pair<bool, double> least{true, std::numeric_limits<double>::infinity()};
    for (std::size_t other = 1; other < boxes.size(); ++other)
        for (std::size_t one = 0; one < other; ++one) {
            if (boxes[one].isEmpty() || boxes[other].isEmpty()) continue;
            const std::pair rank(touch.contains({int(one), int(other)}) != touching,
                                 boxes[one].exteriorDistance(boxes[other]));
            if (rank >= least) continue;
            least = rank;
            // The smaller one is put on the larger one.
            std::array<std::size_t, 2> parts{other, one};
            if (boxes[other].volume() > boxes[one].volume()) std::swap(parts[0], parts[1]);
            nearest = {frame.partName(int(parts[0])), frame.partName(int(parts[1]))};
        }
    return nearest;
}

/// Two points in one place, or else the first two.
std::optional<Names> twoPoints(const Frame& frame)
{
    if (frame.points.size() < 2) return std::nullopt;
    std::map<std::array<double, 3>, std::size_t> known;
    for (std::size_t at = 0; at < frame.points.size(); ++at) {
        const auto& place = frame.points[at].place;
        const auto [first, isNew] = known.try_emplace({place.x(), place.y(), place.z()}, at);
        if (!isNew) return Names{frame.points[first->second].name, frame.points[at].name};
    }
    return Names{frame.points[0].name, frame.points[1].name};
}

std::string firstOf(const Frame& frame, Targets meant)
{
    if (meant.has(Target::solid))
        for (const auto& solid : frame.solids)
            if (!solid.spent) return solid.name;
    if (meant.has(Target::sheet) && !frame.sheets.empty()) return frame.sheets[0].name;
    if (meant.has(Target::member) && !frame.members.empty()) return frame.members[0].name;
    if (meant.has(Target::point) && !frame.points.empty()) return frame.points[0].name;
    return {};
}

} // namespace

Sentence withFirstWords(const Frame& frame, Sentence sentence)
{
    std::vector<const Field*> lost;
    for (const auto& field : sentence.kind->fields) {
        if (field.type != FieldType::where || field.optional) continue;
        const Picked picked = pick(frame, sentence.text(field.key), field.targets);
        if (!picked.problem.empty() || picked.size() == 0) lost.push_back(&field);
    }
    std::optional<Names> both;
    if (lost.size() == 2) {
        const Targets common = lost[0]->targets & lost[1]->targets;
        if (!(common & (Target::sheet | Target::solid)).none())
            both = nearestParts(frame, sentence.kind->key == "apart");
        else if (common.has(Target::point))
            both = twoPoints(frame);
    }
    for (std::size_t at = 0; at < lost.size(); ++at)
        if (const std::string name = both ? (*both)[at] : firstOf(frame, lost[at]->targets); !name.empty())
            sentence = sentence.with(lost[at]->key, quotedName(name));
    return sentence;
}

} // namespace undisona
