#include "core/shapes/flat_place.hpp"

#include "core/shapes/body_faces.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

namespace undisona {

namespace {

std::vector<TopoDS_Face> facesOf(const Frame& frame, const std::vector<int>& sheets, const std::vector<int>& solids)
{
    std::vector<TopoDS_Face> faces;
    const auto add = [&](const TopoDS_Shape& shape) {
        for (TopExp_Explorer at(shape, TopAbs_FACE); at.More(); at.Next())
            faces.push_back(TopoDS::Face(at.Current()));
    };
    for (const int index : sheets) {
        const Sheet& sheet = frame.sheets[static_cast<std::size_t>(index)];
        const auto each = [&](const auto& panels) {
            for (const auto& panel : panels)
                add(faceOf(panel));
        };
        each(sheet.flat);
        each(sheet.turned);
        each(sheet.crowns);
        each(sheet.kept);
    }
    for (const int index : solids)
        if (const auto& shape = *frame.solids[static_cast<std::size_t>(index)].shape; !placedMesh(shape))
            add(shapeOf(shape));
    return faces;
}

/// The place on the nearest face, if that is flat.
std::optional<FlatPlace> onNearest(const std::vector<TopoDS_Face>& faces, const Eigen::Vector3d& near)
{
    const auto vertex = BRepBuilderAPI_MakeVertex(pointOf(near)).Vertex();
    double least = 1e300;
    const TopoDS_Face* nearest = nullptr;
    for (const auto& face : faces) {
        const BRepExtrema_DistShapeShape distance(vertex, face);
        if (!distance.IsDone() || distance.Value() > least - 1e-9) continue;
        least = distance.Value();
        nearest = &face;
    }
    if (!nearest) return std::nullopt;
    const BRepAdaptor_Surface surface(*nearest);
    if (surface.GetType() != GeomAbs_Plane) return std::nullopt;
    const gp_Ax3 position = surface.Plane().Position();
    const Eigen::Vector3d origin = vectorOf(position.Location().XYZ());
    Eigen::Vector3d normal =
        vectorOf(position.XDirection().XYZ()).cross(vectorOf(position.YDirection().XYZ())).normalized();
    FlatPlace found{near - (near - origin).dot(normal) * normal, normal};
    if (nearest->Orientation() == TopAbs_REVERSED) found.outward = -normal;
    return found;
}

} // namespace

std::optional<FlatPlace> flatPlace(const Frame& frame, const std::vector<int>& sheets, const std::vector<int>& solids,
                                   const Eigen::Vector3d& near, std::string& failure)
{
    try {
        return onNearest(facesOf(frame, sheets, solids), near);
    } catch (const Standard_Failure& thrown) {
        failure = thrown.GetMessageString();
        return std::nullopt;
    }
}

} // namespace undisona
