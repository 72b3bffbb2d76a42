#pragma once
#include "core/mesh/frame_mesh.hpp"

namespace undisona {

using Matrix6X = Eigen::Matrix<double, 6, Eigen::Dynamic>;
using Vector6 = Eigen::Matrix<double, 6, 1>;
using Matrix6 = Eigen::Matrix<double, 6, 6>;

/// A motion beside those of the mesh's nodes: of a member's end that is not wholly joined to its node.
struct OwnEnd {
    int member, node;
    Eigen::Vector3d place; ///< m
    Eigen::Matrix3d axes;  ///< columns: along and about which it moves by itself
};

/// One linear relation between motions (ux uy uz rx ry rz, global): the rows times them add up to nothing. That of a
/// single node, or of a single body, is a support, whose motion is that of the base.
struct Relation {
    struct Term {
        int motion; ///< of a node of the mesh, or, counted on from these, of an own end
        Vector6 row;
    };
    std::vector<Term> terms; ///< the first one follows the others where it can
    Eigen::Matrix3d axes;    ///< columns: along and about which it is said
    std::string sentence;
    bool ofMany = false; ///< to bring it to the first one's unknown would fill the equations between all the others
};

/// Everything that takes motions away, whatever sentence says it: holds, ties, releases, what stands on sheet.
struct Relations {
    std::vector<int> leader; ///< by motion: the one that it moves with as one body; itself where it leads or is alone
    std::vector<char> turns; ///< by motion: whether its body turns by itself; nodes of solids, rods, membranes do not
    std::vector<Relation> rows;
    std::vector<OwnEnd> ends;
    Findings problems;                               ///< what cannot be had
    std::map<std::array<int, 2>, int> endOf;         ///< by element of the mesh and its end: which of these
    std::map<std::string, std::array<int, 2>> joins; ///< by sentence: how often it joins, and how often in vain
};

Relations relationsOf(const Structure&, const FrameMesh&);

/// The motion of a point of a rigid body at `arm` from the reference: u = u0 + r x arm, 6x6.
Matrix6 carry(const Eigen::Vector3d& arm);

/// arm x u = crossing(arm) u.
Eigen::Matrix3d crossing(const Eigen::Vector3d& arm);

/// Of a mass about its own centre, where it acts; its rotary inertia where it acts in every direction.
Matrix6 matrixOf(const PointMass&);

/// From global components of a motion to those along the columns of `axes`, 6x6.
Matrix6 turned(const Eigen::Matrix3d& axes);

/// A way to shift or turn along a column of the axes, as a row on a motion.
Vector6 wayAlong(const Eigen::Matrix3d& axes, int direction);

} // namespace undisona
