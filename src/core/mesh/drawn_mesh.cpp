#include "core/mesh/drawn_mesh.hpp"

#include "core/mesh/sheet_mesh.hpp"
#include "core/mesh/sheet_unions.hpp"
#include "core/mesh/solid_mesh.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <limits>

namespace undisona {

const JoinedFaces& drawnFaces(const Structure& structure)
{
    const JoinedFaces& all = *structure.frame.faces;
    return all.drawn ? *all.drawn : all;
}

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

namespace {

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
        const auto scaled = [&](long through) { return std::max(1L, std::lround(double(through) / sizes.ofStated)); };
        request.bodies.push_back({sizes.ofPart[structure.sheets.size() + solid], own.elements,
                                  own.through > 0 ? scaled(own.through) : 0, scaled(2)});
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
    std::vector<double> volumes(structure.solids.size(), 0.0);
    for (const auto& piece : mesh.solids) {
        SolidElement own{piece.kind, {}, 1.0, 0.0, 1.0};
        for (std::size_t node = 0; node < piece.count(); ++node)
            own.node.push_back(mesh.nodes[static_cast<std::size_t>(piece.nodes[node])].place);
        volumes[static_cast<std::size_t>(piece.solid)] += volumeOf(own);
    }
    std::vector<double> drawn(structure.solids.size(), 0.0); // a cut may leave several bodies of one
    for (const auto& body : structure.frame.faces->solids)
        drawn[static_cast<std::size_t>(body.solid)] += body.volume;
    for (std::size_t body = 0; body < mesh.bodies.size(); ++body) {
        const auto solid = static_cast<std::size_t>(structure.frame.faces->solids[body].solid);
        const BodyPlan& plan = mesh.bodies[body];
        const auto& asked = structure.solids[solid];
        const std::string& name = structure.frame.solids[solid].name;
        const double volume = drawn[solid], made = volumes[solid];
        constexpr double mostOff = 0.2; // beyond it something has gone wrong, and modes would be of another body
        if (made > 0.0 && std::abs(made - volume) > mostOff * volume) {
            mesh.problems.push_back(errorAt(
                structure.frame.solids[solid].sentence,
                fmt::format("the mesh of {} holds {:.4g} dm3 and the body {:.4g} dm3", name, 1e3 * made, 1e3 * volume),
                "Give it smaller elements, or ask for tetrahedra."));
            continue;
        }
        if (made > 0.0 && std::abs(made - volume) > 0.005 * volume)
            mesh.problems.push_back(warningAt(
                structure.frame.solids[solid].sentence,
                fmt::format("the mesh of {} holds {:.4g} dm3 and the body {:.4g} dm3, so that its mass is {:.1f} "
                            "% too {}",
                            name, 1e3 * made, 1e3 * volume, 100.0 * std::abs(made / volume - 1.0),
                            made > volume ? "large" : "small"),
                "Give it smaller elements."));
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

    void add(Progress* progress)
    {
        const auto& all = structure_.frame.faces;
        constexpr int most = 7; // each leaves elements half as large where they are in each other's way
        std::size_t inTheWay = std::numeric_limits<std::size_t>::max();
        for (int attempt = 1;; ++attempt) {
            surface_ = meshFaces(all->drawn ? all->drawn : all, surfaceRequest(structure_, mesh_.sizes), progress);
            if (faces_.solids.empty()) break;
            bodies_ = meshBodies(faces_, *surface_, progress);
            if ((progress && progress->stopped()) || attempt == most || !finerWhereNotFilled(inTheWay)) break;
        }
        takeNodes(surface_->nodes);
        if (bodies_) takeNodes(bodies_->nodes);
        findCopies();
        addEdges();
        if (bodies_) addBodies();
        if (bodies_) sayWhatIsFiner();
        addShells();
        if (!progress || !progress->stopped()) sayWhatIsEmpty();
    }

private:
    /// Smaller elements where bodies could not be filled; says whether there is any sense in trying, of which there is
    /// none where ever more are in the way: faces that lie on each other do so at any size.
    bool finerWhereNotFilled(std::size_t& inTheWay)
    {
        std::size_t places = 0;
        bool any = false;
        for (std::size_t body = 0; body < bodies_->problems.size(); ++body) {
            if (bodies_->problems[body].empty()) continue;
            any = true;
            places += bodies_->finerAt[body].size();
        }
        if (!any || places > 2 * std::min(inTheWay, mostInTheWay)) return false;
        inTheWay = places;
        for (std::size_t body = 0; body < bodies_->problems.size(); ++body) {
            if (bodies_->problems[body].empty()) continue;
            const auto& where = bodies_->finerAt[body];
            mesh_.sizes.places.insert(mesh_.sizes.places.end(), where.begin(), where.end());
            const auto part = static_cast<std::size_t>(structure_.frame.partOfSolid(faces_.solids[body].solid));
            finer_[faces_.solids[body].solid] += where.size();
            if (where.empty()) mesh_.sizes.ofPart[part] *= 0.7;
        }
        return true;
    }
    static constexpr std::size_t mostInTheWay = 2000;

    /// The bodies that were filled after all.
    void sayWhatIsFiner()
    {
        for (std::size_t body = 0; body < bodies_->problems.size(); ++body)
            if (!bodies_->problems[body].empty()) finer_.erase(faces_.solids[body].solid);
        for (const auto& [solid, places] : finer_) {
            const Solid& own = structure_.frame.solids[static_cast<std::size_t>(solid)];
            mesh_.problems.push_back(noteAt(
                own.sentence,
                places > 0
                    ? fmt::format("{} has smaller elements where its surface crossed itself in larger ones, at {} {}",
                                  own.name, places, places == 1 ? "place" : "places")
                    : fmt::format("{} has smaller elements than usual: with those it could not be filled", own.name)));
        }
    }

    /// Vertices at a point of the frame are that point's node.
    void takeNodes(const std::vector<Eigen::Vector3d>& places)
    {
        const std::size_t before = own_.size();
        own_.resize(before + places.size(), -1);
        for (std::size_t point = 0; before == 0 && point < faces_.vertexOfPoint.size(); ++point)
            if (const int vertex = faces_.vertexOfPoint[point];
                vertex >= 0 && !structure_.carried.contains(static_cast<int>(point)))
                own_[static_cast<std::size_t>(vertex)] = static_cast<int>(point);
        for (std::size_t at = before; at < own_.size(); ++at) {
            if (own_[at] >= 0) continue;
            own_[at] = static_cast<int>(mesh_.nodes.size());
            mesh_.nodes.push_back({places[at - before], -1});
        }
    }

    int nodeOf(int node) const { return own_[static_cast<std::size_t>(node)]; }
    int nodeOf(int node, int part) const { return copyOf(copies_, node, part, nodeOf(node)); }
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

    void addEdges()
    {
        for (const auto& nodes : surface_->ofEdge) {
            auto& along = mesh_.edgeNodes.emplace_back();
            auto& beside = mesh_.edgeCopies.emplace_back();
            for (std::size_t at = 0; at < nodes.size(); ++at) {
                along.push_back(nodeOf(nodes[at]));
                addCopies(copies_, nodes[at], beside);
                if (!bodies_ || at + 1 == nodes.size()) continue;
                // What is held along an edge is held between too.
                const auto middle = bodies_->middles.find(std::minmax(nodes[at], nodes[at + 1]));
                if (middle == bodies_->middles.end()) continue;
                beside.push_back(nodeOf(middle->second));
                addCopies(copies_, middle->second, beside);
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
            const auto parts = structure_.frame.partsOf(own);
            if (parts.empty()) continue;
            const int part = parts.front();
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
    std::map<int, std::size_t> finer_; ///< solids that could not be filled at first, and at how many places
    std::vector<int> own_;             ///< by node of the faces, then of the bodies
    NodeCopies copies_;
};

} // namespace

void addDrawn(const Structure& structure, FrameMesh& mesh, Progress* progress)
{
    DrawnMesher(structure, mesh).add(progress);
}

} // namespace undisona
