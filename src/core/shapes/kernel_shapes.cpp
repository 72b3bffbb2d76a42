#include "core/shapes/kernel_shapes.hpp"

#include "core/shapes/kernel_stop.hpp"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRep_Builder.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <Geom2dAPI_Interpolate.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_SphericalSurface.hxx>
#include <Geom_ToroidalSurface.hxx>
#include <GProp_GProps.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_HArray1OfPnt2d.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Circ.hxx>
#include <gp_Pln.hxx>
#include <gp_Trsf.hxx>

#include <atomic>
#include <numbers>

namespace undisona {

namespace {

TopoDS_Wire wireOf(const FlatPanel& panel, const Outline& outline, bool hole)
{
    if (outline.isCircle()) {
        const Eigen::Vector3d normal = (hole ? -1.0 : 1.0) * panel.axes.col(2);
        const gp_Circ round(
            gp_Ax2(pointOf(panel.place(outline.centre)), directionOf(normal), directionOf(panel.axes.col(0))),
            outline.radius);
        return BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(round).Edge()).Wire();
    }
    BRepBuilderAPI_MakeWire wire;
    const std::size_t count = outline.corners.size();
    std::vector<TopoDS_Vertex> vertices;
    for (const auto& corner : outline.corners)
        vertices.push_back(BRepBuilderAPI_MakeVertex(pointOf(panel.place(corner.at))).Vertex());
    for (std::size_t at = 0; at < count; ++at) {
        const std::size_t side = hole ? count - 1 - at : at;
        std::size_t from = side, to = (side + 1) % count;
        if (hole) std::swap(from, to);
        if (outline.corners[side].bow == 0.0) {
            wire.Add(BRepBuilderAPI_MakeEdge(vertices[from], vertices[to]).Edge());
            continue;
        }
        const GC_MakeArcOfCircle arc(pointOf(panel.place(outline.corners[from].at)),
                                     pointOf(panel.place(outline.middleOfSide(side))),
                                     pointOf(panel.place(outline.corners[to].at)));
        wire.Add(BRepBuilderAPI_MakeEdge(arc.Value(), vertices[from], vertices[to]).Edge());
    }
    return wire.Wire();
}

} // namespace

TopoDS_Face faceOf(const FlatPanel& panel)
{
    const gp_Pln plane(gp_Ax3(pointOf(panel.origin), directionOf(panel.axes.col(2)), directionOf(panel.axes.col(0))));
    BRepBuilderAPI_MakeFace face(plane, wireOf(panel, panel.outline, false), true);
    for (const auto& hole : panel.holes)
        face.Add(wireOf(panel, hole, true));
    return face.Face();
}

TopoDS_Face faceOf(const TurnedPanel& panel)
{
    const auto axes = [&](double z) {
        return gp_Ax3(pointOf(panel.origin + z * panel.axes.col(2)), directionOf(panel.axes.col(2)),
                      directionOf(panel.axes.col(0)));
    };
    if (panel.arc) {
        const auto& arc = *panel.arc;
        Handle(Geom_Surface) surface;
        if (std::abs(arc.centre.x()) < sameInShapes)
            surface = new Geom_SphericalSurface(axes(arc.centre.y()), arc.radius);
        else
            surface = new Geom_ToroidalSurface(axes(arc.centre.y()), arc.centre.x(), arc.radius);
        return BRepBuilderAPI_MakeFace(surface, 0.0, panel.angle, arc.first, arc.last, sameInShapes).Face();
    }
    const Eigen::Vector2d way = panel.to - panel.from;
    if (std::abs(way.x()) < sameInShapes)
        return BRepBuilderAPI_MakeFace(new Geom_CylindricalSurface(axes(panel.from.y()), panel.from.x()), 0.0,
                                       panel.angle, 0.0, way.y(), sameInShapes)
            .Face();
    return BRepBuilderAPI_MakeFace(
               new Geom_ConicalSurface(axes(panel.from.y()), std::atan2(way.x(), way.y()), panel.from.x()), 0.0,
               panel.angle, 0.0, way.norm(), sameInShapes)
        .Face();
}

