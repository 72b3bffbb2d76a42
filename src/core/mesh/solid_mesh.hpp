#pragma once
#include "core/elements/solid.hpp"
#include "core/mesh/sheet_mesh.hpp"

namespace undisona {

/// Elements of a body; nodes are those of the surface mesh, then the new ones.
struct SolidMesh {
    struct Element {
        SolidKind kind;
        std::array<int, 20> nodes; ///< -1 beyond those of the kind
    };
    std::vector<Eigen::Vector3d> nodes;         ///< new ones, beyond the surface mesh's
    std::vector<std::vector<Element>> ofBody;   ///< beside JoinedFaces::solids
    std::vector<std::vector<int>> ofFace;       ///< by face: its nodes, middles of sides too
    std::map<std::pair<int, int>, int> middles; ///< of the surface's sides, by their ends
    std::vector<std::string> problems;          ///< by body; empty if it was filled
    /// By body that was not: where smaller elements may do, and how small; none where it is not known.
    std::vector<std::vector<SizeField::Source>> finerAt;
};

/// Fills every body as the surface's plan has it: layers of bricks and wedges where it is a sweep, else ten-node
/// tetrahedra; the middles of the surface's sides lie on the true surface.
///
/// The last few are kept, beside the surface meshes they belong to.
std::shared_ptr<const SolidMesh> meshBodies(const JoinedFaces&, const SheetMesh&, Progress*);

} // namespace undisona
