// Where things lie on joined faces.
#include "core/base/same_place.hpp"
#include "core/shapes/given_faces.hpp"
#include "core/shapes/joined_kernel.hpp"
#include "core/shapes/kernel_shapes.hpp"

#include <BRep_Tool.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepGProp.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <GeomLProp_SLProps.hxx>
#include <IntCurvesFace_Intersector.hxx>
#include <TopoDS_Vertex.hxx>
#include <gp_Lin.hxx>

namespace undisona {

namespace {

/// At a share of the length of an edge that is known by its places alone.
Eigen::Vector3d onLine(const FaceEdge& edge, double share)
{
    double left = share * edge.length;
    for (std::size_t at = 0; at + 1 < edge.along.size(); ++at) {
        const Eigen::Vector3d way = edge.along[at + 1] - edge.along[at];
        const double length = way.norm();
        if (left <= length && length > 0.0) return edge.along[at] + left / length * way;
        left -= length;
    }
    return edge.along.back();
}

bool isGiven(const JoinedFaces& faces, int face)
{
    return faces.given && static_cast<std::size_t>(face) >= faces.given->firstFace;
}

} // namespace

Eigen::Vector3d JoinedFaces::onEdge(int edge, double share) const
{
    if (given && static_cast<std::size_t>(edge) >= given->firstEdge)
        return onLine(edges[static_cast<std::size_t>(edge)], share);
    const auto& own = kernel_->edges[static_cast<std::size_t>(edge)];
    return vectorOf(BRepAdaptor_Curve(own).Value(Kernel::parameter(own, share)).XYZ());
}

Eigen::Vector2d JoinedFaces::onFace(int face, int loop, int use, double share) const
{
    const auto& own = kernel_->faces[static_cast<std::size_t>(face)];
    const auto at = static_cast<std::size_t>(use);
    const bool backwards = faces[static_cast<std::size_t>(face)].loops[static_cast<std::size_t>(loop)][at].backwards;
    return kernel_->on(own, own.loops[static_cast<std::size_t>(loop)][at], backwards ? 1.0 - share : share);
}

Eigen::Vector2d JoinedFaces::insideFace(int face, int innerEdge, double share) const
{
    const auto& own = kernel_->faces[static_cast<std::size_t>(face)];
    return kernel_->on(own, own.inner[static_cast<std::size_t>(innerEdge)], share);
}

Eigen::Vector2d JoinedFaces::vertexOnFace(int face, int innerVertex) const
{
    const auto& own = kernel_->faces[static_cast<std::size_t>(face)];
    return own.plane(own.innerVertices[static_cast<std::size_t>(innerVertex)]);
}

Eigen::Vector3d JoinedFaces::place(int face, const Eigen::Vector2d& own) const
{
    const auto& kernel = kernel_->faces[static_cast<std::size_t>(face)];
    const Eigen::Vector2d at = kernel.parameters(own);
    return vectorOf(kernel.surface.Value(at.x(), at.y()).XYZ());
}

Eigen::Vector3d JoinedFaces::normal(int face, const Eigen::Vector2d& own) const
{
    const auto& kernel = kernel_->faces[static_cast<std::size_t>(face)];
    gp_Pnt place;
    gp_Vec byU, byV;
    const Eigen::Vector2d at = kernel.parameters(own);
    kernel.surface.D1(at.x(), at.y(), place, byU, byV);
    return vectorOf(byU.Crossed(byV).XYZ()).normalized();
}

Eigen::Vector3d JoinedFaces::normalBeside(int face, int loop, int use, double share) const
{
    if (!isGiven(*this, face)) return normal(face, onFace(face, loop, use, share));
    const EdgeUse& own =
        faces[static_cast<std::size_t>(face)].loops[static_cast<std::size_t>(loop)][static_cast<std::size_t>(use)];
    return given->normalBeside(face, onEdge(own.edge, own.backwards ? 1.0 - share : share));
}

double JoinedFaces::distance(int face, const Eigen::Vector3d& place) const
{
    if (isGiven(*this, face)) return given->distance(face, place);
    const BRepExtrema_DistShapeShape distance(BRepBuilderAPI_MakeVertex(pointOf(place)).Vertex(),
                                              kernel_->faces[static_cast<std::size_t>(face)].face);
    return distance.IsDone() ? distance.Value() : 1e300;
}

std::optional<Eigen::Vector3d> JoinedFaces::normalAt(int face, const Eigen::Vector3d& place, double within) const
{
    if (isGiven(*this, face)) return std::nullopt;
    const auto& own = kernel_->faces[static_cast<std::size_t>(face)].face;
    GeomAPI_ProjectPointOnSurf nearest(pointOf(place), BRep_Tool::Surface(own)); // where the face stands
    if (nearest.NbPoints() == 0 || nearest.LowerDistance() > within) return std::nullopt;
    double u = 0.0, v = 0.0;
    nearest.LowerDistanceParameters(u, v);
    GeomLProp_SLProps there(BRep_Tool::Surface(own), u, v, 1, sameInShapes);
    if (!there.IsNormalDefined()) return std::nullopt;
    return vectorOf(there.Normal().XYZ());
}

std::vector<double> JoinedFaces::crossings(int face, const Eigen::Vector3d& from, const Eigen::Vector3d& to) const
{
    if (isGiven(*this, face)) return {};
    const Eigen::Vector3d way = to - from;
    const double length = way.norm();
    if (length <= sameInShapes) return {};
    const gp_Lin line(pointOf(from), gp_Dir(way.x(), way.y(), way.z()));
    IntCurvesFace_Intersector meet(kernel_->faces[static_cast<std::size_t>(face)].face, sameInShapes);
    meet.Perform(line, 0.0, length);
    std::vector<double> shares;
    for (int at = 1; meet.IsDone() && at <= meet.NbPnt(); ++at)
        shares.push_back(meet.WParameter(at) / length);
    std::sort(shares.begin(), shares.end());
    return shares;
}

Eigen::AlignedBox3d JoinedFaces::box(int face) const
{
    if (isGiven(*this, face)) return given->box(face);
    const std::lock_guard asked(kernel_->boxesAsked); // once each: rules are read again at every move of the mouse
    const auto [found, isNew] = kernel_->boxes.try_emplace(face);
    if (!isNew) return found->second;
    Bnd_Box box;
    BRepBndLib::AddOptimal(kernel_->faces[static_cast<std::size_t>(face)].face, box, false, false);
    if (!box.IsVoid()) found->second = {vectorOf(box.CornerMin().XYZ()), vectorOf(box.CornerMax().XYZ())};
    return found->second;
}

double JoinedFaces::areaOf(const JoinedSolid& body) const
{
    double area = 0.0;
    for (const int face : body.faces)
        area += faces[static_cast<std::size_t>(face)].area;
    return area;
}

Eigen::Vector3d JoinedFaces::centroid(int face) const
{
    if (isGiven(*this, face)) return given->centroid(face);
    GProp_GProps properties;
    BRepGProp::SurfaceProperties(kernel_->faces[static_cast<std::size_t>(face)].face, properties);
    return vectorOf(properties.CentreOfMass().XYZ());
}

Eigen::Vector3d JoinedFaces::middle(int face) const
{
    if (isGiven(*this, face)) return given->middle(face);
    const auto& own = kernel_->faces[static_cast<std::size_t>(face)];
    const gp_Pnt centre = pointOf(centroid(face));
    const GeomAPI_ProjectPointOnSurf nearest(centre, BRep_Tool::Surface(own.face)); // where the face stands
    return vectorOf((nearest.NbPoints() > 0 ? nearest.NearestPoint() : centre).XYZ());
}

} // namespace undisona
