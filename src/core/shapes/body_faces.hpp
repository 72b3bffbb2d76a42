#pragma once
// The faces of a body and how they meet; for the few files that know the kernel's headers.
#include "core/shapes/kernel_shapes.hpp"

#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS_Edge.hxx>

#include <set>
#include <vector>

namespace undisona {

/// A place on a face and the direction out of the body there.
struct FaceSample {
    gp_Pnt place;
    gp_Dir outward;
};

class BodyFaces {
public:
    explicit BodyFaces(const TopoDS_Shape& body);

    int count() const { return faces_.Extent(); }
    TopoDS_Face face(int at) const; ///< from 0
    double area(int at) const { return areas_[static_cast<std::size_t>(at)]; }
    /// Each once; none of a pole or a seam.
    const std::vector<TopoDS_Edge>& edges(int face) const { return edges_[static_cast<std::size_t>(face)]; }
    std::vector<int> beside(const TopoDS_Edge&) const; ///< the faces that an edge belongs to
    /// The faces that share an edge with it.
    const std::set<int>& beside(int face) const { return beside_[static_cast<std::size_t>(face)]; }
    bool goesOnSmoothly(const TopoDS_Edge&) const; ///< from one of its two faces into the other
    /// Places within its outline, some dozen; none of a face too narrow to find one in.
    std::vector<FaceSample> samples(int face) const;
    std::optional<FaceSample> someSample(int face) const; ///< one within it
    /// Parts of a set of faces whose faces meet along edges.
    std::vector<std::vector<int>> connected(const std::set<int>& faces) const;

private:
    TopTools_IndexedMapOfShape faces_;
    TopTools_IndexedDataMapOfShapeListOfShape facesOfEdge_;
    std::vector<double> areas_;
    std::vector<std::vector<TopoDS_Edge>> edges_;
    std::vector<std::set<int>> beside_;
};

} // namespace undisona
