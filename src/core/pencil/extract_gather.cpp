// From what the rounds of the iteration have found to modes with their errors.
#include "core/numerics/dense_eigen.hpp"
#include "core/pencil/extract.hpp"
#include "core/pencil/hertz.hpp"

namespace undisona {

namespace {

constexpr double rounding = 2.220446049250313e-16;

Eigen::MatrixXd beside(Eigen::MatrixXd first, const Eigen::MatrixXd& more)
{
    first.conservativeResize(more.rows(), first.cols() + more.cols()); // in place, where there is room behind it
    first.rightCols(more.cols()) = more;
    return first;
}

/// Vectors that are orthonormal in the energy, and so in the mass but for rounding times the ratio of their theta: the
/// first ones, whose theta is large, stay, the later ones lose what they have of them.
void straighten(Eigen::MatrixXd& vectors, const Eigen::MatrixXd& mass)
{
    const Eigen::MatrixXd gram = vectors.transpose() * (mass * vectors);
    const Eigen::LLT<Eigen::MatrixXd> factor(Eigen::MatrixXd((gram + gram.transpose()) / 2.0));
    if (factor.info() == Eigen::Success) factor.matrixU().solveInPlace<Eigen::OnTheRight>(vectors);
}

} // namespace

RitzPairs ModeExtractor::convergedPairs(Eigen::Index wanted)
{
    std::vector<RitzPairs> found;
    std::vector<std::array<Eigen::Index, 2>> order; // round, column; largest theta first
    for (auto& round : rounds_) {
        found.push_back(round->pairs(round->converged(ritzTolerance())));
        for (Eigen::Index column = 0; column < found.back().theta.size(); ++column)
            order.push_back({static_cast<Eigen::Index>(found.size()) - 1, column});
    }
    const auto theta = [&](const std::array<Eigen::Index, 2>& at) {
        return found[static_cast<std::size_t>(at[0])].theta[at[1]];
    };
    std::stable_sort(order.begin(), order.end(), [&](const auto& a, const auto& b) { return theta(a) > theta(b); });
    auto kept = static_cast<std::size_t>(std::max<Eigen::Index>(0, wanted));
    // The whole group of the last one, or of the shift, where mechanisms lie beside rigid motions; and a block more.
    if (kept < order.size() && (kept > 0 || shiftUp_ > 0.0)) {
        const double last = kept > 0 ? theta(order[kept - 1]) : 1.0 / shiftUp_;
        while (kept < order.size() && theta(order[kept]) > last * (1.0 - 1e-4))
            ++kept;
    }
    order.resize(std::min(order.size(), kept + blockSize));
    const auto columns = static_cast<Eigen::Index>(order.size());
    bool inOrder = found.size() == 1;
    for (Eigen::Index at = 0; at < columns && inOrder; ++at)
        inOrder = order[static_cast<std::size_t>(at)][1] == at;
    if (inOrder) {
        found[0].theta.conservativeResize(columns);
        found[0].residual.conservativeResize(columns);
        found[0].vectors.conservativeResize(Eigen::NoChange, columns);
        return std::move(found[0]);
    }
    RitzPairs all{Eigen::VectorXd(columns), Eigen::VectorXd(columns), Eigen::MatrixXd(pencil_.size(), columns)};
    for (Eigen::Index at = 0; at < columns; ++at) {
        const auto [round, column] = order[static_cast<std::size_t>(at)];
        const RitzPairs& from = found[static_cast<std::size_t>(round)];
        all.theta[at] = from.theta[column];
        all.residual[at] = from.residual[column];
        all.vectors.col(at) = from.vectors.col(column);
    }
    return all;
}

Extraction ModeExtractor::onTheirWay()
{
    const RitzPairs found = convergedPairs(pencil_.size());
    Extraction extraction;
    const Eigen::Index rigid = rigid_.cols(), more = found.theta.size();
    extraction.rigid = rigid;
    extraction.lambda.setZero(rigid + more);
    extraction.lambda.tail(more) = found.theta.cwiseInverse().array() - shiftUp_;
    extraction.acceptedError.setZero(rigid + more);
    extraction.acceptedError.tail(more) = found.residual.cwiseQuotient(found.theta.cwiseAbs());
    extraction.shapes.resize(pencil_.size(), rigid + more);
    extraction.shapes << rigid_, found.vectors;
    extraction.record = recordSoFar();
    return extraction;
}

Extraction ModeExtractor::gather(Eigen::Index wanted)
{
    const bool complete =
        std::all_of(rounds_.begin(), rounds_.end(),
                    [this](const auto& round) {
                        return round->exhausted() && round->converged(ritzTolerance()) == round->dimension();
                    }) &&
        convergedCount() <= wanted - rigid_.cols() + blockSize;
    RitzPairs found = convergedPairs(wanted - rigid_.cols());
    return finished(ritz(std::move(found.vectors), found.theta), wanted, complete);
}

/// Rayleigh-Ritz in the space of the columns, which lie clear of the rigid motions. Where their theta are known, the
/// energy tells whether they hold a part without mass: no inner product in M sees it, and where blocks have become
/// small beside their images, the recurrence lets it grow (Nour-Omid and others 1987). Then they go through A first.
ModeExtractor::Pairs ModeExtractor::ritz(Eigen::MatrixXd space, const Eigen::VectorXd& theta) const
{
    const Eigen::Index columns = space.cols();
    Pairs pairs{Eigen::VectorXd(), Eigen::MatrixXd(pencil_.size(), 0)};
    if (columns == 0) return pairs;
    // A few columns at a time, so that their products never stand beside all of them.
    const TallProducts tall(pencil_.size());
    Eigen::MatrixXd gram(columns, columns), stiff(columns, columns);
    constexpr Eigen::Index few = blockSize;
    for (Eigen::Index begin = 0; begin < columns; begin += few) {
        const Eigen::Index count = std::min(few, columns - begin);
        const Eigen::MatrixXd part = space.middleCols(begin, count);
        gram.middleCols(begin, count) = tall.inner(space, pencil_.mass * part);
        stiff.middleCols(begin, count) = tall.inner(space, pencil_.stiffnessTimes(part));
    }
    const Eigen::ArrayXd sizes = gram.diagonal().array().abs().sqrt().inverse();
    const auto scaled = [&](const Eigen::MatrixXd& matrix) {
        const Eigen::MatrixXd even = sizes.matrix().asDiagonal() * matrix * sizes.matrix().asDiagonal();
        return Eigen::MatrixXd((even + even.transpose()) / 2.0);
    };
    const Eigen::MatrixXd energy = scaled(shiftUp_ * gram + stiff);
    if (theta.size() == columns) {
        const double normK = pencil_.stiffness.norm();
        for (Eigen::Index at = 0; at < columns; ++at) {
            const double noise = 100.0 * rounding * normK * space.col(at).squaredNorm() * sizes[at] * sizes[at];
            if (energy(at, at) - 1.0 / theta[at] > 1e-10 / theta[at] + noise)
                return ritz(shifted_.solveShifted(pencil_.mass * space), {});
        }
    }
    const Eigen::MatrixXd mass = scaled(gram);
    const Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd> eigen(mass, energy);
    const Eigen::VectorXd found = eigen.eigenvalues().reverse();
    pairs.lambda = found.cwiseInverse().array() - shiftUp_;
    Eigen::MatrixXd turn = eigen.eigenvectors().rowwise().reverse() * found.cwiseSqrt().cwiseInverse().asDiagonal();
    straighten(turn, mass);
    tall.turn(space, sizes.matrix().asDiagonal() * turn);
    pairs.shapes = std::move(space);
    return pairs;
}

Extraction ModeExtractor::dense()
{
    const Eigen::Index n = pencil_.size();
    const Eigen::MatrixXd identity = Eigen::MatrixXd::Identity(n, n);
    // A shift midway (in the logarithm) between the lowest and the highest eigenvalue spreads the rounding evenly:
    // both ends keep about as many digits as the root of their ratio leaves.
    BlockLanczos probe(shifted_, blockSize, rigid_);
    for (int step = 0; step < 3 && !probe.exhausted(); ++step)
        probe.step();
    const RitzPairs lowest = probe.pairs(1);
    const double high = largestRatio();
    const double first = lowest.theta.size() > 0 ? 1.0 / lowest.theta[0] - shiftUp_ : 0.0;
    const double midway = high > 0.0 ? std::sqrt(std::max(first, 1e-14 * high) * high) : shiftUp_;
    const double shift = first < 0.0 ? std::max(midway, shiftUp_) : midway; // which leaves nothing that releases energy
    Eigen::MatrixXd mass = pencil_.mass * identity, shifted = pencil_.stiffnessTimes(identity) + shift * mass;
    Eigen::MatrixXd left; // what relations leave; empty: all
    if (pencil_.hasApart()) {
        left = pencil_.apart->left();
        mass = (left.transpose() * mass * left).eval();
        shifted = (left.transpose() * shifted * left).eval();
    }
    const Eigen::Index free = mass.rows();
    // The rank of M, free of units: eigenvalues of D^-1/2 M D^-1/2.
    Eigen::VectorXd scale(free);
    for (Eigen::Index at = 0; at < free; ++at)
        scale[at] = mass(at, at) > 0.0 ? 1.0 / std::sqrt(mass(at, at)) : 0.0;
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> rankOf(
        Eigen::MatrixXd(scale.asDiagonal() * mass * scale.asDiagonal()), Eigen::EigenvaluesOnly);
    const Eigen::Index rank = (rankOf.eigenvalues().array() > 1e-12).count();
    const Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd> eigen(mass, shifted);
    const Eigen::Index rigid = rigid_.cols(), elastic = std::max<Eigen::Index>(0, rank - rigid);
    Pairs pairs{Eigen::VectorXd(elastic), Eigen::MatrixXd(n, elastic)};
    for (Eigen::Index at = 0; at < elastic; ++at) { // the rigid motions have the largest theta
        const double theta = eigen.eigenvalues()[free - 1 - rigid - at];
        pairs.lambda[at] = 1.0 / theta - shift;
        const Eigen::VectorXd shape = eigen.eigenvectors().col(free - 1 - rigid - at) / std::sqrt(theta);
        pairs.shapes.col(at) = left.size() > 0 ? Eigen::VectorXd(left * shape) : shape;
    }
    straighten(pairs.shapes, pencil_.mass * identity);
    return finished(std::move(pairs), rank, true);
}

Extraction ModeExtractor::finished(Pairs pairs, Eigen::Index wanted, bool complete)
{
    const Eigen::Index columns = pairs.lambda.size(), rigid = rigid_.cols();
    const Eigen::Index elastic = std::clamp<Eigen::Index>(wanted - rigid, 0, columns);
    const ZeroEnergy energy(pencil_);
    for (int attempt = 0;; ++attempt) {
        // Neighbours of the last one belong to its group; what costs no energy belongs to the rigid motions.
        Eigen::Index kept = elastic;
        const auto still = [&](Eigen::Index at) { return energy.costsNothing(pairs.lambda[at], pairs.shapes.col(at)); };
        const bool amongStill = elastic == 0 ? rigid > 0 : still(elastic - 1);
        while (kept < columns && ((elastic > 0 && sameGroup(pairs.lambda[elastic - 1], pairs.lambda[kept])) ||
                                  (amongStill && still(kept))))
            ++kept;
        Extraction extraction;
        extraction.rigid = rigid;
        extraction.nextLambda = kept < columns ? pairs.lambda[kept] : 0.0;
        extraction.all = complete && kept == columns;
        extraction.lambda.resize(rigid + kept);
        extraction.lambda << Eigen::VectorXd::Zero(rigid), pairs.lambda.head(kept);
        Eigen::MatrixXd beyond = pairs.shapes.rightCols(columns - kept);
        pairs.shapes.conservativeResize(Eigen::NoChange, kept);
        extraction.shapes = rigid == 0 ? std::move(pairs.shapes) : beside(rigid_, pairs.shapes);
        certify(pencil_, shifted_.solveShifted, -shiftUp_, extraction);
        const Eigen::Index first = rigid + extraction.mechanisms;
        const auto bad = [&](Eigen::Index at) {
            return extraction.acceptedError[at] > tolerance_ ||
                   extraction.residual[at] > std::max(tolerance_, extraction.floor[at]);
        };
        bool good = true;
        for (Eigen::Index at = first; at < rigid + kept; ++at)
            good = good && !bad(at);
        const bool done = good || attempt > 0 || complete || progress_.stopped();
        convergedLambda_.assign(pairs.lambda.begin(), pairs.lambda.end());
        if (done && !keeps_) return extraction;
        pairs.shapes = beside(rigid == 0 && !done ? std::move(extraction.shapes)
                                                  : Eigen::MatrixXd(extraction.shapes.rightCols(kept)),
                              beyond);
        if (done) {
            remember(std::move(pairs));
            return extraction;
        }
        // Once more through A, then Rayleigh-Ritz again.
        pairs = ritz(shifted_.solveShifted(pencil_.mass * pairs.shapes), {});
    }
}

} // namespace undisona
