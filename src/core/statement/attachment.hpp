#pragma once
#include <Eigen/Dense>

#include <string>

namespace undisona {

/// Mass, or stiffness to ground, that a sentence spreads evenly over one thing, beside what that has of its own.
struct Attachment {
    /// What `at` counts: the frame's members and sheets, the edges of faces, the outer faces of solids.
    enum class Over { member, sheet, edge, face };
    enum class Effect { mass, stiffness };

    Over over;
    int at;
    Effect effect;
    Eigen::Matrix3d
        tensor; ///< global axes, symmetric: kg or N/m, per m of members and edges, per m2 of sheets and faces
    std::string sentence;

    /// Per m or m2: the largest principal value. A mass counts once, whichever way it acts.
    double perExtent() const
    {
        return Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(tensor, Eigen::EigenvaluesOnly).eigenvalues()[2];
    }
};

} // namespace undisona
