#include "core/modal/extract.hpp"

#include "core/modal/hertz.hpp"
#include "core/modal/rigid_modes.hpp"
#include "core/numerics/indefinite_factor.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr double tolerance = 1e-9;     // of a Ritz pair, so that the polished mode is accepted at 1e-8
constexpr double sameFrequency = 1e-6; // relative; modes nearer than this are one group
constexpr Eigen::Index blockSize = 8;
constexpr Eigen::Index denseLimit = 2500;

} // namespace

void certify(const System& system, const std::function<Eigen::MatrixXd(const Eigen::MatrixXd&)>& solveShifted,
             double sigma, Extraction& extraction)
{
    const Eigen::MatrixXd stiff = system.stiffness * extraction.shapes, massive = system.mass * extraction.shapes;
    const Eigen::MatrixXd image = solveShifted(massive);
    const Eigen::Index total = extraction.lambda.size();
    const double normK = system.stiffness.norm();
    constexpr double eps = 2.220446049250313e-16;
    extraction.acceptedError.resize(total);
    extraction.residual.setZero(total);
    extraction.floor.setZero(total);
    Eigen::Index firstElastic = total;
    for (Eigen::Index at = total - 1; at >= extraction.rigid; --at) {
        const double noise = 1e3 * eps * normK * extraction.shapes.col(at).squaredNorm();
        if (extraction.lambda[at] > noise) firstElastic = at;
    }
    // Motions that cost no energy and are not rigid: below what rounding leaves of K, and far below the rest.
    extraction.mechanisms = 0;
    for (Eigen::Index at = extraction.rigid; at < firstElastic; ++at) {
        if (firstElastic < total && extraction.lambda[at] > 1e-10 * extraction.lambda[firstElastic]) break;
        extraction.lambda[at] = 0.0;
        ++extraction.mechanisms;
    }
    const Eigen::ArrayXd own = extraction.lambda.array() - sigma;
    const Eigen::MatrixXd error = image - extraction.shapes * own.inverse().matrix().asDiagonal();
    extraction.acceptedError =
        own.abs() * (error.array() * (system.mass * error).array()).colwise().sum().transpose().max(0.0).sqrt();
    for (Eigen::Index at = 0; at < total; ++at) {
        if (at < extraction.rigid + extraction.mechanisms) continue;
        const double force = stiff.col(at).norm();
        extraction.residual[at] = (stiff.col(at) - extraction.lambda[at] * massive.col(at)).norm() / force;
        extraction.floor[at] = 10.0 * eps * normK * extraction.shapes.col(at).norm() / force;
    }
}

Extraction leading(Extraction extraction, Eigen::Index kept)
{
    const Eigen::Index found = extraction.lambda.size();
    kept = std::min(kept, found);
    while (kept > 0 && kept < found && // the whole group of the last one
           extraction.lambda[kept] <= extraction.lambda[kept - 1] * std::pow(1.0 + sameFrequency, 2))
        ++kept;
    if (kept == found) return extraction;
    extraction.nextLambda = extraction.lambda[kept];
    extraction.all = false;
    for (auto* values : {&extraction.lambda, &extraction.acceptedError, &extraction.residual, &extraction.floor})
        values->conservativeResize(kept);
    extraction.shapes.conservativeResize(Eigen::NoChange, kept);
    return extraction;
}

ModeExtractor::ModeExtractor(const System& system, Progress& progress) : system_(system), progress_(progress) {}

Result<std::unique_ptr<ModeExtractor>> ModeExtractor::prepare(const System& system, Progress& progress)
{
    if (system.size() == 0)
        return errorAt({}, "nothing can move: every direction of every point is held",
                       "Free some of them, or add members.");
    std::unique_ptr<ModeExtractor> extractor(new ModeExtractor(system, progress));
    progress.stage("factorise");
    extractor->rigid_ = rigidModes(system);
    extractor->pencil_ = {system.size(), [&system](const Eigen::MatrixXd& x) { return system.mass * x; },
                          [own = extractor.get()](const Eigen::MatrixXd& x) { return own->factor_->solve(x); }};
    extractor->chooseShift();
    if (extractor->factor_) return extractor;
    // Neither stiffness nor mass somewhere: say where.
    std::int64_t at = -1;
    Cholesky::factorise(extractor->shifted_, &at);
    std::string where = "the structure";
    if (at >= 0) {
        const auto& unknown = system.motions.unknowns[static_cast<std::size_t>(at)];
        where =
            fmt::format("{} ({} along {:.2g}, {:.2g}, {:.2g})", unknown.where, unknown.rotation ? "turning" : "moving",
                        unknown.direction.x(), unknown.direction.y(), unknown.direction.z());
    }
    return Finding{Severity::error,
                   fmt::format("{} can move freely and has no mass there, so that it has no frequency", where),
                   "Hold it, tie it, give it mass, or take back a release.",
                   {},
                   where};
}

