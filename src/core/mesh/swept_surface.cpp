#include "core/mesh/swept_surface.hpp"

#include <algorithm>

namespace undisona {

SweptSurface::SweptSurface(const JoinedFaces& faces, const Sweep& sweep, SheetMesh& mesh)
    : faces_(faces), sweep_(sweep), mesh_(mesh),
      layers_(mesh.ofEdge[static_cast<std::size_t>(sweep.rails.front())].size() - 1)
{
}

void SweptSurface::addTo(int body)
{
    startColumns();
    std::vector<char> meshed(faces_.faces.size(), 0); // walls that a neighbour has raised
    for (const auto& element : mesh_.elements)
        meshed[static_cast<std::size_t>(element.face)] = 1;
    for (const auto& wall : sweep_.walls)
        if (meshed[static_cast<std::size_t>(wall.face)])
            meetWall(wall);
        else
            raiseWall(wall);
    cover();
    mesh_.columns[static_cast<std::size_t>(body)] = std::move(columns_);
}

Eigen::Vector3d SweptSurface::middle(int one, int other) const
{
    const auto known = mesh_.middleOf.find(std::minmax(one, other));
    if (known != mesh_.middleOf.end()) return known->second;
    return (mesh_.nodes[static_cast<std::size_t>(one)] + mesh_.nodes[static_cast<std::size_t>(other)]) / 2.0;
}

/// The columns over the rims' nodes, as far as edges have them.
void SweptSurface::startColumns()
{
    for (const auto& wall : sweep_.walls) {
        const auto &below = mesh_.ofEdge[static_cast<std::size_t>(wall.begin)],
                   &above = mesh_.ofEdge[static_cast<std::size_t>(wall.end)];
        for (std::size_t at = 0; at < below.size(); ++at) {
            auto& column = columns_[below[at]];
            column.resize(layers_ + 1, -1);
            column.front() = below[at];
            column.back() = above[wall.against ? above.size() - 1 - at : at];
        }
    }
    for (const int rail : sweep_.rails) {
        std::vector<int> nodes = mesh_.ofEdge[static_cast<std::size_t>(rail)];
        if (!columns_.contains(nodes.front())) std::reverse(nodes.begin(), nodes.end());
        columns_[nodes.front()] = nodes;
    }
}

/// Whether edge and motion turn the other way round than the wall's normal.
bool SweptSurface::runsAgainst(const Sweep::Wall& wall) const
{
    const auto& loop = faces_.faces[static_cast<std::size_t>(wall.face)].loops[0];
    const auto use = std::find_if(loop.begin(), loop.end(), [&](const EdgeUse& own) { return own.edge == wall.begin; });
    const Eigen::Vector3d normal =
        faces_.normal(wall.face, faces_.onFace(wall.face, 0, static_cast<int>(use - loop.begin()), 0.5));
    const Eigen::Vector3d before = faces_.onEdge(wall.begin, 0.49), after = faces_.onEdge(wall.begin, 0.51);
    return (after - before).cross(sweep_.motion.wayFrom((before + after) / 2.0)).dot(normal) < 0.0;
}

void SweptSurface::raiseWall(const Sweep::Wall& wall)
{
    const auto below = mesh_.ofEdge[static_cast<std::size_t>(wall.begin)];
    for (std::size_t at = 1; at + 1 < below.size(); ++at)
        for (std::size_t layer = 1; layer < layers_; ++layer) {
            columns_[below[at]][layer] = static_cast<int>(mesh_.nodes.size());
            mesh_.nodes.push_back(
                sweep_.motion.at(mesh_.nodes[static_cast<std::size_t>(below[at])], double(layer) / double(layers_)));
        }
    const bool turned = runsAgainst(wall);
    for (std::size_t at = 0; at + 1 < below.size(); ++at) {
        const auto &one = columns_[below[at]], &other = columns_[below[at + 1]];
        const Eigen::Vector3d start = middle(below[at], below[at + 1]);
        for (std::size_t layer = 0; layer < layers_; ++layer) {
            std::array<int, 4> nodes{one[layer], other[layer], other[layer + 1], one[layer + 1]};
            if (turned) std::reverse(nodes.begin(), nodes.end());
            mesh_.elements.push_back({wall.face, nodes});
            mesh_.middleOf.emplace(std::minmax(one[layer + 1], other[layer + 1]),
                                   sweep_.motion.at(start, double(layer + 1) / double(layers_)));
            for (const auto* column : {&one, &other})
                mesh_.middleOf.emplace(std::minmax((*column)[layer], (*column)[layer + 1]),
                                       sweep_.motion.at(mesh_.nodes[static_cast<std::size_t>(column->front())],
                                                        (double(layer) + 0.5) / double(layers_)));
        }
    }
}

/// Finds the columns on a wall that is there already.
void SweptSurface::meetWall(const Sweep::Wall& wall)
{
    std::set<int> there;
    for (const auto& element : mesh_.elements)
        if (element.face == wall.face)
            for (const int node : element.nodes)
                if (node >= 0) there.insert(node);
    const auto below = mesh_.ofEdge[static_cast<std::size_t>(wall.begin)];
    for (std::size_t at = 1; at + 1 < below.size(); ++at)
        for (std::size_t layer = 1; layer < layers_; ++layer) {
            const Eigen::Vector3d wanted =
                sweep_.motion.at(mesh_.nodes[static_cast<std::size_t>(below[at])], double(layer) / double(layers_));
            columns_[below[at]][layer] = *std::min_element(there.begin(), there.end(), [&](int one, int other) {
                return (mesh_.nodes[static_cast<std::size_t>(one)] - wanted).squaredNorm() <
                       (mesh_.nodes[static_cast<std::size_t>(other)] - wanted).squaredNorm();
            });
        }
}

/// The last face has the elements of the first.
void SweptSurface::cover()
{
    const std::size_t count = mesh_.elements.size();
    for (std::size_t at = 0; at < count; ++at) {
        const auto element = mesh_.elements[at];
        if (element.face != sweep_.from) continue;
        std::array<int, 4> moved{-1, -1, -1, -1};
        const std::size_t corners = element.nodes[3] < 0 ? 3 : 4;
        for (std::size_t corner = 0; corner < corners; ++corner) {
            const int node = element.nodes[corner];
            auto& column = columns_[node];
            if (column.empty()) {
                column.assign(layers_ + 1, -1);
                column.front() = node;
                column.back() = static_cast<int>(mesh_.nodes.size());
                mesh_.nodes.push_back(sweep_.motion.at(mesh_.nodes[static_cast<std::size_t>(node)], 1.0));
            }
            moved[corner] = column.back();
        }
        for (std::size_t corner = 0; corner < corners; ++corner) {
            const std::size_t next = (corner + 1) % corners;
            mesh_.middleOf.emplace(std::minmax(moved[corner], moved[next]),
                                   sweep_.motion.at(middle(element.nodes[corner], element.nodes[next]), 1.0));
        }
        // Counter-clockwise about the face's own normal.
        const auto place = [&](std::size_t corner) { return mesh_.nodes[static_cast<std::size_t>(moved[corner])]; };
        const Eigen::Vector3d own = corners == 4 ? Eigen::Vector3d((place(2) - place(0)).cross(place(3) - place(1)))
                                                 : Eigen::Vector3d((place(1) - place(0)).cross(place(2) - place(0)));
        if (own.dot(faces_.faces[static_cast<std::size_t>(sweep_.to)].plane->normal) < 0.0)
            std::reverse(moved.begin(), moved.begin() + static_cast<long>(corners));
        mesh_.elements.push_back({sweep_.to, moved});
    }
}

} // namespace undisona
