#pragma once
#include "core/numerics/sparse.hpp"

namespace undisona {

/// What is new in the columns of `block` beside the M-orthonormal columns of `basis`, M-orthonormal: each is cleared
/// twice of the basis and of those before it, and dropped where less than the share `least` of its M-norm is left or
/// where it has no mass at all. The basis may have no columns.
Eigen::MatrixXd newDirections(const SparseSymmetric& mass, const Eigen::MatrixXd& basis, const Eigen::MatrixXd& block,
                              double least);

} // namespace undisona
