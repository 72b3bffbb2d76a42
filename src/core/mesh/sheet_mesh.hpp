#pragma once
#include "core/base/progress.hpp"
#include "core/mesh/size_field.hpp"
#include "core/mesh/sweep_plan.hpp"
#include "core/shapes/joined_faces.hpp"

#include <array>

namespace undisona {

/// Elements on the joined faces of sheets.
struct SheetMesh {
    double stamp = 0.0;                   ///< another one for each that was made
    std::vector<Eigen::Vector3d> nodes;   ///< first the vertices of the faces
    std::vector<std::vector<int>> ofEdge; ///< nodes of each edge, from its first to its last vertex
    struct Element {
        int face;
        std::array<int, 4> nodes; ///< counter-clockwise about the face's normal; -1 in the last place of a triangle
    };
    std::vector<Element> elements; ///< triangles alone where a face bounds a body of tetrahedra
    /// Where the middles of sides lie on the true faces of solids, by their ends, the lower number first.
    std::map<std::pair<int, int>, Eigen::Vector3d> middleOf;

    SweepPlan plan; ///< of the bodies
    /// By body: for each node of the first face of a sweep those it moves to, layer by layer; -1 within the body.
    std::vector<std::map<int, std::vector<int>>> columns;
    /// By body of a whole turn: the nodes of its outline one after the other, round to the first or from the axis to
    /// the axis; those that move have columns.
    std::vector<std::vector<int>> outlines;
};

/// What the surface takes of the work where bodies are filled too, about.
constexpr double surfaceShare = 0.3;

/// What is asked of the elements on the faces.
struct SurfaceRequest {
    std::vector<double> sizeOfFace;  ///< m
    SizeField field;                 ///< where they are smaller
    std::vector<BodyRequest> bodies; ///< beside the faces' solids
    double turns = 1.0;              ///< by which the turn of an arc that one element may cover is multiplied
};

/// Elements of about the size asked, or smaller where the field says so. Faces of four sides whose divisions agree and
/// flat rings are mapped, those that a sweep moves over follow it; others are filled. Edges are divided once, so that
/// faces that share one share its nodes.
///
/// The last few meshes are kept, so that a moved mass or support meets the mesh that is there. Where the run is stopped
/// faces are left empty.
std::shared_ptr<const SheetMesh> meshFaces(const std::shared_ptr<const JoinedFaces>&, const SurfaceRequest&,
                                           Progress* = nullptr);

/// About how many elements that makes.
double elementsOf(const JoinedFaces&, const std::vector<double>& sizeOfFace);

} // namespace undisona
