#include "core/numerics/block_lanczos.hpp"

#include "core/numerics/dense_eigen.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace undisona {

namespace {

/// SplitMix64 (Steele, Lea and Flood 2014), mapped to (-1, 1).
double nextRandom(std::uint64_t& seed)
{
    std::uint64_t z = (seed += 0x9E3779B97F4A7C15ULL);
    z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9ULL;
    z = (z ^ (z >> 27)) * 0x94D049BB133111EBULL;
    z ^= z >> 31;
    return static_cast<double>(static_cast<std::int64_t>(z)) / 9223372036854775808.0;
}

constexpr double lostRank = 1e-10;

} // namespace

BlockLanczos::BlockLanczos(const ShiftedPencil& pencil, Eigen::Index blockSize, const Eigen::MatrixXd& locked,
                           std::uint64_t seed)
    : pencil_(pencil), blockSize_(std::min(blockSize, pencil.size)), locked_(locked), seed_(seed)
{
    if (pencil.size == 0) {
        exhausted_ = true;
        return;
    }
    if (locked_.cols() > 0) massLocked_ = pencil_.mass(locked_);
    Eigen::MatrixXd first = randomDirections(blockSize_);
    const Eigen::VectorXd sizes = massNorms(first);
    orthogonalise(first, 2);
    normalise(std::move(first), sizes);
    nextTriangle_.resize(0, 0);
}

/// Random vectors sent once through A, so that they have no part in the null space of M.
Eigen::MatrixXd BlockLanczos::randomDirections(Eigen::Index count)
{
    Eigen::MatrixXd random(pencil_.size, count);
    for (Eigen::Index j = 0; j < count; ++j)
        for (Eigen::Index i = 0; i < pencil_.size; ++i)
            random(i, j) = nextRandom(seed_);
    return pencil_.solveShifted(pencil_.mass(random));
}

Eigen::MatrixXd BlockLanczos::orthogonalise(Eigen::MatrixXd& block, int fullPasses) const
{
    Eigen::MatrixXd coefficients = Eigen::MatrixXd::Zero(used_, block.cols());
    const auto clear = [&](Eigen::Index first) {
        if (locked_.cols() > 0) block.noalias() -= locked_ * (massLocked_.transpose() * block).eval();
        const Eigen::Index columns = used_ - first;
        if (columns == 0) return;
        const Eigen::MatrixXd part = massBasis_.middleCols(first, columns).transpose() * block;
        block.noalias() -= basis_.middleCols(first, columns) * part;
        coefficients.bottomRows(columns) += part;
    };
    if (fullPasses == 1) clear(std::max<Eigen::Index>(0, used_ - 2 * blockSize_));
    for (int pass = 0; pass < fullPasses; ++pass)
        clear(0);
    return coefficients;
}

Eigen::VectorXd BlockLanczos::massNorms(const Eigen::MatrixXd& block) const
{
    return (block.array() * pencil_.mass(block).array()).colwise().sum().max(0.0).sqrt().transpose();
}

bool BlockLanczos::normaliseAtOnce(const Eigen::MatrixXd& block, const Eigen::VectorXd& sizes)
{
    const Eigen::Index wide = block.cols();
    next_ = block;
    massNext_ = pencil_.mass(block);
    nextTriangle_ = Eigen::MatrixXd::Identity(wide, wide);
    for (int round = 0; round < 2; ++round) { // the second makes up for the condition of the first
        const Eigen::MatrixXd gram = next_.transpose() * massNext_;
        const Eigen::VectorXd size = gram.diagonal().cwiseMax(0.0).cwiseSqrt();
        if (round == 0 && !(size.array() > 1e-2 * sizes.array()).all()) return false;
        const Eigen::VectorXd inverse = size.cwiseInverse();
        const Eigen::LLT<Eigen::MatrixXd> factor(inverse.asDiagonal() * gram * inverse.asDiagonal());
        if (factor.info() != Eigen::Success) return false;
        const Eigen::MatrixXd upper = Eigen::MatrixXd(factor.matrixU()) * size.asDiagonal();
        if (!(Eigen::MatrixXd(factor.matrixL()).diagonal().minCoeff() > 1e-3)) return false;
        upper.triangularView<Eigen::Upper>().solveInPlace<Eigen::OnTheRight>(next_);
        upper.triangularView<Eigen::Upper>().solveInPlace<Eigen::OnTheRight>(massNext_);
        nextTriangle_ = upper * nextTriangle_;
    }
    return true;
}