/// On a sphere whose own poles lie at its sides, so that the cap has none.
TopoDS_Face faceOf(const CrownPanel& panel)
{
    const Handle(Geom_Surface) sphere = new Geom_SphericalSurface(
        gp_Ax3(pointOf(panel.centre), directionOf(panel.axes.col(0)), directionOf(panel.axes.col(2))), panel.radius);
    const gp_Circ rim(gp_Ax2(pointOf(panel.centre + panel.radius * std::cos(panel.half) * panel.axes.col(2)),
                             directionOf(panel.axes.col(2)), directionOf(panel.axes.col(0))),
                      panel.radius * std::sin(panel.half));
    const TopoDS_Edge edge = BRepBuilderAPI_MakeEdge(rim).Edge();
    TopoDS_Face face;
    BRep_Builder builder;
    builder.MakeFace(face, sphere, sameInShapes);
    constexpr int places = 256; // of the rim in the sphere's own parameters, where it is no line that has a name
    Handle(TColgp_HArray1OfPnt2d) own = new TColgp_HArray1OfPnt2d(1, places);
    Handle(TColStd_HArray1OfReal) at = new TColStd_HArray1OfReal(1, places + 1);
    for (int place = 0; place <= places; ++place) {
        const double turn = 2.0 * std::numbers::pi * place / places;
        at->SetValue(place + 1, turn);
        if (place == places) break;
        own->SetValue(place + 1, {std::atan2(-std::sin(panel.half) * std::sin(turn), std::cos(panel.half)),
                                  std::asin(std::sin(panel.half) * std::cos(turn))});
    }
    Geom2dAPI_Interpolate line(own, at, true, 1e-12);
    line.Perform();
    builder.UpdateEdge(edge, line.Curve(), face, sameInShapes);
    builder.Add(face, BRepBuilderAPI_MakeWire(edge).Wire());
    return face;
}

namespace {

TopoDS_Shape shapeOf(const KeptShape& kept)
{
    if (kept.scale == 1.0) return kept.shape->shape;
    gp_Trsf larger;
    larger.SetScaleFactor(kept.scale);
    return BRepBuilderAPI_Transform(kept.shape->shape, larger, true).Shape();
}

TopoDS_Shape shapeOf(const SolidForm& form)
{
    FlatPanel panel{form.origin, form.axes, form.profile, form.holes};
    if (!form.turned) {
        const Eigen::Vector3d way = form.extent * form.axes.col(2);
        return BRepPrimAPI_MakePrism(faceOf(panel), gp_Vec(way.x(), way.y(), way.z())).Shape();
    }
    panel.axes << form.axes.col(0), form.axes.col(2), -form.axes.col(1); // r and z of the profile
    const gp_Ax1 axis(pointOf(form.origin), directionOf(form.axes.col(2)));
    if (form.extent > 2.0 * std::numbers::pi - 1e-9) return BRepPrimAPI_MakeRevol(faceOf(panel), axis).Shape();
    return BRepPrimAPI_MakeRevol(faceOf(panel), axis, form.extent).Shape();
}

} // namespace

const Progress*& StopScope::watched()
{
    thread_local const Progress* progress = nullptr;
    return progress;
}

double newStamp()
{
    static std::atomic<long> stamps{0};
    return double(++stamps);
}

TopoDS_Shape moved(const TopoDS_Shape& shape, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift)
{
    gp_Trsf motion;
    motion.SetValues(turn(0, 0), turn(0, 1), turn(0, 2), shift.x(), turn(1, 0), turn(1, 1), turn(1, 2), shift.y(),
                     turn(2, 0), turn(2, 1), turn(2, 2), shift.z());
    return BRepBuilderAPI_Transform(shape, motion, true).Shape();
}

