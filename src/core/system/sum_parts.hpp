#pragma once
#include "core/numerics/sparse.hpp"

namespace undisona {

struct Part;

/// K and M as the sums of what the parts bring, each column by one thread and its terms in the order of the parts, so
/// that the digits do not depend on the machine's load. An entry that no part brings anything to is left out, but for
/// those between the unknowns of one group in K: a mass set on a node later must not widen the pattern, on which the
/// order of elimination rests.
std::pair<SparseSymmetric, SparseSymmetric> sumParts(std::int64_t size, const std::vector<Part>&,
                                                     const std::vector<const std::vector<int>*>& groups);

} // namespace undisona