void BlockLanczos::normalise(Eigen::MatrixXd block, const Eigen::VectorXd& sizes)
{
    if (normaliseAtOnce(block, sizes)) return;
    const Eigen::Index wide = block.cols();
    Eigen::MatrixXd& triangle = nextTriangle_;
    triangle = Eigen::MatrixXd::Zero(wide, wide);
    Eigen::MatrixXd unit(pencil_.size, wide), massUnit(pencil_.size, wide);
    Eigen::Index kept = 0;
    const auto norm = [&](const Eigen::VectorXd& x) { return std::sqrt(std::max(0.0, x.dot(pencil_.mass(x).col(0)))); };
    for (Eigen::Index j = 0; j < wide; ++j) {
        Eigen::VectorXd x = block.col(j);
        double size = 0.0;
        bool own = true; // still the block's own direction, not a random one in its place
        for (int attempt = 0; attempt < 3; ++attempt) {
            const double before = own ? sizes[j] : norm(x);
            for (int pass = 0; pass < 2; ++pass) {
                if (kept > 0) {
                    const Eigen::VectorXd part = massUnit.leftCols(kept).transpose() * x;
                    x.noalias() -= unit.leftCols(kept) * part;
                    if (own) triangle.col(j).head(kept) += part;
                }
                if (!own) {
                    Eigen::MatrixXd asBlock = x;
                    orthogonalise(asBlock, 2);
                    x = asBlock.col(0);
                }
            }
            size = norm(x);
            if (size > lostRank * before && size > 0.0) break;
            size = 0.0;
            own = false;
            x = randomDirections(1).col(0);
        }
        if (size == 0.0) continue; // the space is exhausted in this direction
        if (own) triangle(kept, j) = size;
        // What was small has been magnified together with its rounding: clear it of the others once more.
        Eigen::MatrixXd again = x / size;
        if (!own || size < 1e-2 * sizes[j]) orthogonalise(again, 2);
        if (kept > 0) again -= unit.leftCols(kept) * (massUnit.leftCols(kept).transpose() * again).eval();
        unit.col(kept) = again.col(0) / norm(again.col(0));
        massUnit.col(kept) = pencil_.mass(unit.col(kept));
        ++kept;
    }
    triangle.conservativeResize(kept, wide);
    next_ = unit.leftCols(kept);
    massNext_ = massUnit.leftCols(kept);
    if (kept == 0) exhausted_ = true;
}

void BlockLanczos::appendNext()
{
    lastBlock_ = next_.cols();
    if (used_ + lastBlock_ > basis_.cols()) {
        const Eigen::Index room = std::max(4 * blockSize_, basis_.cols() + basis_.cols() / 2) + lastBlock_;
        basis_.conservativeResize(pencil_.size, room);
        massBasis_.conservativeResize(pencil_.size, room);
    }
    basis_.middleCols(used_, lastBlock_) = next_;
    massBasis_.middleCols(used_, lastBlock_) = massNext_;
    used_ += lastBlock_;
}

void BlockLanczos::step()
{
    if (exhausted_) return;
    appendNext();
    const Eigen::Index size = used_, wide = lastBlock_;
    Eigen::MatrixXd image = pencil_.solveShifted(massBasis_.middleCols(used_ - wide, wide));
    // The image's parts along the two last blocks are large, those along the others are rounding: once against
    // the former and once against all is as good as twice against all.
    const Eigen::MatrixXd column = orthogonalise(image, 1);

    projected_.conservativeResize(size, size);
    projected_.rightCols(wide) = column;
    projected_.bottomRows(wide) = column.transpose();
    const Eigen::MatrixXd corner = column.bottomRows(wide);
    projected_.bottomRightCorner(wide, wide) = (corner + corner.transpose()) / 2.0;

    normalise(std::move(image), column.colwise().norm().transpose());
    fresh_ = false;
}

void BlockLanczos::projectEigen()
{
    if (fresh_) return;
    const DenseEigen eigen = denseEigen(projected_);
    const Eigen::Index size = projected_.rows();
    std::vector<Eigen::Index> order(
        static_cast<std::size_t>(size)); // largest magnitude first, positive before negative
    std::iota(order.begin(), order.end(), 0);
    std::reverse(order.begin(), order.end());
    std::stable_sort(order.begin(), order.end(), [&](Eigen::Index a, Eigen::Index b) {
        return std::abs(eigen.values[a]) > std::abs(eigen.values[b]);
    });
    theta_ = eigen.values(order);
    small_ = eigen.vectors(Eigen::all, order);
    residual_ = Eigen::VectorXd::Zero(size);
    if (nextTriangle_.rows() > 0)
        residual_ = (nextTriangle_ * small_.bottomRows(lastBlock_)).colwise().norm().transpose();
    fresh_ = true;
}

Eigen::Index BlockLanczos::converged(double tolerance)
{
    if (used_ == 0) return 0;
    projectEigen();
    const double floor = 1e-10 * std::abs(theta_[0]); // below it rounding takes over, and the null space of M begins
    Eigen::Index count = 0;
    while (count < theta_.size() && std::abs(theta_[count]) > floor &&
           residual_[count] <= tolerance * std::abs(theta_[count]))
        ++count;
    return count;
}

RitzPairs BlockLanczos::pairs(Eigen::Index count)
{
    if (used_ == 0) return {};
    projectEigen();
    count = std::min(count, theta_.size());
    return {theta_.head(count), residual_.head(count), basis_.leftCols(used_) * small_.leftCols(count)};
}

Eigen::VectorXd BlockLanczos::thetas(Eigen::Index count)
{
    if (used_ == 0) return {};
    projectEigen();
    return theta_.head(std::min(count, theta_.size()));
}

} // namespace undisona
