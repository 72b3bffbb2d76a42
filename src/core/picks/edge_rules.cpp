#include "core/picks/edge_rules.hpp"

#include "core/picks/likeness.hpp"
#include "core/picks/part_rule.hpp"
#include "core/shapes/joined_faces.hpp"

#include <set>

namespace undisona {

std::optional<std::vector<int>> EdgeRules::read(const std::string& term) const
{
    if (!frame_.faces) return std::nullopt;
    const auto& all = frame_.faces->edges;
    auto [rule, name] = partRule(term);
    Parts parts;
    if (const auto group = frame_.groups.find(name); group != frame_.groups.end())
        parts = {group->second.sheets, group->second.solids};
    for (std::size_t at = 0; at < frame_.sheets.size(); ++at)
        if (frame_.sheets[at].name == name) parts = {{static_cast<int>(at)}, {}};
    for (std::size_t at = 0; at < frame_.solids.size(); ++at)
        if (frame_.solids[at].name == name && !frame_.solids[at].spent) parts = {{}, {static_cast<int>(at)}};
    if (parts.sheets.empty() && parts.solids.empty()) {
        rule = term; // "rims of radius 20 mm" of any
        for (std::size_t at = 0; at < frame_.sheets.size(); ++at)
            parts.sheets.push_back(static_cast<int>(at));
        for (std::size_t at = 0; at < frame_.solids.size() && frame_.sheets.empty(); ++at)
            parts.solids.push_back(static_cast<int>(at));
    }
    std::vector<int> found;
    if (const NearestTo nearest = nearestTo(rule, "edge"); nearest.meant) {
        if (!nearest.place) return std::nullopt;
        const Eigen::Vector3d& wanted = *nearest.place;
        double best = 1e300;
        for (std::size_t at = 0; at < all.size(); ++at)
            for (std::size_t part = 0; part + 1 < all[at].along.size(); ++part) {
                const Eigen::Vector3d &a = all[at].along[part], &b = all[at].along[part + 1];
                const double share = std::clamp((wanted - a).dot(b - a) / (b - a).squaredNorm(), 0.0, 1.0);
                const double distance = (a + share * (b - a) - wanted).norm();
                if (distance > best - 1e-9) continue;
                best = distance;
                found = {static_cast<int>(at)};
            }
        return found;
    }
    if (const AtCoordinate at = atCoordinate(rule, "edges"); at.meant) {
        if (!at.value) return std::nullopt;
        for (const int edge : outline(parts)) {
            const auto& along = all[static_cast<std::size_t>(edge)].along;
            if (std::all_of(along.begin(), along.end(),
                            [&](const auto& place) { return std::abs(place[at.axis] - *at.value) < 1e-6; }))
                found.push_back(edge);
        }
        return found;
    }
    if (constexpr const char* lead = "edges smooth with "; rule.starts_with(lead)) {
        const auto start = read(rule.substr(std::string_view(lead).size()));
        if (!start) return std::nullopt;
        return smoothWith(*start);
    }
    if (constexpr const char* lead = "edges like "; rule.starts_with(lead)) {
        const auto start = read(rule.substr(std::string_view(lead).size()));
        if (!start) return std::nullopt;
        return allLike(frame_, Target::edge, *start);
    }
    double radius = 0.0;
    if (constexpr const char* lead = "rims of radius "; rule.starts_with(lead)) {
        const auto stated = lengthAfter(rule, lead);
        if (!stated) return std::nullopt;
        radius = *stated;
        rule = "rims";
    }
    if (rule != "edges" && rule != "free edges" && rule != "rims") return std::nullopt;
    for (const int edge : outline(parts))
        if (isRim(edge, parts, radius) == (rule == "rims") && (rule != "free edges" || ofOneSheet(edge)))
            found.push_back(edge);
    return found;
}

std::vector<int> EdgeRules::smoothWith(std::vector<int> found) const
{
    constexpr double smooth = 0.996; // cosine of 5 degrees
    const JoinedFaces& all = *frame_.faces;
    std::map<int, std::vector<int>> at; // by vertex
    for (std::size_t edge = 0; edge < all.edges.size(); ++edge)
        for (const int vertex : {all.edges[edge].first, all.edges[edge].last})
            at[vertex].push_back(static_cast<int>(edge));
    const auto leaving = [&](int edge, int vertex) {
        const bool first = all.edges[static_cast<std::size_t>(edge)].first == vertex;
        const auto on = [&](double share) { return all.onEdge(edge, first ? share : 1.0 - share); };
        return Eigen::Vector3d((on(0.01) - on(0.0)).normalized());
    };
    std::set<int> seen(found.begin(), found.end());
    for (std::size_t next = 0; next < found.size(); ++next) {
        const FaceEdge& own = all.edges[static_cast<std::size_t>(found[next])];
        if (own.first == own.last) continue;
        for (const int vertex : {own.first, own.last})
            for (const int other : at[vertex]) {
                const FaceEdge& candidate = all.edges[static_cast<std::size_t>(other)];
                if (candidate.first == candidate.last || seen.contains(other)) continue;
                if (leaving(found[next], vertex).dot(leaving(other, vertex)) > -smooth) continue;
                seen.insert(other);
                found.push_back(other);
            }
    }
    return found;
}

std::string ruleForEdge(const Frame& frame, int edge)
{
    const auto& along = frame.faces->edges[static_cast<std::size_t>(edge)].along;
    const Eigen::Vector3d middle =
        along.size() == 2 ? Eigen::Vector3d((along[0] + along[1]) / 2.0) : along[along.size() / 2];
    std::string place = placeText(middle);
    std::erase(place, ',');
    return "edge nearest to " + place;
}

std::vector<int> EdgeRules::outline(const Parts& parts) const
{
    std::vector<int> found;
    const auto& faces = *frame_.faces;
    for (std::size_t at = 0; at < faces.edges.size(); ++at) {
        std::map<int, int> uses;              // by sheet: twice is a seam, or a line that parts its faces
        std::map<int, std::set<int>> ofSolid; // faces: one alone is a seam
        for (const int face : faces.edges[at].faces) {
            const auto& own = faces.faces[static_cast<std::size_t>(face)];
            ++uses[own.sheet];
            for (const int solid : own.solids)
                ofSolid[solid].insert(face);
        }
        const bool bounds = std::any_of(parts.sheets.begin(), parts.sheets.end(),
                                        [&](int sheet) { return uses.contains(sheet) && uses[sheet] == 1; }) ||
                            std::any_of(parts.solids.begin(), parts.solids.end(), [&](int solid) {
                                return ofSolid.contains(solid) && ofSolid[solid].size() > 1;
                            });
        if (bounds) found.push_back(static_cast<int>(at));
    }
    return found;
}

namespace {

/// Whether a line runs along a hole's rim: its places from end to end, and what lies between.
bool liesOn(const std::vector<Eigen::Vector3d>& along, const FlatPanel& panel, const Outline& hole)
{
    const auto drawn = hole.drawn();
    const auto near = [&](const Eigen::Vector3d& place) {
        const Eigen::Vector3d off = panel.axes.transpose() * (place - panel.origin);
        if (std::abs(off.z()) > 1e-6) return false;
        const Eigen::Vector2d own = off.head<2>();
        if (hole.isCircle()) return std::abs((own - hole.centre).norm() - hole.radius) < 1e-6;
        for (std::size_t at = 0; at < drawn.size(); ++at) {
            const Eigen::Vector2d &a = drawn[at], way = drawn[(at + 1) % drawn.size()] - a;
            const double share = std::clamp((own - a).dot(way) / way.squaredNorm(), 0.0, 1.0);
            // Drawn arcs lie within a thousandth of their chord's height.
            if ((a + share * way - own).norm() < 1e-6 + 0.02 * way.norm()) return true;
        }
        return false;
    };
    return std::all_of(along.begin(), along.end(), near) &&
           (along.size() > 2 || near((along.front() + along.back()) / 2.0));
}

} // namespace

bool EdgeRules::boundsHole(int edge, const Parts& parts) const
{
    for (const int face : frame_.faces->edges[static_cast<std::size_t>(edge)].faces) {
        const auto& own = frame_.faces->faces[static_cast<std::size_t>(face)];
        const bool meant =
            std::any_of(own.solids.begin(), own.solids.end(),
                        [&](int solid) {
                            return std::find(parts.solids.begin(), parts.solids.end(), solid) != parts.solids.end();
                        }) ||
            (own.sheet >= 0 && !frame_.sheets[static_cast<std::size_t>(own.sheet)].kept.empty() &&
             std::find(parts.sheets.begin(), parts.sheets.end(), own.sheet) != parts.sheets.end());
        for (std::size_t loop = 1; meant && loop < own.loops.size(); ++loop)
            for (const auto& use : own.loops[loop])
                if (use.edge == edge) return true;
    }
    return false;
}

bool EdgeRules::isRim(int edge, const Parts& parts, double radius) const
{
    const auto& along = frame_.faces->edges[static_cast<std::size_t>(edge)].along;
    if (boundsHole(edge, parts)) {
        if (radius <= 0.0) return true;
        if (along.size() < 4) return false;
        // The circle through three of its places.
        const std::size_t last = along.size() - 1;
        const Eigen::Vector3d p = along[0], a = along[last / 3] - p, b = along[2 * last / 3] - p;
        const double twice = a.cross(b).norm();
        if (twice > 0.0 && std::abs(a.norm() * b.norm() * (a - b).norm() / (2.0 * twice) - radius) < 1e-6) return true;
    }
    for (const int sheet : parts.sheets)
        for (const auto& panel : frame_.sheets[static_cast<std::size_t>(sheet)].flat)
            for (const auto& hole : panel.holes) {
                if (radius > 0.0 && !(hole.isCircle() && std::abs(hole.radius - radius) < 1e-6)) continue;
                if (liesOn(along, panel, hole)) return true;
            }
    return false;
}

bool EdgeRules::ofOneSheet(int edge) const
{
    std::set<int> sheets;
    for (const int face : frame_.faces->edges[static_cast<std::size_t>(edge)].faces)
        sheets.insert(frame_.faces->faces[static_cast<std::size_t>(face)].sheet);
    return sheets.size() == 1;
}

} // namespace undisona
