#include "core/mesh/inner_edges.hpp"

#include <map>

namespace undisona {

std::set<int> nodesOfInnerEdges(const FrameMesh& mesh)
{
    std::set<int> nodes;
    struct Side {
        Eigen::Vector3d middle, normal;
    };
    std::map<std::pair<int, int>, Side> first;
    for (const auto& piece : mesh.outer) {
        const auto place = [&](std::size_t at) {
            return mesh.nodes[static_cast<std::size_t>(piece.corners[at % piece.count()])].place;
        };
        Side side{Eigen::Vector3d::Zero(), Eigen::Vector3d::Zero()};
        for (std::size_t at = 0; at < piece.count(); ++at) {
            side.middle += place(at) / double(piece.count());
            side.normal += place(at).cross(place(at + 1));
        }
        side.normal.normalize();
        for (std::size_t at = 0; at < piece.count(); ++at) {
            const auto [other, isNew] =
                first.emplace(std::minmax(piece.corners[at], piece.corners[(at + 1) % piece.count()]), side);
            if (isNew) continue;
            const Eigen::Vector3d across = (other->second.middle - side.middle).normalized();
            constexpr double inwards = 0.2;
            if (across.dot(side.normal) > inwards && across.dot(other->second.normal) < -inwards)
                nodes.insert({piece.corners[at], piece.corners[(at + 1) % piece.count()]});
        }
    }
    return nodes;
}

} // namespace undisona
