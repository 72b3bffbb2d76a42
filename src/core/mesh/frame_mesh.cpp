#include "core/mesh/frame_mesh.hpp"

#include "core/geometry/given_faces.hpp"
#include "core/mesh/given_mesh.hpp"
#include "core/mesh/sheet_mesh.hpp"
#include "core/mesh/sheet_unions.hpp"
#include "core/mesh/solid_mesh.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <numeric>

namespace undisona {

std::vector<double> addedPerLength(const Structure& structure)
{
    std::vector<double> added(structure.members.size(), 0.0);
    for (const auto& mass : structure.lineMasses)
        added[static_cast<std::size_t>(mass.member)] += mass.perLength;
    return added;
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

std::map<int, double> FrameMesh::areasOf(const Structure& structure, int face) const
{
    std::map<int, double> areas;
    double sum = 0.0;
    const auto place = [&](int node) -> const Eigen::Vector3d& { return nodes[static_cast<std::size_t>(node)].place; };
    for (const auto& piece : outer) {
        if (piece.face != face) continue;
        // Alike whichever corner comes first: the four places within a quadrilateral share it evenly.
        auto triangles = piece.triangles();
        if (piece.count() == 4) {
            const auto& inner = piece.curved() ? piece.middles : piece.corners;
            const double area =
                (place(inner[2]) - place(inner[0])).cross(place(inner[3]) - place(inner[1])).norm() / 2.0;
            for (const int node : inner)
                areas[node] += area / 4.0;
            sum += area;
            triangles.resize(piece.curved() ? 4 : 0);
        }
        for (const auto& [a, b, c] : triangles) {
            const double area = (place(b) - place(a)).cross(place(c) - place(a)).norm() / 2.0;
            for (const int node : {a, b, c})
                areas[node] += area / 3.0;
            sum += area;
        }
    }
    for (auto& [node, area] : areas)
        area *= structure.frame.faces->faces[static_cast<std::size_t>(face)].area / sum;
    return areas;
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
        const long stated = member.elements > 0 ? member.elements : structure.ask.elements;
        if (stated > 0) {
            splits.push_back(stated);
            continue;
        }
        const auto& material = *structure.members[at].material;
        const double mass = structure.materialMassFactor * material.density * member.section->area + added[at];
        const double ei = material.modulus * std::min(member.section->i1, member.section->i2);
        const double halfWave =
            mass > 0.0 && omega > 0.0 ? std::numbers::pi * std::pow(ei / (mass * omega * omega), 0.25) : 1e300;
        const double wanted = std::ceil(3.0 * structure.frame.length(member) / halfWave);
        splits.push_back(static_cast<long>(std::clamp(wanted, 1.0, 1000.0)));
    }
    return splits;
}

std::vector<double> addedPerArea(const Structure& structure)
{
    std::vector<double> added(structure.sheets.size(), 0.0);
    for (const auto& mass : structure.areaMasses)
        added[static_cast<std::size_t>(mass.sheet)] += mass.perArea;
    return added;
}

namespace {
constexpr double elementsPerHalfWave = 8.0; // leave 0.7 % of the frequency, and 0.2 % at half of it
constexpr double solidsPerHalfWave = 4.0;   // of the second order: leave less than 0.5 %
constexpr double elementsAcross = 8.0;      // at least, of a sheet as wide as it is long

/// A body's volume, m3, and about how thick it is, m: twice the volume over the surface, times 3/2 for a cube.
std::array<double, 2> bulkOf(const Structure& structure, int solid)
{
    double volume = 0.0, area = 0.0;
    if (structure.frame.faces)
        for (const auto& body : structure.frame.faces->solids) {
            if (body.solid != solid) continue;
            volume += body.volume;
            for (const int face : body.faces)
                area += structure.frame.faces->faces[static_cast<std::size_t>(face)].area;
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
    const double omega = 2.0 * std::numbers::pi * frequency;
    std::vector<double> sizes = sizesAcross(structure);
    for (std::size_t at = 0; at < structure.frame.solids.size(); ++at) {
        const Solid& solid = structure.frame.solids[at];
        double& size = sizes[structure.sheets.size() + at];
        if (const auto& material = structure.solids[at].material; material && omega > 0.0) {
            const double density = structure.materialMassFactor * material->density,
                         thickness = bulkOf(structure, static_cast<int>(at))[1];
            const double bending =
                std::pow(material->modulus * thickness * thickness / (12.0 * density * omega * omega), 0.25);
            const double shearing = std::sqrt(material->shearModulus() / density) / omega;
            if (density > 0.0)
                size = std::min(size, std::numbers::pi / solidsPerHalfWave * std::min(bending, shearing));
        }
        size *= structure.ask.sheetSizes;
        if (solid.size > 0.0) size = solid.size;
    }
    for (std::size_t at = 0; at < structure.sheets.size(); ++at) {
        const Sheet& sheet = structure.frame.sheets[at];
        double& size = sizes[at];
        const double thickness = sheet.leastThickness();
        if (const auto& material = structure.sheets[at].material; material && omega > 0.0) {
            const double mass = structure.materialMassFactor * material->density * thickness + added[at];
            const double modulus =
                material->grain ? std::min(material->modulus, material->grain->across) : material->modulus;
            const double rigidity = modulus * std::pow(thickness, 3) /
                                    (12.0 * (1.0 - (material->grain ? 0.0 : material->poisson * material->poisson)));
            if (mass > 0.0)
                size = std::min(size, std::numbers::pi / elementsPerHalfWave *
                                          std::pow(rigidity / (mass * omega * omega), 0.25));
        }
        size *= structure.ask.sheetSizes;
        if (sheet.size > 0.0) size = sheet.size;
    }
    return {std::move(sizes)};
}

namespace {

/// The faces that are meshed here.
const JoinedFaces& drawnFaces(const Structure& structure)
{
    const JoinedFaces& all = *structure.frame.faces;
    return all.drawn ? *all.drawn : all;
}

std::vector<double> faceSizes(const Structure&, const MeshSizes&);

} // namespace

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

/// By face, the least of what it belongs to and what is stated for it.
std::vector<double> faceSizes(const Structure& structure, const MeshSizes& sizes)
{
    std::vector<double> list;
    for (const auto& face : drawnFaces(structure).faces) {
        double size = face.sheet >= 0 ? sizes.ofPart[static_cast<std::size_t>(face.sheet)] : 1e300;
        for (const int solid : face.solids)
            size = std::min(size, sizes.ofPart[structure.sheets.size() + static_cast<std::size_t>(solid)]);
        list.push_back(size);
    }
    for (const auto& local : structure.localSizes)
        for (const int face : local.faces)
            if (static_cast<std::size_t>(face) < list.size())
                list[static_cast<std::size_t>(face)] =
                    std::min(list[static_cast<std::size_t>(face)], local.size * sizes.ofStated);
    return list;
}

/// Smaller sizes along edges and about points, as stated; a few places to each edge's element.
SizeField localSizes(const Structure& structure, const MeshSizes& sizes)
{
    std::vector<SizeField::Source> sources = sizes.places;
    for (const auto& local : structure.localSizes) {
        const double size = local.size * sizes.ofStated;
        for (const auto& place : local.places)
            sources.push_back({place, size});
        for (const int edge : local.edges) {
            const double length = structure.frame.faces->edges[static_cast<std::size_t>(edge)].length;
            const long steps = std::clamp<long>(std::lround(length / size), 1, 2000);
            for (long step = 0; step <= steps; ++step)
                sources.push_back({structure.frame.faces->onEdge(edge, double(step) / double(steps)), size});
        }
    }
    return SizeField(std::move(sources));
}

SurfaceRequest surfaceRequest(const Structure& structure, const MeshSizes& sizes)
{
    SurfaceRequest request{faceSizes(structure, sizes), localSizes(structure, sizes), {}, sizes.ofStated};
    for (const auto& body : drawnFaces(structure).solids) {
        const auto solid = static_cast<std::size_t>(body.solid);
        const auto& own = structure.solids[solid];
        request.bodies.push_back({sizes.ofPart[structure.sheets.size() + solid], own.elements, own.through});
    }
    return request;
}

/// Outer pieces run counter-clockwise seen from outside, as the elements they belong to have them.
void turnOutwards(FrameMesh& mesh)
{
    const auto keyOf = [](std::array<int, 4> corners) {
        std::sort(corners.begin(), corners.end());
        return corners;
    };
    std::map<std::array<int, 4>, std::array<int, 4>> outwards; // by the corners in order
    for (const auto& outer : mesh.outer)
        outwards[keyOf(outer.corners)] = outer.corners;
    for (const auto& solid : mesh.solids)
        for (const auto& face : facesOf(solid.kind)) {
            std::array<int, 4> corners{-1, -1, -1, -1};
            for (std::size_t corner = 0; corner < 4 && face[corner] >= 0; ++corner)
                corners[corner] = solid.nodes[static_cast<std::size_t>(face[corner])];
            if (const auto at = outwards.find(keyOf(corners)); at != outwards.end()) at->second = corners;
        }
    for (auto& outer : mesh.outer) {
        const auto& wanted = outwards[keyOf(outer.corners)];
        const std::size_t count = outer.count();
        const auto first =
            static_cast<std::size_t>(std::find(wanted.begin(), wanted.end(), outer.corners[0]) - wanted.begin());
        if (wanted[(first + 1) % count] == outer.corners[1]) continue;
        std::reverse(outer.corners.begin() + 1, outer.corners.begin() + static_cast<long>(count));
        std::reverse(outer.middles.begin(), outer.middles.begin() + static_cast<long>(count));
    }
}

/// Bodies that are not made as asked, and those with too few elements through their thickness.
void sayHowMade(const Structure& structure, FrameMesh& mesh)
{
    for (std::size_t body = 0; body < mesh.bodies.size(); ++body) {
        const auto solid = static_cast<std::size_t>(structure.frame.faces->solids[body].solid);
        const BodyPlan& plan = mesh.bodies[body];
        const auto& asked = structure.solids[solid];
        const std::string& name = structure.frame.solids[solid].name;
        const bool bricks = asked.elements == BodyElements::bricks20 || asked.elements == BodyElements::bricks8;
        if (bricks && !plan.layered())
            mesh.problems.push_back(warningAt(
                asked.elementsSentence, fmt::format("{} cannot be filled with bricks and has tetrahedra", name),
                "Bricks need a body that a flat outline makes by moving along a line or about an axis, without a point "
                "or a line of a neighbour on the other faces."));
        if (plan.linear && plan.through() < 2)
            mesh.problems.push_back(
                warningAt(asked.elementsSentence,
                          fmt::format("{} has one 8-node element through its thickness, which is too stiff in bending "
                                      "where it is a wedge or leans",
                                      name),
                          "Ask for two or more through the thickness, or for 20-node bricks."));
    }
}

/// A mesh of faces and bodies on its way into the mesh of all.
class DrawnMesher {
public:
    DrawnMesher(const Structure& structure, FrameMesh& mesh)
        : structure_(structure), faces_(drawnFaces(structure)), mesh_(mesh), unions_(structure.apart)
    {
    }

    void add(const MeshSizes& sizes, Progress* progress)
    {
        const auto& all = structure_.frame.faces;
        surface_ = meshFaces(all->drawn ? all->drawn : all, surfaceRequest(structure_, sizes), progress);
        takeNodes(surface_->nodes);
        if (!faces_.solids.empty()) {
            bodies_ = meshBodies(faces_, *surface_, progress);
            takeNodes(bodies_->nodes);
        }
        findCopies();
        addEdges();
        if (bodies_) addBodies();
        addShells();
        if (!progress || !progress->stopped()) sayWhatIsEmpty();
    }

private:
    /// Vertices at a point of the frame are that point's node.
    void takeNodes(const std::vector<Eigen::Vector3d>& places)
    {
        const std::size_t before = own_.size();
        own_.resize(before + places.size(), -1);
        for (std::size_t point = 0; before == 0 && point < faces_.vertexOfPoint.size(); ++point)
            if (const int vertex = faces_.vertexOfPoint[point]; vertex >= 0)
                own_[static_cast<std::size_t>(vertex)] = static_cast<int>(point);
        for (std::size_t at = before; at < own_.size(); ++at) {
            if (own_[at] >= 0) continue;
            own_[at] = static_cast<int>(mesh_.nodes.size());
            mesh_.nodes.push_back({places[at - before], -1});
        }
    }

    int nodeOf(int node) const { return own_[static_cast<std::size_t>(node)]; }
    int nodeOf(int node, int part) const
    {
        const auto copy = copies_.find({node, part});
        return copy == copies_.end() ? nodeOf(node) : copy->second;
    }
    const JoinedFace& face(int index) const { return faces_.faces[static_cast<std::size_t>(index)]; }

    void findCopies()
    {
        if (unions_.empty()) return;
        std::vector<std::vector<int>> met(own_.size());
        const auto note = [&](int node, int part) {
            if (node >= 0) met[static_cast<std::size_t>(node)].push_back(part);
        };
        for (const auto& element : surface_->elements)
            if (face(element.face).sheet >= 0)
                for (const int node : element.nodes)
                    note(node, face(element.face).sheet);
        for (std::size_t body = 0; bodies_ && body < bodies_->ofBody.size(); ++body)
            for (const auto& element : bodies_->ofBody[body])
                for (const int node : element.nodes)
                    note(node, structure_.frame.partOfSolid(faces_.solids[body].solid));
        copies_ = copiesFor(unions_, std::move(met), own_, mesh_);
    }

    /// Every node that a part has in the place of one.
    void addCopies(int node, std::vector<int>& list) const
    {
        for (auto copy = copies_.lower_bound({node, 0}); copy != copies_.end() && copy->first.first == node; ++copy)
            list.push_back(copy->second);
    }

    void addEdges()
    {
        for (const auto& nodes : surface_->ofEdge) {
            auto& along = mesh_.edgeNodes.emplace_back();
            auto& beside = mesh_.edgeCopies.emplace_back();
            for (std::size_t at = 0; at < nodes.size(); ++at) {
                along.push_back(nodeOf(nodes[at]));
                addCopies(nodes[at], beside);
                if (!bodies_ || at + 1 == nodes.size()) continue;
                // What is held along an edge is held between too.
                const auto middle = bodies_->middles.find(std::minmax(nodes[at], nodes[at + 1]));
                if (middle == bodies_->middles.end()) continue;
                beside.push_back(nodeOf(middle->second));
                addCopies(middle->second, beside);
            }
        }
    }

    void addBodies()
    {
        mesh_.bodies = surface_->plan.bodies;
        for (std::size_t body = 0; body < bodies_->ofBody.size(); ++body) {
            const int solid = faces_.solids[body].solid, part = structure_.frame.partOfSolid(solid);
            const Solid& said = structure_.frame.solids[static_cast<std::size_t>(solid)];
            if (!bodies_->problems[body].empty())
                mesh_.problems.push_back(errorAt(said.sentence,
                                                 fmt::format("{}: {}", said.name, bodies_->problems[body]),
                                                 "Give it smaller elements, or look for faces that nearly touch."));
            for (const auto& element : bodies_->ofBody[body]) {
                MeshSolid piece{solid, element.kind, element.nodes};
                for (std::size_t node = 0; node < piece.count(); ++node)
                    piece.nodes[node] = nodeOf(element.nodes[node], part);
                mesh_.solids.push_back(piece);
            }
        }
        sayHowMade(structure_, mesh_);
        for (std::size_t at = 0; at < bodies_->ofFace.size(); ++at) {
            mesh_.faceNodes.emplace_back();
            const auto& solids = faces_.faces[at].solids;
            for (const int node : bodies_->ofFace[at])
                mesh_.faceNodes.back().push_back(
                    solids.empty() ? nodeOf(node) : nodeOf(node, structure_.frame.partOfSolid(solids[0])));
        }
        for (const auto& element : surface_->elements) {
            const auto& solids = face(element.face).solids;
            // A face between two bodies is within them, unless they come apart there.
            const auto partOf = [&](std::size_t at) { return structure_.frame.partOfSolid(solids[at]); };
            if (solids.size() == 1 || (solids.size() == 2 && unions_.apart(partOf(0), partOf(1))))
                for (const int solid : solids)
                    mesh_.outer.push_back(outerPiece(element, solid));
        }
        turnOutwards(mesh_);
    }

    FrameMesh::OuterPiece outerPiece(const SheetMesh::Element& element, int solid) const
    {
        const int part = structure_.frame.partOfSolid(solid);
        FrameMesh::OuterPiece piece{solid, element.face};
        const std::size_t corners = element.nodes[3] < 0 ? 3 : 4;
        for (std::size_t corner = 0; corner < corners; ++corner) {
            piece.corners[corner] = nodeOf(element.nodes[corner], part);
            const auto middle =
                bodies_->middles.find(std::minmax(element.nodes[corner], element.nodes[(corner + 1) % corners]));
            if (middle != bodies_->middles.end()) piece.middles[corner] = nodeOf(middle->second, part);
        }
        return piece;
    }

    void addShells()
    {
        for (const auto& element : surface_->elements) {
            const int sheet = face(element.face).sheet;
            if (sheet < 0) continue;
            MeshShell shell{sheet, element.face, {-1, -1, -1, -1}};
            for (std::size_t corner = 0; corner < 4; ++corner)
                if (element.nodes[corner] >= 0) shell.nodes[corner] = nodeOf(element.nodes[corner], sheet);
            mesh_.shells.push_back(shell);
        }
        std::vector<double> flat(faces_.faces.size(), 0.0);
        for (const auto& shell : mesh_.shells)
            flat[static_cast<std::size_t>(shell.face)] += mesh_.area(shell);
        for (std::size_t at = 0; at < flat.size(); ++at)
            mesh_.weight.push_back(flat[at] > 0.0 ? faces_.faces[at].area / flat[at] : 1.0);
    }

    /// Faces that no element could be put on.
    void sayWhatIsEmpty()
    {
        std::vector<char> meshed(faces_.faces.size(), 0);
        for (const auto& element : surface_->elements)
            meshed[static_cast<std::size_t>(element.face)] = 1;
        for (std::size_t at = 0; at < meshed.size(); ++at) {
            if (meshed[at]) continue;
            const JoinedFace& own = faces_.faces[at];
            const int part = own.sheet >= 0       ? own.sheet
                             : own.solids.empty() ? -1
                                                  : structure_.frame.partOfSolid(own.solids[0]);
            if (part < 0) continue;
            mesh_.problems.push_back(
                errorAt(structure_.frame.partSentence(part),
                        fmt::format("a face of {} cannot be meshed, at {}", structure_.frame.partName(part),
                                    placeText(faces_.middle(static_cast<int>(at)))),
                        "Look for lines on it that nearly touch, or mend it where it was drawn."));
        }
    }

    const Structure& structure_;
    const JoinedFaces& faces_;
    FrameMesh& mesh_;
    Unions unions_;
    std::shared_ptr<const SheetMesh> surface_;
    std::shared_ptr<const SolidMesh> bodies_;
    std::vector<int> own_; ///< by node of the faces, then of the bodies
    NodeCopies copies_;
};

/// Nodes of the edges that a member follows, from its first point to its last; empty where it follows none.
std::vector<int> nodesAlong(const Structure& structure, const FrameMesh& mesh, std::size_t member)
{
    std::vector<int> nodes;
    if (!structure.frame.faces) return nodes;
    for (const auto& [edge, backwards] : structure.frame.faces->edgesOfMember[member]) {
        std::vector<int> own = mesh.edgeNodes[static_cast<std::size_t>(edge)];
        if (backwards) std::reverse(own.begin(), own.end());
        nodes.insert(nodes.end(), own.begin() + (nodes.empty() ? 0 : 1), own.end());
    }
    return nodes;
}

} // namespace

FrameMesh meshOf(const Structure& structure, const Splits& splits, const MeshSizes& sizes, Progress* progress)
{
    FrameMesh mesh;
    mesh.sizes = sizes;
    for (std::size_t at = 0; at < structure.frame.points.size(); ++at)
        mesh.nodes.push_back({structure.frame.points[at].place, static_cast<int>(at)});
    if (structure.frame.faces) DrawnMesher(structure, mesh).add(sizes, progress);
    if (structure.frame.faces && structure.frame.faces->given) addGiven(structure, mesh);
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
        const long parts = structure.members[at].rod ? 1 : splits[at]; // a chain of rods would fold
        int last = member.from;
        for (long part = 1; part <= parts; ++part) {
            const double begin = double(part - 1) / double(parts), end = double(part) / double(parts);
            int next = member.to;
            if (part < parts) {
                next = static_cast<int>(mesh.nodes.size());
                mesh.nodes.push_back({from + end * (to - from), -1});
            }
            MeshElement element{
                static_cast<int>(at), {last, next}, {Eigen::Vector3d::Zero(), Eigen::Vector3d::Zero()}, {begin, end}};
            if (part == 1) element.arms[0] = offset[0];
            if (part == parts) element.arms[1] = offset[1];
            mesh.elements.push_back(element);
            last = next;
        }
    }
    mesh.firstElement.push_back(static_cast<int>(mesh.elements.size()));
    return mesh;
}

} // namespace undisona
