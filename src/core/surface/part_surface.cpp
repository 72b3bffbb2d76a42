#include "core/surface/part_surface.hpp"

#include "core/shapes/joined_faces.hpp"

#include <map>
#include <set>

namespace undisona {

namespace {

const Eigen::Vector3d& placeOf(const FrameMesh& mesh, int node)
{
    return mesh.nodes[static_cast<std::size_t>(node)].place;
}

Eigen::Vector3d normalOf(const FrameMesh& mesh, const MeshShell& shell)
{
    const auto at = [&](std::size_t corner) { return placeOf(mesh, shell.nodes[corner]); };
    return (shell.corners() == 4 ? (at(2) - at(0)).cross(at(3) - at(1)) : (at(1) - at(0)).cross(at(2) - at(0)))
        .normalized();
}

void put(std::vector<float>& list, const Eigen::Vector3d& value)
{
    for (int axis = 0; axis < 3; ++axis)
        list.push_back(static_cast<float>(value[axis]));
}

/// Normals at the nodes of each face, since a sheet may be folded.
std::map<std::pair<int, int>, Eigen::Vector3d> normalsByFace(const FrameMesh& mesh)
{
    std::map<std::pair<int, int>, Eigen::Vector3d> normals;
    for (const auto& shell : mesh.shells) {
        const Eigen::Vector3d own = normalOf(mesh, shell);
        for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
            auto [at, isNew] = normals.emplace(std::pair(shell.face, shell.nodes[corner]), Eigen::Vector3d::Zero());
            at->second += own;
        }
    }
    for (auto& [key, normal] : normals)
        normal.normalize();
    return normals;
}

/// The corners and middles of an outer piece, one after the other round it.
std::vector<int> roundOf(const FrameMesh::OuterPiece& piece)
{
    std::vector<int> round;
    for (std::size_t corner = 0; corner < piece.count(); ++corner) {
        round.push_back(piece.corners[corner]);
        if (piece.curved()) round.push_back(piece.middles[corner]);
    }
    return round;
}

/// Curved sides are drawn in two halves: a triangle at each corner and the rest between the middles.
void addSolids(const Structure& structure, const FrameMesh& mesh, const Eigen::Vector3d& origin, PartSurface& surface)
{
    std::map<std::pair<int, int>, Eigen::Vector3d> normals; // by solid and node
    for (const auto& outer : mesh.outer) {
        const auto at = [&](std::size_t corner) { return placeOf(mesh, outer.corners[corner]); };
        const Eigen::Vector3d normal =
            (outer.count() == 4 ? (at(2) - at(0)).cross(at(3) - at(1)) : (at(1) - at(0)).cross(at(2) - at(0)))
                .normalized();
        for (const int node : roundOf(outer))
            normals.emplace(std::pair(outer.solid, node), Eigen::Vector3d::Zero()).first->second += normal;
    }
    const double clear = 0.0007 * structure.frame.span();
    std::map<std::array<int, 3>, std::int64_t> vertices; // a face of its own colour shares none
    std::set<std::pair<std::int64_t, std::int64_t>> lines;
    const auto vertexOf = [&](int solid, int face, int node) {
        const auto [at, isNew] =
            vertices.emplace(std::array{solid, face, node}, static_cast<std::int64_t>(surface.node.size()));
        if (isNew) {
            put(surface.place, placeOf(mesh, node) - origin);
            put(surface.arm, Eigen::Vector3d::Zero());
            put(surface.lineArm, clear * normals.at({solid, node}).normalized());
            surface.node.push_back(node);
            surface.part.push_back(structure.frame.partOfSolid(solid));
            surface.owner.push_back(-1 - solid);
            surface.coloured.push_back(face);
        }
        return at->second;
    };
    for (const auto& outer : mesh.outer) {
        std::vector<std::int64_t> round;
        const bool coloured = structure.frame.faces->faces[static_cast<std::size_t>(outer.face)].colour.has_value();
        for (const int node : roundOf(outer))
            round.push_back(vertexOf(outer.solid, coloured ? outer.face : -1, node));
        const std::size_t count = round.size();
        const auto triangle = [&](std::int64_t a, std::int64_t b, std::int64_t c) {
            surface.triangles.insert(surface.triangles.end(), {a, b, c});
        };
        if (outer.curved() && outer.count() == 4) {
            // Parted between the middles of the two sides that curve more, so that the halves are flat on a cylinder.
            const auto bow = [&](std::size_t side) {
                const Eigen::Vector3d a = placeOf(mesh, outer.corners[side]),
                                      b = placeOf(mesh, outer.corners[(side + 1) % 4]);
                return (placeOf(mesh, outer.middles[side]) - (a + b) / 2.0).norm();
            };
            const std::size_t first = bow(0) + bow(2) >= bow(1) + bow(3) ? 1 : 3;
            for (const std::size_t from : {first, first + 4}) {
                const auto at = [&](std::size_t step) { return round[(from + step) % 8]; };
                triangle(at(0), at(1), at(2)); // from one middle past two corners to the one across: 0 1 2 3 4
                triangle(at(0), at(2), at(4));
                triangle(at(2), at(3), at(4));
            }
        } else if (outer.curved()) {
            for (std::size_t middle = 1; middle < count; middle += 2)
                triangle(round[middle], round[(middle + 1) % count], round[(middle + 2) % count]);
            triangle(round[1], round[3], round[5]);
        } else {
            for (std::size_t at = 2; at < count; ++at)
                triangle(round[0], round[at - 1], round[at]);
        }
        for (std::size_t at = 0; at < count; ++at) {
            const std::int64_t a = round[at], b = round[(at + 1) % count];
            if (lines.insert(std::minmax(a, b)).second) surface.meshLines.insert(surface.meshLines.end(), {a, b});
        }
    }
}

} // namespace

