#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// Strain energy per area of each piece of sheet in a motion, J/m2 for q as it is; taken in the piece's middle.
std::vector<double> sheetEnergyPerArea(const Structure&, const FrameMesh&, const System&,
                                       const Eigen::Ref<const Eigen::VectorXd>& q);

} // namespace undisona
