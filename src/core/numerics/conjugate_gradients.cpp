#include "core/numerics/conjugate_gradients.hpp"

namespace undisona {

namespace {

/// The inverses of the diagonal blocks.
class BlockInverse {
public:
    BlockInverse(const SparseSymmetric& a, const std::vector<const std::vector<int>*>& groups)
    {
        std::vector<int> groupOf(static_cast<std::size_t>(a.size), -1), placeOf(groupOf.size(), 0);
        for (const auto* group : groups) {
            if (group->empty() || groupOf[static_cast<std::size_t>(group->front())] >= 0) continue; // tied points share one
            for (std::size_t at = 0; at < group->size(); ++at) {
                groupOf[static_cast<std::size_t>((*group)[at])] = static_cast<int>(blocks_.size());
                placeOf[static_cast<std::size_t>((*group)[at])] = static_cast<int>(at);
            }
            blocks_.push_back({*group, Eigen::MatrixXd::Zero(static_cast<Eigen::Index>(group->size()),
                                                             static_cast<Eigen::Index>(group->size()))});
        }
        for (int at = 0; at < static_cast<int>(a.size); ++at)
            if (auto& group = groupOf[static_cast<std::size_t>(at)]; group < 0) {
                group = static_cast<int>(blocks_.size());
                blocks_.push_back({{at}, Eigen::MatrixXd::Zero(1, 1)});
            }
        for (std::int64_t column = 0; column < a.size; ++column)
            for (auto entry = a.columnStart[static_cast<std::size_t>(column)];
                 entry < a.columnStart[static_cast<std::size_t>(column) + 1]; ++entry) {
                const auto j = static_cast<std::size_t>(column),
                           i = static_cast<std::size_t>(a.row[static_cast<std::size_t>(entry)]);
                if (groupOf[i] != groupOf[j]) continue;
                auto& matrix = blocks_[static_cast<std::size_t>(groupOf[j])].matrix;
                matrix(placeOf[i], placeOf[j]) = matrix(placeOf[j], placeOf[i]) =
                    a.value[static_cast<std::size_t>(entry)];
            }
        for (auto& block : blocks_)
            invert(block.matrix);
    }

    Eigen::MatrixXd operator*(const Eigen::MatrixXd& r) const
    {
        Eigen::MatrixXd z(r.rows(), r.cols());
        for (const auto& block : blocks_)
            z(block.unknowns, Eigen::all) = block.matrix * r(block.unknowns, Eigen::all);
        return z;
    }

private:
    struct Block {
        std::vector<int> unknowns;
        Eigen::MatrixXd matrix;
    };

    /// Directions that have nothing beside the others keep a little, so that what they do have is not lost.
    static void invert(Eigen::MatrixXd& matrix)
    {
        const Eigen::VectorXd scale =
            matrix.diagonal().unaryExpr([](double entry) { return entry > 0.0 ? 1.0 / std::sqrt(entry) : 0.0; });
        const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> eigen(scale.asDiagonal() * matrix * scale.asDiagonal());
        const Eigen::VectorXd inverse = eigen.eigenvalues().cwiseMax(1e-12).cwiseInverse();
        const Eigen::MatrixXd vectors = scale.asDiagonal() * eigen.eigenvectors();
        matrix = vectors * inverse.asDiagonal() * vectors.transpose();
    }

    std::vector<Block> blocks_;
};

} // namespace

GradientAnswer solveByGradients(const SparseSymmetric& a, const Eigen::MatrixXd& b,
                                const std::vector<const std::vector<int>*>& groups, const Eigen::VectorXd& size,
                                double within)
{
    GradientAnswer answer{Eigen::MatrixXd::Zero(b.rows(), b.cols())};
    if (b.isZero(0.0)) return answer;
    const BlockInverse inverse(a, groups);
    Eigen::MatrixXd rest = b, better = inverse * rest, way = better;
    Eigen::ArrayXd worth = (rest.array() * better.array()).colwise().sum().transpose();
    const Eigen::ArrayXd least = (within * size.array()).max(1e-30 * worth).max(1e-300);
    std::vector<bool> done(static_cast<std::size_t>(b.cols()), false);
    constexpr int mostSteps = 2000, mostIdle = 60; // steps that bring nothing: rounding alone is left
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
            if (idle && worth[k] > least[k]) answer.converged = false;
            done[static_cast<std::size_t>(k)] = done[static_cast<std::size_t>(k)] || idle || worth[k] <= least[k];
            all = all && done[static_cast<std::size_t>(k)];
        }
        if (all) return answer;
        if (step == mostSteps) break;
        const Eigen::MatrixXd image = a * way;
        const Eigen::ArrayXd energy = (way.array() * image.array()).colwise().sum().transpose();
        for (Eigen::Index k = 0; k < b.cols(); ++k) {
            if (done[static_cast<std::size_t>(k)]) continue;
            if (!(energy[k] > 0.0)) { // rounding alone is left
                done[static_cast<std::size_t>(k)] = true;
                answer.converged = false;
                continue;
            }
            answer.x.col(k) += worth[k] / energy[k] * way.col(k);
            rest.col(k) -= worth[k] / energy[k] * image.col(k);
        }
        better = inverse * rest;
        const Eigen::ArrayXd next = (rest.array() * better.array()).colwise().sum().transpose();
        for (Eigen::Index k = 0; k < b.cols(); ++k)
            if (!done[static_cast<std::size_t>(k)]) way.col(k) = better.col(k) + next[k] / worth[k] * way.col(k);
        worth = next;
    }
    answer.converged = false;
    return answer;
}

} // namespace undisona
