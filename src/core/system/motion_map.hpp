#pragma once
#include "core/mesh/frame_mesh.hpp"

namespace undisona {

using Matrix6X = Eigen::Matrix<double, 6, Eigen::Dynamic, Eigen::ColMajor, 6, 6>;
using Vector6 = Eigen::Matrix<double, 6, 1>;
using Matrix6 = Eigen::Matrix<double, 6, 6>;

/// One unknown, free or held: how it moves what it belongs to.
struct Unknown {
    std::string where; ///< name of the point or member
    bool rotation = false;
    Eigen::Vector3d direction; ///< unit
    Eigen::Vector3d place;     ///< m
    bool memberEnd = false;    ///< of a released member end, not of a node
    Vector6 fromRigid; ///< its value in a motion (ux uy uz rx ry rz) of the whole about the origin, by dot product
};

/// How a node's six motions (ux uy uz rx ry rz, global) follow from free unknowns and from those that are held, which
/// move with the base alone: motion = basis * q + heldBasis * s.
struct NodeMotion {
    Matrix6X basis;
    std::vector<int> unknowns;
    Matrix6X heldBasis{6, 0};
    std::vector<int> held;
};

/// The free unknowns of a mesh under its rigid supports and rigid ties, by exact elimination.
struct MotionMap {
    std::vector<Unknown> unknowns;
    std::vector<Unknown> held; ///< what the supports take away; where, and its value in a motion of the base
    std::vector<NodeMotion> nodes;
    std::vector<std::string> idle; ///< points that turn or shift freely with neither stiffness nor mass: left out
    std::vector<std::size_t> body; ///< by node: the same number for those that move as one body

    /// Whether all of the nodes (those below 0 aside) move as one body, so that nothing between them is strained.
    template <class Nodes>
    bool isOneBody(const Nodes& list, std::size_t count) const
    {
        for (std::size_t at = 1; at < count; ++at)
            if (body[static_cast<std::size_t>(list[at])] != body[static_cast<std::size_t>(list[0])]) return false;
        return true;
    }

    int add(Unknown unknown)
    {
        unknowns.push_back(std::move(unknown));
        return static_cast<int>(unknowns.size()) - 1;
    }
};

/// Points tied to each other move as one body with six unknowns at the leading point; rigid holds take away
/// what they fix, in any axes.
MotionMap mapMotions(const Structure&, const FrameMesh&);

/// The motion of a point of a rigid body at `arm` from the reference: u = u0 + r x arm, 6x6.
Matrix6 carry(const Eigen::Vector3d& arm);

/// From global components of a motion to those along the columns of `axes`, 6x6.
Matrix6 turned(const Eigen::Matrix3d& axes);

} // namespace undisona