bool ModeExtractor::factorise(double shiftUp)
{
    shiftUp_ = shiftUp;
    shifted_ = sum(system_.stiffness, shiftUp, system_.mass);
    factor_ = Cholesky::factorise(shifted_);
    return factor_ != nullptr;
}

bool ModeExtractor::movesFreely()
{
    if (!system_.parts.empty()) return false; // known beforehand, from what can strain
    BlockLanczos probe(pencil_, blockSize);
    for (int step = 0; step < 3 && !probe.exhausted(); ++step)
        probe.step();
    const RitzPairs first = probe.pairs(1);
    return first.theta.size() > 0 &&
           1.0 / first.theta[0] < 1e3 * 2.220446049250313e-16 * system_.stiffness.norm() * first.vectors.squaredNorm();
}

void ModeExtractor::chooseShift()
{
    if (rigid_.cols() == 0 && factorise(0.0) && factor_->reciprocalCondition() > 1e-18 && !movesFreely()) return;
    // A small shift first; a few inverse iterations clear of the rigid motions then tell the scale of the
    // lowest elastic eigenvalue, and a third of that makes a well-conditioned shift.
    double largest = 0.0;
    for (Eigen::Index at = 0; at < system_.size(); ++at)
        if (system_.mass.diagonal(at) > 0.0)
            largest = std::max(largest, system_.stiffness.diagonal(at) / system_.mass.diagonal(at));
    double first = std::max(1e-9 * largest, 1e-12);
    for (int attempt = 0; attempt < 8 && !factorise(first); ++attempt)
        first *= 100.0;
    if (!factor_) return;
    for (int round = 0; round < 3; ++round) {
        BlockLanczos probe(pencil_, blockSize, rigid_);
        for (int step = 0; step < 4 && !probe.exhausted(); ++step)
            probe.step();
        double lambda = 0.0; // the first that is no mechanism
        for (const double theta : probe.thetas(blockSize))
            if (lambda <= 1e-6 * shiftUp_) lambda = 1.0 / theta - shiftUp_;
        if (!(lambda > 1e-6 * shiftUp_)) return; // mechanisms alone: the present shift is as good as any
        if (lambda > 0.1 * shiftUp_ && lambda < 1e4 * shiftUp_ && round > 0) return;
        if (!factorise(lambda / 3.0)) {
            factorise(first);
            return;
        }
    }
}

double ModeExtractor::hertzOf(double theta) const
{
    return toHertz(1.0 / theta - shiftUp_);
}

std::vector<double> ModeExtractor::convergedHertz()
{
    std::vector<double> hertz(static_cast<std::size_t>(rigid_.cols()), 0.0);
    for (auto& round : rounds_)
        for (const double theta : round->thetas(round->converged(tolerance)))
            hertz.push_back(hertzOf(theta));
    std::sort(hertz.begin(), hertz.end());
    return hertz;
}

Eigen::Index ModeExtractor::convergedCount()
{
    Eigen::Index count = 0;
    for (auto& round : rounds_)
        count += round->converged(tolerance);
    return count;
}

