#pragma once
#include "core/numerics/sparse.hpp"

namespace undisona {

/// A block of vectors whose numbers lie side by side for each row.
template <int columns>
using SideBySide = Eigen::Matrix<double, Eigen::Dynamic, columns, columns == 1 ? Eigen::ColMajor : Eigen::RowMajor>;

/// to += what the columns begin ... end-1 of the lower triangle, and their mirror image, give; `to` begins at row
/// `begin`. Each entry of the matrix is read once for all vectors.
template <int columns>
void addLowerProduct(const SparseSymmetric& a, std::int64_t begin, std::int64_t end, const SideBySide<columns>& from,
                     SideBySide<columns>& to)
{
    using Row = Eigen::Array<double, 1, columns>;
    for (std::int64_t column = begin; column < end; ++column) {
        const auto first = static_cast<std::size_t>(a.columnStart[static_cast<std::size_t>(column)]);
        const auto last = static_cast<std::size_t>(a.columnStart[static_cast<std::size_t>(column) + 1]);
        const Row own = from.row(column).array();
        Row gathered = a.value[first] * own;
        for (std::size_t at = first + 1; at < last; ++at) {
            to.row(a.row[at] - begin).array() += a.value[at] * own;
            gathered += a.value[at] * from.row(a.row[at]).array();
        }
        to.row(column - begin).array() += gathered;
    }
}

} // namespace undisona
