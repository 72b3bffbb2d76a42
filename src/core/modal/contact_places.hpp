#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// A place at which one of Structure::contacts bears or does not, on a mesh: its point, or the whole of one piece of
/// what it pushes all over, by the mean motion of that.
struct ContactPlace {
    std::size_t contact;
    std::vector<int> unknowns{};
    Eigen::Matrix3Xd basis{}; ///< its displacement on them, beside the other point where one is pushed back
    double share = 1.0;       ///< of all that the contact pushes
    double stiffness = 0.0;   ///< N/m; 0: nothing gives way
    Eigen::Vector3d at = Eigen::Vector3d::Zero(); ///< m
};

/// In the order of the contacts.
std::vector<ContactPlace> contactPlaces(const Structure&, const FrameMesh&, const System&);

} // namespace undisona
