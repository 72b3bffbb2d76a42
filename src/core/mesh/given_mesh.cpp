#include "core/mesh/given_mesh.hpp"

#include "core/geometry/given_faces.hpp"
#include "core/mesh/sheet_unions.hpp"

namespace undisona {

namespace {

class GivenMesher {
public:
    GivenMesher(const Structure& structure, FrameMesh& mesh)
        : faces_(*structure.frame.faces), given_(*faces_.given), mesh_(mesh), own_(given_.nodes.size(), -1)
    {
        for (const auto& [point, node] : given_.nodeOfPoint)
            own_[static_cast<std::size_t>(node)] = point;
        for (std::size_t node = 0; node < own_.size(); ++node) {
            if (own_[node] >= 0) continue;
            own_[node] = static_cast<int>(mesh_.nodes.size());
            mesh_.nodes.push_back({given_.nodes[node], -1});
        }
        findCopies(structure);
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

    void findCopies(const Structure& structure)
    {
        const Unions unions(structure.apart);
        if (unions.empty()) return;
        std::vector<std::vector<int>> met(own_.size());
        for (std::size_t at = 0; at < given_.ofFace.size(); ++at)
            for (const auto& piece : given_.ofFace[at])
                for (const int node : piece.corners)
                    if (node >= 0)
                        met[static_cast<std::size_t>(node)].push_back(faces_.faces[given_.firstFace + at].sheet);
        copies_ = copiesFor(unions, std::move(met), own_, mesh_);
    }

    void addEdges()
    {
        for (const auto& line : given_.ofEdge) {
            auto& along = mesh_.edgeNodes.emplace_back();
            auto& beside = mesh_.edgeCopies.emplace_back();
            for (const int node : line.nodes) {
                along.push_back(nodeOf(node));
                for (auto copy = copies_.lower_bound({node, -1}); copy != copies_.end() && copy->first.first == node;
                     ++copy)
                    beside.push_back(copy->second);
            }
            for (const int node : line.middles)
                beside.push_back(nodeOf(node));
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
                for (std::size_t corner = 0; corner < piece.count(); ++corner) {
                    const auto copy = copies_.find({piece.corners[corner], face.sheet});
                    shell.nodes[corner] = copy == copies_.end() ? nodeOf(piece.corners[corner]) : copy->second;
                }
                mesh_.shells.push_back(shell);
                flat += mesh_.area(shell);
                continue;
            }
            FrameMesh::OuterPiece outer{face.solids[0], index};
            for (std::size_t corner = 0; corner < piece.count(); ++corner) {
                outer.corners[corner] = nodeOf(piece.corners[corner]);
                if (piece.middles[corner] >= 0) outer.middles[corner] = nodeOf(piece.middles[corner]);
                nodes.insert(outer.corners[corner]);
                if (outer.middles[corner] >= 0) nodes.insert(outer.middles[corner]);
            }
            if (face.solids.size() == 1) mesh_.outer.push_back(outer);
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
                piece.nodes[node] = nodeOf(element.nodes[node]);
            mesh_.solids.push_back(piece);
        }
    }

    const JoinedFaces& faces_;
    const GivenFaces& given_;
    FrameMesh& mesh_;
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
