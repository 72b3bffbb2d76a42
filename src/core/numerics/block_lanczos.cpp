#include "core/numerics/block_lanczos.hpp"

#include <algorithm>
#include <cmath>

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
    Eigen::MatrixXd first = randomDirections(blockSize_), ignored;
    const Eigen::VectorXd sizes = massNorms(first);
    orthogonalise(first);
    next_ = normalise(first, sizes, ignored);
    if (next_.cols() == 0) exhausted_ = true;
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

Eigen::MatrixXd BlockLanczos::orthogonalise(Eigen::MatrixXd& block) const
{
    Eigen::MatrixXd coefficients = Eigen::MatrixXd::Zero(basis_.cols(), block.cols());
    for (int pass = 0; pass < 2; ++pass) {
        if (locked_.cols() > 0) block.noalias() -= locked_ * (massLocked_.transpose() * block).eval();
        if (basis_.cols() == 0) continue;
        const Eigen::MatrixXd part = massBasis_.transpose() * block;
        block.noalias() -= basis_ * part;
        coefficients += part;
    }
    return coefficients;
}

Eigen::VectorXd BlockLanczos::massNorms(const Eigen::MatrixXd& block) const
{
    return (block.array() * pencil_.mass(block).array()).colwise().sum().max(0.0).sqrt().transpose();
}

Eigen::MatrixXd BlockLanczos::normalise(Eigen::MatrixXd block, const Eigen::VectorXd& sizes, Eigen::MatrixXd& triangle)
{
    const Eigen::Index wide = block.cols();
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
                    orthogonalise(asBlock);
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
        if (!own || size < 1e-2 * sizes[j]) orthogonalise(again);
        if (kept > 0) again -= unit.leftCols(kept) * (massUnit.leftCols(kept).transpose() * again).eval();
        unit.col(kept) = again.col(0) / norm(again.col(0));
        massUnit.col(kept) = pencil_.mass(unit.col(kept));
        ++kept;
    }
    triangle.conservativeResize(kept, wide);
    return unit.leftCols(kept);
}

void BlockLanczos::append(const Eigen::MatrixXd& block)
{
    const Eigen::Index old = basis_.cols();
    basis_.conservativeResize(pencil_.size, old + block.cols());
    massBasis_.conservativeResize(pencil_.size, old + block.cols());
    basis_.rightCols(block.cols()) = block;
    massBasis_.rightCols(block.cols()) = pencil_.mass(block);
    lastBlock_ = block.cols();
}

void BlockLanczos::step()
{
    if (exhausted_) return;
    append(next_);
    const Eigen::Index size = basis_.cols(), wide = lastBlock_;
    Eigen::MatrixXd image = pencil_.solveShifted(massBasis_.rightCols(wide));
    const Eigen::VectorXd sizes = massNorms(image);
    const Eigen::MatrixXd column = orthogonalise(image);

    projected_.conservativeResize(size, size);
    projected_.rightCols(wide) = column;
    projected_.bottomRows(wide) = column.transpose();
    const Eigen::MatrixXd corner = column.bottomRows(wide);
    projected_.bottomRightCorner(wide, wide) = (corner + corner.transpose()) / 2.0;

    next_ = normalise(std::move(image), sizes, nextTriangle_);
    if (next_.cols() == 0) exhausted_ = true;
    fresh_ = false;
}

void BlockLanczos::projectEigen()
{
    if (fresh_) return;
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> eigen(projected_);
    const Eigen::Index size = projected_.rows();
    theta_ = eigen.eigenvalues().reverse();
    small_ = eigen.eigenvectors().rowwise().reverse();
    residual_ = Eigen::VectorXd::Zero(size);
    if (nextTriangle_.rows() > 0)
        residual_ = (nextTriangle_ * small_.bottomRows(lastBlock_)).colwise().norm().transpose();
    fresh_ = true;
}

Eigen::Index BlockLanczos::converged(double tolerance)
{
    if (basis_.cols() == 0) return 0;
    projectEigen();
    const double floor = 1e-10 * theta_[0]; // below it rounding takes over, and the null space of M begins
    Eigen::Index count = 0;
    while (count < theta_.size() && theta_[count] > floor && residual_[count] <= tolerance * theta_[count])
        ++count;
    return count;
}

RitzPairs BlockLanczos::pairs(Eigen::Index count)
{
    if (basis_.cols() == 0) return {};
    projectEigen();
    count = std::min(count, theta_.size());
    return {theta_.head(count), residual_.head(count), basis_ * small_.leftCols(count)};
}

} // namespace undisona