Eigen::MatrixXd ModeExtractor::convergedVectors(Eigen::Index wanted)
{
    std::vector<RitzPairs> found;
    std::vector<std::array<Eigen::Index, 2>> order; // round, column; largest theta first
    for (auto& round : rounds_) {
        found.push_back(round->pairs(round->converged(tolerance)));
        for (Eigen::Index column = 0; column < found.back().theta.size(); ++column)
            order.push_back({static_cast<Eigen::Index>(found.size()) - 1, column});
    }
    const auto theta = [&](const std::array<Eigen::Index, 2>& at) {
        return found[static_cast<std::size_t>(at[0])].theta[at[1]];
    };
    std::stable_sort(order.begin(), order.end(), [&](const auto& a, const auto& b) { return theta(a) > theta(b); });
    auto kept = static_cast<std::size_t>(std::max<Eigen::Index>(0, wanted));
    if (kept > 0 && kept < order.size()) { // the whole group of the last one, and a block more
        const double last = theta(order[kept - 1]);
        while (kept < order.size() && theta(order[kept]) > last * (1.0 - 1e-4))
            ++kept;
    }
    order.resize(std::min(order.size(), kept + blockSize));
    Eigen::MatrixXd all(system_.size(), static_cast<Eigen::Index>(order.size()));
    for (std::size_t at = 0; at < order.size(); ++at)
        all.col(static_cast<Eigen::Index>(at)) =
            found[static_cast<std::size_t>(order[at][0])].vectors.col(order[at][1]);
    return all;
}

Extraction ModeExtractor::gather(Eigen::Index wanted)
{
    const bool complete =
        std::all_of(rounds_.begin(), rounds_.end(),
                    [](const auto& round) {
                        return round->exhausted() && round->converged(tolerance) == round->dimension();
                    }) &&
        convergedCount() <= wanted - rigid_.cols() + blockSize;
    const Eigen::MatrixXd x = convergedVectors(wanted - rigid_.cols());
    const Eigen::Index columns = x.cols();
    Eigen::VectorXd lambda(columns);
    Eigen::MatrixXd shapes(system_.size(), columns);
    if (columns > 0) {
        // Once more through A, which also takes away any part in the null space of M; then Rayleigh-Ritz.
        const Eigen::MatrixXd right = system_.mass * x;
        Eigen::MatrixXd y = factor_->solve(right);
        if (rigid_.cols() > 0) y -= rigid_ * (rigid_.transpose() * (system_.mass * y)).eval();
        const Eigen::ArrayXd sizes = (y.array() * right.array()).colwise().sum().abs().sqrt().transpose();
        y = y * sizes.inverse().matrix().asDiagonal();
        const Eigen::MatrixXd mass = y.transpose() * (system_.mass * y), energy = y.transpose() * (shifted_ * y);
        const Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd> eigen((mass + mass.transpose()) / 2.0,
                                                                              (energy + energy.transpose()) / 2.0);
        for (Eigen::Index at = 0; at < columns; ++at) {
            const double theta = eigen.eigenvalues()[columns - 1 - at];
            lambda[at] = 1.0 / theta - shiftUp_;
            shapes.col(at) = y * eigen.eigenvectors().col(columns - 1 - at) / std::sqrt(theta);
        }
    }
    return finished(lambda, shapes, wanted, complete);
}

Extraction ModeExtractor::dense()
{
    const Eigen::Index n = system_.size();
    const Eigen::MatrixXd identity = Eigen::MatrixXd::Identity(n, n);
    // A shift midway (in the logarithm) between the lowest and the highest eigenvalue spreads the rounding evenly:
    // both ends keep about as many digits as the root of their ratio leaves.
    BlockLanczos probe(pencil_, blockSize, rigid_);
    for (int step = 0; step < 3 && !probe.exhausted(); ++step)
        probe.step();
    const RitzPairs lowest = probe.pairs(1);
    double low = lowest.theta.size() > 0 ? 1.0 / lowest.theta[0] - shiftUp_ : 0.0, high = 0.0;
    for (Eigen::Index at = 0; at < n; ++at)
        if (system_.mass.diagonal(at) > 0.0)
            high = std::max(high, system_.stiffness.diagonal(at) / system_.mass.diagonal(at));
    low = std::max(low, 1e-14 * high);
    const double shift = high > 0.0 ? std::sqrt(low * high) : shiftUp_;
    const Eigen::MatrixXd mass = system_.mass * identity,
                          shifted = sum(system_.stiffness, shift, system_.mass) * identity;
    // The rank of M, free of units: eigenvalues of D^-1/2 M D^-1/2.
    Eigen::VectorXd scale(n);
    for (Eigen::Index at = 0; at < n; ++at)
        scale[at] = mass(at, at) > 0.0 ? 1.0 / std::sqrt(mass(at, at)) : 0.0;
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> rankOf(scale.asDiagonal() * mass * scale.asDiagonal(),
                                                                Eigen::EigenvaluesOnly);
    const Eigen::Index rank = (rankOf.eigenvalues().array() > 1e-12).count();
    const Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd> eigen(mass, shifted);
    const Eigen::Index rigid = rigid_.cols(), elastic = std::max<Eigen::Index>(0, rank - rigid);
    Eigen::VectorXd lambda(elastic);
    Eigen::MatrixXd shapes(n, elastic);
    for (Eigen::Index at = 0; at < elastic; ++at) { // the rigid motions have the largest theta
        const double theta = eigen.eigenvalues()[n - 1 - rigid - at];
        lambda[at] = 1.0 / theta - shift;
        shapes.col(at) = eigen.eigenvectors().col(n - 1 - rigid - at) / std::sqrt(theta);
    }
    return finished(lambda, shapes, rank, true);
}

