#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// Strain energy per volume in the middle of each piece, J/m3 for q as it is; of a sheet the mean through its
/// thickness.
struct EnergyDensity {
    std::vector<double> shells, solids; ///< beside the mesh's
};
EnergyDensity energyDensity(const Structure&, const FrameMesh&, const System&, const Eigen::VectorXd& q);

} // namespace undisona
