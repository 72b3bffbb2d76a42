#pragma once
#include "core/system/section_places.hpp"
#include "core/system/surface_joint.hpp"

namespace undisona {

/// A place by which a section stands on a surface.
struct SectionFoot {
    NearFacet on; ///< its facet counts in LinesOnSurface::leading
    double area;  ///< that it stands for, m2
};

/// Edges and members on the surfaces of a joint's other side.
struct LinesOnSurface {
    std::vector<SurfaceFacet> leading;
    std::vector<int> nodes; ///< of edges and of members that lie along the surface
    /// Ends of members that stand on it, by node: the places of the sections of all that meet there.
    std::map<int, std::vector<SectionFoot>> ends;
    std::map<int, double> sections; ///< by the same nodes, the area of all of their sections, m2
    std::vector<std::pair<int, std::vector<Eigen::Vector3d>>> outlines; ///< of these sections, m; by node, for drawing
    double reach;                                                       ///< m, within which they follow

    /// Says so where nothing is within reach; then nodes and ends are empty.
    LinesOnSurface(const Structure&, const FrameMesh&, const SurfaceJoint&, Findings&);
};

/// Nodes of edges and of members that lie along a surface follow the place beneath them, and turn with the surface
/// there; members not about its normal, as it holds them along a line. An end that stands on it follows the mean motion
/// of what its section covers, u = int u / A and r = J^-1 int d x u about the centroid, so that its forces and moments
/// pass as they are spread over the section of a beam (Navier, Resume des lecons, 1826) and no single place is turned.
std::vector<SurfaceFollower> lineFollowers(const Structure&, const FrameMesh&, const SurfaceJoint&, Findings&);

/// Springs along the edges of a joint, and those that turn its hinges.
void eachSpringAlong(const Structure&, const FrameMesh&, const SurfaceJoint&, Findings&,
                     const std::function<void(const SurfaceSprings&)>& take);

} // namespace undisona
