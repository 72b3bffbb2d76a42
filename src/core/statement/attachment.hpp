#pragma once
#include "core/model/target.hpp"

#include <Eigen/Dense>

#include <string>

namespace undisona {

/// Mass, or stiffness to ground, that a sentence spreads evenly over one thing, beside what that has of its own.
struct Attachment {
    enum class Effect { mass, stiffness };

    Target over; ///< all but a point
    int at;      ///< of the frame's members, sheets or solids, of the edges of faces, or of the outer faces of solids
    Effect effect;
    Eigen::Matrix3d tensor; ///< global axes, symmetric: kg or N/m, per m, m2 or m3 as that has length, area or volume
    std::string sentence;
    bool hangs = false; ///< at rest all of it is carried there, whichever way it acts when it moves: liquid in a pipe
    bool alsoAtRest = true; ///< of stiffness; false: it gives way to what is slow

    /// Per m, m2 or m3: the principal value of largest magnitude. A mass counts once, whichever way it acts.
    double perExtent() const
    {
        const Eigen::Vector3d sizes =
            Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(tensor, Eigen::EigenvaluesOnly).eigenvalues();
        return -sizes[0] > sizes[2] ? sizes[0] : sizes[2];
    }
};

} // namespace undisona
