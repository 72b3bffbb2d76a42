#pragma once
#include "core/system/facing.hpp"
#include "core/system/relations.hpp"

namespace undisona {

/// By a node, its share in another one's motion: of its six motions, those of the other.
using ShareOfNodes = std::map<int, Eigen::Matrix<double, 3, 6>>;

/// Adds a motion that goes with a facet, 3 x 6 a node of it.
void addShare(ShareOfNodes& sum, const SurfaceFacet&, const Matrix3X& motion, double weight);

/// A node that follows the surface of the other side.
struct SurfaceFollower {
    int node;
    ShareOfNodes shift;
    ShareOfNodes turn{};                              ///< where it follows that too
    Eigen::Vector3d slides = Eigen::Vector3d::Zero(); ///< along which it does not follow; unit, or zero
    Eigen::Vector3d lies = Eigen::Vector3d::Zero();   ///< along which alone it follows, where it slides on a surface
    Eigen::Vector3d spins = Eigen::Vector3d::Zero();  ///< about which it does not turn with it; unit, or zero
    bool ofMany = false;                              ///< it is a mean, which is not to be eliminated (Relation)
};

/// The nodes of a joint that follow, and what. Of surfaces the side that is held less (by node), is covered more
/// wholly, or has the smaller elements: the difference of the two motions weighed by functions that are dual to its
/// interpolation is nothing (Wohlmuth, A mortar finite element method using dual spaces for the Lagrange multiplier,
/// 2000; of the second order after Popp, Wohlmuth, Gee and Wall, Dual quadratic mortar finite element methods for 3D
/// finite deformation contact, 2012), so that an even pressure passes evenly and each node follows few. Where only a
/// part of an element is covered nodes follow the place beneath them. Of lines see line_joint.hpp.
std::vector<SurfaceFollower> followersOf(const Structure&, const FrameMesh&, const SurfaceJoint&,
                                         const std::vector<char>& held, Findings&);

/// How the sides of a joint of surfaces meet, in words: over what area, by how many nodes, across which gaps; an error
/// where they do not.
Finding meetingOf(const Structure&, const FrameMesh&, const SurfaceJoint&);

/// Nodes that follow the place beneath them, and turn with the surface there where they are to; none of those beneath
/// which there is nothing within reach (m). What lies along a surface and may turn about its normal by itself is bent
/// in its plane as the surface moves there, not as that turns.
enum class Turning { none, all, acrossNormal };
std::vector<SurfaceFollower> followersBeneath(const FrameMesh&, const std::vector<SurfaceFacet>& leading,
                                              const std::vector<int>& nodes, double reach, Turning);

/// Springs of a joint over a small piece of it: stiffness by the six motions of each node, N/m, N, N m.
struct SurfaceSprings {
    int part; ///< that the one side is of there, as Frame::partName counts them
    std::vector<int> nodes;
    Eigen::MatrixXd stiffness;
};
void eachSprings(const Structure&, const FrameMesh&, const SurfaceJoint&, Findings&,
                 const std::function<void(const SurfaceSprings&)>& take);

/// Along and across a surface, per area or per length as the joint has them.
Eigen::Matrix3d stiffnessAcross(const Eigen::Vector3d& normal, const SurfaceJoint::Springs&);

} // namespace undisona
