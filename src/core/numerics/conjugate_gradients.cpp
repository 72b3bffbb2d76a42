#include "core/numerics/conjugate_gradients.hpp"

#include "core/numerics/signed_factor.hpp"

namespace undisona {

namespace {

/// The inverses of the diagonal blocks, one after the other without a gap.
class BlockInverse {
public:
    BlockInverse(const SparseSymmetric& a, const std::vector<const std::vector<int>*>& groups)
    {
        const auto size = static_cast<std::size_t>(a.size);
        std::vector<int> blockOf(size, -1), placeOf(size, 0);
        const auto take = [&](int unknown, int place) {
            blockOf[static_cast<std::size_t>(unknown)] = static_cast<int>(blocks_.size());
            placeOf[static_cast<std::size_t>(unknown)] = place;
            unknowns_.push_back(unknown);
        };
        const auto close = [&](int count) {
            blocks_.push_back({unknowns_.size() - static_cast<std::size_t>(count), entries_.size(), count});
            entries_.resize(entries_.size() + static_cast<std::size_t>(count * count), 0.0);
        };
        for (const auto* group : groups) {
            // Tied points share one; of two that share some unknowns the second's others stand alone.
            if (group->empty() || std::any_of(group->begin(), group->end(), [&](int unknown) {
                    return blockOf[static_cast<std::size_t>(unknown)] >= 0;
                }))
                continue;
            for (std::size_t at = 0; at < group->size(); ++at)
                take((*group)[at], static_cast<int>(at));
            close(static_cast<int>(group->size()));
        }
        for (std::size_t at = 0; at < size; ++at)
            if (blockOf[at] < 0) {
                take(static_cast<int>(at), 0);
                close(1);
            }
        for (std::size_t j = 0; j < size; ++j)
            for (auto entry = a.columnStart[j]; entry < a.columnStart[j + 1]; ++entry) {
                const auto i = static_cast<std::size_t>(a.row[static_cast<std::size_t>(entry)]);
                if (blockOf[i] != blockOf[j]) continue;
                auto matrix = matrixOf(blocks_[static_cast<std::size_t>(blockOf[j])]);
                matrix(placeOf[i], placeOf[j]) = matrix(placeOf[j], placeOf[i]) =
                    a.value[static_cast<std::size_t>(entry)];
            }
        for (const auto& block : blocks_)
            invert(matrixOf(block));
    }

    Eigen::MatrixXd operator*(const Eigen::MatrixXd& r) const
    {
        Eigen::MatrixXd z = Eigen::MatrixXd::Zero(r.rows(), r.cols());
        for (Eigen::Index column = 0; column < r.cols(); ++column) {
            const double* from = r.col(column).data();
            double* to = z.col(column).data();
            for (const Block& block : blocks_) {
                const int* unknowns = unknowns_.data() + block.first;
                const double* entry = entries_.data() + block.entry;
                for (int j = 0; j < block.count; ++j)
                    for (int i = 0; i < block.count; ++i)
                        to[unknowns[i]] += *entry++ * from[unknowns[j]];
            }
        }
        return z;
    }

private:
    struct Block {
        std::size_t first, entry; ///< of its unknowns and of its entries, column by column
        int count;
    };

    Eigen::Map<Eigen::MatrixXd> matrixOf(const Block& block)
    {
        return {entries_.data() + block.entry, block.count, block.count};
    }

    /// Directions that have nothing beside the others keep a little, so that what they do have is not lost.
    static void invert(Eigen::Map<Eigen::MatrixXd> matrix)
    {
        const Eigen::VectorXd scale =
            matrix.diagonal().unaryExpr([](double entry) { return entry > 0.0 ? 1.0 / std::sqrt(entry) : 0.0; });
        const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> eigen(
            Eigen::MatrixXd(scale.asDiagonal() * matrix * scale.asDiagonal()));
        const Eigen::VectorXd inverse = eigen.eigenvalues().cwiseMax(1e-12).cwiseInverse();
        const Eigen::MatrixXd vectors = scale.asDiagonal() * eigen.eigenvectors();
        matrix = vectors * inverse.asDiagonal() * vectors.transpose();
    }