PartSurface partSurface(const Structure& structure, const FrameMesh& mesh, const Eigen::Vector3d& origin, bool thick)
{
    PartSurface surface;
    const auto normals = normalsByFace(mesh);
    std::map<std::pair<int, int>, std::int64_t> first; // the vertex on one side; the next one is on the other
    for (const auto& [key, normal] : normals) {
        first[key] = static_cast<std::int64_t>(surface.node.size());
        const int sheet = structure.frame.faces->faces[static_cast<std::size_t>(key.first)].sheet;
        const bool coloured = structure.frame.faces->faces[static_cast<std::size_t>(key.first)].colour.has_value();
        const Sheet& own = structure.frame.sheets[static_cast<std::size_t>(sheet)];
        const double half = thick ? own.thicknessAt(placeOf(mesh, key.second)) / 2.0 : 0.0;
        const double clear = half + 0.0007 * structure.frame.span(), middle = own.above * half;
        for (const double side : {1.0, -1.0}) {
            put(surface.place, placeOf(mesh, key.second) + (middle + side * half) * normal - origin);
            put(surface.arm, (middle + side * half) * normal);
            put(surface.lineArm, (middle + side * clear) * normal);
            surface.node.push_back(key.second);
            surface.part.push_back(sheet);
            surface.owner.push_back(key.first);
            surface.coloured.push_back(coloured ? key.first : -1);
        }
    }
    std::map<std::array<int, 3>, int> sides; // of the elements, by face and nodes: how many have it
    for (const auto& shell : mesh.shells)
        for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
            const int a = shell.nodes[corner], b = shell.nodes[(corner + 1) % shell.corners()];
            ++sides[{shell.face, std::min(a, b), std::max(a, b)}];
        }
    for (const auto& shell : mesh.shells) {
        std::vector<std::int64_t> ring;
        for (std::size_t corner = 0; corner < shell.corners(); ++corner)
            ring.push_back(first.at({shell.face, shell.nodes[corner]}));
        const auto triangle = [&](std::int64_t a, std::int64_t b, std::int64_t c) {
            surface.triangles.insert(surface.triangles.end(), {a, b, c});
        };
        for (std::size_t corner = 2; corner < ring.size(); ++corner) {
            triangle(ring[0], ring[corner - 1], ring[corner]);
            triangle(ring[0] + 1, ring[corner] + 1, ring[corner - 1] + 1);
        }
        for (std::size_t corner = 0; corner < ring.size(); ++corner) {
            const std::size_t next = (corner + 1) % ring.size();
            const int a = shell.nodes[corner], b = shell.nodes[next];
            const bool rim = sides.at({shell.face, std::min(a, b), std::max(a, b)}) == 1;
            if (rim) { // the wall between the two sides
                triangle(ring[corner], ring[corner] + 1, ring[next] + 1);
                triangle(ring[corner], ring[next] + 1, ring[next]);
            }
            if (a < b || rim)
                for (const int side : {0, 1})
                    surface.meshLines.insert(surface.meshLines.end(), {ring[corner] + side, ring[next] + side});
        }
    }
    addSolids(structure, mesh, origin, surface);
    return surface;
}

NodeLines nodeLines(const Structure& structure, const FrameMesh& mesh, const Eigen::Vector3d& origin,
                    const std::vector<Eigen::Matrix<double, 6, 1>>& motions)
{
    NodeLines found;
    const auto normals = normalsByFace(mesh);
    const double clear = 0.0012 * structure.frame.span();
    double most = 0.0; // what is nothing beside it passes through no zero
    for (const auto& motion : motions)
        most = std::max(most, motion.head<3>().norm());
    for (const auto& shell : mesh.shells) {
        std::vector<double> normalMotion;
        double largest = 0.0;
        for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
            const int node = shell.nodes[corner];
            normalMotion.push_back(
                normals.at({shell.face, node}).dot(motions[static_cast<std::size_t>(node)].head<3>()));
            largest = std::max(largest, std::abs(normalMotion.back()));
        }
        if (largest < 1e-4 * most) continue;
        std::vector<std::array<std::size_t, 2>> crossed;
        for (std::size_t corner = 0; corner < normalMotion.size(); ++corner) {
            const std::size_t next = (corner + 1) % normalMotion.size();
            if ((normalMotion[corner] > 0.0) != (normalMotion[next] > 0.0)) crossed.push_back({corner, next});
        }
        if (crossed.size() != 2) continue;
        const auto still = [&](const std::array<std::size_t, 2>& side) { // held there, which is no line of the mode
            return std::min(std::abs(normalMotion[side[0]]), std::abs(normalMotion[side[1]])) <= 1e-9 * most;
        };
        if (still(crossed[0]) && still(crossed[1])) continue;
        const Sheet& sheet = structure.frame.sheets[static_cast<std::size_t>(shell.sheet)];
        for (const double side : {1.0, -1.0})
            for (const auto& [a, b] : crossed) {
                const double share = normalMotion[a] / (normalMotion[a] - normalMotion[b]);
                const int from = shell.nodes[a], to = shell.nodes[b];
                const Eigen::Vector3d normal = normals.at({shell.face, from});
                found.lines.push_back(static_cast<std::int64_t>(found.share.size()));
                const Eigen::Vector3d place = placeOf(mesh, from) + share * (placeOf(mesh, to) - placeOf(mesh, from));
                const double half = sheet.thicknessAt(place) / 2.0, out = sheet.above * half + side * (half + clear);
                put(found.place, place + out * normal - origin);
                put(found.arm, out * normal);
                found.nodes.push_back({from, to});
                found.share.push_back(share);
                found.part.push_back(shell.sheet);
            }
    }
    return found;
}

} // namespace undisona
