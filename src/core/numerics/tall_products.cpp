#include "core/numerics/tall_products.hpp"

#include "core/numerics/blas_threads.hpp"

namespace undisona {

TallProducts::TallProducts(Eigen::Index rows) : workers_(std::make_shared<Workers>(threadsFor(rows))) {}

Eigen::MatrixXd TallProducts::inner(const Eigen::Ref<const Eigen::MatrixXd>& a,
                                    const Eigen::Ref<const Eigen::MatrixXd>& b) const
{
    const Eigen::Index hands = workers_->count(), rows = a.rows();
    if (hands == 1 || a.cols() == 0) return a.transpose() * b;
    std::vector<Eigen::MatrixXd> parts(static_cast<std::size_t>(hands));
    workers_->run([&](int hand) {
        const Eigen::Index begin = rows * hand / hands, count = rows * (hand + 1) / hands - begin;
        parts[static_cast<std::size_t>(hand)].noalias() =
            a.middleRows(begin, count).transpose() * b.middleRows(begin, count);
    });
    for (std::size_t at = 1; at < parts.size(); ++at)
        parts[0] += parts[at];
    return std::move(parts[0]);
}

void TallProducts::subtract(Eigen::MatrixXd& b, const Eigen::Ref<const Eigen::MatrixXd>& a,
                            const Eigen::MatrixXd& c) const
{
    if (a.cols() == 0) return;
    const Eigen::Index hands = workers_->count(), rows = a.rows();
    workers_->run([&](int hand) {
        const Eigen::Index begin = rows * hand / hands, count = rows * (hand + 1) / hands - begin;
        b.middleRows(begin, count).noalias() -= a.middleRows(begin, count) * c;
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

} // namespace undisona
