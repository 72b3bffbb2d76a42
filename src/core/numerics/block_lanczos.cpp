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
    : pencil_(pencil), tall_(pencil.size), blockSize_(std::min(blockSize, pencil.size)), locked_(locked), seed_(seed)
{
    if (pencil.size == 0) {
        exhausted_ = true;
        return;
    }
    Eigen::MatrixXd first = randomDirections(blockSize_);
    const Eigen::VectorXd sizes = massNorms(first);
    for (int pass = 0; pass < 2; ++pass)
        orthogonalise(first);
    normalise(std::move(first), sizes);
    nextTriangle_.resize(0, 0);
}

BlockLanczos::BlockLanczos(const ShiftedPencil& pencil, const Eigen::MatrixXd& space, const Eigen::MatrixXd& image,
                           Eigen::MatrixXd beyond, const Eigen::MatrixXd& locked, std::uint64_t seed)
    : pencil_(pencil), tall_(pencil.size), blockSize_(std::max<Eigen::Index>(1, beyond.cols())), locked_(locked),
      basis_(space), used_(space.cols()), lastBlock_(space.cols()), seed_(seed)
{
    const Eigen::MatrixXd massImage = pencil_.mass(image);
    projected_ = tall_.inner(basis_, massImage);
    projected_ = ((projected_ + projected_.transpose()) / 2.0).eval();
    const Eigen::VectorXd sizes = massNorms(beyond);
    for (int pass = 0; pass < 2; ++pass)
        orthogonalise(beyond);
    normalise(std::move(beyond), sizes);
    nextTriangle_ = tall_.inner(next_, massImage);
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
    const Eigen::MatrixXd massive = pencil_.mass(block);
    if (locked_.cols() > 0) tall_.subtract(block, locked_, tall_.inner(locked_, massive));
    Eigen::MatrixXd part = tall_.inner(basis_.leftCols(used_), massive);
    tall_.subtract(block, basis_.leftCols(used_), part);
    return part;
}

