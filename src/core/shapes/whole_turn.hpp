#pragma once
#include "core/shapes/joined_faces.hpp"

namespace undisona {

/// A body that a flat outline makes by a whole turn about an axis: a ring, a wheel, a bell.
struct WholeTurn {
    Eigen::Vector3d place; ///< on the axis
    Eigen::Vector3d axis;  ///< unit
    /// What a line of the outline makes.
    struct Part {
        int face;
        int from, to; ///< the circles that it runs between, edges; -1: it ends on the axis
    };
    /// One after the other about the outline, each from where the one before ends: round to the first, or from the axis
    /// to the axis.
    std::vector<Part> parts;
    double around; ///< length of the largest circle, m

    bool meetsAxis() const { return parts.front().from < 0; }
    Eigen::Vector3d turned(const Eigen::Vector3d& start, double angle) const; ///< rad, as a right-hand screw
};

/// Nothing where a body is none, or lines and points of its neighbours lie on it.
std::optional<WholeTurn> wholeTurnOf(const JoinedFaces&, const JoinedSolid&);

/// On the line that makes a face, 0 where it comes from and 1 where it goes to; all lines lie in one half of a plane
/// through the axis.
Eigen::Vector3d onOutline(const JoinedFaces&, const WholeTurn&, const WholeTurn::Part&, double share);

} // namespace undisona
