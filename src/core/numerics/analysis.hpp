#pragma once
#include "core/numerics/sparse.hpp"

#include <memory>

namespace undisona {

/// What depends on a pattern alone: an order of elimination with little fill, and the supernodes of the factor.
/// Supernode k holds the columns super[k] ... super[k+1]-1; its rows are row[rowStart[k]] ... row[rowStart[k+1]-1],
/// its own columns first; its values stand column by column from valueStart[k], as many a column as it has rows.
/// Supernodes are postordered: a parent comes after all of its children.
struct Analysis {
    std::int64_t size = 0;
    std::vector<std::int64_t> permutation; ///< row i of the factor is row permutation[i] of the matrix
    std::vector<std::int64_t> super, rowStart, valueStart, row;
    double flops = 0.0; ///< of one factorisation (multiplications and additions)

    std::int64_t supernodes() const { return static_cast<std::int64_t>(super.size()) - 1; }
    std::int64_t entries() const { return valueStart.back(); } ///< of the factor, as stored

    /// Nested dissection (elimination_order.hpp) and the symbolic factorisation of CHOLMOD (Chen, Davis, Hager and Rajamanickam 2008).
    /// Only the pattern is read. Null when the memory is not enough.
    static std::shared_ptr<const Analysis> of(const SparseSymmetric& pattern);
};

/// One supernode of a factor with those values.
struct Supernode {
    std::int64_t first, columns, rows, below; ///< its first column; below: rows that are not its own columns
    const std::int64_t* row;                  ///< of those below
    const double* l;                          ///< null without values

    Supernode(const Analysis& analysis, const double* value, std::int64_t k)
    {
        const auto at = static_cast<std::size_t>(k);
        first = analysis.super[at];
        columns = analysis.super[at + 1] - first;
        rows = analysis.rowStart[at + 1] - analysis.rowStart[at];
        below = rows - columns;
        row = analysis.row.data() + analysis.rowStart[at] + columns;
        l = value ? value + analysis.valueStart[at] : nullptr;
    }
};

/// Which supernodes can go to different threads: subtrees of the elimination tree that do not meet, and the top that
/// they share.
struct TreePlan {
    std::vector<std::vector<std::int64_t>> subtrees; ///< supernodes of each thread, ascending
    std::vector<std::int64_t> top;                   ///< the rest, ascending
    std::vector<std::int64_t> parent;                ///< -1 at a root

    /// `weight` tells what a supernode costs by its columns and rows.
    TreePlan(const Analysis&, int threads, const std::function<double(double columns, double rows)>& weight);
};

} // namespace undisona
