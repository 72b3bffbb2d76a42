#include "core/geometry/face_rules.hpp"

#include "core/base/number_text.hpp"
#include "core/geometry/joined_faces.hpp"
#include "core/model/value.hpp"

namespace undisona {

std::optional<std::vector<int>> FaceRules::read(const std::string& term) const
{
    if (!frame_.faces || frame_.solids.empty()) return std::nullopt;
    const JoinedFaces& all = *frame_.faces;
    std::string rule = term;
    std::vector<int> solids;
    if (const auto of = rule.rfind("of "); of != std::string::npos && of > 0 && rule[of - 1] == ' ') {
        std::string name(trimmed(std::string_view(rule).substr(of + 3)));
        if (name.size() >= 2 && name.front() == '"' && name.back() == '"') name = name.substr(1, name.size() - 2);
        if (const auto group = frame_.groups.find(name); group != frame_.groups.end()) solids = group->second.solids;
        for (std::size_t at = 0; at < frame_.solids.size(); ++at)
            if (frame_.solids[at].name == name) solids = {static_cast<int>(at)};
        if (!solids.empty()) rule = std::string(trimmed(std::string_view(rule).substr(0, of)));
    }
    if (solids.empty())
        for (std::size_t at = 0; at < frame_.solids.size(); ++at)
            solids.push_back(static_cast<int>(at));
    std::vector<int> found;
    if (rule.starts_with("face nearest to ") || rule.starts_with("faces nearest to ")) {
        std::string place(trimmed(std::string_view(rule).substr(rule.find(" to ") + 4)));
        if (place.find(',') == std::string::npos)
            for (std::size_t space = 0, left = 2; left > 0 && (space = place.find(' ', space)) != std::string::npos;
                 --left)
                place.replace(space, 1, ", "), space += 2;
        const auto read = readVector(place, QuantityKind::length, NumberStyle::file);
        if (!std::holds_alternative<Vector>(read)) return std::nullopt;
        const auto& si = std::get<Vector>(read).si;
        double best = 1e300;
        for (const int face : outside(solids)) {
            const double distance = all.distance(face, {si[0], si[1], si[2]});
            if (distance > best - 1e-9) continue;
            best = distance;
            found = {face};
        }
        return found;
    }
    if (rule.starts_with("faces at ") && rule.size() > 11) {
        const int axis = rule[9] - 'x';
        const auto equals = rule.find('=');
        if (axis < 0 || axis > 2 || equals == std::string::npos) return std::nullopt;
        const auto value =
            readQuantity(std::string_view(rule).substr(equals + 1), QuantityKind::length, NumberStyle::file);
        if (!std::holds_alternative<Quantity>(value)) return std::nullopt;
        const double wanted = std::get<Quantity>(value).si;
        for (const int face : outside(solids)) {
            const JoinedFace& own = all.faces[static_cast<std::size_t>(face)];
            if (own.plane && std::abs(std::abs(own.plane->normal[axis]) - 1.0) < 1e-9 &&
                std::abs(own.plane->place[axis] - wanted) < 1e-6)
                found.push_back(face);
        }
        return found;
    }
    if (rule.starts_with("faces of radius ")) {
        const auto value = readQuantity(std::string_view(rule).substr(16), QuantityKind::length, NumberStyle::file);
        if (!std::holds_alternative<Quantity>(value)) return std::nullopt;
        for (const int face : outside(solids))
            if (std::abs(all.faces[static_cast<std::size_t>(face)].radius - std::get<Quantity>(value).si) < 1e-6)
                found.push_back(face);
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
