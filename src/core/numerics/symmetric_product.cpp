#include "core/numerics/symmetric_product.hpp"

#include "core/numerics/blas_threads.hpp"

namespace undisona {

namespace {

constexpr Eigen::Index wide = 8;
using Rows = Eigen::Matrix<double, Eigen::Dynamic, wide, Eigen::RowMajor>;
using Row = Eigen::Array<double, 1, wide>;

/// What the columns begin ... end-1 of the lower triangle give; `to` begins at row `begin`.
void multiply(const SparseSymmetric& a, std::int64_t begin, std::int64_t end, const Rows& from, Rows& to)
{
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

} // namespace

SymmetricProduct::SymmetricProduct(const SparseSymmetric& matrix)
    : matrix_(matrix), workers_(std::make_shared<Workers>(threadsFor(matrix.size)))
{
    const auto hands = static_cast<std::int64_t>(workers_->count());
    const auto entries = static_cast<std::int64_t>(matrix.row.size());
    for (std::int64_t hand = 0; hand <= hands; ++hand) {
        const auto at = std::lower_bound(matrix.columnStart.begin(), matrix.columnStart.end(), entries * hand / hands);
        share_.push_back(std::min(matrix.size, static_cast<std::int64_t>(at - matrix.columnStart.begin())));
    }
    share_.back() = matrix.size;
}

Eigen::MatrixXd SymmetricProduct::operator()(const Eigen::MatrixXd& x) const
{
    const int hands = workers_->count();
    if (hands == 1 || x.cols() < 3) return matrix_.timesAlone(x);
    Eigen::MatrixXd y(matrix_.size, x.cols());
    std::vector<Rows> parts(static_cast<std::size_t>(hands));
    Rows from(matrix_.size, wide);
    for (Eigen::Index begin = 0; begin < x.cols(); begin += wide) {
        const Eigen::Index columns = std::min(wide, x.cols() - begin);
        const auto rowsOf = [&](int hand) {
            return std::pair(matrix_.size * hand / hands, matrix_.size * (hand + 1) / hands);
        };
        workers_->run([&](int hand) {
            const auto [first, last] = rowsOf(hand);
            from.middleRows(first, last - first).leftCols(columns) = x.block(first, begin, last - first, columns);
            if (columns < wide) from.middleRows(first, last - first).rightCols(wide - columns).setZero();
        });
        workers_->run([&](int hand) {
            const auto at = static_cast<std::size_t>(hand);
            parts[at].setZero(matrix_.size - share_[at], wide);
            multiply(matrix_, share_[at], share_[at + 1], from, parts[at]);
        });
        workers_->run([&](int hand) {
            const auto [first, last] = rowsOf(hand);
            for (std::size_t at = 1; at < parts.size(); ++at) {
                const std::int64_t common = std::max(first, share_[at]);
                if (common < last)
                    parts[0].middleRows(common, last - common) +=
                        parts[at].middleRows(common - share_[at], last - common);
            }
            y.block(first, begin, last - first, columns) = parts[0].middleRows(first, last - first).leftCols(columns);
        });
    }
    return y;
}

} // namespace undisona
