#include "core/base/number_text.hpp"
#include "core/geometry/joined_faces.hpp"
#include "core/geometry/pick.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Keeps the rules that find `index` and something besides it, each once, fewest first.
std::vector<std::string> worthwhile(const Frame& frame, int index, const std::vector<std::string>& rules, bool points)
{
    std::vector<std::pair<std::size_t, std::string>> kept;
    std::set<std::vector<int>> seen;
    for (const auto& rule : rules) {
        const Picked picked = points ? pickPoints(frame, rule) : pickMembers(frame, rule);
        const bool holds = std::find(picked.indices.begin(), picked.indices.end(), index) != picked.indices.end();
        if (!picked.problem.empty() || !holds || picked.indices.size() < 2 || !seen.insert(picked.indices).second)
            continue;
        kept.emplace_back(picked.indices.size(), fmt::format("{} {}", picked.indices.size(), rule));
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
    return worthwhile(frame, point, rules, true);
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
    return worthwhile(frame, member, rules, false);
}

std::vector<std::string> rulesLikeEdge(const Frame& frame, int edge)
{
    const FaceEdge& like = frame.faces->edges[static_cast<std::size_t>(edge)];
    std::set<std::string> names;
    for (const int face : like.faces)
        names.insert(quotedName(
            frame.sheets[static_cast<std::size_t>(frame.faces->faces[static_cast<std::size_t>(face)].sheet)].name));
    std::vector<std::string> rules;
    for (const auto& name : names) {
        for (const char* which : {"rims", "edges", "free edges"})
            rules.push_back(fmt::format("{} of {}", which, name));
        for (int axis = 0; axis < 3; ++axis)
            if (std::all_of(like.along.begin(), like.along.end(),
                            [&](const auto& place) { return std::abs(place[axis] - like.along[0][axis]) < 1e-6; }))
                rules.push_back(fmt::format("edges at {} = {} m of {}", "xyz"[axis],
                                            shortest(std::round(like.along[0][axis] * 1e6) / 1e6 + 0.0), name));
    }
    std::vector<std::pair<std::size_t, std::string>> kept;
    std::set<std::vector<int>> seen;
    for (const auto& rule : rules) {
        const Picked picked = pickPoints(frame, rule);
        if (std::find(picked.edges.begin(), picked.edges.end(), edge) == picked.edges.end() ||
            picked.edges.size() < 2 || !seen.insert(picked.edges).second)
            continue;
        kept.emplace_back(picked.edges.size(), fmt::format("{} {}", picked.edges.size(), rule));
    }
    std::stable_sort(kept.begin(), kept.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<std::string> texts;
    for (auto& [count, text] : kept)
        texts.push_back(std::move(text));
    return texts;
}

} // namespace undisona
