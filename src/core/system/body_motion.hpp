#pragma once
#include "core/system/motion_map.hpp"

namespace undisona {

/// What moves as one body, or one node by itself: its supports in terms of its six motions at the reference.
struct Body {
    Eigen::Vector3d reference;
    std::string name;
    bool turns = true;                   ///< has turns of its own; the nodes of solids have none
    bool memberEnd = false;              ///< the end of a member, which moves by itself
    std::vector<Vector6> rows{};         ///< that vanish for what is left of its motions
    std::vector<Eigen::Matrix3d> axes{}; ///< of each row; its free motions are along the first that suit all rows
};

/// The unknown that a column (ux uy uz rx ry rz at the reference) stands for.
Unknown unknownOf(const Body&, const Vector6& column);

/// Unknowns for what the rows leave free of a body's motions, added to the map, and for what they hold of them: along
/// and about the axes of its supports where they can be, shifts before turns.
NodeMotion motionOf(const Body&, MotionMap&);

} // namespace undisona
