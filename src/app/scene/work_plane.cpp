#include "app/scene/work_plane.hpp"

#include <algorithm>
#include <cmath>

namespace undisona {

namespace {

constexpr double mostCells = 24.0; // to each side

} // namespace

double WorkPlane::reach(const Camera& camera) const
{
    return spacing *
           std::clamp(std::ceil(1.3 * std::max(camera.size(), 0.35 * camera.distance()) / spacing), 4.0, mostCells);
}

Eigen::Vector3d WorkPlane::middle(const Camera& camera) const
{
    Eigen::Vector3d centre = (camera.target() / spacing).array().round() * spacing;
    centre[normal] = level;
    return centre;
}

std::optional<Eigen::Vector3d> WorkPlane::under(const Camera& camera, const QPointF& cursor, const QSizeF& view) const
{
    const Eigen::Vector3d ray = camera.ray(cursor, view), from = camera.position();
    if (std::abs(ray[normal]) < 0.02) return std::nullopt;
    const double along = (level - from[normal]) / ray[normal];
    if (along <= 0.0) return std::nullopt;
    Eigen::Vector3d place = ((from + along * ray) / spacing).array().round() * spacing;
    place[normal] = level;
    if ((place - middle(camera)).cwiseAbs().maxCoeff() > reach(camera) + 0.5 * spacing) return std::nullopt;
    return place;
}

std::vector<WorkPlane::Line> WorkPlane::lines(const Camera& camera) const
{
    std::vector<Line> lines;
    const Eigen::Vector3d centre = middle(camera);
    const int count = static_cast<int>(std::lround(reach(camera) / spacing));
    const int across[2] = {(normal + 1) % 3, (normal + 2) % 3};
    for (int direction = 0; direction < 2; ++direction)
        for (int at = -count; at <= count; ++at) {
            Eigen::Vector3d middleOf = centre;
            middleOf[across[direction]] += at * spacing;
            Eigen::Vector3d half = Eigen::Vector3d::Zero();
            half[across[1 - direction]] = count * spacing;
            const bool throughOrigin = std::abs(middleOf[across[direction]]) < 1e-6 * spacing;
            lines.push_back({middleOf - half, middleOf, throughOrigin});
            lines.push_back({middleOf, middleOf + half, throughOrigin});
        }
    return lines;
}

} // namespace undisona
