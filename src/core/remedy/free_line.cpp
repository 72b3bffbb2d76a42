#include "core/remedy/free_line.hpp"

#include <Eigen/Geometry>

namespace undisona {

namespace {

using V3 = Eigen::Vector3d;

struct Nearest {
    double distance, onFirst, onSecond; ///< m; shares of the two lines' lengths
};

/// Between two straight lines (Ericson, Real-Time Collision Detection, 2005, ch. 5.1.9).
Nearest nearest(const V3& a, const V3& b, const V3& c, const V3& d)
{
    const V3 one = b - a, two = d - c, apart = a - c;
    const double aa = one.squaredNorm(), ee = two.squaredNorm(), f = two.dot(apart), cc = one.dot(apart),
                 bb = one.dot(two), below = aa * ee - bb * bb;
    double s = below > 1e-12 * aa * ee ? std::clamp((bb * f - cc * ee) / below, 0.0, 1.0) : 0.5;
    double t = ee > 0.0 ? (bb * s + f) / ee : 0.0;
    if (t < 0.0 || t > 1.0) {
        t = std::clamp(t, 0.0, 1.0);
        s = aa > 0.0 ? std::clamp((bb * t - cc) / aa, 0.0, 1.0) : 0.0;
    }
    return {(a + s * one - c - t * two).norm(), s, t};
}

/// Where from a to b a line goes through a triangle, as a share of its length; nothing where it does not (Moeller and
/// Trumbore 1997).
std::optional<double> through(const V3& a, const V3& b, const V3& p, const V3& q, const V3& r)
{
    const V3 way = b - a, one = q - p, two = r - p, across = way.cross(two);
    const double determinant = one.dot(across);
    if (std::abs(determinant) < 1e-12 * way.norm() * one.norm() * two.norm()) return std::nullopt;
    const V3 from = a - p;
    const double u = from.dot(across) / determinant;
    const V3 other = from.cross(one);
    const double v = way.dot(other) / determinant;
    if (u < -1e-9 || v < -1e-9 || u + v > 1.0 + 1e-9) return std::nullopt;
    return two.dot(other) / determinant;
}

} // namespace

FreeLine::FreeLine(const Solution& solution) : solution_(solution)
{
    for (const auto& shell : solution.mesh.shells) {
        triangles_.push_back({shell.nodes[0], shell.nodes[1], shell.nodes[2]});
        if (shell.corners() == 4) triangles_.push_back({shell.nodes[0], shell.nodes[2], shell.nodes[3]});
    }
    for (const auto& piece : solution.mesh.outer)
        for (const auto& triangle : piece.triangles())
            triangles_.push_back(triangle);
}

bool FreeLine::between(int from, int to) const
{
    return from != to && !passesMembers(from, to) && !passesSurfaces(from, to);
}

bool FreeLine::passesMembers(int from, int to) const
{
    const auto& mesh = solution_.mesh;
    const V3& a = mesh.nodes[static_cast<std::size_t>(from)].place;
    const V3& b = mesh.nodes[static_cast<std::size_t>(to)].place;
    const double length = (b - a).norm();
    for (const auto& element : mesh.elements) {
        const V3 c = mesh.end(element, 0), d = mesh.end(element, 1);
        const auto& member = solution_.structure->frame.members[static_cast<std::size_t>(element.member)];
        const double thick = std::sqrt(member.section->area);
        const Nearest near = nearest(a, b, c, d);
        if (near.distance > thick / 2.0) continue;
        // What meets it at its end is not in the way, unless the two run alike from there.
        const double along = std::abs((b - a).normalized().dot((d - c).normalized()));
        const double reach = std::min(0.25, 1.5 * thick / length);
        const bool atItsEnd = near.onFirst < reach || near.onFirst > 1.0 - reach;
        if (!atItsEnd || along > std::cos(0.12)) return true;
    }
    return false;
}

bool FreeLine::passesSurfaces(int from, int to) const
{
    const auto& nodes = solution_.mesh.nodes;
    const V3& a = nodes[static_cast<std::size_t>(from)].place;
    const V3& b = nodes[static_cast<std::size_t>(to)].place;
    const double length = (b - a).norm();
    int ahead = 0; // surfaces of bodies beyond the middle, on the way on: odd within a body
    const V3 middle = (a + b) / 2.0, far = middle + 1e3 * length * V3(0.61, 0.35, 0.71);
    const std::size_t sheets = [&] {
        std::size_t count = 0;
        for (const auto& shell : solution_.mesh.shells)
            count += shell.corners() == 4 ? 2 : 1;
        return count;
    }();
    for (std::size_t at = 0; at < triangles_.size(); ++at) {
        const auto corner = [&](std::size_t which) -> const V3& {
            return nodes[static_cast<std::size_t>(triangles_[at][which])].place;
        };
        const auto where = through(a, b, corner(0), corner(1), corner(2));
        if (where && *where > 1e-3 && *where < 1.0 - 1e-3) return true;
        if (at < sheets) {
            // Within the plane of a sheet there is no crossing: there the line lies on it.
            const V3 normal = (corner(1) - corner(0)).cross(corner(2) - corner(0)).normalized();
            if (std::abs(normal.dot(middle - corner(0))) < 1e-4 * length &&
                std::abs(normal.dot(b - a)) < 1e-4 * length &&
                through(middle - normal * length, middle + normal * length, corner(0), corner(1), corner(2)))
                return true;
        } else if (const auto beyond = through(middle, far, corner(0), corner(1), corner(2));
                   beyond && *beyond > 0.0 && *beyond < 1.0)
            ++ahead;
    }
    return ahead % 2 == 1;
}

} // namespace undisona
