#include "core/system/section_places.hpp"

#include "core/elements/plane_shapes.hpp"
#include "core/mesh/triangulate.hpp"

namespace undisona {

namespace {

using Flat = Eigen::Vector2d;

bool isInside(const std::vector<OutlinePoint>& outline, const Flat& place)
{
    bool inside = false;
    for (std::size_t at = 0, last = outline.size() - 1; at < outline.size(); last = at++) {
        const auto& [ay, az] = outline[at];
        const auto& [by, bz] = outline[last];
        if ((az > place.y()) != (bz > place.y()) && place.x() < (by - ay) * (place.y() - az) / (bz - az) + ay)
            inside = !inside;
    }
    return inside;
}

/// Halves a triangle across its longest side until it is small enough.
void cut(const std::array<Flat, 3>& triangle, double longest, std::vector<SectionPlace>& places)
{
    std::size_t from = 0;
    for (std::size_t side = 1; side < 3; ++side)
        if ((triangle[(side + 1) % 3] - triangle[side]).norm() > (triangle[(from + 1) % 3] - triangle[from]).norm())
            from = side;
    const Flat &a = triangle[from], &b = triangle[(from + 1) % 3], &c = triangle[(from + 2) % 3];
    if ((b - a).norm() > longest) {
        const Flat middle = (a + b) / 2.0;
        cut({a, middle, c}, longest, places);
        cut({middle, b, c}, longest, places);
        return;
    }
    const Flat ab = b - a, ac = c - a;
    const double twice = std::abs(ab.x() * ac.y() - ab.y() * ac.x());
    for (const auto& [r, s, weight] : plane::triangleRule()) {
        const Flat place = a + r * ab + s * ac;
        places.push_back({place.x(), place.y(), weight * twice});
    }
}

/// Of a section that has none.
std::vector<OutlinePoint> rectangleLike(const Section& section)
{
    const double height = std::sqrt(12.0 * section.i1 / section.area) / 2.0,
                 width = std::sqrt(12.0 * section.i2 / section.area) / 2.0;
    const double c = std::cos(section.principalAngle), s = std::sin(section.principalAngle);
    std::vector<OutlinePoint> outline;
    for (const auto& corner : {Flat(-width, -height), Flat(width, -height), Flat(width, height), Flat(-width, height)})
        outline.push_back({c * corner.x() - s * corner.y(), s * corner.x() + c * corner.y()});
    return outline;
}

} // namespace

std::vector<SectionPlace> placesOver(const Section& section)
{
    const auto& outline = section.outline.size() > 2 ? section.outline : rectangleLike(section);
    std::vector<Flat> points;
    std::vector<std::array<int, 2>> segments;
    double reach = 0.0;
    for (const auto* loop : {&outline, &section.hole}) {
        const auto first = static_cast<int>(points.size()), count = static_cast<int>(loop->size());
        for (int at = 0; at < count; ++at) {
            const auto& [y, z] = (*loop)[static_cast<std::size_t>(at)];
            points.emplace_back(y, z);
            segments.push_back({first + at, first + (at + 1) % count});
            reach = std::max(reach, points.back().norm());
        }
    }
    std::vector<SectionPlace> places;
    for (const auto& [a, b, c] : constrainedTriangles(points, segments)) {
        const std::array<Flat, 3> triangle{points[static_cast<std::size_t>(a)], points[static_cast<std::size_t>(b)],
                                           points[static_cast<std::size_t>(c)]};
        const Flat middle = (triangle[0] + triangle[1] + triangle[2]) / 3.0;
        if (!isInside(outline, middle) || (!section.hole.empty() && isInside(section.hole, middle))) continue;
        constexpr double share = 0.5; // of how far the section reaches; seven places stand in each triangle
        cut(triangle, share * reach, places);
    }
    return places;
}

} // namespace undisona
