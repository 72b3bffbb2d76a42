#include "core/numerics/symmetric_product.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/numerics/eight_wide.hpp"
#include "core/numerics/lower_product.hpp"

namespace undisona {

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
    std::vector<RowsOfEight> parts(static_cast<std::size_t>(hands));
    RowsOfEight from(matrix_.size, lanes);
    for (Eigen::Index begin = 0; begin < x.cols(); begin += lanes) {
        const Eigen::Index columns = std::min<Eigen::Index>(lanes, x.cols() - begin);
        const auto rowsOf = [&](int hand) {
            return std::pair(matrix_.size * hand / hands, matrix_.size * (hand + 1) / hands);
        };
        workers_->run([&](int hand) {
            const auto [first, last] = rowsOf(hand);
            from.middleRows(first, last - first).leftCols(columns) = x.block(first, begin, last - first, columns);
            if (columns < lanes) from.middleRows(first, last - first).rightCols(lanes - columns).setZero();
        });
        workers_->run([&](int hand) {
            const auto at = static_cast<std::size_t>(hand);
            parts[at].setZero(matrix_.size - share_[at], lanes);
            addLowerProduct<lanes>(matrix_, share_[at], share_[at + 1], from, parts[at]);
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
