#pragma once
#include "core/numerics/sparse.hpp"

#include <optional>

namespace undisona {

/// An order of elimination with little fill, by nested dissection (METIS: Karypis and Kumar 1998): row i of the factor is
/// row order[i] of the matrix. Unknowns that are coupled to each other and to the same others, as those of one node
/// are, stay together: only the graph of such groups is dissected, a ninth or less of the whole (Ashcraft, Compressed
/// graphs and the minimum degree algorithm, 1995). Long and narrow graphs are cut level by level (level_dissection.hpp).
/// Only the pattern is read. Nothing when the memory is not enough.
std::optional<std::vector<std::int64_t>> eliminationOrder(const SparseSymmetric& pattern);

} // namespace undisona
