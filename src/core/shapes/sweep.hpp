#pragma once
#include "core/shapes/joined_faces.hpp"

namespace undisona {

/// Along a line, or about an axis.
struct SweepMotion {
    bool turns;
    Eigen::Vector3d place;     ///< on the axis
    Eigen::Vector3d direction; ///< unit, of the line or the axis
    double extent;             ///< m, or rad about the axis in the sense of a right-hand screw

    Eigen::Vector3d at(const Eigen::Vector3d& start, double share) const; ///< share 0...1 of the whole motion
    Eigen::Vector3d wayFrom(const Eigen::Vector3d& start) const;          ///< unit, at its begin
};

/// A body that its flat face `from` makes by moving onto the face `to`.
struct Sweep {
    struct Wall {
        int face;
        int begin, end; ///< its edges on `from` and on `to`
        bool against;   ///< whether the two run against each other
    };
    SweepMotion motion;
    int from, to;
    std::vector<Wall> walls;
    std::vector<int> rails; ///< edges that the corners of `from` run along
    double length;          ///< of the longest rail, m
};

/// Every way in which a body is such a sweep, the shortest first; none: it is no sweep, or lines and points of its
/// neighbours lie where the two ends would have to differ.
std::vector<Sweep> sweepsOf(const JoinedFaces&, const JoinedSolid&);

} // namespace undisona
