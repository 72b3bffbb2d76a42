#include "core/base/number_text.hpp"
#include "core/picks/edge_rules.hpp"
#include "core/picks/face_rules.hpp"
#include "core/picks/pick.hpp"
#include "core/shapes/joined_faces.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Keeps the rules that find the one and something besides it, each once, fewest first.
std::vector<std::string> worthwhile(const Frame& frame, Target target, int index, const std::vector<std::string>& rules)
{
    std::vector<std::pair<std::size_t, std::string>> kept;
    std::set<std::vector<int>> seen;
    for (const auto& rule : rules) {
        const Picked picked = pick(frame, rule, target);
        const std::vector<int>& found = picked.of(target);
        const bool holds = std::find(found.begin(), found.end(), index) != found.end();
        if (!picked.problem.empty() || !holds || found.size() < 2 || !seen.insert(found).second) continue;
        kept.emplace_back(found.size(), fmt::format("{} {}", found.size(), rule));
    }
    std::stable_sort(kept.begin(), kept.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<std::string> texts;
    for (auto& [count, text] : kept)
        texts.push_back(std::move(text));
    return texts;
}

} // namespace

std::vector<std::string> rulesLikePoint(const Frame& frame, int point)
{
    const Eigen::Vector3d& place = frame.points[static_cast<std::size_t>(point)].place;
    std::vector<std::string> rules;
    for (const auto& [name, group] : frame.groups)
        if (const auto of = name.find(" of "); of != std::string::npos && !group.points.empty())
            rules.push_back(name.substr(0, of + 4) + quotedName(name.substr(of + 4)));
    for (const int axis : {2, 0, 1})
        rules.push_back(fmt::format("points at {} = {} m", "xyz"[axis], shortest(place[axis])));
    return worthwhile(frame, Target::point, point, rules);
}

std::vector<std::string> rulesLikeMember(const Frame& frame, int member)
{
    const FrameMember& like = frame.members[static_cast<std::size_t>(member)];
    std::vector<std::string> rules;
    for (const auto& [name, group] : frame.groups)
        if (const auto of = name.find(" of "); of != std::string::npos && !group.members.empty())
            rules.push_back(name.substr(0, of + 4) + quotedName(name.substr(of + 4)));
    const Eigen::Vector3d along = frame.direction(like);
    for (int axis = 0; axis < 3; ++axis)
        if (std::abs(along[axis]) > 1.0 - 1e-9) rules.push_back(fmt::format("members along {}", "xyz"[axis]));
    if (like.section) rules.push_back("members with section " + quotedName(like.section->text));
    rules.push_back(fmt::format("members {} m long", shortest(frame.length(like))));
    return worthwhile(frame, Target::member, member, rules);
}

std::vector<std::string> rulesLikeEdge(const Frame& frame, int edge)
{
    const FaceEdge& like = frame.faces->edges[static_cast<std::size_t>(edge)];
    std::set<std::string> names;
    for (const int face : like.faces) {
        const JoinedFace& own = frame.faces->faces[static_cast<std::size_t>(face)];
        if (own.sheet >= 0) names.insert(quotedName(frame.sheets[static_cast<std::size_t>(own.sheet)].name));
        for (const int solid : own.solids)
            names.insert(quotedName(frame.solids[static_cast<std::size_t>(solid)].name));
    }
    std::vector<std::string> rules{"edges smooth with " + ruleForEdge(frame, edge)};
    for (const auto& name : names) {
        for (const char* which : {"rims", "edges", "free edges"})
            rules.push_back(fmt::format("{} of {}", which, name));
        for (int axis = 0; axis < 3; ++axis)
            if (std::all_of(like.along.begin(), like.along.end(),
                            [&](const auto& place) { return std::abs(place[axis] - like.along[0][axis]) < 1e-6; }))
                rules.push_back(fmt::format("edges at {} = {} m of {}", "xyz"[axis],
                                            shortest(std::round(like.along[0][axis] * 1e6) / 1e6 + 0.0), name));
    }
    rules.push_back("edges like " + ruleForEdge(frame, edge));
    return worthwhile(frame, Target::edge, edge, rules);
}

std::vector<std::string> rulesLikeFace(const Frame& frame, int face)
{
    const JoinedFace& like = frame.faces->faces[static_cast<std::size_t>(face)];
    if (like.solids.size() != 1) return {};
    const std::string name = quotedName(frame.solids[static_cast<std::size_t>(like.solids[0])].name);
    const auto rounded = [](double value) { return shortest(std::round(value * 1e6) / 1e6 + 0.0); };
    std::vector<std::string> rules; // what the file says before what the shape does
    if (!like.name.empty()) rules.push_back(fmt::format("faces named {} of {}", quotedName(like.name), name));
    if (like.colour) rules.push_back(fmt::format("faces of colour {} of {}", colourText(*like.colour), name));
    rules.push_back("faces smooth with " + ruleForFace(frame, face));
    if (like.radius > 0.0) rules.push_back(fmt::format("faces of radius {} m of {}", rounded(like.radius), name));
    for (int axis = 0; axis < 3 && like.plane; ++axis)
        if (std::abs(std::abs(like.plane->normal[axis]) - 1.0) < 1e-9)
            rules.push_back(
                fmt::format("faces at {} = {} m of {}", "xyz"[axis], rounded(like.plane->place[axis]), name));
    if (like.plane) rules.push_back("faces in one plane with " + ruleForFace(frame, face));
    rules.push_back("faces like " + ruleForFace(frame, face));
    rules.push_back(fmt::format("faces of {}", name));
    return worthwhile(frame, Target::face, face, rules);
}

} // namespace undisona
