#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// Tells motions that cost no energy from soft ones: of a shape of unit modal mass whose eigenvalue (rad/s)2 may be
/// rounding alone. It is judged by what it strains where it happens, against the rounding of those strains there: the
/// stiffest part of a structure says nothing of a soft mode elsewhere.
bool strainsNothing(const System&, double lambda, const Eigen::Ref<const Eigen::VectorXd>& shape);

} // namespace undisona
