#include "core/shapes/face_marks.hpp"
#include "core/base/same_place.hpp"

#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

namespace undisona {

namespace {
}

void FaceMarks::add(const TopoDS_Face& face, FaceMark mark)
{
    Bnd_Box box;
    BRepBndLib::Add(face, box);
    box.Enlarge(samePlace);
    faces_.push_back({face, box, std::move(mark)});
}

std::vector<int> FaceMarks::of(const BodyFaces& body) const
{
    std::vector<int> marks(static_cast<std::size_t>(body.count()), -1);
    for (int face = 0; face < body.count(); ++face) {
        const auto sample = body.someSample(face);
        if (!sample) continue;
        const gp_Pnt place = sample->place;
        double least = samePlace;
        for (std::size_t at = 0; at < faces_.size(); ++at) {
            if (faces_[at].box.IsOut(place)) continue;
            const BRepExtrema_DistShapeShape distance(BRepBuilderAPI_MakeVertex(place).Vertex(), faces_[at].face);
            if (!distance.IsDone() || distance.Value() > least) continue;
            least = distance.Value();
            marks[static_cast<std::size_t>(face)] = static_cast<int>(at);
        }
    }
    return marks;
}

std::vector<TopoDS_Edge> FaceMarks::borders(const TopoDS_Shape& shape) const
{
    std::vector<TopoDS_Edge> edges;
    if (faces_.empty()) return edges;
    const BodyFaces body(shape);
    const auto marks = of(body);
    const auto alike = [&](int one, int other) {
        const int a = marks[static_cast<std::size_t>(one)], b = marks[static_cast<std::size_t>(other)];
        if (a < 0 || b < 0) return a == b;
        return at(a).name == at(b).name && at(a).colour == at(b).colour;
    };
    for (int face = 0; face < body.count(); ++face)
        for (const auto& edge : body.edges(face))
            for (const int other : body.beside(edge))
                if (other > face && !alike(face, other)) edges.push_back(edge);
    return edges;
}

} // namespace undisona
