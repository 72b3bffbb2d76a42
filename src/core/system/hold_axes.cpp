#include "core/system/hold_axes.hpp"

#include "core/base/same_place.hpp"
#include "core/shapes/joined_faces.hpp"

namespace undisona {

namespace {

/// Along an edge at the place of its node nearest to this, and square to its first face there.
Eigen::Matrix3d alongEdge(const Structure& structure, const FrameMesh& mesh, int edge, const Eigen::Vector3d& place)
{
    const auto placeOf = [&](int node) { return mesh.nodes[static_cast<std::size_t>(node)].place; };
    const auto& nodes = mesh.edgeNodes[static_cast<std::size_t>(edge)];
    std::size_t nearest = 0;
    for (std::size_t at = 1; at < nodes.size(); ++at)
        if ((placeOf(nodes[at]) - place).norm() < (placeOf(nodes[nearest]) - place).norm()) nearest = at;
    const std::size_t before = nearest > 0 ? nearest - 1 : nearest,
                      after = nearest + 1 < nodes.size() ? nearest + 1 : nearest;
    const Eigen::Vector3d along = (placeOf(nodes[after]) - placeOf(nodes[before])).normalized();
    const JoinedFaces& faces = *structure.frame.faces;
    const int face = faces.edges[static_cast<std::size_t>(edge)].faces.front();
    const auto& loops = faces.faces[static_cast<std::size_t>(face)].loops;
    Eigen::Vector3d normal = along.unitOrthogonal();
    for (std::size_t loop = 0; loop < loops.size(); ++loop)
        for (std::size_t use = 0; use < loops[loop].size(); ++use)
            if (loops[loop][use].edge == edge) {
                const double share = std::clamp(double(nearest) / double(nodes.size() - 1), 0.01, 0.99);
                normal = faces.normalBeside(face, static_cast<int>(loop), static_cast<int>(use),
                                            loops[loop][use].backwards ? 1.0 - share : share);
            }
    Eigen::Matrix3d axes;
    axes.col(0) = along;
    axes.col(2) = (normal - normal.dot(along) * along).normalized();
    axes.col(1) = axes.col(2).cross(along);
    return axes;
}

} // namespace

std::optional<Eigen::Matrix3d> axesAt(const Structure& structure, const FrameMesh& mesh, const Hold& hold, int node)
{
    const Eigen::Vector3d& place = mesh.nodes[static_cast<std::size_t>(node)].place;
    if (hold.alongEdge && hold.on == Target::edge) return alongEdge(structure, mesh, hold.at, place);
    if (hold.about) return hold.about->axesAt(place);
    return hold.axes;
}

} // namespace undisona
