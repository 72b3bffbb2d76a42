#pragma once
#include "core/elements/surface_piece.hpp"
#include "core/mesh/frame_mesh.hpp"

#include <functional>

namespace undisona {

using Matrix3X = Eigen::Matrix<double, 3, Eigen::Dynamic>;

/// A piece of a surface in the mesh: a side of a solid's element, or an element of sheet by its middle face.
struct SurfaceFacet {
    int part;               ///< as Frame::partName counts them
    bool ofSolid;           ///< it faces outwards alone; sheet faces both ways
    bool turns;             ///< its nodes turn, as those of sheet that bends do
    std::vector<int> nodes; ///< three or four corners in turn, then the middles of the sides or none

    std::size_t corners() const { return surfaceCorners(nodes.size()); }
};

/// A place on a facet, by its parameters.
struct FacetPlace {
    double r, s;
    Eigen::Vector3d place, normal; ///< m; unit, outwards of a solid
    std::vector<double> values;    ///< what each node interpolates
    Matrix3X slopes;               ///< along the surface, 1/m, by node
};

/// Where two sides face each other: convex pieces of one facet each with one of the other side. They may be apart by
/// the gap, overlap by a negative one, and their meshes need not match.
struct Facing {
    struct Meeting {
        int one, other;                       ///< facets of the sides
        std::vector<Eigen::Vector3d> outline; ///< in the plane of the one, m
        double area, gap;                     ///< m2; m, negative where a body overlaps with what it faces
        bool behindOne, behindOther;          ///< of two facets' normals, on which side of it the other one is
    };
    std::vector<SurfaceFacet> ones, others;
    std::vector<Meeting> meetings;
    std::vector<double> areaOfOne, areaOfOther, coveredOfOne, coveredOfOther; ///< by facet, m2
    bool onesLieBetween = false, othersLieBetween = false;    ///< sheet of that side meets something on both of its own
    double nearest = std::numeric_limits<double>::infinity(); ///< m, where nothing is within reach

    double area() const; ///< of all that meets, m2
    std::array<double, 2> gaps() const;
};

/// `reach` as the joint has it, or half more than the least gap that there is.
Facing facingOf(const Structure&, const FrameMesh&, const SurfaceJoint&);

/// What follows of edges and surfaces, or is measured over them, is made of these.
std::vector<SurfaceFacet> facetsOf(const Structure&, const FrameMesh&, const SurfaceJoint::Side&);

FacetPlace placeOn(const FrameMesh&, const SurfaceFacet&, double r, double s);
/// Where the line through a place meets a facet, or its continuation.
FacetPlace placeAcross(const FrameMesh&, const SurfaceFacet&, const Eigen::Vector3d& from, const Eigen::Vector3d& way);

/// Calls `take` with places all over a meeting, each with the area that it stands for (m2): exact for polynomials of
/// the fifth degree.
void eachPlace(const FrameMesh&, const Facing&, const Facing::Meeting&,
               const std::function<void(const FacetPlace& one, const FacetPlace& other, double area)>& take);

/// The motion of a place that goes with a facet by the six motions of each of its nodes, 3 x 6n: what the facet
/// interpolates at its own place, carried on as a rigid body by the turn of the surface there, so that every rigid
/// motion is itself. Where nodes do not turn, the surface's slopes tell its turn; where they do, sides bow as they turn
/// apart.
Matrix3X shiftWith(const FrameMesh&, const SurfaceFacet&, const FacetPlace&, const Eigen::Vector3d& to);
Matrix3X turnWith(const SurfaceFacet&, const FacetPlace&); ///< of the surface, 3 x 6n

/// A place on one of some facets.
struct NearFacet {
    int facet;
    FacetPlace at;
};
/// The nearest to each place, by these; nothing where there is none within reach.
std::vector<std::optional<NearFacet>> nearestFacets(const FrameMesh&, const std::vector<SurfaceFacet>&,
                                                    const std::vector<Eigen::Vector3d>& places, double reach);

} // namespace undisona
