#include "core/numerics/sparse.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/numerics/lower_product.hpp"
#include "core/numerics/sparse_sum.hpp"
#include "core/numerics/symmetric_product.hpp"

#include <algorithm>
#include <numeric>

namespace undisona {

namespace {

/// y = a * x for so many columns at once.
template <int columns>
void multiply(const SparseSymmetric& a, const Eigen::Ref<const Eigen::MatrixXd>& x, Eigen::Ref<Eigen::MatrixXd> y)
{
    const SideBySide<columns> from = x;
    SideBySide<columns> to = SideBySide<columns>::Zero(a.size, columns);
    addLowerProduct<columns>(a, 0, a.size, from, to);
    y = to;
}

} // namespace

Eigen::MatrixXd SparseSymmetric::operator*(const Eigen::MatrixXd& x) const
{
    if (x.cols() < 3 || threadsFor(size) == 1) return timesAlone(x);
    return SymmetricProduct(*this)(x);
}

Eigen::MatrixXd SparseSymmetric::timesAlone(const Eigen::MatrixXd& x) const
{
    Eigen::MatrixXd y(size, x.cols());
    Eigen::Index done = 0;
    for (; done + 8 <= x.cols(); done += 8)
        multiply<8>(*this, x.middleCols(done, 8), y.middleCols(done, 8));
    for (; done + 4 <= x.cols(); done += 4)
        multiply<4>(*this, x.middleCols(done, 4), y.middleCols(done, 4));
    for (; done < x.cols(); ++done)
        multiply<1>(*this, x.middleCols(done, 1), y.middleCols(done, 1));
    return y;
}

double SparseSymmetric::norm() const
{
    Eigen::VectorXd sums = Eigen::VectorXd::Zero(size);
    for (std::int64_t column = 0; column < size; ++column)
        for (auto at = columnStart[static_cast<std::size_t>(column)];
             at < columnStart[static_cast<std::size_t>(column) + 1]; ++at) {
            const auto place = row[static_cast<std::size_t>(at)];
            const double magnitude = std::abs(value[static_cast<std::size_t>(at)]);
            sums[place] += magnitude;
            if (place != column) sums[column] += magnitude;
        }
    return size > 0 ? sums.maxCoeff() : 0.0;
}

SparseSymmetric sum(const SparseSymmetric& a, double factor, const SparseSymmetric& b)
{
    SparseSymmetric c;
    c.size = a.size;
    c.columnStart.reserve(static_cast<std::size_t>(a.size) + 1);
    c.columnStart.push_back(0);
    c.row.reserve(a.row.size() + b.row.size());
    c.value.reserve(a.row.size() + b.row.size());
    const SparseSum both(a, factor, b);
    for (std::int64_t column = 0; column < a.size; ++column) {
        both.each(column, [&](std::int64_t row, double value) {
            c.row.push_back(row);
            c.value.push_back(value);
        });
        c.columnStart.push_back(static_cast<std::int64_t>(c.row.size()));
    }
    return c;
}

void SparseAssembler::add(const std::vector<int>& unknowns, const Eigen::MatrixXd& block)
{
    for (std::size_t j = 0; j < unknowns.size(); ++j)
        for (std::size_t i = 0; i < unknowns.size(); ++i) {
            const double value = block(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(j));
            if (unknowns[i] < unknowns[j] || value == 0.0) continue;
            entries_.push_back({unknowns[j], unknowns[i], value});
        }
}

SparseSymmetric SparseAssembler::finish()
{
    // Entries by column, in the order in which they came; then each column by itself, rows ascending.
    const auto columns = static_cast<std::size_t>(size_);
    std::vector<std::size_t> start(columns + 1, 0);
    for (const auto& entry : entries_)
        ++start[static_cast<std::size_t>(entry.column) + 1];
    std::partial_sum(start.begin(), start.end(), start.begin());
    struct Placed {
        std::int64_t row;
        double value;
    };
    std::vector<Placed> placed(entries_.size());
    std::vector<std::size_t> next(start.begin(), start.end() - 1);
    for (const auto& entry : entries_)
        placed[next[static_cast<std::size_t>(entry.column)]++] = {entry.row, entry.value};
    std::vector<Entry>().swap(entries_);

    SparseSymmetric matrix;
    matrix.size = size_;
    matrix.columnStart.reserve(columns + 1);
    matrix.columnStart.push_back(0);
    std::vector<std::int64_t> seen(columns, -1); // the column that a row was last met in
    std::vector<double> sums(columns, 0.0);
    std::vector<std::int64_t> rows;
    for (std::size_t column = 0; column < columns; ++column) {
        const auto own = static_cast<std::int64_t>(column);
        rows.assign(1, own); // the diagonal is always there
        seen[column] = own;
        sums[column] = 0.0;
        for (std::size_t at = start[column]; at < start[column + 1]; ++at) {
            const auto row = static_cast<std::size_t>(placed[at].row);
            if (seen[row] != own) {
                seen[row] = own;
                sums[row] = 0.0;
                rows.push_back(placed[at].row);
            }
            sums[row] += placed[at].value;
        }
        std::sort(rows.begin(), rows.end());
        for (const auto row : rows) {
            matrix.row.push_back(row);
            matrix.value.push_back(sums[static_cast<std::size_t>(row)]);
        }
        matrix.columnStart.push_back(static_cast<std::int64_t>(matrix.row.size()));
    }
    return matrix;
}

} // namespace undisona
