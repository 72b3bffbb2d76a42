#include "core/shapes/flat_face.hpp"

#include "core/shapes/kernel_shapes.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Tool.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>

namespace undisona {

namespace {

using Two = Eigen::Vector2d;

/// A wire of lines and arcs in the panel's plane; nothing where it has another edge.
std::optional<Outline> outlineOf(const TopoDS_Wire& wire, const TopoDS_Face& face, const FlatPanel& panel)
{
    const auto flat = [&](const gp_Pnt& at) {
        return Two(panel.axes.leftCols<2>().transpose() * (vectorOf(at.XYZ()) - panel.origin));
    };
    Outline outline;
    for (BRepTools_WireExplorer edges(wire, face); edges.More(); edges.Next()) {
        const BRepAdaptor_Curve curve(edges.Current());
        const double first = curve.FirstParameter(), last = curve.LastParameter();
        if (curve.GetType() != GeomAbs_Line && curve.GetType() != GeomAbs_Circle) return std::nullopt;
        const bool backwards = edges.Current().Orientation() == TopAbs_REVERSED;
        const Two from = flat(curve.Value(backwards ? last : first)), to = flat(curve.Value(backwards ? first : last));
        if ((to - from).norm() < sameInShapes) {
            if (curve.GetType() != GeomAbs_Circle) continue;
            return circleAbout(flat(curve.Circle().Location()), curve.Circle().Radius());
        }
        double bow = 0.0;
        if (curve.GetType() == GeomAbs_Circle) {
            const Two chord = (to - from).normalized(), right(chord.y(), -chord.x());
            bow = (flat(curve.Value((first + last) / 2.0)) - (from + to) / 2.0).dot(right);
        }
        outline.corners.push_back({from, bow});
    }
    if (outline.corners.size() < 2) return std::nullopt;
    return counterClockwise(outline);
}

} // namespace

std::optional<FlatPanel> flatPanelOf(const KeptFaces& kept)
{
    try {
        const TopoDS_Shape shape = unified(faceOf(kept));
        TopExp_Explorer faces(shape, TopAbs_FACE);
        if (!faces.More()) return std::nullopt;
        const TopoDS_Face face = TopoDS::Face(faces.Current());
        faces.Next();
        if (faces.More()) return std::nullopt;
        const BRepAdaptor_Surface surface(face);
        if (surface.GetType() != GeomAbs_Plane) return std::nullopt;
        FlatPanel panel;
        Eigen::Vector3d normal = vectorOf(surface.Plane().Axis().Direction().XYZ());
        if (face.Orientation() == TopAbs_REVERSED) normal = -normal;
        Eigen::Vector3d along = kept.turn.col(0);
        if (std::abs(along.dot(normal)) > 0.99 * along.norm()) along = kept.turn.col(1);
        panel.axes.col(2) = normal;
        panel.axes.col(0) = (along - along.dot(normal) * normal).normalized();
        panel.axes.col(1) = normal.cross(panel.axes.col(0));
        const Eigen::Vector3d on = vectorOf(surface.Plane().Location().XYZ());
        panel.origin = kept.shift + (on - kept.shift).dot(normal) * normal;
        const TopoDS_Wire outer = BRepTools::OuterWire(face);
        for (TopExp_Explorer wires(face, TopAbs_WIRE); wires.More(); wires.Next()) {
            auto outline = outlineOf(TopoDS::Wire(wires.Current()), face, panel);
            if (!outline) return std::nullopt;
            if (wires.Current().IsSame(outer))
                panel.outline = std::move(*outline);
            else
                panel.holes.push_back(std::move(*outline));
        }
        return panel;
    } catch (const Standard_Failure&) {
        return std::nullopt;
    }
}

} // namespace undisona
