#include "core/shapes/outline.hpp"
#include "core/base/same_place.hpp"

#include <fmt/format.h>

#include <cmath>
#include <numbers>

namespace undisona {

namespace {

using Two = Eigen::Vector2d;
constexpr int perTurn = 64;

double cross(const Two& a, const Two& b)
{
    return a.x() * b.y() - a.y() * b.x();
}

Two rightOf(const Two& way)
{
    return Two(way.y(), -way.x());
}

double distanceToSide(const Two& place, const Two& a, const Two& b)
{
    const double share = std::clamp((place - a).dot(b - a) / std::max((b - a).squaredNorm(), 1e-300), 0.0, 1.0);
    return (a + share * (b - a) - place).norm();
}

bool cross(const Two& a, const Two& b, const Two& c, const Two& d)
{
    return (cross(b - a, c - a) > 0.0) != (cross(b - a, d - a) > 0.0) &&
           (cross(d - c, a - c) > 0.0) != (cross(d - c, b - c) > 0.0);
}

/// The least distance between two closed lines of straight sides; 0 where they cross.
double distanceBetween(const std::vector<Two>& one, const std::vector<Two>& other)
{
    double nearest = 1e300;
    for (std::size_t i = 0; i < one.size(); ++i)
        for (std::size_t k = 0; k < other.size(); ++k) {
            const Two &a = one[i], &b = one[(i + 1) % one.size()], &c = other[k], &d = other[(k + 1) % other.size()];
            if (cross(a, b, c, d)) return 0.0;
            nearest = std::min({nearest, distanceToSide(a, c, d), distanceToSide(c, a, b)});
        }
    return nearest;
}

bool contains(const std::vector<Two>& line, const Two& place)
{
    bool inside = false;
    for (std::size_t at = 0; at < line.size(); ++at) {
        const Two &a = line[at], &b = line[(at + 1) % line.size()];
        if ((a.y() > place.y()) != (b.y() > place.y()) &&
            place.x() < a.x() + (b.x() - a.x()) * (place.y() - a.y()) / (b.y() - a.y()))
            inside = !inside;
    }
    return inside;
}

/// A circle within straight sides is judged by its own radius, so that a narrow rim is not taken for a touch.
bool circleWithin(const Outline& hole, const Outline& outline)
{
    if (outline.isCircle()) return (hole.centre - outline.centre).norm() + hole.radius < outline.radius - sameInShapes;
    const auto line = outline.drawn();
    for (std::size_t at = 0; at < line.size(); ++at)
        if (distanceToSide(hole.centre, line[at], line[(at + 1) % line.size()]) < hole.radius + sameInShapes)
            return false;
    return contains(line, hole.centre);
}

} // namespace

Two Outline::middleOfSide(std::size_t corner) const
{
    const Two &a = corners[corner].at, &b = corners[(corner + 1) % corners.size()].at;
    return (a + b) / 2.0 + corners[corner].bow * rightOf(b - a).normalized();
}

std::vector<Two> Outline::drawn() const
{
    std::vector<Two> places;
    if (isCircle()) {
        for (int at = 0; at < perTurn; ++at)
            places.push_back(centre + radius * Two(std::cos(2.0 * std::numbers::pi * at / perTurn),
                                                   std::sin(2.0 * std::numbers::pi * at / perTurn)));
        return places;
    }
    for (std::size_t at = 0; at < corners.size(); ++at) {
        const Two &a = corners[at].at, &b = corners[(at + 1) % corners.size()].at;
        places.push_back(a);
        const double bow = corners[at].bow;
        if (bow == 0.0) continue;
        const double half = (b - a).norm() / 2.0, turn = 4.0 * std::atan(bow / half); // of the whole arc, signed
        const double reach = half / std::sin(turn / 2.0);                             // radius, signed
        const Two about = (a + b) / 2.0 + (bow - reach) * rightOf(b - a).normalized();
        const int parts = std::max(2, static_cast<int>(std::ceil(std::abs(turn) / (2.0 * std::numbers::pi) * perTurn)));
        for (int part = 1; part < parts; ++part)
            places.push_back(about + Eigen::Rotation2Dd(turn * part / parts) * (a - about));
    }
    return places;
}

double Outline::area() const
{
    if (isCircle()) return std::numbers::pi * radius * radius;
    double twice = 0.0;
    for (std::size_t at = 0; at < corners.size(); ++at) {
        const Two &a = corners[at].at, &b = corners[(at + 1) % corners.size()].at;
        twice += cross(a, b);
        if (corners[at].bow == 0.0) continue;
        const double half = (b - a).norm() / 2.0, turn = 4.0 * std::atan(corners[at].bow / half);
        const double reach = half / std::sin(turn / 2.0);
        twice += reach * reach * (turn - std::sin(turn)); // the segment between chord and arc
    }
    return twice / 2.0;
}

Outline circleAbout(const Two& centre, double radius)
{
    return {{}, centre, radius};
}

Outline polygon(const std::vector<Two>& corners)
{
    Outline outline;
    for (const auto& corner : corners)
        outline.corners.push_back({corner, 0.0});
    return outline;
}

Outline counterClockwise(Outline outline)
{
    if (outline.isCircle() || outline.area() > 0.0) return outline;
    Outline turned;
    const std::size_t count = outline.corners.size();
    for (std::size_t at = count; at-- > 0;)
        turned.corners.push_back({outline.corners[at].at, -outline.corners[(at + count - 1) % count].bow});
    return turned;
}

Outline rounded(const Outline& outline, const std::vector<double>& radii, std::string& problem)
{
    const std::size_t count = outline.corners.size();
    std::vector<double> reach(count, 0.0); // from the corner to where its arc begins
    for (std::size_t at = 0; at < count; ++at) {
        if (radii[at] <= 0.0) continue;
        if (outline.corners[at].bow != 0.0 || outline.corners[(at + count - 1) % count].bow != 0.0) {
            problem = fmt::format("corner {} is to be rounded, but a side at it is an arc", at + 1);
            return outline;
        }
        const Two in = outline.corners[at].at - outline.corners[(at + count - 1) % count].at,
                  out = outline.corners[(at + 1) % count].at - outline.corners[at].at;
        const double turn = std::abs(std::atan2(cross(in, out), in.dot(out)));
        reach[at] = radii[at] * std::tan(turn / 2.0);
    }
    Outline result;
    for (std::size_t at = 0; at < count; ++at) {
        const std::size_t next = (at + 1) % count;
        const double side = (outline.corners[next].at - outline.corners[at].at).norm();
        if (reach[at] + reach[next] > side - sameInShapes) {
            problem = fmt::format("the side from corner {} to corner {} is too short for its rounded corners", at + 1,
                                  next + 1);
            return outline;
        }
    }
    for (std::size_t at = 0; at < count; ++at) {
        const auto& corner = outline.corners[at];
        if (reach[at] == 0.0) {
            result.corners.push_back(corner);
            continue;
        }
        const Two in = (corner.at - outline.corners[(at + count - 1) % count].at).normalized(),
                  out = (outline.corners[(at + 1) % count].at - corner.at).normalized();
        const double turn = std::atan2(cross(in, out), in.dot(out));
        const double bow = radii[at] * (1.0 - std::cos(turn / 2.0)) * (turn > 0.0 ? 1.0 : -1.0);
        result.corners.push_back({corner.at - reach[at] * in, bow});
        result.corners.push_back({corner.at + reach[at] * out, 0.0});
    }
    return result;
}

bool crossesItself(const Outline& outline)
{
    if (outline.isCircle()) return false;
    const auto line = outline.drawn();
    const std::size_t count = line.size();
    for (std::size_t i = 0; i < count; ++i)
        for (std::size_t k = i + 2; k < count; ++k) {
            if (i == 0 && k + 1 == count) continue;
            const Two &a = line[i], &b = line[(i + 1) % count], &c = line[k], &d = line[(k + 1) % count];
            if (cross(a, b, c, d) || distanceToSide(a, c, d) < sameInShapes || distanceToSide(c, a, b) < sameInShapes)
                return true;
        }
    return false;
}

bool liesWithin(const Outline& hole, const Outline& outline)
{
    if (hole.isCircle()) return circleWithin(hole, outline);
    const auto own = hole.drawn(), other = outline.drawn();
    return contains(other, own[0]) && distanceBetween(own, other) > sameInShapes;
}

bool areApart(const Outline& one, const Outline& other)
{
    if (one.isCircle() && other.isCircle())
        return (one.centre - other.centre).norm() > one.radius + other.radius + sameInShapes;
    const auto own = one.drawn(), its = other.drawn();
    return !contains(own, its[0]) && !contains(its, own[0]) && distanceBetween(own, its) > sameInShapes;
}

} // namespace undisona