    std::vector<Block> blocks_;
    std::vector<int> unknowns_;
    std::vector<double> entries_;
};

/// The factor of A, its diagonal a hair larger so that directions without anything do not end it; null where it is
/// indefinite by more than that.
std::unique_ptr<SignedFactor> factorOf(const SparseSymmetric& a)
{
    constexpr double hair = 1e-9;
    SparseSymmetric lifted = a;
    double largest = 0.0;
    for (std::int64_t at = 0; at < a.size; ++at)
        largest = std::max(largest, a.diagonal(at));
    for (std::int64_t at = 0; at < a.size; ++at) {
        double& own = lifted.value[static_cast<std::size_t>(a.columnStart[static_cast<std::size_t>(at)])];
        own = own > 0.0 ? (1.0 + hair) * own : largest;
    }
    return SignedFactor::definite(lifted);
}

} // namespace

Eigen::MatrixXd solveByGradients(const SparseSymmetric& a, const Eigen::MatrixXd& b,
                                 const std::vector<const std::vector<int>*>& groups, const Eigen::VectorXd& size,
                                 double within)
{
    Eigen::MatrixXd x = Eigen::MatrixXd::Zero(b.rows(), b.cols());
    if (b.isZero(0.0)) return x;
    const BlockInverse inverse(a, groups);
    std::unique_ptr<SignedFactor> factor; // in place of the blocks where these take too many steps
    bool tried = false;
    const auto improved = [&](const Eigen::MatrixXd& rest) { return factor ? factor->solve(rest) : inverse * rest; };
    Eigen::MatrixXd rest = b, better = improved(rest), way = better;
    Eigen::ArrayXd worth = (rest.array() * better.array()).colwise().sum().transpose();
    const Eigen::ArrayXd least = (within * size.array()).max(1e-30 * worth).max(1e-300);
    std::vector<bool> done(static_cast<std::size_t>(b.cols()), false);
    constexpr int mostSteps = 2000, mostIdle = 60; // steps that bring nothing: rounding alone is left
    constexpr int look = 24, patience = 76;        // steps after which it is seen whether so many more will do
    Eigen::ArrayXd before = worth; // at the last look: the first steps are quicker than those after them
    const auto takesTooLong = [&] {
        for (Eigen::Index k = 0; k < b.cols(); ++k)
            if (!done[static_cast<std::size_t>(k)] &&
                look * std::log(worth[k] / least[k]) > patience * std::log(before[k] / worth[k]))
                return true;
        before = worth;
        return false;
    };
    Eigen::ArrayXd best = worth;
    std::vector<int> bestAt(done.size(), 0);
    for (int step = 0;; ++step) {
        bool all = true;
        for (Eigen::Index k = 0; k < b.cols(); ++k) {
            if (worth[k] < 0.9 * best[k]) {
                best[k] = worth[k];
                bestAt[static_cast<std::size_t>(k)] = step;
            }
            const bool idle = step > bestAt[static_cast<std::size_t>(k)] + mostIdle;
            done[static_cast<std::size_t>(k)] = done[static_cast<std::size_t>(k)] || idle || worth[k] <= least[k];
            all = all && done[static_cast<std::size_t>(k)];
        }
        if (all || step == mostSteps) return x;
        if (step > 0 && step % look == 0 && !tried && takesTooLong()) {
            tried = true;
            factor = factorOf(a);
            better = way = improved(rest);
            best = worth = (rest.array() * better.array()).colwise().sum().transpose();
            std::fill(bestAt.begin(), bestAt.end(), step);
        }
        const Eigen::MatrixXd image = a * way;
        const Eigen::ArrayXd energy = (way.array() * image.array()).colwise().sum().transpose();
        for (Eigen::Index k = 0; k < b.cols(); ++k) {
            if (done[static_cast<std::size_t>(k)]) continue;
            if (!(energy[k] > 0.0)) { // rounding alone is left
                done[static_cast<std::size_t>(k)] = true;
                continue;
            }
            x.col(k) += worth[k] / energy[k] * way.col(k);
            rest.col(k) -= worth[k] / energy[k] * image.col(k);
        }
        better = improved(rest);
        const Eigen::ArrayXd next = (rest.array() * better.array()).colwise().sum().transpose();
        for (Eigen::Index k = 0; k < b.cols(); ++k)
            if (!done[static_cast<std::size_t>(k)]) way.col(k) = better.col(k) + next[k] / worth[k] * way.col(k);
        worth = next;
    }
}

} // namespace undisona
