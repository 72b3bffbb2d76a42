#include "core/mesh/frame_mesh.hpp"

#include "core/elements/surface_piece.hpp"
#include "core/mesh/drawn_mesh.hpp"
#include "core/mesh/given_mesh.hpp"
#include "core/mesh/sheet_mesh.hpp"
#include "core/shapes/given_faces.hpp"

#include <algorithm>

namespace undisona {

namespace {

std::vector<double> addedPerExtent(const Structure& structure, Target over, std::size_t count)
{
    std::vector<double> added(count, 0.0);
    for (const auto& own : structure.attachments)
        if (own.over == over && own.effect == Attachment::Effect::mass)
            added[static_cast<std::size_t>(own.at)] += own.perExtent();
    return added;
}

} // namespace

std::vector<double> addedPerLength(const Structure& structure)
{
    return addedPerExtent(structure, Target::member, structure.members.size());
}

Eigen::Vector3d FrameMesh::end(const MeshElement& element, int which) const
{
    const auto at = static_cast<std::size_t>(which);
    return nodes[static_cast<std::size_t>(element.nodes[at])].place + element.arms[at];
}

double FrameMesh::area(const MeshShell& shell) const
{
    const auto at = [&](std::size_t corner) { return nodes[static_cast<std::size_t>(shell.nodes[corner])].place; };
    return (shell.corners() == 4 ? (at(2) - at(0)).cross(at(3) - at(1)) : (at(1) - at(0)).cross(at(2) - at(0))).norm() /
           2.0;
}

std::vector<FrameMesh::EdgePiece> FrameMesh::piecesOfEdge(const Structure& structure, int edge) const
{
    const auto& along = edgeNodes[static_cast<std::size_t>(edge)];
    std::vector<EdgePiece> pieces;
    double chords = 0.0;
    for (std::size_t at = 0; at + 1 < along.size(); ++at) {
        pieces.push_back(
            {along[at], along[at + 1],
             (nodes[static_cast<std::size_t>(along[at + 1])].place - nodes[static_cast<std::size_t>(along[at])].place)
                 .norm()});
        chords += pieces.back().length;
    }
    for (auto& piece : pieces)
        piece.length *= structure.frame.faces->edges[static_cast<std::size_t>(edge)].length / chords;
    return pieces;
}

std::vector<int> FrameMesh::nodesOf(Target target, int at) const
{
    const auto index = static_cast<std::size_t>(at);
    std::vector<int> found;
    switch (target) {
    case Target::point:
        return {at};
    case Target::member:
        for (int element = firstElement[index]; element < firstElement[index + 1]; ++element)
            for (const int node : elements[static_cast<std::size_t>(element)].nodes)
                found.push_back(node);
        break;
    case Target::edge:
        found = edgeNodes[index];
        found.insert(found.end(), edgeCopies[index].begin(), edgeCopies[index].end());
        break;
    case Target::face:
        found = faceNodes[index];
        break;
    case Target::sheet:
        for (const auto& shell : shells)
            if (shell.sheet == at)
                found.insert(found.end(), shell.nodes.begin(), shell.nodes.begin() + long(shell.corners()));
        break;
    case Target::solid:
        for (const auto& solid : solids)
            if (solid.solid == at)
                found.insert(found.end(), solid.nodes.begin(), solid.nodes.begin() + long(solid.count()));
        break;
    }
    std::sort(found.begin(), found.end());
    found.erase(std::unique(found.begin(), found.end()), found.end());
    return found;
}

std::vector<std::array<int, 3>> FrameMesh::OuterPiece::triangles() const
{
    const auto corner = [&](std::size_t at) { return corners[at % count()]; };
    const auto middle = [&](std::size_t at) { return middles[at % count()]; };
    if (!curved())
        return count() == 3 ? std::vector<std::array<int, 3>>{{corner(0), corner(1), corner(2)}}
                            : std::vector<std::array<int, 3>>{{corner(0), corner(1), corner(2)},
                                                              {corner(0), corner(2), corner(3)}};
    std::vector<std::array<int, 3>> list;
    for (std::size_t at = 0; at < count(); ++at)
        list.push_back({middle(at), corner(at + 1), middle(at + 1)});
    list.push_back({middle(0), middle(1), middle(2)});
    if (count() == 4) list.push_back({middle(0), middle(2), middle(3)});
    return list;
}

std::vector<FrameMesh::FacePiece> FrameMesh::piecesOfFace(const Structure& structure, int face) const
{
    std::vector<FacePiece> pieces;
    double area = 0.0;
    for (const auto& piece : outer) {
        if (piece.face != face) continue;
        FacePiece own;
        own.nodes.assign(piece.corners.begin(), piece.corners.begin() + long(piece.count()));
        if (piece.curved())
            own.nodes.insert(own.nodes.end(), piece.middles.begin(), piece.middles.begin() + long(piece.count()));
        std::vector<Eigen::Vector3d> places;
        for (const int node : own.nodes)
            places.push_back(nodes[static_cast<std::size_t>(node)].place);
        own.products = surfaceProducts(places);
        area += own.products.sum();
        pieces.push_back(std::move(own));
    }
    for (auto& piece : pieces)
        piece.products *= structure.frame.faces->faces[static_cast<std::size_t>(face)].area / area;
    return pieces;
}

double FrameMesh::length(const MeshElement& element) const
{
    return (end(element, 1) - end(element, 0)).norm();
}

Splits proposeSplits(const Structure& structure, double frequency)
{
    const auto added = addedPerLength(structure);
    const double omega = 2.0 * std::numbers::pi * frequency;
    Splits splits;
    for (std::size_t at = 0; at < structure.frame.members.size(); ++at) {
        const auto& member = structure.frame.members[at];
        const long stated = member.elements > 0 ? member.elements : structure.discretised.elements;
        if (stated > 0) {
            splits.push_back(stated);
            continue;
        }
        const auto& material = *structure.members[at].material;
        const double mass = structure.members[at].density() * member.section->area + added[at];
        const double ei = material.modulus * std::min(member.section->i1, member.section->i2) / member.flexibility;
        const double halfWave =
            mass > 0.0 && omega > 0.0 ? std::numbers::pi * std::pow(ei / (mass * omega * omega), 0.25) : 1e300;
        const double wanted = std::ceil(3.0 * structure.frame.length(member) / halfWave);
        splits.push_back(static_cast<long>(std::clamp(wanted, 1.0, 1000.0)));
    }
    for (const auto& local : structure.localSizes)
        for (const int member : local.members) {
            long& split = splits[static_cast<std::size_t>(member)];
            const double parts =
                structure.frame.length(structure.frame.members[static_cast<std::size_t>(member)]) / local.size;
            split = std::max(split, static_cast<long>(std::clamp(std::ceil(parts - 1e-9), 1.0, 1000.0)));
        }
    return splits;
}

std::vector<double> addedPerArea(const Structure& structure)
{
    return addedPerExtent(structure, Target::sheet, structure.sheets.size());
}

namespace {
constexpr double elementsPerHalfWave = 8.0; // leave 0.7 % of the frequency, and 0.2 % at half of it
constexpr double solidsPerHalfWave = 4.0;   // of the second order: leave less than 0.5 %
constexpr double fewestOfABody = 300.0;     // so that corners and supports are followed, at some seconds at most
constexpr double elementsAcross = 8.0;      // at least, of a sheet as wide as it is long

/// A body's volume, m3, and about how thick it is, m: twice the volume over the surface, times 3/2 for a cube.
std::array<double, 2> bulkOf(const Structure& structure, int solid)
{
    double volume = 0.0, area = 0.0;
    if (structure.frame.faces)
        for (const auto& body : structure.frame.faces->solids) {
            if (body.solid != solid) continue;
            volume += body.volume;
            area += structure.frame.faces->areaOf(body);
        }
    if (!(volume > 0.0) || !(area > 0.0)) return {1e-18, 1e-6};
    return {volume, 2.0 * volume / area};
}

/// So that each sheet has so many elements across, whatever is stated.
std::vector<double> sizesAcross(const Structure& structure)
{
    std::vector<double> sizes(structure.sheets.size(), 0.0);
    if (structure.frame.faces)
        for (const auto& face : structure.frame.faces->faces)
            if (face.sheet >= 0) sizes[static_cast<std::size_t>(face.sheet)] += face.area;
    for (double& size : sizes)
        size = std::sqrt(std::max(size, 1e-12)) / elementsAcross;
    for (std::size_t solid = 0; solid < structure.frame.solids.size(); ++solid) {
        const auto [volume, thickness] = bulkOf(structure, static_cast<int>(solid));
        // As even as the body allows, but not so coarse that a thin one has flat elements.
        sizes.push_back(std::max(std::min(std::cbrt(volume) / 3.0, 1.5 * thickness), 1e-6));
    }
    return sizes;
}

} // namespace

MeshSizes proposeSizes(const Structure& structure, double frequency)
{
    const auto added = addedPerArea(structure);
    const auto inSolids = addedPerExtent(structure, Target::solid, structure.solids.size());
    const double omega = 2.0 * std::numbers::pi * frequency;
    std::vector<double> sizes = sizesAcross(structure);
    for (std::size_t at = 0; at < structure.frame.solids.size(); ++at) {
        const Solid& solid = structure.frame.solids[at];
        double& size = sizes[structure.sheets.size() + at];
        if (const auto& material = structure.solids[at].material; material && omega > 0.0) {
            const auto [volume, thickness] = bulkOf(structure, static_cast<int>(at));
            const double density = structure.solids[at].density() + inSolids[at];
            size = std::min(size, std::cbrt(volume / fewestOfABody));
            const double bending =
                std::pow(material->modulus * thickness * thickness / (12.0 * density * omega * omega), 0.25);
            const double shearing = std::sqrt(material->shearModulus() / density) / omega;
            if (density > 0.0)
                size = std::min(size, std::numbers::pi / solidsPerHalfWave * std::min(bending, shearing));
        }
        size *= structure.discretised.sheetSizes;
        if (solid.size > 0.0) size = solid.size;
    }
    for (std::size_t at = 0; at < structure.sheets.size(); ++at) {
        const Sheet& sheet = structure.frame.sheets[at];
        double& size = sizes[at];
        const double thickness = sheet.leastThickness();
        if (const auto& material = structure.sheets[at].material; material && omega > 0.0) {
            const double mass = structure.sheets[at].density() * thickness + added[at];
            const double modulus =
                material->grain ? std::min(material->modulus, material->grain->across) : material->modulus;
            const double rigidity = modulus * std::pow(thickness, 3) /
                                    (12.0 * (1.0 - (material->grain ? 0.0 : material->poisson * material->poisson)));
            if (mass > 0.0)
                size = std::min(size, std::numbers::pi / elementsPerHalfWave *
                                          std::pow(rigidity / (mass * omega * omega), 0.25));
        }
        size *= structure.discretised.sheetSizes;
        if (sheet.size > 0.0) size = sheet.size;
    }
    for (const auto& local : structure.localSizes) {
        for (const int sheet : local.sheets)
            sizes[static_cast<std::size_t>(sheet)] = std::min(sizes[static_cast<std::size_t>(sheet)], local.size);
        for (const int solid : local.solids) {
            double& size = sizes[structure.sheets.size() + static_cast<std::size_t>(solid)];
            size = std::min(size, local.size);
        }
    }
    return {std::move(sizes)};
}

double sheetElements(const Structure& structure, const MeshSizes& sizes, bool withPlaces)
{
    const JoinedFaces& faces = drawnFaces(structure);
    double count = elementsOf(faces, faceSizes(structure, sizes));
    if (const auto& given = structure.frame.faces->given) {
        for (const auto& body : given->ofSolid)
            count += double(body.size());
        for (std::size_t face = 0; face < given->ofFace.size(); ++face)
            if (structure.frame.faces->faces[given->firstFace + face].sheet >= 0)
                count += double(given->ofFace[face].size());
    }
    for (const auto& body : faces.solids) // six tetrahedra to a cube
        count += 6.0 * body.volume /
                 std::pow(sizes.ofPart[structure.sheets.size() + static_cast<std::size_t>(body.solid)], 3);
    if (!withPlaces) return count;
    // Beside an edge, and about a point, of sizes that grow evenly: the integral of one over the size's square.
    for (const auto& local : structure.localSizes) {
        const double size = local.size * sizes.ofStated;
        for (const int edge : local.edges)
            count +=
                2.0 * structure.frame.faces->edges[static_cast<std::size_t>(edge)].length / (SizeField::growth * size);
        count += double(local.places.size()) * 2.0 * std::numbers::pi / (SizeField::growth * SizeField::growth) *
                 std::log(1.0 + structure.frame.span() / size);
    }
    // Of places that lie beside each other each has the room that its own size is wide.
    if (!sizes.places.empty()) count += 8.0 * double(sizes.places.size());
    return count;
}

MeshPlan planOf(const FrameMesh& mesh)
{
    MeshPlan plan{{}, mesh.sizes};
    for (std::size_t member = 0; member + 1 < mesh.firstElement.size(); ++member)
        plan.splits.push_back(mesh.firstElement[member + 1] - mesh.firstElement[member]);
    return plan;
}

MeshPlan scaled(MeshPlan plan, double factor)
{
    for (auto& split : plan.splits)
        split = std::max(std::min(split, 2L), std::lround(double(split) / factor));
    for (auto& size : plan.sizes.ofPart)
        size *= factor;
    for (auto& place : plan.sizes.places)
        place.size *= factor;
    plan.sizes.ofStated *= factor;
    return plan;
}

FrameMesh coarseMesh(const Structure& structure)
{
    // A body that is thin beyond all measure is not followed.
    constexpr double mostOnABody = 20000.0;
    MeshSizes sizes{sizesAcross(structure)};
    if (structure.frame.faces)
        for (const auto& body : drawnFaces(structure).solids) {
            double area = 0.0;
            for (const int face : body.faces)
                area += structure.frame.faces->faces[static_cast<std::size_t>(face)].area;
            double& size = sizes.ofPart[structure.sheets.size() + static_cast<std::size_t>(body.solid)];
            size = std::max(size, std::sqrt(area / mostOnABody));
        }
    return meshOf(structure, Splits(structure.members.size(), 1), sizes);
}

namespace {

/// Nodes of the edges that a member follows, from its first point to its last; empty where it follows none.
std::vector<int> nodesAlong(const Structure& structure, const FrameMesh& mesh, std::size_t member)
{
    std::vector<int> nodes;
    const FrameMember& shape = structure.frame.members[member];
    if (!structure.frame.faces || structure.carried.contains(shape.from) || structure.carried.contains(shape.to))
        return nodes;
    for (const auto& [edge, backwards] : structure.frame.faces->edgesOfMember[member]) {
        std::vector<int> own = mesh.edgeNodes[static_cast<std::size_t>(edge)];
        if (backwards) std::reverse(own.begin(), own.end());
        nodes.insert(nodes.end(), own.begin() + (nodes.empty() ? 0 : 1), own.end());
    }
    return nodes;
}

/// So that members that lie on parts have a node for each of their elements; 0 for all others.
Splits splitsAlongParts(const Structure& structure, const MeshSizes& sizes)
{
    Splits splits(structure.members.size(), 0);
    for (const auto& joint : structure.surfaceJoints) {
        double size = std::numeric_limits<double>::infinity();
        for (const auto& [target, at] : joint.other) {
            const int part =
                target == Target::sheet ? at
                : target == Target::solid
                    ? structure.frame.partOfSolid(at)
                    : structure.frame.partsOf(structure.frame.faces->faces[static_cast<std::size_t>(at)]).front();
            size = std::min(size, sizes.ofPart[static_cast<std::size_t>(part)]);
        }
        for (const auto& line : joint.members) {
            const auto at = static_cast<std::size_t>(line.member);
            const FrameMember& member = structure.frame.members[at];
            if (!line.lies || member.elements > 0) continue;
            constexpr double most = 1000.0;
            splits[at] = std::max(
                splits[at], static_cast<long>(std::min(most, std::ceil(structure.frame.length(member) / size - 1e-9))));
        }
    }
    return splits;
}

/// Shares of members' lengths between which each has elements alike: 0 and 1, and where it goes through a part.
std::vector<std::vector<double>> stretchesOf(const Structure& structure)
{
    std::vector<std::vector<double>> stretches(structure.members.size(), {0.0, 1.0});
    for (const auto& joint : structure.surfaceJoints)
        for (const auto& line : joint.members) {
            const auto at = static_cast<std::size_t>(line.member);
            if (structure.members[at].rod) continue; // rods in a row would fold
            stretches[at].insert(stretches[at].end(), line.passes.begin(), line.passes.end());
        }
    for (auto& own : stretches) {
        std::sort(own.begin(), own.end());
        own.erase(std::unique(own.begin(), own.end()), own.end());
    }
    return stretches;
}

/// The shares at which the elements of a member end: so many all in all, or a few more where stretches want them.
std::vector<double> dividedInto(long parts, const std::vector<double>& stretches)
{
    std::vector<double> ends{0.0};
    for (std::size_t at = 1; at < stretches.size(); ++at) {
        const double begin = stretches[at - 1], length = stretches[at] - begin;
        const long own = std::max(1L, static_cast<long>(std::ceil(double(parts) * length - 1e-9)));
        for (long part = 1; part <= own; ++part)
            ends.push_back(part == own ? stretches[at] : begin + double(part) / double(own) * length);
    }
    return ends;
}

} // namespace

FrameMesh meshOf(const Structure& structure, const Splits& splits, const MeshSizes& sizes, Progress* progress)
{
    FrameMesh mesh;
    mesh.sizes = sizes;
    for (std::size_t at = 0; at < structure.frame.points.size(); ++at)
        mesh.nodes.push_back({structure.frame.points[at].place, static_cast<int>(at)});
    if (structure.frame.faces) addDrawn(structure, mesh, progress);
    if (structure.frame.faces && structure.frame.faces->given) addGiven(structure, mesh);
    const Splits along = splitsAlongParts(structure, sizes);
    const auto stretches = stretchesOf(structure);
    for (std::size_t at = 0; at < structure.frame.members.size(); ++at) {
        const auto& member = structure.frame.members[at];
        const auto& offset = structure.members[at].offset;
        mesh.firstElement.push_back(static_cast<int>(mesh.elements.size()));
        const Eigen::Vector3d from = structure.frame.points[static_cast<std::size_t>(member.from)].place + offset[0];
        const Eigen::Vector3d to = structure.frame.points[static_cast<std::size_t>(member.to)].place + offset[1];
        if (const auto nodes = nodesAlong(structure, mesh, at); nodes.size() > 1) {
            const auto shareOf = [&](std::size_t node) {
                const Eigen::Vector3d first = structure.frame.points[static_cast<std::size_t>(member.from)].place,
                                      whole = structure.frame.points[static_cast<std::size_t>(member.to)].place - first;
                return (mesh.nodes[static_cast<std::size_t>(nodes[node])].place - first).dot(whole) /
                       whole.squaredNorm();
            };
            for (std::size_t part = 0; part + 1 < nodes.size(); ++part) {
                const double begin = part == 0 ? 0.0 : shareOf(part),
                             end = part + 2 == nodes.size() ? 1.0 : shareOf(part + 1);
                mesh.elements.push_back(
                    {static_cast<int>(at),
                     {nodes[part], nodes[part + 1]},
                     {offset[0] + begin * (offset[1] - offset[0]), offset[0] + end * (offset[1] - offset[0])},
                     {begin, end}});
            }
            continue;
        }
        const long parts = structure.members[at].rod ? 1 : std::max(splits[at], along[at]); // rods in a row would fold
        const auto ends = dividedInto(parts, stretches[at]);
        int last = member.from;
        for (std::size_t part = 1; part < ends.size(); ++part) {
            const double begin = ends[part - 1], end = ends[part];
            int next = member.to;
            if (part + 1 < ends.size()) {
                next = static_cast<int>(mesh.nodes.size());
                mesh.nodes.push_back({from + end * (to - from), -1});
            }
            MeshElement element{
                static_cast<int>(at), {last, next}, {Eigen::Vector3d::Zero(), Eigen::Vector3d::Zero()}, {begin, end}};
            if (part == 1) element.arms[0] = offset[0];
            if (part + 1 == ends.size()) element.arms[1] = offset[1];
            mesh.elements.push_back(element);
            last = next;
        }
    }
    mesh.firstElement.push_back(static_cast<int>(mesh.elements.size()));
    return mesh;
}

} // namespace undisona
