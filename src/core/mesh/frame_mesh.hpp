#pragma once
#include "core/base/progress.hpp"
#include "core/elements/solid.hpp"
#include "core/statement/structure.hpp"
#include "core/mesh/size_field.hpp"
#include "core/mesh/sweep_plan.hpp"

#include <map>

namespace undisona {

/// A node of the mesh: a point of the frame, or one inside a member.
struct MeshNode {
    Eigen::Vector3d place; ///< m
    int point = -1;        ///< index of the frame's point, -1 inside a member
};

/// A part of a member between two nodes. The centroid line runs from first.place + arms[0] to second.place +
/// arms[1]; arms are zero inside a member, except where it follows a sheet and shares that one's nodes.
struct MeshElement {
    int member;
    std::array<int, 2> nodes;
    std::array<Eigen::Vector3d, 2> arms;
    std::array<double, 2> share; ///< where on the member it begins and ends, 0...1
};

/// How large elements are.
struct MeshSizes {
    std::vector<double> ofPart;              ///< m; by sheet, then by solid
    std::vector<SizeField::Source> places{}; ///< where they are smaller, beside the places that the model states
    double ofStated = 1.0; ///< by which sizes that the model states for places, and turns of arcs, are multiplied
};

/// About how many elements of sheet such sizes make, with those that are stated for places or without.
double sheetElements(const Structure&, const MeshSizes&, bool withPlaces = true);

/// A piece of a sheet with three or four corners, counter-clockwise about its normal.
struct MeshShell {
    int sheet, face;
    std::array<int, 4> nodes; ///< -1 in the last place of a triangle

    std::size_t corners() const { return nodes[3] < 0 ? 3 : 4; }
};

/// A piece of a solid.
struct MeshSolid {
    int solid;
    SolidKind kind;
    std::array<int, 20> nodes; ///< -1 beyond those of the kind

    std::size_t count() const { return nodesOf(kind); }
};

struct FrameMesh {
    std::vector<MeshNode> nodes;       ///< first the frame's points, in their order
    std::vector<MeshElement> elements; ///< member by member, along each
    std::vector<int> firstElement;     ///< by member, with one more at the end
    std::vector<MeshShell> shells;
    std::vector<MeshSolid> solids;
    std::vector<std::vector<int>> faceNodes; ///< by face: of those of solids, middles of sides too
    /// A piece of the solids' outer faces, counter-clockwise seen from outside: three or four corners and the middles
    /// of its sides 01 12 ..., all or none.
    struct OuterPiece {
        int solid, face;
        std::array<int, 4> corners{-1, -1, -1, -1}; ///< -1 in the last place of a triangle
        std::array<int, 4> middles{-1, -1, -1, -1}; ///< -1: none
        std::size_t count() const { return corners[3] < 0 ? 3 : 4; }
        bool curved() const { return middles[0] >= 0; }
        std::vector<std::array<int, 3>> triangles() const; ///< between all its nodes
    };
    std::vector<OuterPiece> outer;
    std::vector<BodyPlan> bodies;            ///< beside the faces' solids: how each was meshed
    Findings problems;                       ///< bodies that could not be filled
    std::vector<std::vector<int>> edgeNodes; ///< by the faces' edges, from end to end
    /// By the faces' edges: nodes at the same places for sheets that are not joined to the first one there, and those
    /// in the middle of solids' sides.
    std::vector<std::vector<int>> edgeCopies;
    MeshSizes sizes; ///< that sheets and solids were meshed with
    /// By face: its area over that of its flat elements, so that a sheet weighs what it weighs on any mesh.
    std::vector<double> weight;

    struct FacePiece {
        std::vector<int> nodes;
        Eigen::MatrixXd
            products; ///< of their interpolation (surface_piece.hpp), m2; of all pieces together the face's area
    };
    /// Of a face of solids.
    std::vector<FacePiece> piecesOfFace(const Structure&, int face) const;

    struct EdgePiece {
        int first, second; ///< nodes
        double length;     ///< m; of all pieces together that of the edge
    };
    std::vector<EdgePiece> piecesOfEdge(const Structure&, int edge) const;
    /// All that something has, ascending: of an edge, those of every sheet there.
    std::vector<int> nodesOf(Target, int at) const;

    double area(const MeshShell&) const; ///< of the flat piece that stands for it
    Eigen::Vector3d end(const MeshElement&, int which) const;
    double length(const MeshElement&) const;
};

/// Added mass along members, kg/m by member.
std::vector<double> addedPerLength(const Structure&);

/// Number of elements by member.
using Splits = std::vector<long>;

/// All that a mesh is made from beside the structure.
struct MeshPlan {
    Splits splits;
    MeshSizes sizes;
};
MeshPlan planOf(const FrameMesh&);
/// Every size times the factor (> 0); members keep two elements at least where they had as many.
MeshPlan scaled(MeshPlan, double factor);

/// Three elements to a half wave of bending at the frequency (Hz), at least one; what the user states
/// comes first. The half wave of a uniform member is pi (EI / (m w2))^(1/4).
Splits proposeSplits(const Structure&, double frequency);

/// An eighth of a half wave of bending at the frequency (Hz; 0: unknown), pi (D / (m w2))^(1/4), but eight elements at
/// least along the square root of a sheet's area; what the user states comes first.
MeshSizes proposeSizes(const Structure&, double frequency);

/// Splits as stated for each member and elements as large as stated for each sheet, ready to solve.
FrameMesh meshOf(const Structure&, const Splits&, const MeshSizes&, Progress* = nullptr);
/// For drawing and the sum of masses: whatever is stated, a few elements alone.
FrameMesh coarseMesh(const Structure&);

/// What a sheet weighs beside its own material, kg/m2 by sheet.
std::vector<double> addedPerArea(const Structure&);

} // namespace undisona
