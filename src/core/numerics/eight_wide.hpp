#pragma once
#include <Eigen/Dense>

#include <cstdint>

namespace undisona {

constexpr int lanes = 8; ///< vectors that go side by side

using RowsOfEight = Eigen::Matrix<double, Eigen::Dynamic, lanes, Eigen::RowMajor>;

/// Eight numbers that lie side by side: one row of eight vectors.
using Eight [[gnu::vector_size(64), gnu::aligned(8)]] = double;

/// w[i] -= sum over j of l(i, j) x[j], rows first ... last-1, for a matrix l stored column by column with `ld` numbers
/// from one to the next; each w and x is eight numbers. The matrix is read once.
void spread(const double* l, std::int64_t ld, std::int64_t first, std::int64_t last, std::int64_t columns,
            const double* x, double* w);

/// x[j] -= sum over i of l(i, j) w[i], columns first ... last-1.
void collect(const double* l, std::int64_t ld, std::int64_t rows, std::int64_t first, std::int64_t last,
             const double* w, double* x);

/// to[i] += a(i, j) from[j] and to[j] += a(i, j) from[i], the diagonal once, for the columns j of a lower triangle from
/// begin to end - 1 whose entries begin at start[j], the diagonal first; `to` begins at row `begin`.
void addLowerColumns(const std::int64_t* start, const std::int64_t* row, const double* value, std::int64_t begin,
                     std::int64_t end, const double* from, double* to);

} // namespace undisona
