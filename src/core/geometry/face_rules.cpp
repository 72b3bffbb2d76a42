#include "core/geometry/face_rules.hpp"

#include "core/geometry/joined_faces.hpp"
#include "core/geometry/part_rule.hpp"

namespace undisona {

std::optional<std::vector<int>> FaceRules::read(const std::string& term) const
{
    if (!frame_.faces || frame_.solids.empty()) return std::nullopt;
    const JoinedFaces& all = *frame_.faces;
    auto [rule, name] = partRule(term);
    std::vector<int> solids;
    if (const auto group = frame_.groups.find(name); group != frame_.groups.end()) solids = group->second.solids;
    for (std::size_t at = 0; at < frame_.solids.size(); ++at)
        if (frame_.solids[at].name == name) solids = {static_cast<int>(at)};
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
    if (constexpr const char* lead = "faces of radius "; rule.starts_with(lead)) {
        const auto radius = lengthAfter(rule, lead);
        if (!radius) return std::nullopt;
        for (const int face : outside(solids))
            if (std::abs(all.faces[static_cast<std::size_t>(face)].radius - *radius) < 1e-6) found.push_back(face);
        return found;
    }
    if (rule != "faces") return std::nullopt;
    return outside(solids);
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

std::string ruleForFace(const Frame& frame, int face)
{
    std::string place = placeText(frame.faces->middle(face));
    std::erase(place, ',');
    return "face nearest to " + place;
}

} // namespace undisona
