#pragma once
#include "core/elements/solid.hpp"

namespace undisona {

/// Twice the strain energy of each column of motions (unknowns x motions), J: motions' stiffness motions, without the
/// matrix.
Eigen::RowVectorXd strainWork(const SolidElement&, const Eigen::MatrixXd& motions);

/// motions' mass motions, by consistent or lumped mass.
Eigen::RowVectorXd massWork(const SolidElement&, const Eigen::MatrixXd& motions, bool lumped);

} // namespace undisona
