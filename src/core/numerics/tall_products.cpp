#include "core/numerics/tall_products.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/numerics/eight_wide.hpp"

namespace undisona {

namespace {

constexpr Eigen::Index worthSharing = 2000;

RowsOfEight interleaved(const Eigen::Ref<const Eigen::MatrixXd>& block)
{
    RowsOfEight rows(block.rows(), lanes);
    rows.leftCols(block.cols()) = block;
    rows.rightCols(lanes - block.cols()).setZero();
    return rows;
}

} // namespace

TallProducts::TallProducts(Eigen::Index rows) : workers_(std::make_shared<Workers>(threadsFor(rows))) {}

Eigen::MatrixXd TallProducts::inner(const Eigen::Ref<const Eigen::MatrixXd>& a,
                                    const Eigen::Ref<const Eigen::MatrixXd>& b) const
{
    const Eigen::Index hands = workers_->count(), rows = a.rows(), columns = a.cols();
    if (columns == 0 || b.cols() < 3 || rows < worthSharing) return a.transpose() * b;
    if (b.cols() > lanes) {
        Eigen::MatrixXd all(columns, b.cols());
        for (Eigen::Index begin = 0; begin < b.cols(); begin += lanes) {
            const Eigen::Index count = std::min<Eigen::Index>(lanes, b.cols() - begin);
            all.middleCols(begin, count) = inner(a, b.middleCols(begin, count));
        }
        return all;
    }
    std::vector<RowsOfEight> parts(static_cast<std::size_t>(hands));
    workers_->run([&](int hand) {
        const Eigen::Index begin = rows * hand / hands, count = rows * (hand + 1) / hands - begin;
        const RowsOfEight own = interleaved(b.middleRows(begin, count));
        auto& part = parts[static_cast<std::size_t>(hand)];
        part.setZero(columns, lanes);
        collect(a.data() + begin, a.outerStride(), count, 0, columns, own.data(), part.data());
    });
    for (std::size_t at = 1; at < parts.size(); ++at)
        parts[0] += parts[at];
    return -parts[0].leftCols(b.cols());
}

void TallProducts::subtract(Eigen::MatrixXd& b, const Eigen::Ref<const Eigen::MatrixXd>& a,
                            const Eigen::MatrixXd& c) const
{
    if (a.cols() == 0) return;
    const Eigen::Index hands = workers_->count(), rows = a.rows();
    if (b.cols() > lanes || b.cols() < 3 || rows < worthSharing) {
        b.noalias() -= a * c;
        return;
    }
    const RowsOfEight weights = interleaved(c);
    workers_->run([&](int hand) {
        const Eigen::Index begin = rows * hand / hands, count = rows * (hand + 1) / hands - begin;
        RowsOfEight own = interleaved(b.middleRows(begin, count));
        spread(a.data() + begin, a.outerStride(), 0, count, a.cols(), weights.data(), own.data());
        b.middleRows(begin, count) = own.leftCols(b.cols());
    });
}

Eigen::MatrixXd TallProducts::times(const Eigen::Ref<const Eigen::MatrixXd>& a, const Eigen::MatrixXd& c) const
{
    Eigen::MatrixXd product(a.rows(), c.cols());
    const Eigen::Index hands = workers_->count(), rows = a.rows();
    workers_->run([&](int hand) {
        const Eigen::Index begin = rows * hand / hands, count = rows * (hand + 1) / hands - begin;
        product.middleRows(begin, count).noalias() = a.middleRows(begin, count) * c;
    });
    return product;
}

void TallProducts::turn(Eigen::MatrixXd& a, const Eigen::MatrixXd& c) const
{
    constexpr Eigen::Index strip = 2048; // rows at a time
    const Eigen::Index hands = workers_->count(), rows = a.rows(), before = c.rows(), after = c.cols();
    workers_->run([&](int hand) {
        const Eigen::Index end = rows * (hand + 1) / hands;
        Eigen::MatrixXd turned;
        for (Eigen::Index begin = rows * hand / hands; begin < end; begin += strip) {
            const Eigen::Index count = std::min(strip, end - begin);
            turned.noalias() = a.block(begin, 0, count, before) * c;
            a.block(begin, 0, count, after) = turned;
        }
    });
}

} // namespace undisona
