#include "core/shapes/whole_turn.hpp"

#include "core/base/same_place.hpp"

#include <Eigen/Geometry>

#include <algorithm>
#include <map>
#include <numbers>
#include <set>

namespace undisona {

Eigen::Vector3d WholeTurn::turned(const Eigen::Vector3d& start, double angle) const
{
    return place + Eigen::AngleAxisd(angle, axis) * (start - place);
}

namespace {

struct Circle {
    Eigen::Vector3d centre, normal; ///< the way it runs round, as a right-hand screw
    double radius;
};

std::optional<Circle> circleOf(const JoinedFaces& faces, int edge)
{
    const auto& own = faces.edges[static_cast<std::size_t>(edge)];
    if (own.first != own.last) return std::nullopt;
    const auto at = [&](double share) { return faces.onEdge(edge, share); };
    Circle circle{(at(0.0) + at(0.5)) / 2.0, {}, (at(0.0) - at(0.5)).norm() / 2.0};
    circle.normal = (at(0.0) - circle.centre).cross(at(0.25) - circle.centre).normalized();
    for (const double share : {0.125, 0.25, 0.4, 0.625, 0.8}) {
        const Eigen::Vector3d out = at(share) - circle.centre;
        if (std::abs(out.norm() - circle.radius) > touching || std::abs(out.dot(circle.normal)) > touching)
            return std::nullopt;
    }
    return circle;
}

/// The circles about a face that a line makes by a whole turn, one where it ends on the axis; none of another face.
std::vector<int> rimsOf(const JoinedFace& face)
{
    std::map<int, int> uses;
    std::size_t all = 0;
    for (const auto& loop : face.loops)
        for (const auto& use : loop) {
            ++uses[use.edge];
            ++all;
        }
    std::vector<int> rims;
    for (const auto& [edge, count] : uses)
        if (count == 1) rims.push_back(edge);
    const bool flatRing = face.plane && face.loops.size() == 2 && all == 2 && rims.size() == 2;
    const bool withSeam = face.loops.size() == 1 && all == 4 && uses.size() == 3 && rims.size() == 2;
    const bool toAxis = face.loops.size() == 1 && all == 1;
    if (!flatRing && !withSeam && !toAxis) rims.clear();
    return rims;
}

} // namespace

std::optional<WholeTurn> wholeTurnOf(const JoinedFaces& faces, const JoinedSolid& body)
{
    std::map<int, std::vector<int>> facesAt; // by circle
    std::vector<std::pair<int, std::vector<int>>> rims;
    for (const int at : body.faces) {
        const JoinedFace& face = faces.faces[static_cast<std::size_t>(at)];
        if (face.solids.size() != 1 || face.sheet >= 0 || !face.innerEdges.empty() || !face.innerVertices.empty())
            return std::nullopt;
        auto own = rimsOf(face);
        if (own.empty()) return std::nullopt;
        for (const int rim : own)
            facesAt[rim].push_back(at);
        rims.emplace_back(at, std::move(own));
    }
    std::optional<Circle> first;
    WholeTurn turn{};
    Eigen::Vector3d out = Eigen::Vector3d::Zero(); // where the outline lies
    for (const auto& [rim, beside] : facesAt) {
        const auto circle = circleOf(faces, rim);
        if (!circle || beside.size() != 2 || beside[0] == beside[1]) return std::nullopt;
        const Eigen::Vector3d start = faces.onEdge(rim, 0.0) - circle->centre;
        if (!first) {
            first = circle;
            out = start.normalized();
        }
        const Eigen::Vector3d off = circle->centre - first->centre;
        if ((off - off.dot(first->normal) * first->normal).norm() > touching ||
            std::abs(std::abs(circle->normal.dot(first->normal)) - 1.0) > 1e-9 ||
            (start - circle->radius * out).norm() > touching)
            return std::nullopt;
        turn.around = std::max(turn.around, 2.0 * std::numbers::pi * circle->radius);
    }
    if (!first) return std::nullopt;
    turn.place = first->centre;
    turn.axis = first->normal;
    // From the axis on where the outline meets it, or from any circle.
    const auto begin =
        std::find_if(rims.begin(), rims.end(), [](const auto& entry) { return entry.second.size() == 1; });
    const bool meets = begin != rims.end();
    const auto& start = meets ? *begin : rims.front();
    turn.parts.push_back({start.first, meets ? -1 : start.second[0], meets ? start.second[0] : start.second[1]});
    std::set<int> taken{start.first};
    while (turn.parts.back().to >= 0) {
        const int rim = turn.parts.back().to;
        const auto& beside = facesAt.at(rim);
        const int next = beside[0] == turn.parts.back().face ? beside[1] : beside[0];
        if (!taken.insert(next).second) break; // round to the first
        const auto& own =
            std::find_if(rims.begin(), rims.end(), [&](const auto& entry) { return entry.first == next; })->second;
        turn.parts.push_back({next, rim, own.size() == 1 ? -1 : own[0] == rim ? own[1] : own[0]});
    }
    const bool closes = meets ? turn.parts.back().to < 0 : turn.parts.back().to == turn.parts.front().from;
    if (turn.parts.size() != body.faces.size() || !closes)
        return std::nullopt; // a hollow inside has an outline of its own
    // Every line has to lie where the outline does.
    for (const auto& part : turn.parts)
        for (const double share : {0.2, 0.5, 0.8}) {
            const Eigen::Vector3d off = onOutline(faces, turn, part, share) - turn.place;
            const Eigen::Vector3d across = off - off.dot(turn.axis) * turn.axis;
            if ((across - across.norm() * out).norm() > touching) return std::nullopt;
            const Eigen::Vector3d beyond = turn.turned(turn.place + off, 2.0);
            if (faces.distance(part.face, beyond) > touching) return std::nullopt;
        }
    return turn;
}

Eigen::Vector3d onOutline(const JoinedFaces& faces, const WholeTurn& turn, const WholeTurn::Part& part, double share)
{
    const JoinedFace& face = faces.faces[static_cast<std::size_t>(part.face)];
    const auto startOf = [&](int rim) { return faces.onEdge(rim, 0.0); };
    const auto onAxis = [&](const Eigen::Vector3d& place) {
        return Eigen::Vector3d(turn.place + (place - turn.place).dot(turn.axis) * turn.axis);
    };
    if (part.from < 0 || part.to < 0) {
        const int rim = std::max(part.from, part.to);
        const double fromAxis = part.from < 0 ? share : 1.0 - share; // 0 on the axis
        if (face.plane) return onAxis(startOf(rim)) + fromAxis * (startOf(rim) - onAxis(startOf(rim)));
        return faces.place(part.face, fromAxis * faces.onFace(part.face, 0, 0, 0.0)); // laid out about its pole
    }
    if (face.plane) return startOf(part.from) + share * (startOf(part.to) - startOf(part.from));
    for (const auto& use : face.loops[0]) {
        if (use.edge == part.from || use.edge == part.to) continue;
        const bool forwards = faces.edges[static_cast<std::size_t>(use.edge)].first ==
                              faces.edges[static_cast<std::size_t>(part.from)].first;
        return faces.onEdge(use.edge, forwards ? share : 1.0 - share);
    }
    return startOf(part.from);
}

} // namespace undisona
