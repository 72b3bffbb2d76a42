#pragma once
// What the CAD kernel knows of joined faces; for the files of theirs alone.
#include "core/shapes/joined_faces.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <Geom2d_Curve.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>

#include <map>
#include <mutex>

namespace undisona {

struct JoinedFaces::Kernel {
    struct Use {
        TopoDS_Edge edge;
        Handle(Geom2d_Curve) curve; ///< on the face
        double first, last;
    };
    struct Face {
        TopoDS_Face face;
        BRepAdaptor_Surface surface;
        Eigen::Vector2d scale; ///< lengths of the derivatives by u and v
        /// Where a face closes about a pole its own plane is laid out about that, and it has no seam: +1 where the
        /// pole is at the upper end of v, -1 at the lower.
        int pole = 0;
        double poleAt = 0.0;

        Eigen::Vector2d plane(const Eigen::Vector2d& parameters) const
        {
            if (pole == 0) return scale.cwiseProduct(parameters);
            const double reach = (poleAt - parameters.y()) * pole * scale.y();
            return {reach * std::cos(parameters.x()), pole * reach * std::sin(parameters.x())};
        }
        Eigen::Vector2d parameters(const Eigen::Vector2d& own) const
        {
            if (pole == 0) return own.cwiseQuotient(scale);
            return {std::atan2(pole * own.y(), own.x()), poleAt - pole * own.norm() / scale.y()};
        }
        std::vector<std::vector<Use>> loops;
        std::vector<Use> inner;
        std::vector<Eigen::Vector2d> innerVertices; ///< parameters
    };
    std::vector<TopoDS_Edge> edges;
    std::vector<Face> faces;
    std::map<int, Eigen::AlignedBox3d> boxes; ///< of faces that were asked for
    std::mutex boxesAsked;

    /// The curve's parameter at a share of its length, from the first parameter on.
    static double parameter(const TopoDS_Edge& edge, double share)
    {
        const BRepAdaptor_Curve curve(edge);
        const double first = curve.FirstParameter(), last = curve.LastParameter();
        if (curve.GetType() == GeomAbs_Line || curve.GetType() == GeomAbs_Circle || share <= 0.0 || share >= 1.0)
            return first + share * (last - first);
        return GCPnts_AbscissaPoint(curve, share * GCPnts_AbscissaPoint::Length(curve), first).Parameter();
    }
    Eigen::Vector2d on(const Face& face, const Use& use, double share) const
    {
        const gp_Pnt2d own = use.curve->Value(parameter(use.edge, share));
        return face.plane({own.X(), own.Y()});
    }
};

} // namespace undisona
