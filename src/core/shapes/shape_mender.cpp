#include "core/shapes/shape_mender.hpp"

#include "core/shapes/kernel_shapes.hpp"

#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepBndLib.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <ShapeFix_Shape.hxx>
#include <ShapeFix_Solid.hxx>
#include <ShapeFix_Wireframe.hxx>
#include <ShapeUpgrade_ShapeDivideClosed.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <fmt/format.h>

namespace undisona {

int countOf(const TopoDS_Shape& shape, TopAbs_ShapeEnum kind)
{
    TopTools_IndexedMapOfShape all;
    TopExp::MapShapes(shape, kind, all);
    return all.Extent();
}

namespace {

std::string counted(int number, const char* one, const char* many)
{
    return number == 1 ? fmt::format("1 {}", one) : fmt::format("{} {}", number, many);
}

class Mender {
public:
    Mender(const FaceMarks& marks, ShapeFile::Body& body) : marks_(marks), body_(body) {}

    TopoDS_Shape mended(TopoDS_Shape shape)
    {
        span_ = spanOf(shape);
        if (body_.solid && countOf(shape, TopAbs_SOLID) == 0) body_.solid = false;
        if (!body_.solid) shape = sewn(shape);
        shape = fixed(shape);
        shape = withoutSmallEdges(shape);
        shape = unified(shape);
        shape = parted(shape);
        if (!valid_) sayFaults(shape);
        return shape;
    }

private:
    static double spanOf(const TopoDS_Shape& shape)
    {
        Bnd_Box box;
        BRepBndLib::Add(shape, box);
        return box.IsVoid() ? 1.0 : std::sqrt(box.SquareExtent());
    }
    /// A length that is fair for a body of a few centimetres to some metres, for one of any size.
    double fair(double length) const { return std::clamp(length, 0.2 * length * span_, 100.0 * length * span_); }

    void note(std::string what) { body_.mended.push_back(std::move(what)); }

    void sayFaults(const TopoDS_Shape& shape)
    {
        const BRepCheck_Analyzer check(shape);
        if (check.IsValid()) return;
        int faulty = 0;
        for (TopExp_Explorer face(shape, TopAbs_FACE); face.More(); face.Next())
            faulty += !check.IsValid(face.Current());
        body_.faulty = faulty > 0 ? fmt::format("{} cross themselves or do not close", counted(faulty, "face", "faces"))
                                  : "its faces do not close";
    }

    static int openEdges(const TopoDS_Shape& shape)
    {
        TopTools_IndexedDataMapOfShapeListOfShape faces;
        TopExp::MapShapesAndAncestors(shape, TopAbs_EDGE, TopAbs_FACE, faces);
        int open = 0;
        for (int at = 1; at <= faces.Extent(); ++at)
            open += faces(at).Extent() == 1 && !BRep_Tool::Degenerated(TopoDS::Edge(faces.FindKey(at))) &&
                    !BRep_Tool::IsClosed(TopoDS::Edge(faces.FindKey(at)), TopoDS::Face(faces(at).First()));
        return open;
    }

    /// Faces that lie edge to edge; a body where they close.
    TopoDS_Shape sewn(const TopoDS_Shape& shape)
    {
        const double gap = fair(2e-5);
        const int before = openEdges(shape);
        BRepBuilderAPI_Sewing sewing(gap);
        sewing.Add(shape);
        sewing.Perform();
        TopoDS_Shape result = sewing.SewedShape();
        if (result.IsNull() || countOf(result, TopAbs_FACE) == 0) return shape;
        const int after = openEdges(result);
        if (after < before) note(fmt::format("{} sewn", counted((before - after) / 2, "open edge", "open edges")));
        if (after > 0 || countOf(result, TopAbs_SHELL) != 1) return result;
        const TopoDS_Solid solid =
            BRepBuilderAPI_MakeSolid(TopoDS::Shell(TopExp_Explorer(result, TopAbs_SHELL).Current())).Solid();
        if (solid.IsNull()) return result;
        note("closed faces made a solid");
        body_.solid = true;
        return solid;
    }

