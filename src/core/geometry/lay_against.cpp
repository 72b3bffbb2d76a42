// A part moved and turned so that a flat face of it lies on one of another part.
#include "core/geometry/body_faces.hpp"
#include "core/geometry/frame_builder.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <fmt/format.h>

namespace undisona {

namespace {

std::vector<TopoDS_Face> facesOf(const Frame& frame, const Picked& parts)
{
    std::vector<TopoDS_Face> faces;
    const auto add = [&](const TopoDS_Shape& shape) {
        for (TopExp_Explorer at(shape, TopAbs_FACE); at.More(); at.Next())
            faces.push_back(TopoDS::Face(at.Current()));
    };
    for (const int index : parts.sheets) {
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
    for (const int index : parts.solids)
        if (const auto& shape = *frame.solids[static_cast<std::size_t>(index)].shape; !placedMesh(shape))
            add(shapeOf(shape));
    return faces;
}

struct FlatPlace {
    Eigen::Vector3d place, outward;
};

/// The place on the nearest face, if that is flat.
std::optional<FlatPlace> flatPlace(const std::vector<TopoDS_Face>& faces, const Eigen::Vector3d& near)
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

void layAgainst(FrameBuilder& builder, const Sentence& sentence)
{
    const auto own = builder.place("own"), place = builder.place("place");
    const auto parts = builder.where("what"), others = builder.where("other");
    if (!own || !place || !parts || !others) return;
    try {
        const auto from = flatPlace(facesOf(builder.frame, *parts), *own),
                   onto = flatPlace(facesOf(builder.frame, *others), *place);
        for (const auto& [found, key] : {std::pair(&from, "what"), {&onto, "other"}})
            if (!*found)
                return builder.complain(fmt::format("{} has no flat face there", sentence.text(key)),
                                        "Name a place on a flat face of sheet or a solid.");
        Eigen::Quaterniond turn = Eigen::Quaterniond::FromTwoVectors(from->outward, -onto->outward);
        if (sentence.has("angle")) turn = Eigen::AngleAxisd(sentence.number("angle"), onto->outward) * turn;
        Eigen::Isometry3d motion = Eigen::Isometry3d::Identity();
        motion.translate(onto->place).rotate(turn).translate(-from->place);
        builder.moveParts(*parts, motion);
    } catch (const Standard_Failure& failure) {
        builder.complain(fmt::format("the faces could not be found: {}", failure.GetMessageString()));
    }
}

} // namespace undisona
