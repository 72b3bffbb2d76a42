#pragma once
// The CAD kernel's shapes of panels and bodies; for the few files that know its headers.
#include "core/geometry/sheet.hpp"
#include "core/geometry/solid.hpp"

#include <TopoDS_Face.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>

namespace undisona {

constexpr double kernelTolerance = 1e-6; ///< m, within which things touch

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
TopoDS_Shape shapeOf(const SolidShape&);
/// Flat, cylindrical and conical faces that a line parts for nothing are one in the result, and edges likewise; the
/// shape as it was where that fails.
TopoDS_Shape unified(const TopoDS_Shape&);
TopoDS_Shape moved(const TopoDS_Shape&, const Eigen::Matrix3d& turn, const Eigen::Vector3d& shift);

/// A shape as the kernel has it, in metres.
struct KernelShape {
    TopoDS_Shape shape;
};

} // namespace undisona
