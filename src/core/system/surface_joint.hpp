#pragma once
#include "core/system/facing.hpp"
#include "core/system/relations.hpp"

namespace undisona {

/// By a node, its share in another one's motion: of its six motions, those of the other.
using ShareOfNodes = std::map<int, Eigen::Matrix<double, 3, 6>>;

/// A node that follows the surface of the other side.
struct SurfaceFollower {
    int node;
    ShareOfNodes shift;
    ShareOfNodes turn{}; ///< where it follows that too
};

/// The nodes of a joint without springs that follow, and what. Of surfaces the side that is held less (by node), is
/// covered more wholly, or has the smaller elements: the difference of the two motions weighed by functions that are
/// dual to its interpolation is nothing (Wohlmuth, A mortar finite element method using dual spaces for the Lagrange
/// multiplier, 2000; of the second order after Popp, Wohlmuth, Gee and Wall, Dual quadratic mortar finite element
/// methods for 3D finite deformation contact, 2012), so that an even pressure passes evenly and each node follows few.
/// Where only a part of an element is covered, and along edges, nodes follow the place beneath them.
std::vector<SurfaceFollower> followersOf(const Structure&, const FrameMesh&, const SurfaceJoint&,
                                         const std::vector<char>& held, Findings&);

/// Springs of a joint over a small piece of it: stiffness by the six motions of each node, N/m, N, N m.
struct SurfaceSprings {
    int part; ///< that the one side is of there, as Frame::partName counts them
    std::vector<int> nodes;
    Eigen::MatrixXd stiffness;
};
void eachSprings(const Structure&, const FrameMesh&, const SurfaceJoint&, Findings&,
                 const std::function<void(const SurfaceSprings&)>& take);

} // namespace undisona