Extraction ModeExtractor::finished(Eigen::VectorXd lambda, Eigen::MatrixXd shapes, Eigen::Index wanted, bool complete)
{
    const Eigen::Index columns = lambda.size(), rigid = rigid_.cols();
    const Eigen::Index elastic = std::clamp<Eigen::Index>(wanted - rigid, 0, columns);
    Eigen::Index kept = elastic; // neighbours of the last one belong to its group
    while (kept > 0 && kept < columns && lambda[kept] <= lambda[elastic - 1] * std::pow(1.0 + sameFrequency, 2))
        ++kept;
    Extraction extraction;
    extraction.rigid = rigid;
    extraction.nextLambda = kept < columns ? lambda[kept] : 0.0;
    extraction.all = complete && kept == columns;
    extraction.lambda.resize(rigid + kept);
    extraction.lambda << Eigen::VectorXd::Zero(rigid), lambda.head(kept);
    extraction.shapes.resize(system_.size(), rigid + kept);
    extraction.shapes << rigid_, shapes.leftCols(kept);
    certify(system_, pencil_.solveShifted, -shiftUp_, extraction);
    return extraction;
}

std::optional<Eigen::Index> ModeExtractor::settled(const ModeRequest& request, Eigen::Index& lookedAt)
{
    const Eigen::Index rigid = rigid_.cols(), found = rigid + convergedCount();
    // One more than wanted must be there, so that the place of the next mode is known too.
    if (found > request.most) return request.most;
    if (std::isfinite(request.upTo)) {
        const std::vector<double> hertz = convergedHertz();
        const auto below = std::upper_bound(hertz.begin(), hertz.end(), request.upTo) - hertz.begin();
        if (below < found) return below;
    }
    if (request.enough && found > lookedAt + 1) {
        lookedAt = found - 1;
        const Eigen::MatrixXd elastic = convergedVectors(found - rigid);
        Eigen::MatrixXd shapes(system_.size(), lookedAt);
        shapes << rigid_, elastic.leftCols(lookedAt - rigid);
        if (const Eigen::Index suffice = request.enough(shapes); suffice > 0) return suffice;
    }
    return std::nullopt;
}

Extraction ModeExtractor::find(const ModeRequest& request, const Listener& listener)
{
    progress_.stage("modes");
    const Eigen::Index size = system_.size(), rigid = rigid_.cols();
    const bool byCountAlone = !std::isfinite(request.upTo) && !request.enough;
    if (byCountAlone && 2 * request.most > size && size <= denseLimit) return cut(dense(), request);
    if (rounds_.empty()) rounds_.push_back(std::make_unique<BlockLanczos>(pencil_, blockSize, rigid_));
    auto& lanczos = *rounds_.back();
    // Nothing has converged while there are few directions more than modes wanted.
    const Eigen::Index fewest = byCountAlone ? (3 * (request.most - rigid)) / 2 : 0;
    Eigen::Index lookedAt = 0;
    std::optional<Eigen::Index> wanted;
    while (!wanted && !lanczos.exhausted() && !progress_.stopped()) {
        // A look at what has converged costs a dense eigenproblem, which weighs in small models: there only
        // after an eighth more of directions.
        const Eigen::Index next =
            std::max(fewest, size < 20000 ? lanczos.dimension() + lanczos.dimension() / 8 : lanczos.dimension());
        do
            lanczos.step();
        while (lanczos.dimension() < next && !lanczos.exhausted() && !progress_.stopped());
        wanted = settled(request, lookedAt);
        if (request.most > rigid)
            progress_.fraction(std::min(1.0, double(convergedCount()) / double(request.most - rigid + 1)));
        if (listener) listener(convergedHertz());
    }
    if (!wanted && lanczos.exhausted() && convergedCount() < lanczos.dimension() && size <= denseLimit)
        return cut(dense(), request);
    return proven(request, std::min(request.most, wanted.value_or(rigid + convergedCount())), listener);
}

