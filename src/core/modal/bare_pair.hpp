#pragma once
#include "core/pencil/extract.hpp"
#include "core/statement/ask.hpp"

namespace undisona {

/// Modes of a bare pair K phi = lambda M phi, whose unknowns are only numbers: by count, up to a frequency, in a band,
/// nearest to a frequency, or all. Motions without energy are found as such, but not named. Findings tell of sizes that
/// differ, of a mass share (there are no directions), and of an M that is not positive semidefinite. Where K is not,
/// its negative eigenvalues come first: motions that release energy.
Result<Extraction> modesOfPair(const SparseSymmetric& stiffness, const SparseSymmetric& mass, const Ask&, Progress&);

} // namespace undisona
