#include "core/mesh/mesh_quality.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace undisona {

ShellQuality qualityOf(const FrameMesh& mesh, const MeshShell& shell)
{
    const std::size_t corners = shell.corners();
    const auto at = [&](std::size_t corner) -> const Eigen::Vector3d& {
        return mesh.nodes[static_cast<std::size_t>(shell.nodes[corner % corners])].place;
    };
    const Eigen::Vector3d normal =
        (corners == 4 ? (at(2) - at(0)).cross(at(3) - at(1)) : (at(1) - at(0)).cross(at(2) - at(0))).normalized();
    ShellQuality quality{1.0, 1e9, 0.0, 1.0, 0.0, 1.0};
    double shortest = 1e300, longest = 0.0, mean = 0.0, leastArea = 1e300, mostArea = -1e300;
    for (std::size_t corner = 0; corner < corners; ++corner) {
        const Eigen::Vector3d a = at(corner + 1) - at(corner), b = at(corner + corners - 1) - at(corner);
        const double area = a.cross(b).dot(normal), sides = std::max(a.norm() * b.norm(), 1e-300);
        const double angle = std::atan2(area, a.dot(b)), sine = area / sides;
        const double ratio = std::min(a.norm(), b.norm()) / std::max({a.norm(), b.norm(), 1e-300});
        const double even = corners == 4 ? sine : std::min(sine / 0.8660254037844386, 1.0);
        quality.shape = std::min(quality.shape, even > 0.0 ? even * std::sqrt(std::sqrt(ratio)) : even);
        quality.leastAngle = std::min(quality.leastAngle, angle);
        quality.mostAngle = std::max(quality.mostAngle, angle < 0.0 ? angle + 2.0 * std::numbers::pi : angle);
        shortest = std::min(shortest, a.norm());
        longest = std::max(longest, a.norm());
        mean += a.norm() / double(corners);
        leastArea = std::min(leastArea, area);
        mostArea = std::max(mostArea, area);
    }
    quality.aspect = longest / std::max(shortest, 1e-300);
    if (corners == 4) {
        quality.warp = std::abs((at(1) - at(0)).dot(normal)) / 2.0 / mean;
        quality.jacobian = leastArea / mostArea;
    }
    return quality;
}

namespace {

/// Three times the inner over the outer radius.
double shapeOfTetrahedron(const std::vector<Eigen::Vector3d>& p)
{
    const Eigen::Vector3d a = p[1] - p[0], b = p[2] - p[0], c = p[3] - p[0];
    const double six = a.cross(b).dot(c); // times the volume
    const double surface =
        (a.cross(b).norm() + b.cross(c).norm() + c.cross(a).norm() + (b - a).cross(c - a).norm()) / 2.0;
    const double outer =
        (a.squaredNorm() * b.cross(c) + b.squaredNorm() * c.cross(a) + c.squaredNorm() * a.cross(b)).norm() /
        std::max(2.0 * std::abs(six), 1e-300);
    return 3.0 * six / 2.0 / std::max(surface * outer, 1e-300);
}

/// The least of its corners: the volume between the three sides there over the product of their lengths, which is 1 at
/// a corner of a cube; at a corner of an even wedge too.
double shapeOfCorners(SolidKind kind, const std::vector<Eigen::Vector3d>& p)
{
    const std::size_t corners = cornersOf(kind), half = corners / 2;
    double least = 1.0;
    for (std::size_t corner = 0; corner < corners; ++corner) {
        const std::size_t base = corner < half ? 0 : half, at = corner - base;
        const Eigen::Vector3d next = p[base + (at + 1) % half] - p[corner],
                              before = p[base + (at + half - 1) % half] - p[corner],
                              up = corner < half ? Eigen::Vector3d(p[corner + half] - p[corner])
                                                 : Eigen::Vector3d(p[corner] - p[corner - half]);
        const double sides = std::max(next.norm() * before.norm() * up.norm(), 1e-300);
        least = std::min(least, next.cross(before).dot(up) / sides / (half == 3 ? 0.8660254037844386 : 1.0));
    }
    return least;
}

} // namespace

SolidQuality qualityOf(const FrameMesh& mesh, const MeshSolid& solid)
{
    SolidElement element{solid.kind, {}, 1.0, 0.0, 1.0};
    for (std::size_t node = 0; node < solid.count(); ++node)
        element.node.push_back(mesh.nodes[static_cast<std::size_t>(solid.nodes[node])].place);
    const auto& p = element.node;
    double shortest = 1e300, longest = 0.0;
    for (const auto& [i, k] : sidesOf(solid.kind)) {
        const double side = (p[static_cast<std::size_t>(k)] - p[static_cast<std::size_t>(i)]).norm();
        shortest = std::min(shortest, side);
        longest = std::max(longest, side);
    }
    return {solid.kind == SolidKind::tetrahedron10 ? shapeOfTetrahedron(p) : shapeOfCorners(solid.kind, p),
            jacobianRatio(element), longest / std::max(shortest, 1e-300)};
}

MeshQuality qualityOf(const FrameMesh& mesh)
{
    MeshQuality quality;
    quality.least = 1e300;
    for (const auto& shell : mesh.shells) {
        quality.shells.push_back(qualityOf(mesh, shell));
        ++quality.byShape[static_cast<std::size_t>(std::clamp(quality.shells.back().shape * 10.0, 0.0, 9.0))];
        quality.fourSided += shell.corners() == 4;
        const double size = std::sqrt(mesh.area(shell));
        quality.least = std::min(quality.least, size);
        quality.most = std::max(quality.most, size);
    }
    for (const auto& solid : mesh.solids) {
        quality.solids.push_back(qualityOf(mesh, solid));
        ++quality.byShape[static_cast<std::size_t>(std::clamp(quality.solids.back().shape * 10.0, 0.0, 9.0))];
    }
    if (mesh.shells.empty()) quality.least = 0.0;
    std::vector<std::size_t> order(mesh.shells.size() + mesh.solids.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    const std::size_t few = std::min<std::size_t>(50, order.size());
    std::partial_sort(order.begin(), order.begin() + static_cast<long>(few), order.end(),
                      [&](std::size_t a, std::size_t b) {
                          const double one = quality.shape(a), other = quality.shape(b);
                          return one != other ? one < other : a < b;
                      });
    order.resize(few);
    quality.worst = std::move(order);
    return quality;
}

} // namespace undisona
