#pragma once
#include "core/base/finding.hpp"
#include "core/elements/solid.hpp"
#include "core/shapes/joined_faces.hpp"

#include <array>
#include <map>

namespace undisona {

/// The elements of the parts that come as meshes, with the faces and edges that were found on them: a face ends where
/// the mesh does, where it turns by more than 40 degrees, and where another part begins. Parts whose
/// nodes lie at the same places share them.
///
/// Nodes count from 0 here, faces, edges and solids from those of the drawn parts on.
struct GivenFaces {
    std::size_t firstEdge = 0, firstFace = 0, firstSolid = 0;
    std::vector<Eigen::Vector3d> nodes; ///< m
    std::map<int, int> nodeOfPoint;     ///< points of the frame that lie at one
    /// Three or four corners and the middles of the sides 01 12 ..., all or none; -1: none.
    struct Piece {
        std::array<int, 4> corners{-1, -1, -1, -1};
        std::array<int, 4> middles{-1, -1, -1, -1};
        std::size_t count() const { return corners[3] < 0 ? 3 : 4; }
    };
    std::vector<std::vector<Piece>> ofFace;
    struct Line {
        std::vector<int> nodes;   ///< from end to end, the corners of elements
        std::vector<int> middles; ///< between them; empty where there are none
    };
    std::vector<Line> ofEdge;
    struct Element {
        SolidKind kind;
        std::array<int, 20> nodes;
    };
    std::vector<std::vector<Element>> ofSolid;

    double distance(int face, const Eigen::Vector3d& place) const;
    Eigen::Vector3d centroid(int face) const;
    Eigen::Vector3d middle(int face) const;                                     ///< of the piece nearest to that
    Eigen::AlignedBox3d box(int face) const;                                    ///< of its nodes
    Eigen::Vector3d normalBeside(int face, const Eigen::Vector3d& place) const; ///< of the nearest piece, unit

private:
    const Eigen::Vector3d& place(int node) const { return nodes[static_cast<std::size_t>(node)]; }
    const std::vector<Piece>& pieces(int face) const { return ofFace[static_cast<std::size_t>(face) - firstFace]; }
};

/// The drawn faces with those of the meshes after them; the drawn ones themselves where no part comes as a mesh.
std::shared_ptr<const JoinedFaces> withGiven(std::shared_ptr<const JoinedFaces> drawn, const Frame&);

} // namespace undisona
