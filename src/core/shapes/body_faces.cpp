#include "core/shapes/body_faces.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepGProp.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <Geom2d_Curve.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

namespace undisona {

namespace {

/// Nothing where the surface has no normal there.
std::optional<FaceSample> sampleAt(const TopoDS_Face& face, const BRepAdaptor_Surface& surface, double u, double v)
{
    gp_Pnt place;
    gp_Vec byU, byV;
    surface.D1(u, v, place, byU, byV);
    gp_Vec normal = byU.Crossed(byV);
    if (normal.Magnitude() < 1e-12 * (byU.Magnitude() + byV.Magnitude())) return std::nullopt;
    if (face.Orientation() == TopAbs_REVERSED) normal.Reverse();
    return FaceSample{place, gp_Dir(normal)};
}

} // namespace

BodyFaces::BodyFaces(const TopoDS_Shape& body)
{
    TopExp::MapShapes(body, TopAbs_FACE, faces_);
    TopExp::MapShapesAndAncestors(body, TopAbs_EDGE, TopAbs_FACE, facesOfEdge_);
    for (int at = 0; at < count(); ++at) {
        GProp_GProps properties;
        BRepGProp::SurfaceProperties(face(at), properties);
        areas_.push_back(properties.Mass());
        TopTools_IndexedMapOfShape all;
        TopExp::MapShapes(face(at), TopAbs_EDGE, all);
        edges_.emplace_back();
        beside_.emplace_back();
        for (int index = 1; index <= all.Extent(); ++index) {
            const TopoDS_Edge& edge = TopoDS::Edge(all(index));
            if (BRep_Tool::Degenerated(edge) || BRep_Tool::IsClosed(edge, face(at))) continue;
            edges_.back().push_back(edge);
            for (const int other : beside(edge))
                if (other != at) beside_.back().insert(other);
        }
    }
}

TopoDS_Face BodyFaces::face(int at) const
{
    return TopoDS::Face(faces_(at + 1));
}

std::vector<int> BodyFaces::beside(const TopoDS_Edge& edge) const
{
    std::vector<int> faces;
    const int at = facesOfEdge_.FindIndex(edge);
    if (at == 0) return faces;
    for (TopTools_ListIteratorOfListOfShape face(facesOfEdge_(at)); face.More(); face.Next())
        faces.push_back(faces_.FindIndex(face.Value()) - 1);
    return faces;
}

bool BodyFaces::goesOnSmoothly(const TopoDS_Edge& edge) const
{
    constexpr double smooth = 0.02; // rad
    const auto both = beside(edge);
    if (both.size() != 2) return false;
    std::vector<gp_Dir> normals;
    for (const int which : both) {
        const TopoDS_Face own = face(which);
        double first = 0.0, last = 0.0;
        const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, own, first, last);
        if (curve.IsNull()) return false;
        const gp_Pnt2d middle = curve->Value(0.5 * (first + last));
        const auto sample = sampleAt(own, BRepAdaptor_Surface(own, false), middle.X(), middle.Y());
        if (!sample) return false;
        normals.push_back(sample->outward);
    }
    return normals[0].Angle(normals[1]) < smooth;
}

namespace {

/// Looks at places of a grid over a face, and takes those within it.
class FaceGrid {
public:
    explicit FaceGrid(const TopoDS_Face& face) : face_(face), surface_(face)
    {
        BRepTools::UVBounds(face, left_, right_, low_, high_);
        // Nearer to its edge than that the kernel looks much longer.
        const double across = std::min(right_ - left_, high_ - low_);
        within_.emplace(face, std::min(sameInShapes, 1e-3 * across));
    }

    std::optional<FaceSample> at(int i, int j, int parts)
    {
        const double u = left_ + (i + 0.5) / parts * (right_ - left_), v = low_ + (j + 0.5) / parts * (high_ - low_);
        if (within_->Perform(gp_Pnt2d(u, v)) != TopAbs_IN) return std::nullopt;
        return sampleAt(face_, surface_, u, v);
    }

private:
    TopoDS_Face face_;
    BRepAdaptor_Surface surface_;
    double left_ = 0.0, right_ = 0.0, low_ = 0.0, high_ = 0.0;
    std::optional<BRepTopAdaptor_FClass2d> within_;
};

} // namespace

std::optional<FaceSample> BodyFaces::someSample(int which) const
{
    FaceGrid grid(face(which));
    for (const int parts : {1, 4, 12, 40})
        for (int i = 0; i < parts; ++i)
            for (int j = 0; j < parts; ++j)
                if (auto sample = grid.at(i, j, parts)) return sample;
    return std::nullopt;
}

std::vector<FaceSample> BodyFaces::samples(int which) const
{
    FaceGrid grid(face(which));
    for (const int parts : {4, 12, 40}) { // finer where the face is a narrow one
        std::vector<FaceSample> found;
        for (int i = 0; i < parts; ++i)
            for (int j = 0; j < parts; ++j)
                if (auto sample = grid.at(i, j, parts)) found.push_back(*sample);
        if (found.size() >= 4) {
            std::vector<FaceSample> few;
            const std::size_t step = std::max<std::size_t>(1, found.size() / 16);
            for (std::size_t at = 0; at < found.size(); at += step)
                few.push_back(found[at]);
            return few;
        }
    }
    return {};
}

std::vector<std::vector<int>> BodyFaces::connected(const std::set<int>& faces) const
{
    std::vector<std::vector<int>> parts;
    std::set<int> left = faces;
    while (!left.empty()) {
        std::vector<int> part{*left.begin()};
        left.erase(left.begin());
        for (std::size_t at = 0; at < part.size(); ++at)
            for (const int other : beside(part[at]))
                if (left.erase(other) > 0) part.push_back(other);
        parts.push_back(std::move(part));
    }
    return parts;
}

} // namespace undisona
