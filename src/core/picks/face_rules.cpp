#include "core/picks/face_rules.hpp"

#include "core/base/number_text.hpp"
#include "core/picks/likeness.hpp"
#include "core/picks/part_rule.hpp"
#include "core/shapes/joined_faces.hpp"

#include <fmt/format.h>

#include <set>

namespace undisona {

std::optional<std::vector<int>> FaceRules::read(const std::string& term) const
{
    if (!frame_.faces || frame_.solids.empty()) return std::nullopt;
    const JoinedFaces& all = *frame_.faces;
    auto [rule, name] = partRule(term);
    std::vector<int> solids;
    if (const auto group = frame_.groups.find(name); group != frame_.groups.end()) solids = group->second.solids;
    for (std::size_t at = 0; at < frame_.solids.size(); ++at)
        if (frame_.solids[at].name == name && !frame_.solids[at].spent) solids = {static_cast<int>(at)};
    if (solids.empty()) {
        rule = term; // "faces of radius 20 mm" of any
        for (std::size_t at = 0; at < frame_.solids.size(); ++at)
            solids.push_back(static_cast<int>(at));
    }
    std::vector<int> found;
    if (const NearestTo nearest = nearestTo(rule, "face"); nearest.meant) {
        if (!nearest.place) return std::nullopt;
        double best = 1e300;
        for (const int face : outside(solids)) {
            const double distance = all.distance(face, *nearest.place);
            if (distance > best - 1e-9) continue;
            best = distance;
            found = {face};
        }
        return found;
    }
    if (const AtCoordinate at = atCoordinate(rule, "faces"); at.meant) {
        if (!at.value) return std::nullopt;
        for (const int face : outside(solids)) {
            const JoinedFace& own = all.faces[static_cast<std::size_t>(face)];
            if (own.plane && std::abs(std::abs(own.plane->normal[at.axis]) - 1.0) < 1e-9 &&
                std::abs(own.plane->place[at.axis] - *at.value) < 1e-6)
                found.push_back(face);
        }
        return found;
    }
    if (constexpr const char* lead = "faces smooth with "; rule.starts_with(lead)) {
        const auto start = read(rule.substr(std::string_view(lead).size()));
        if (!start) return std::nullopt;
        return smoothWith(*start);
    }
    if (constexpr const char* lead = "faces like "; rule.starts_with(lead)) {
        const auto start = read(rule.substr(std::string_view(lead).size()));
        if (!start) return std::nullopt;
        return allLike(frame_, Target::face, *start);
    }
    if (constexpr const char* lead = "faces in one plane with "; rule.starts_with(lead)) {
        const auto start = read(rule.substr(std::string_view(lead).size()));
        if (!start) return std::nullopt;
        for (const int face : outside(solids)) {
            const auto& plane = all.faces[static_cast<std::size_t>(face)].plane;
            const bool alike = plane && std::any_of(start->begin(), start->end(), [&](int other) {
                                   const auto& own = all.faces[static_cast<std::size_t>(other)].plane;
                                   return own && std::abs(std::abs(own->normal.dot(plane->normal)) - 1.0) < 1e-9 &&
                                          std::abs((plane->place - own->place).dot(own->normal)) < 1e-6;
                               });
            if (alike) found.push_back(face);
        }
        return found;
    }
    if (constexpr const char* lead = "faces of radius "; rule.starts_with(lead)) {
        const auto radius = lengthAfter(rule, lead);
        if (!radius) return std::nullopt;
        for (const int face : outside(solids))
            if (std::abs(all.faces[static_cast<std::size_t>(face)].radius - *radius) < 1e-6) found.push_back(face);
        return found;
    }
    if (constexpr const char* lead = "faces named "; rule.starts_with(lead)) {
        std::string wanted(trimmed(std::string_view(rule).substr(std::string_view(lead).size())));
        if (wanted.size() >= 2 && wanted.front() == '"' && wanted.back() == '"')
            wanted = wanted.substr(1, wanted.size() - 2);
        for (const int face : outside(solids))
            if (all.faces[static_cast<std::size_t>(face)].name == wanted) found.push_back(face);
        return found;
    }
    if (constexpr const char* lead = "faces of colour "; rule.starts_with(lead)) {
        const std::string wanted(trimmed(std::string_view(rule).substr(std::string_view(lead).size())));
        for (const int face : outside(solids))
            if (const auto& own = all.faces[static_cast<std::size_t>(face)];
                own.colour && colourText(*own.colour) == wanted)
                found.push_back(face);
        return found;
    }
    if (rule != "faces") return std::nullopt;
    return outside(solids);
}

std::vector<int> FaceRules::smoothWith(std::vector<int> found) const
{
    const JoinedFaces& all = *frame_.faces;
    constexpr double smooth = 0.996; // cosine of 5 degrees
    const auto normalBeside = [&](int face, int edge) -> std::optional<Eigen::Vector3d> {
        const auto& own = all.faces[static_cast<std::size_t>(face)];
        for (std::size_t loop = 0; loop < own.loops.size(); ++loop)
            for (std::size_t use = 0; use < own.loops[loop].size(); ++use)
                if (own.loops[loop][use].edge == edge) {
                    const bool backwards = own.loops[loop][use].backwards; // the same place from both faces
                    return all.normalBeside(face, static_cast<int>(loop), static_cast<int>(use), backwards ? 0.6 : 0.4);
                }
        return std::nullopt;
    };
    std::set<int> seen(found.begin(), found.end());
    for (std::size_t next = 0; next < found.size(); ++next)
        for (const auto& loop : all.faces[static_cast<std::size_t>(found[next])].loops)
            for (const auto& use : loop)
                for (const int other : all.edges[static_cast<std::size_t>(use.edge)].faces) {
                    if (seen.contains(other) || all.faces[static_cast<std::size_t>(other)].solids.size() != 1) continue;
                    const auto one = normalBeside(found[next], use.edge), two = normalBeside(other, use.edge);
                    if (!one || !two || std::abs(one->dot(*two)) < smooth) continue;
                    seen.insert(other);
                    found.push_back(other);
                }
    return found;
}

std::vector<int> FaceRules::outside(const std::vector<int>& solids) const
{
    std::vector<int> found;
    for (std::size_t face = 0; face < frame_.faces->faces.size(); ++face) {
        const auto& of = frame_.faces->faces[face].solids;
        if (of.size() == 1 && std::find(solids.begin(), solids.end(), of[0]) != solids.end())
            found.push_back(static_cast<int>(face));
    }
    return found;
}

std::string colourText(const Eigen::Vector3d& colour)
{
    const auto part = [](double value) { return std::lround(255.0 * std::clamp(value, 0.0, 1.0)); };
    return fmt::format("#{:02x}{:02x}{:02x}", part(colour.x()), part(colour.y()), part(colour.z()));
}

std::string ruleForFace(const Frame& frame, int face)
{
    std::string place = placeText(frame.faces->middle(face));
    std::erase(place, ',');
    return "face nearest to " + place;
}

} // namespace undisona
