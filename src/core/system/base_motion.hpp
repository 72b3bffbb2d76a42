#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// The values of unknowns in the six rigid motions about the origin, n x 6.
Eigen::MatrixXd rigidOf(const std::vector<Unknown>&);

/// The load b of a moving base on a system whose K and M are summed, n x 6. Where a support holds something that has
/// mass, b holds the inertia that the held unknowns put on their free neighbours; without it the shares of modes are
/// wrong by a tenth on a mesh whose frequencies have long converged.
Eigen::MatrixXd baseLoadOf(const System&);

/// The mass that couples the free unknowns to the held ones, M_fs, as rows, columns (from 0) and values, summed and
/// sorted by column.
struct HeldMass {
    int row, column;
    double value;
};
std::vector<HeldMass> heldMassOf(const System&);

} // namespace undisona