TopoDS_Shape unified(const TopoDS_Shape& shape, const std::vector<TopoDS_Edge>& keep)
{
    ShapeUpgrade_UnifySameDomain unify(shape, true, true, false);
    for (TopExp_Explorer face(shape, TopAbs_FACE); face.More(); face.Next()) {
        const auto kind = BRepAdaptor_Surface(TopoDS::Face(face.Current()), false).GetType();
        if (kind == GeomAbs_Plane || kind == GeomAbs_Cylinder || kind == GeomAbs_Cone) continue;
        for (TopExp_Explorer edge(face.Current(), TopAbs_EDGE); edge.More(); edge.Next())
            unify.KeepShape(edge.Current()); // parts of balls and rings are made one wrongly, or have no outline then
    }
    for (const auto& edge : keep)
        unify.KeepShape(edge);
    unify.Build();
    const TopoDS_Shape result = unify.Shape();
    const auto count = [](const TopoDS_Shape& one, TopAbs_ShapeEnum kind) {
        TopTools_IndexedMapOfShape all;
        TopExp::MapShapes(one, kind, all);
        return all.Extent();
    };
    if (result.IsNull() || (count(result, TopAbs_FACE) == count(shape, TopAbs_FACE) &&
                            count(result, TopAbs_EDGE) == count(shape, TopAbs_EDGE)))
        return shape;
    if (!BRepCheck_Analyzer(result).IsValid()) return shape;
    GProp_GProps before, after;
    BRepGProp::VolumeProperties(shape, before);
    BRepGProp::VolumeProperties(result, after);
    return std::abs(after.Mass() - before.Mass()) > 1e-6 * std::abs(before.Mass()) ? shape : result;
}

TopoDS_Shape faceOf(const KeptFaces& faces)
{
    return moved(shapeOf(faces.kept), faces.turn, faces.shift);
}

const std::vector<KernelShape::Mark>& marksOf(const SolidShape& shape)
{
    static const std::vector<KernelShape::Mark> none;
    if (const auto* kept = std::get_if<KeptShape>(&shape.what)) return kept->shape->marks;
    if (const auto* motion = std::get_if<SolidShape::Moved>(&shape.what)) return marksOf(*motion->shape);
    return none;
}

double volumeOf(const TopoDS_Shape& shape)
{
    GProp_GProps properties;
    BRepGProp::VolumeProperties(shape, properties, 1e-6);
    return std::abs(properties.Mass());
}

TopoDS_Shape shapeOf(const SolidShape& shape, bool* cutsNothing)
{
    StopScope::check();
    if (const auto* kept = std::get_if<KeptShape>(&shape.what)) return shapeOf(*kept);
    if (const auto* form = std::get_if<SolidForm>(&shape.what)) return shapeOf(*form);
    if (std::holds_alternative<PlacedMesh>(shape.what)) throw Standard_Failure("a mesh has no shape of the kernel's");
    if (const auto* motion = std::get_if<SolidShape::Moved>(&shape.what))
        return moved(shapeOf(*motion->shape, cutsNothing), motion->turn, motion->shift);
    const auto& pair = std::get<SolidShape::Pair>(shape.what);
    const TopoDS_Shape first = shapeOf(*pair.first, cutsNothing), second = shapeOf(*pair.second, cutsNothing);
    StopScope::check();
    TopoDS_Shape made;
    if (pair.operation == SolidShape::Operation::join)
        made = BRepAlgoAPI_Fuse(first, second).Shape();
    else if (pair.operation == SolidShape::Operation::cut)
        made = BRepAlgoAPI_Cut(first, second).Shape();
    else
        made = BRepAlgoAPI_Common(first, second).Shape();
    constexpr double rounding = 1e-11; // faces that stayed give the same volume
    if (cutsNothing && pair.operation == SolidShape::Operation::cut)
        if (const double whole = volumeOf(first); whole - volumeOf(made) < rounding * whole) *cutsNothing = true;
    return unified(made);
}

} // namespace undisona
