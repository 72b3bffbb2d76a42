#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

// How far a frequency goes for a little of something at each node of the mesh: first-order perturbation of an
// eigenvalue (Rayleigh, Theory of Sound, 2nd ed. 1894, art. 90; Fox and Kapoor 1968), with modes of unit modal mass
//     d lambda = phi' (dK - lambda dM) phi,  df = d lambda / (8 pi2 f).
// Modes of one frequency part: what the one that moves most does is told. Zero for motions of no energy.

/// Hz per kg that moves along all three directions: never positive.
Eigen::VectorXd slopesOfMass(const Solution&, std::size_t mode);

/// Hz per N/m of a spring to ground, along x, y or z, or (-1) along whatever way the node moves: never negative.
Eigen::VectorXd slopesOfSpring(const Solution&, std::size_t mode, int axis = -1);

/// The same from the motions of one place in the modes of a group (3 x modes, m of unit modal mass) and their
/// frequency.
double slopeOfMass(const Eigen::Matrix3Xd& motions, double hertz);
double slopeOfSpring(const Eigen::Matrix3Xd& motions, double hertz, int axis = -1);

/// The modes, from 0, of the same frequency as one.
std::vector<std::size_t> groupOf(const Solution&, std::size_t mode);

} // namespace undisona
