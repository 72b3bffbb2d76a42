#pragma once
#include "core/numerics/shifted_factor.hpp"
#include "core/pencil/pencil.hpp"

namespace undisona {

/// (K - sigma M)^-1 with what is apart from K, by the factor without it; both must outlive the answer.
BorderedSolve solveBy(const Pencil&, const ShiftedFactor&);

/// How many eigenvalues of the pencil lie below the factor's sigma. Where something is apart, the factor must have been
/// kept.
std::int64_t negativeOf(const Pencil&, const ShiftedFactor&);

/// What runs with these matrices together, and with what is apart from them, are kept under (KeptRuns).
std::uint64_t keyOf(const SparseSymmetric& together, const LowRank* apart);

} // namespace undisona
