#pragma once
#include "core/numerics/sparse.hpp"

#include <optional>

namespace undisona {

/// The number of negative eigenvalues of a symmetric matrix, from the pivots of its LDL' factorisation
/// (Sylvester's law of inertia; MUMPS, factors discarded). Nothing when the factorisation fails, as it does
/// for a matrix that is singular to working precision. 0 for a 0-by-0 matrix.
std::optional<std::int64_t> negativeEigenvalues(const SparseSymmetric&);

} // namespace undisona
