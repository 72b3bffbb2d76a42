#pragma once
// The CAD kernel's shapes of panels and bodies; for the few files that know its headers.
#include "core/base/same_place.hpp"
#include "core/shapes/sheet.hpp"
#include "core/shapes/solid.hpp"

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>

#include <optional>
#include <string>
#include <vector>

namespace undisona {

inline gp_Pnt pointOf(const Eigen::Vector3d& v)
{
    return {v.x(), v.y(), v.z()};
}
inline gp_Dir directionOf(const Eigen::Vector3d& v)
{
    return {v.x(), v.y(), v.z()};
}
inline Eigen::Vector3d vectorOf(const gp_XYZ& v)
{
    return {v.X(), v.Y(), v.Z()};
}

/// Throw Standard_Failure where there is none.
TopoDS_Face faceOf(const FlatPanel&);
TopoDS_Face faceOf(const TurnedPanel&);
TopoDS_Face faceOf(const CrownPanel&);
TopoDS_Shape faceOf(const KeptFaces&); ///< one face or several
/// `cutsNothing` becomes true where a solid is cut out of it that does not meet it.
TopoDS_Shape shapeOf(const SolidShape&, bool* cutsNothing = nullptr);
double volumeOf(const TopoDS_Shape&); ///< m3, to a millionth
/// Flat, cylindrical and conical faces that a line parts for nothing are one in the result, and edges likewise; the
/// shape as it was where that fails. Edges to be kept part them all the same.
TopoDS_Shape unified(const TopoDS_Shape&, const std::vector<TopoDS_Edge>& keep = {});
TopoDS_Shape moved(const TopoDS_Shape&, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift);

/// A shape as the kernel has it, in metres, with what its file says of single faces.
struct KernelShape {
    TopoDS_Shape shape;
    struct Mark {
        int face; ///< as TopExp::MapShapes counts them, from 1
        std::string name;
        std::optional<Eigen::Vector3d> colour;
    };
    std::vector<Mark> marks{};
};
/// Those of a body that was only scaled and moved since it was read, whose faces stand in the same order; none of
/// others.
const std::vector<KernelShape::Mark>& marksOf(const SolidShape&);

} // namespace undisona
