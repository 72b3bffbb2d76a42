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
    if (mesh.shells.empty()) quality.least = 0.0;
    std::vector<std::size_t> order(mesh.shells.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    const std::size_t few = std::min<std::size_t>(50, order.size());
    std::partial_sort(order.begin(), order.begin() + static_cast<long>(few), order.end(),
                      [&](std::size_t a, std::size_t b) {
                          return quality.shells[a].shape != quality.shells[b].shape
                                     ? quality.shells[a].shape < quality.shells[b].shape
                                     : a < b;
                      });
    order.resize(few);
    quality.worst = std::move(order);
    return quality;
}

} // namespace undisona