    TopoDS_Shape fixed(const TopoDS_Shape& shape)
    {
        valid_ = BRepCheck_Analyzer(shape).IsValid(); // which is slow, so only once where nothing is wrong
        if (valid_ && !insideOut(shape)) return shape;
        ShapeFix_Shape fix(shape);
        fix.SetPrecision(sameInShapes);
        fix.SetMaxTolerance(fair(1e-4));
        fix.Perform();
        TopoDS_Shape result = fix.Shape();
        if (insideOut(result)) result.Reverse();
        note("faulty faces mended");
        return result;
    }

    bool insideOut(const TopoDS_Shape& shape) const
    {
        if (!body_.solid) return false;
        GProp_GProps properties;
        BRepGProp::VolumeProperties(shape, properties);
        return properties.Mass() < 0.0;
    }

    TopoDS_Shape withoutSmallEdges(const TopoDS_Shape& shape)
    {
        const double small = fair(5e-6);
        bool any = false;
        for (TopExp_Explorer edge(shape, TopAbs_EDGE); edge.More() && !any; edge.Next()) {
            if (BRep_Tool::Degenerated(TopoDS::Edge(edge.Current()))) continue;
            GProp_GProps line;
            BRepGProp::LinearProperties(edge.Current(), line);
            any = line.Mass() < small;
        }
        if (!any) return shape;
        ShapeFix_Wireframe wires(shape);
        wires.SetPrecision(small);
        wires.SetMaxTolerance(fair(1e-4));
        const int before = countOf(shape, TopAbs_EDGE);
        wires.FixSmallEdges();
        wires.FixWireGaps();
        const TopoDS_Shape result = wires.Shape();
        if (result.IsNull() || !BRepCheck_Analyzer(result).IsValid()) return shape;
        if (const int fewer = before - countOf(result, TopAbs_EDGE); fewer > 0)
            note(fmt::format("{} merged", counted(fewer, "small edge", "small edges")));
        return result;
    }

    /// Faces and edges that go on beyond a line are one, as where a cylinder comes in two halves.
    TopoDS_Shape unified(const TopoDS_Shape& shape)
    {
        const TopoDS_Shape result = undisona::unified(shape, marks_.borders(shape));
        if (const int fewer = countOf(shape, TopAbs_FACE) - countOf(result, TopAbs_FACE); fewer > 0)
            note(fmt::format("{} joined to what they go on in", counted(fewer, "part of a face", "parts of faces")));
        return result;
    }

    /// A whole ball or ring is one face without an outline of its own; it is parted, and what hangs on it too.
    TopoDS_Shape parted(const TopoDS_Shape& shape)
    {
        bool any = false;
        for (TopExp_Explorer face(shape, TopAbs_FACE); face.More() && !any; face.Next()) {
            int poles = 0, seams = 0, others = 0;
            for (TopExp_Explorer edges(face.Current(), TopAbs_EDGE); edges.More(); edges.Next()) {
                const TopoDS_Edge& edge = TopoDS::Edge(edges.Current());
                if (BRep_Tool::Degenerated(edge))
                    ++poles;
                else if (BRep_Tool::IsClosed(edge, TopoDS::Face(face.Current())))
                    ++seams;
                else
                    ++others;
            }
            any = poles > 1 || (others == 0 && seams > 2);
        }
        if (!any) return shape;
        ShapeUpgrade_ShapeDivideClosed divide(shape);
        divide.SetNbSplitPoints(1);
        divide.Perform();
        const TopoDS_Shape result = divide.Result();
        return result.IsNull() ? shape : result;
    }

    const FaceMarks& marks_;
    ShapeFile::Body& body_;
    bool valid_ = false;
    double span_ = 1.0; ///< the diagonal of its box, m
};

} // namespace

TopoDS_Shape mendedShape(const TopoDS_Shape& shape, const FaceMarks& marks, ShapeFile::Body& body)
{
    return Mender(marks, body).mended(shape);
}

} // namespace undisona
