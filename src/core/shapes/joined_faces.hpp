#pragma once
#include "core/base/finding.hpp"
#include "core/shapes/sheet.hpp"
#include "core/shapes/solid.hpp"

#include <memory>
#include <string>

namespace undisona {

struct Frame;
struct GivenFaces;

/// An edge, from its first vertex to its last.
struct FaceEdge {
    int first, last;                    ///< vertices; the same one where it closes
    double length;                      ///< m
    double turn;                        ///< by how much its direction changes, rad
    std::vector<Eigen::Vector3d> along; ///< places from end to end, two where it is straight
    std::vector<int> faces;             ///< that it bounds or lies in, one after the other
    int sheets = 0;                     ///< to how many it belongs
};

struct EdgeUse {
    int edge;
    bool backwards;
};

/// A face without a line or a vertex of its neighbours inside it that is not stated here.
struct JoinedFace {
    int sheet;                               ///< index of frame.sheets; -1: a solid's alone
    std::vector<std::vector<EdgeUse>> loops; ///< the outer one first, counter-clockwise; holes clockwise
    std::vector<int> innerEdges, innerVertices;
    double area;
    std::vector<int> solids{}; ///< indices of frame.solids that it bounds, two where they touch
    struct Plane {
        Eigen::Vector3d place, normal;
    };
    std::optional<Plane> plane{};            ///< where it is flat
    double radius = 0.0;                     ///< of a round one, m
    std::string name{};                      ///< as its file has it
    std::optional<Eigen::Vector3d> colour{}; ///< red, green, blue, 0...1, as its file has it
};

/// The faces round a body.
struct JoinedSolid {
    int solid; ///< index of frame.solids
    std::vector<int> faces;
    double volume; ///< m3
};

/// The faces of all sheets with their common edges and vertices found: sheets that touch or cross are joined there, and
/// so are the members that lie on a sheet and the points on it.
class JoinedFaces {
public:
    /// Of a frame with sheets; what cannot be joined is said under the sentence it comes from.
    static std::shared_ptr<const JoinedFaces> of(const Frame&, Findings&);
    ~JoinedFaces();

    double stamp; ///< another one for each that was made
    std::vector<Eigen::Vector3d> vertices;
    std::vector<FaceEdge> edges;
    std::vector<JoinedFace> faces;
    std::vector<JoinedSolid> solids;
    std::vector<int> vertexOfPoint;                  ///< by the frame's points; -1: on none of them
    std::vector<std::vector<EdgeUse>> edgesOfMember; ///< from its first point on; empty: it follows no sheet

    /// Where some parts come as meshes: the others alone, which are meshed here, and what lies on the meshes. Vertices,
    /// edges, faces and solids of the others come first; the nodes of the meshes are vertices too.
    std::shared_ptr<const JoinedFaces> drawn;
    std::shared_ptr<const GivenFaces> given;

    /// At a share 0...1 of an edge's length.
    Eigen::Vector3d onEdge(int edge, double share) const;
    /// The same in a face's own plane, where distances are those on the face, about; -1 for `use`: an edge inside.
    Eigen::Vector2d onFace(int face, int loop, int use, double share) const;
    Eigen::Vector2d insideFace(int face, int innerEdge, double share) const;
    Eigen::Vector2d vertexOnFace(int face, int innerVertex) const;
    Eigen::Vector3d place(int face, const Eigen::Vector2d& own) const;
    Eigen::Vector3d normal(int face, const Eigen::Vector2d& own) const; ///< unit
    double distance(int face, const Eigen::Vector3d& place) const;      ///< m
    /// Unit, of a drawn face at a place that lies on its surface to so much (m); nothing where it does not.
    std::optional<Eigen::Vector3d> normalAt(int face, const Eigen::Vector3d& place, double within) const;
    /// Shares of the way from one place to another at which it goes through a drawn face, ascending.
    std::vector<double> crossings(int face, const Eigen::Vector3d& from, const Eigen::Vector3d& to) const;
    Eigen::Vector3d centroid(int face) const;
    Eigen::Vector3d middle(int face) const;  ///< a place on it, about its centroid
    Eigen::AlignedBox3d box(int face) const; ///< along the global axes, m
    double areaOf(const JoinedSolid&) const; ///< of its surface, m2
    /// Of a face along one of its loops, unit.
    Eigen::Vector3d normalBeside(int face, int loop, int use, double share) const;

private:
    JoinedFaces();
    friend class FaceJoiner;
    friend class GivenFaceMaker;
    struct Kernel; ///< the CAD kernel's side of it
    std::shared_ptr<Kernel> kernel_;
};

} // namespace undisona
