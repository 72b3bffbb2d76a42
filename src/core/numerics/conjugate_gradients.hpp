#pragma once
#include "core/numerics/sparse.hpp"

namespace undisona {

/// x with A x = b, column by column, for A symmetric and positive semidefinite and b in its range (columns of zeros give
/// zeros), by conjugate gradients (Hestenes and Stiefel 1952) from x = 0. The preconditioner inverts the blocks of A
/// between the unknowns of one group; of groups that share unknowns the first counts, unknowns in none stand alone.
/// Where that takes too many steps the factor of A takes its place. A column ends when b' x is known to about `within` of `size` (one number a column,
/// > 0), which is the square of the error in x, or where rounding alone is left.
Eigen::MatrixXd solveByGradients(const SparseSymmetric& a, const Eigen::MatrixXd& b,
                                 const std::vector<const std::vector<int>*>& groups, const Eigen::VectorXd& size,
                                 double within);

} // namespace undisona
