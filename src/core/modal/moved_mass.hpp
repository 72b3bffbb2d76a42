#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// Nodes with the mass that goes with them, and the mass of each part of a structure with what is spread over it.
struct MassPoints {
    std::vector<double> mass; ///< by node, kg
    std::vector<Eigen::Vector3d> place;
    Eigen::Vector3d centre = Eigen::Vector3d::Zero();
    double total = 0.0; ///< kg
    int longAxis = 2;   ///< global axis along which the structure is longest
    bool slender = false;
    std::vector<double> ofMember; ///< kg
    std::vector<double> ofPart;   ///< of sheets and solids, as Frame::partName counts them; kg
};

MassPoints massPoints(const Structure&, const FrameMesh&);

/// Of each node ux uy uz rx ry rz.
using Motions = std::vector<Vector6>;

/// Kinetic shares of the translations x, y, z.
Eigen::Vector3d directionShares(const MassPoints&, const Motions&);

/// The motion as that of one rigid body that fits best: its shares of the energy of shifting along and turning about
/// x, y and z.
Vector6 rigidShares(const MassPoints&, const Motions&);

/// What has a part in a motion, by itself: what stands still tells nothing of how it moves.
MassPoints movingOf(MassPoints, const Motions&);

/// Some of the nodes by themselves.
MassPoints only(MassPoints, const std::set<int>& nodes);

/// In slices along an axis: the mean motion of each, and how much of the motion is a turning of each about the axis.
struct Profile {
    std::vector<Eigen::Vector3d> mean;
    double turning = 0.0;
};
Profile profileOf(const MassPoints&, const Motions&, int axis);

} // namespace undisona