/// The parts of the last block's image along that block and along what it couples to, by the recurrence: no product
/// with M is needed for them.
Eigen::MatrixXd BlockLanczos::withoutLast(Eigen::MatrixXd& image) const
{
    const Eigen::Index wide = massLast_.cols(), before = used_ - wide, coupled = nextTriangle_.cols();
    Eigen::MatrixXd coefficients = Eigen::MatrixXd::Zero(used_, wide);
    if (coupled > 0) {
        const Eigen::MatrixXd coupling = nextTriangle_.transpose();
        tall_.subtract(image, basis_.middleCols(before - coupled, coupled), coupling);
        coefficients.middleRows(before - coupled, coupled) = coupling;
    }
    const Eigen::MatrixXd own = tall_.inner(massLast_, image);
    tall_.subtract(image, basis_.middleCols(before, wide), own);
    coefficients.bottomRows(wide) = own;
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
    massNext_ = pencil_.mass(next_);
    nextTriangle_ = Eigen::MatrixXd::Identity(wide, wide);
    for (int round = 0; round < 2; ++round) { // the second makes up for the condition of the first
        const Eigen::MatrixXd gram = tall_.inner(next_, massNext_);
        const Eigen::VectorXd size = gram.diagonal().cwiseMax(0.0).cwiseSqrt();
        if (round == 0 && !(size.array() > 1e-2 * sizes.array()).all()) return false;
        const Eigen::VectorXd inverse = size.cwiseInverse();
        const Eigen::LLT<Eigen::MatrixXd> factor(
            Eigen::MatrixXd(inverse.asDiagonal() * gram * inverse.asDiagonal()));
        if (factor.info() != Eigen::Success) return false;
        const Eigen::MatrixXd upper = Eigen::MatrixXd(factor.matrixU()) * size.asDiagonal();
        if (!(Eigen::MatrixXd(factor.matrixL()).diagonal().minCoeff() > 1e-3)) return false;
        const Eigen::MatrixXd turn =
            upper.triangularView<Eigen::Upper>().solve(Eigen::MatrixXd::Identity(wide, wide));
        tall_.turn(next_, turn);
        tall_.turn(massNext_, turn);
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
                    orthogonalise(asBlock);
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
        if (!own || size < 1e-2 * sizes[j])
            for (int pass = 0; pass < 2; ++pass)
                orthogonalise(again);
        if (kept > 0) again -= unit.leftCols(kept) * (massUnit.leftCols(kept).transpose() * again).eval();
        const double left = norm(again.col(0));
        if (!(left > 0.1)) { // nothing but rounding: no direction is left here
            triangle(kept, j) = 0.0;
            continue;
        }
        unit.col(kept) = again.col(0) / left;
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
    const Eigen::Index wide = next_.cols();
    if (used_ + wide > basis_.cols()) {
        const Eigen::Index room = std::min(std::max(limit(), used_ + wide),
                                           std::max(8 * blockSize_, basis_.cols() + basis_.cols() / 2) + wide);
        basis_.conservativeResize(pencil_.size, room);
    }
    basis_.middleCols(used_, wide) = next_;
    if (watched_.cols() > 0) {
        work_.conservativeResize(used_ + wide, Eigen::NoChange);
        work_.bottomRows(wide) = next_.transpose() * watched_;
    }
    massLast_ = std::move(massNext_);
    next_.resize(0, 0);
    used_ += wide;
}

/// The leading Ritz vectors in place of the basis; the next block couples to all of them.
void BlockLanczos::restart()
{
    projectEigen();
    const Eigen::Index done = leadingConverged(1e-9);
    // Close clusters come slowly from a short basis: where a round of it brings little, the next may be longer.
    if (restarts_ > 0 && 8 * (done - doneBefore_) < limit() - done) stretch_ *= 1.4;
    doneBefore_ = done;
    const Eigen::Index kept = std::min(used_, std::max(done + 2 * blockSize_, (limit() + done) / 2));
    if (kept > used_ - blockSize_) return; // nothing to be gained
    keepLeading(kept);
    ++restarts_;
}

void BlockLanczos::keepLeading(Eigen::Index kept)
{
    const Eigen::MatrixXd turn = small_.leftCols(kept);
    tall_.turn(basis_, turn);
    if (watched_.cols() > 0) work_ = (turn.transpose() * work_).eval();
    nextTriangle_ = (nextTriangle_ * turn.bottomRows(lastBlock_)).eval();
    projected_ = theta_.head(kept).asDiagonal();
    used_ = lastBlock_ = kept;
    fresh_ = false;
}

void BlockLanczos::forgetBeyond(Eigen::Index count)
{
    if (exhausted_ || used_ == 0 || count >= used_) return;
    projectEigen();
    keepLeading(count);
    basis_.conservativeResize(Eigen::NoChange, count);
    massLast_.resize(0, 0); // made anew by the next step
}

void BlockLanczos::step()
{
    if (exhausted_) return;
    if (used_ > 0 && used_ + next_.cols() > limit()) restart();
    appendNext();
    const Eigen::Index size = used_, wide = massLast_.cols();
    Eigen::MatrixXd image = pencil_.solveShifted(massLast_);
    ++solves_;
    // The image's parts along the last blocks are large, those along the others are rounding: the former by the
    // recurrence and then one pass against all is as good as two against all.
    Eigen::MatrixXd column = withoutLast(image);
    column += orthogonalise(image);

    projected_.conservativeResize(size, size);
    projected_.rightCols(wide) = column;
    projected_.bottomRows(wide) = column.transpose();
    const Eigen::MatrixXd corner = column.bottomRows(wide);
    projected_.bottomRightCorner(wide, wide) = (corner + corner.transpose()) / 2.0;

    lastBlock_ = wide;
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
    if (used_ == 0 || projected_.size() == 0) return 0;
    projectEigen();
    return leadingConverged(tolerance);
}

Eigen::Index BlockLanczos::leadingConverged(double tolerance) const
{
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
    Eigen::MatrixXd vectors = tall_.times(basis_.leftCols(used_), small_.leftCols(count));
    if (nextTriangle_.rows() > 0 && next_.cols() == nextTriangle_.rows()) {
        const Eigen::VectorXd inverse =
            theta_.head(count).unaryExpr([](double theta) { return theta != 0.0 ? 1.0 / theta : 0.0; });
        vectors.noalias() +=
            next_ * (nextTriangle_ * small_.bottomRows(lastBlock_).leftCols(count) * inverse.asDiagonal());
    }
    return {theta_.head(count), residual_.head(count), std::move(vectors)};
}

void BlockLanczos::watch(const Eigen::MatrixXd& loads)
{
    watched_ = loads;
    work_ = tall_.inner(basis_.leftCols(used_), loads);
}

Eigen::MatrixXd BlockLanczos::watchedWork(Eigen::Index count)
{
    if (used_ == 0) return Eigen::MatrixXd(0, watched_.cols());
    projectEigen();
    count = std::min(count, theta_.size());
    Eigen::MatrixXd work = small_.leftCols(count).transpose() * work_;
    if (nextTriangle_.rows() > 0 && next_.cols() == nextTriangle_.rows())
        for (Eigen::Index at = 0; at < count; ++at) // what `pairs` adds to the vectors
            if (theta_[at] != 0.0)
                work.row(at) += (nextTriangle_ * small_.col(at).tail(lastBlock_)).transpose() *
                                (next_.transpose() * watched_) / theta_[at];
    return work;
}

Eigen::VectorXd BlockLanczos::thetas(Eigen::Index count)
{
    if (used_ == 0) return {};
    projectEigen();
    return theta_.head(std::min(count, theta_.size()));
}

} // namespace undisona
