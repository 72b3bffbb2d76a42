#pragma once
#include "core/numerics/eight_wide.hpp"
#include "core/numerics/sparse.hpp"

#include <array>

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
    if constexpr (columns == lanes) {
        addLowerColumns(a.columnStart.data(), a.row.data(), a.value.data(), begin, end, from.data(), to.data());
        return;
    }
    const double* x = from.data();
    double* y = to.data() - columns * begin;
    for (std::int64_t column = begin; column < end; ++column) {
        const auto first = a.columnStart[static_cast<std::size_t>(column)],
                   last = a.columnStart[static_cast<std::size_t>(column) + 1];
        std::array<double, columns> own, gathered; // stay in registers
        for (std::size_t k = 0; k < columns; ++k) {
            own[k] = x[columns * column + static_cast<std::int64_t>(k)];
            gathered[k] = a.value[static_cast<std::size_t>(first)] * own[k];
        }
        for (auto at = static_cast<std::size_t>(first) + 1; at < static_cast<std::size_t>(last); ++at) {
            const double value = a.value[at];
            const double* fromRow = x + columns * a.row[at];
            double* toRow = y + columns * a.row[at];
            for (std::size_t k = 0; k < columns; ++k) {
                toRow[k] += value * own[k];
                gathered[k] += value * fromRow[k];
            }
        }
        for (std::size_t k = 0; k < columns; ++k)
            y[columns * column + static_cast<std::int64_t>(k)] += gathered[k];
    }
}

} // namespace undisona