Extraction ModeExtractor::proven(const ModeRequest& request, Eigen::Index wanted, const Listener& listener)
{
    const auto gathered = [&] {
        Extraction extraction = gather(wanted);
        return std::isfinite(request.upTo) ? cut(std::move(extraction), request) : extraction;
    };
    Extraction extraction = gathered();
    if (!request.prove || progress_.stopped()) return extraction;
    extraction.check = count(extraction);
    // Copies of a repeated frequency beyond the block size, or modes that the start had no part in: look again
    // beside everything found, until the count agrees.
    for (std::uint64_t attempt = 1; attempt < 60 && !progress_.stopped(); ++attempt) {
        const CountCheck& check = extraction.check;
        if (extraction.all || check.expected <= check.found || check.found == 0) return extraction;
        progress_.stage("modes");
        Eigen::MatrixXd known = convergedVectors(system_.size());
        known.conservativeResize(Eigen::NoChange, known.cols() + rigid_.cols());
        known.rightCols(rigid_.cols()) = rigid_;
        const double highest = extraction.lambda[extraction.lambda.size() - 1];
        rounds_.push_back(std::make_unique<BlockLanczos>(pencil_, blockSize, known, 20011 + 7919 * attempt));
        auto& lanczos = *rounds_.back();
        while (!lanczos.exhausted() && !progress_.stopped()) {
            lanczos.step();
            if (listener) listener(convergedHertz());
            const Eigen::Index done = lanczos.converged(tolerance);
            if (done > 0 && 1.0 / lanczos.thetas(done)[done - 1] - shiftUp_ > highest) break;
        }
        if (std::isfinite(request.upTo))
            wanted = std::min<Eigen::Index>(request.most, wanted + check.expected - check.found);
        extraction = gathered();
        extraction.check = count(extraction);
    }
    return extraction;
}

Extraction ModeExtractor::cut(Extraction extraction, const ModeRequest& request) const
{
    const Eigen::Index found = extraction.lambda.size();
    Eigen::Index kept = std::min(found, request.most);
    if (request.enough)
        if (const Eigen::Index suffice = request.enough(extraction.shapes.leftCols(kept)); suffice > 0) kept = suffice;
    Eigen::Index inside = 0;
    while (inside < found && toHertz(extraction.lambda[inside]) <= request.upTo)
        ++inside;
    extraction = kept < inside ? leading(std::move(extraction), kept) : leading(std::move(extraction), inside);
    if (request.prove && !progress_.stopped()) extraction.check = count(extraction);
    return extraction;
}

CountCheck ModeExtractor::count(const Extraction& extraction) const
{
    CountCheck check;
    check.found = extraction.lambda.size();
    const double last = check.found > 0 ? extraction.lambda[check.found - 1] : 0.0;
    if (last <= 0.0 && extraction.nextLambda <= 0.0 && check.found == 0) return check;
    double at = last * (1.0 + 1e-4) * (1.0 + 1e-4);
    if (extraction.nextLambda > last) at = std::min(at, (last + extraction.nextLambda) / 2.0);
    if (last <= 0.0) at = extraction.nextLambda > 0.0 ? extraction.nextLambda / 2.0 : shiftUp_ * 1e-3;
    check.belowHz = toHertz(at);
    progress_.stage("count");
    if (const auto expected = negativeEigenvalues(sum(system_.stiffness, -at, system_.mass)))
        check.expected = *expected;
    check.proven = check.expected == check.found;
    return check;
}

} // namespace undisona
