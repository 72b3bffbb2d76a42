#include "core/mesh/given_mesh.hpp"

#include "core/mesh/sheet_unions.hpp"
#include "core/shapes/given_faces.hpp"

namespace undisona {

namespace {

class GivenMesher {
public:
    GivenMesher(const Structure& structure, FrameMesh& mesh)
        : structure_(structure), faces_(*structure.frame.faces), given_(*faces_.given), mesh_(mesh),
          unions_(structure.apart), own_(given_.nodes.size(), -1)
    {
        for (const auto& [point, node] : given_.nodeOfPoint)
            if (!structure.carried.contains(point)) own_[static_cast<std::size_t>(node)] = point;
        for (std::size_t node = 0; node < own_.size(); ++node) {
            if (own_[node] >= 0) continue;
            own_[node] = static_cast<int>(mesh_.nodes.size());
            mesh_.nodes.push_back({given_.nodes[node], -1});
        }
        findCopies();
    }

    void add()
    {
        addEdges();
        mesh_.faceNodes.resize(given_.firstFace);
        mesh_.weight.resize(given_.firstFace, 1.0);
        for (std::size_t at = 0; at < given_.ofFace.size(); ++at)
            addFace(static_cast<int>(given_.firstFace + at), given_.ofFace[at]);
        for (std::size_t body = 0; body < given_.ofSolid.size(); ++body)
            addBody(faces_.solids[given_.firstSolid + body], given_.ofSolid[body]);
    }

private:
    int nodeOf(int node) const { return own_[static_cast<std::size_t>(node)]; }

    int nodeOf(int node, int part) const { return copyOf(copies_, node, part, nodeOf(node)); }
    int partOf(int solid) const { return structure_.frame.partOfSolid(solid); }

    void findCopies()
    {
        if (unions_.empty()) return;
        std::vector<std::vector<int>> met(own_.size());
        const auto note = [&](int node, int part) {
            if (node >= 0) met[static_cast<std::size_t>(node)].push_back(part);
        };
        for (std::size_t at = 0; at < given_.ofFace.size(); ++at)
            if (const int sheet = faces_.faces[given_.firstFace + at].sheet; sheet >= 0)
                for (const auto& piece : given_.ofFace[at])
                    for (const int node : piece.corners)
                        note(node, sheet);
        for (std::size_t body = 0; body < given_.ofSolid.size(); ++body)
            for (const auto& element : given_.ofSolid[body])
                for (const int node : element.nodes)
                    note(node, partOf(faces_.solids[given_.firstSolid + body].solid));
        copies_ = copiesFor(unions_, std::move(met), own_, mesh_);
    }

    void addEdges()
    {
        for (const auto& line : given_.ofEdge) {
            auto& along = mesh_.edgeNodes.emplace_back();
            auto& beside = mesh_.edgeCopies.emplace_back();
            for (const int node : line.nodes) {
                along.push_back(nodeOf(node));
                addCopies(copies_, node, beside);
            }
            for (const int node : line.middles) {
                beside.push_back(nodeOf(node));
                addCopies(copies_, node, beside);
            }
        }
    }

    void addFace(int index, const std::vector<GivenFaces::Piece>& pieces)
    {
        const JoinedFace& face = faces_.faces[static_cast<std::size_t>(index)];
        std::set<int> nodes;
        double flat = 0.0;
        for (const auto& piece : pieces) {
            if (face.sheet >= 0) {
                MeshShell shell{face.sheet, index, {-1, -1, -1, -1}};
                for (std::size_t corner = 0; corner < piece.count(); ++corner)
                    shell.nodes[corner] = nodeOf(piece.corners[corner], face.sheet);
                mesh_.shells.push_back(shell);
                flat += mesh_.area(shell);
                continue;
            }
            const bool open = face.solids.size() == 1 || unions_.apart(partOf(face.solids[0]), partOf(face.solids[1]));
            for (const int solid : face.solids) {
                FrameMesh::OuterPiece outer{solid, index};
                for (std::size_t corner = 0; corner < piece.count(); ++corner) {
                    outer.corners[corner] = nodeOf(piece.corners[corner], partOf(solid));
                    if (piece.middles[corner] >= 0)
                        outer.middles[corner] = nodeOf(piece.middles[corner], partOf(solid));
                    if (solid != face.solids[0]) continue;
                    nodes.insert(outer.corners[corner]);
                    if (outer.middles[corner] >= 0) nodes.insert(outer.middles[corner]);
                }
                if (solid != face.solids[0]) { // seen from its own outside
                    std::reverse(outer.corners.begin() + 1, outer.corners.begin() + long(outer.count()));
                    std::reverse(outer.middles.begin(), outer.middles.begin() + long(outer.count()));
                }
                if (open) mesh_.outer.push_back(outer);
            }
        }
        mesh_.faceNodes.emplace_back(nodes.begin(), nodes.end());
        mesh_.weight.push_back(flat > 0.0 ? face.area / flat : 1.0);
    }

    void addBody(const JoinedSolid& body, const std::vector<GivenFaces::Element>& elements)
    {
        double area = 0.0;
        for (const int face : body.faces)
            area += faces_.faces[static_cast<std::size_t>(face)].area;
        BodyPlan plan{};
        plan.size = std::cbrt(std::abs(body.volume) / double(elements.size()));
        plan.thickness = 2.0 * std::abs(body.volume) / area;
        mesh_.bodies.push_back(plan);
        for (const auto& element : elements) {
            MeshSolid piece{body.solid, element.kind, element.nodes};
            for (std::size_t node = 0; node < piece.count(); ++node)
                piece.nodes[node] = nodeOf(element.nodes[node], partOf(body.solid));
            mesh_.solids.push_back(piece);
        }
    }

    const Structure& structure_;
    const JoinedFaces& faces_;
    const GivenFaces& given_;
    FrameMesh& mesh_;
    Unions unions_;
    std::vector<int> own_; ///< by given node
    NodeCopies copies_;
};

} // namespace

void addGiven(const Structure& structure, FrameMesh& mesh)
{
    GivenMesher(structure, mesh).add();
}

std::string partWithOneMesh(const Structure& structure)
{
    for (const auto& sheet : structure.frame.sheets)
        if (sheet.mesh) return sheet.name;
    for (const auto& solid : structure.frame.solids)
        if (!solid.spent && placedMesh(*solid.shape)) return solid.name;
    return {};
}

} // namespace undisona
