#include "core/pencil/extract.hpp"

#include "core/base/memory.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/pencil/bordered.hpp"
#include "core/pencil/hertz.hpp"
#include "core/pencil/interior.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr Eigen::Index denseLimit = 2500;
constexpr Eigen::Index restartFactor = 2; // basis vectors a mode wanted, before a restart
constexpr long mostRestarts = 200;        // more of them bring nothing: what is left lies below rounding

Finding stoppedEarly()
{
    return warningAt({}, "the run was stopped before a mode was found");
}

} // namespace

ModeExtractor::ModeExtractor(const Pencil& pencil, Progress& progress, KeptRuns* runs)
    : pencil_(pencil), progress_(progress), keeps_(runs != nullptr), rigid_(pencil_.free),
      massRigid_(pencil.mass * pencil.free)
{
    kept_ = keeps_ ? runs->of(keyOf(together(), pencil_.apart)) : std::make_shared<KeptRun>();
    record_.block = blockSize;
}

Result<std::unique_ptr<ModeExtractor>> ModeExtractor::prepare(const Pencil& pencil, Progress& progress, KeptRuns* runs,
                                                              Eigen::Index modes)
{
    progress.stage("factorise");
    chooseBlasThreads(pencil.size());
    std::unique_ptr<ModeExtractor> extractor(new ModeExtractor(pencil, progress, runs));
    extractor->shifted_ = {pencil.size(), SymmetricProduct(pencil.mass),
                           [own = extractor.get()](const Eigen::MatrixXd& x) { return own->solve(x); }};
    if (!extractor->kept_->analysis) extractor->kept_->analysis = Analysis::of(extractor->together());
    extractor->analysis_ = extractor->kept_->analysis;
    if (!extractor->analysis_) return memoryRanOut();
    if (!extractor->kept_->factor && pencil.size() > denseLimit) {
        const auto entries = static_cast<std::int64_t>(pencil.stiffness.row.size() + pencil.mass.row.size());
        const RunEstimate estimate = estimateOf(*extractor->analysis_, entries, modes);
        if (auto refused = tooLarge(estimate, availableMegabytes())) return *refused;
        if (estimate.seconds > 2.0) progress.say(wordsOf(estimate));
    }
    extractor->chooseShift();
    if (extractor->factor_) return extractor;
    if (progress.stopped()) return stoppedEarly();
    // Neither stiffness nor mass somewhere: say where.
    std::int64_t at = -1;
    SignedFactor::factorise(extractor->analysis_, pencil.stiffness, {.definite = true}, &at);
    if (at >= 0) return freeWithoutMass(pencil.motionOf ? pencil.motionOf(at) : fmt::format("row {} can move", at + 1));
    return errorAt({}, "the structure can move freely where it has no mass", "Hold it, tie it, or give it mass.");
}

SparseSymmetric ModeExtractor::together() const
{
    return sum(pencil_.stiffness, 0.0, pencil_.mass);
}

/// With the shift and the unknowns held that are set.
bool ModeExtractor::factorise()
{
    ++record_.factorisations;
    factor_ = SignedFactor::factorise(analysis_, {pencil_.stiffness, shiftUp_, pencil_.mass, held_},
                                      {.definite = true, .progress = &progress_});
    giveBackFreed();
    return factor_ != nullptr;
}

bool ModeExtractor::factorise(double shiftUp)
{
    shiftUp_ = shiftUp;
    held_.clear();
    return factorise();
}

bool ModeExtractor::hasFactor()
{
    if (factor_) return true;
    progress_.stage("factorise");
    return factorise();
}

bool ModeExtractor::factoriseHeld()
{
    // What changes with the mass is the rigid motions' basis, not their space: the same unknowns hold them.
    const bool sameHeld = kept_->factor && static_cast<Eigen::Index>(kept_->held.size()) == rigid_.cols();
    shiftUp_ = 0.0;
    if (sameHeld) {
        factor_ = kept_->factor;
        held_ = kept_->held;
        record_.keptFactor = true;
        return true;
    }
    held_ = pencil_.holding ? pencil_.holding() : std::vector<std::int64_t>{};
    if (static_cast<Eigen::Index>(held_.size()) < rigid_.cols()) return false;
    if (!factorise()) return false;
    // A pivot that is nothing beside its own stiffness: something is loose in itself.
    if (!(factor_->reciprocalCondition() > 1e-18)) {
        factor_ = nullptr;
        return false;
    }
    kept_->factor = factor_;
    kept_->held = held_;
    return true;
}

/// (K - sigma M)^-1; without a shift K^-1 on the complement of the rigid motions: the load less its part that moves
/// them, the motion less its part along them.
Eigen::MatrixXd ModeExtractor::solve(const Eigen::MatrixXd& right) const
{
    if (held_.empty()) return solveWhole(right);
    Eigen::MatrixXd balanced = right - massRigid_ * (rigid_.transpose() * right).eval();
    for (const auto at : held_)
        balanced.row(at).setZero();
    Eigen::MatrixXd motion = solveWhole(balanced);
    motion -= rigid_ * (massRigid_.transpose() * motion).eval();
    return motion;
}

/// By the factor as it stands, with what is kept apart from the stiffness.
Eigen::MatrixXd ModeExtractor::solveWhole(const Eigen::MatrixXd& right) const
{
    if (!pencil_.hasApart()) return factor_->solve(right);
    if (borderedBy_ != factor_.get()) {
        bordered_ = BorderedSolve(
            pencil_.apart, [factor = factor_](const Eigen::MatrixXd& x) { return factor->solve(x); }, held_);
        borderedBy_ = factor_.get();
    }
    return bordered_(right);
}

Eigen::MatrixXd ModeExtractor::staticAnswer(const Eigen::MatrixXd& loads)
{
    return hasFactor() ? solve(loads) : Eigen::MatrixXd::Zero(loads.rows(), loads.cols()).eval();
}

double ModeExtractor::ritzTolerance() const
{
    return std::max(0.3 * tolerance_, 1e-11); // below it rounding takes over; what is left to do one more solve does
}

bool ModeExtractor::movesFreely()
{
    // Rigid motions of structures are known beforehand. What is loose in itself may leave a pivot of rounding alone.
    constexpr double suspicious = 1e-13;
    if (pencil_.freeIsKnown && factor_->reciprocalCondition() > suspicious) return false;
    rounds_.push_back(std::make_unique<BlockLanczos>(shifted_, blockSize)); // goes on if all is well
    for (int step = 0; step < 3 && !rounds_[0]->exhausted(); ++step)
        rounds_[0]->step();
    const RitzPairs first = rounds_[0]->pairs(1);
    const bool free =
        first.theta.size() > 0 &&
        1.0 / first.theta[0] < 1e3 * 2.220446049250313e-16 * pencil_.stiffness.norm() * first.vectors.squaredNorm();
    if (free) rounds_.clear();
    return free;
}

void ModeExtractor::chooseShift()
{
    if (factoriseHeld() && (record_.keptFactor || !movesFreely())) return;
    if (progress_.stopped()) return;
    kept_->factor = nullptr;
    record_.keptFactor = false;
    // A small shift first; a few inverse iterations clear of the rigid motions then tell the scale of the
    // lowest elastic eigenvalue, and a third of that makes a well-conditioned shift.
    const double largest = largestRatio();
    double first = std::max(1e-9 * largest, 1e-12);
    for (int attempt = 0; attempt < 8 && !factorise(first); ++attempt)
        first *= 100.0;
    if (!factor_) return;
    for (int round = 0; round < 3; ++round) {
        BlockLanczos probe(shifted_, blockSize, rigid_);
        for (int step = 0; step < 4 && !probe.exhausted(); ++step)
            probe.step();
        const Eigen::VectorXd thetas = probe.thetas(probe.dimension());
        if (thetas.size() > 0 && 1.0 / thetas[0] < (1.0 - 1e-3) * shiftUp_) { // it releases energy
            if (!shiftBelow(thetas)) return;
            continue;
        }
        double lambda = 0.0; // the first that is no mechanism
        for (const double theta : thetas)
            if (theta > 0.0 && lambda <= 1e-6 * shiftUp_) lambda = 1.0 / theta - shiftUp_;
        if (!(lambda > 1e-6 * shiftUp_)) return; // mechanisms alone: the present shift is as good as any
        if (lambda > 0.1 * shiftUp_ && lambda < 1e4 * shiftUp_ && round > 0) return;
        if (!factorise(lambda / 3.0)) {
            factorise(first);
            return;
        }
    }
}

/// Where K is indefinite: to a place below its lowest eigenvalue, by a third of the way from there to the next few.
bool ModeExtractor::shiftBelow(const Eigen::VectorXd& thetas)
{
    const double before = shiftUp_, lowest = 1.0 / thetas[0] - shiftUp_;
    const Eigen::Index next = std::min<Eigen::Index>(blockSize, thetas.size() - 1);
    double gap = std::max((1.0 / thetas[next] - shiftUp_ - lowest) / 3.0, -1e-9 * lowest);
    for (; - lowest + gap < before; gap *= 4.0) // a Ritz value lies above its eigenvalue
        if (factorise(-lowest + gap)) return true;
    factorise(before);
    return false;
}

double ModeExtractor::hertzOf(double theta) const
{
    return toHertz(1.0 / theta - shiftUp_);
}

std::vector<double> ModeExtractor::convergedHertz()
{
    std::vector<double> hertz(static_cast<std::size_t>(rigid_.cols()), 0.0);
    for (auto& round : rounds_)
        for (const double theta : round->thetas(round->converged(ritzTolerance())))
            hertz.push_back(hertzOf(theta));
    std::sort(hertz.begin(), hertz.end());
    return hertz;
}

void ModeExtractor::tell(const ModeListener& listener)
{
    if (listener.frequencies) listener.frequencies(convergedHertz());
    if (!listener.modes || !pace_.due() || convergedCount() == handedOut_) return;
    handedOut_ = convergedCount();
    pace_.take([&] { listener.modes(onTheirWay()); });
}

Eigen::Index ModeExtractor::convergedCount()
{
    Eigen::Index count = 0;
    for (auto& round : rounds_)
        count += round->converged(ritzTolerance());
    return count;
}

/// Room for the modes wanted and as many again on their way; more modes than were expected make room for themselves.
void ModeExtractor::limitDimension(const ModeRequest& request)
{
    const bool byCountAlone = !std::isfinite(request.upTo) && !request.enough;
    const Eigen::Index modes = byCountAlone ? request.most - rigid_.cols() : 3 * convergedCount() / 2;
    rounds_.back()->limitDimension(std::max<Eigen::Index>(0, restartFactor * modes) + 6 * blockSize);
}

Eigen::MatrixXd ModeExtractor::watchedWork(const ModeRequest& request)
{
    std::vector<std::pair<double, Eigen::RowVectorXd>> rows;
    for (auto& round : rounds_) {
        const Eigen::Index count = round->converged(ritzTolerance());
        const Eigen::VectorXd theta = round->thetas(count);
        const Eigen::MatrixXd work = round->watchedWork(count);
        for (Eigen::Index at = 0; at < count; ++at)
            rows.emplace_back(theta[at], work.row(at));
    }
    std::stable_sort(rows.begin(), rows.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    Eigen::MatrixXd all(rigid_.cols() + static_cast<Eigen::Index>(rows.size()), request.watched.cols());
    all.topRows(rigid_.cols()) = rigid_.transpose() * request.watched;
    for (std::size_t at = 0; at < rows.size(); ++at)
        all.row(rigid_.cols() + static_cast<Eigen::Index>(at)) = rows[at].second;
    return all;
}

/// A look costs a dense eigenproblem in the basis, which may take about a quarter of the time; but not longer than an
/// eighth more of directions.
Eigen::Index ModeExtractor::nextLook(Eigen::Index fewest) const
{
    const double dimension = double(rounds_.back()->dimension()), size = double(pencil_.size());
    const double look = 20.0 * dimension * dimension * dimension;
    const double step = 4.0 * double(blockSize) * (double(analysis_->entries()) + size * dimension);
    const double blocks = std::floor(look / (0.25 * step));
    const auto wait = static_cast<Eigen::Index>(std::min(double(blockSize) * blocks, dimension / 8.0));
    return std::max(fewest, rounds_.back()->dimension() + wait);
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
        const Eigen::MatrixXd work = watchedWork(request).topRows(lookedAt);
        if (const Eigen::Index suffice = request.enough(work); suffice > 0) return suffice;
    }
    return std::nullopt;
}

Extraction ModeExtractor::findMany(const ModeRequest& request, Eigen::Index wanted, const ModeListener& listener)
{
    ModeRequest first = request;
    first.upTo = std::numeric_limits<double>::infinity();
    first.most = rigid_.cols() + modesPerShift(*analysis_);
    first.countElsewhere = false; // the walk begins where the modes known end
    Extraction lowest = findFew(first, listener);
    lowest.cutShort = progress_.stopped();
    if (progress_.stopped() || !lowest.check.proven) return lowest;
    if (listener.modes) { // which are proven, whatever becomes of those above
        lowest.cutShort = true;
        listener.modes(lowest);
        lowest.cutShort = false;
    }
    rounds_.clear(); // gives its memory back
    if (!keeps_) factor_ = kept_->factor = nullptr;
    InteriorExtractor upper(pencil_, progress_, analysis_, tolerance_);
    return upper.upwards(std::move(lowest), wanted, request.upTo, modesPerShift(*analysis_), listener);
}

Extraction ModeExtractor::find(const ModeRequest& request, const ModeListener& listener)
{
    tolerance_ = request.tolerance;
    const Eigen::Index rigid = rigid_.cols(), many = rigid + 2 * modesPerShift(*analysis_);
    Eigen::Index wanted = request.most;
    if (request.prove && !request.enough && wanted > many && 2 * wanted < pencil_.size() && !begun_) {
        if (std::isfinite(request.upTo)) {
            progress_.stage("count");
            ++record_.factorisations;
            const auto below =
                ShiftedFactor::factorise(analysis_, pencil_.stiffness, toLambda(request.upTo), pencil_.mass,
                                         {.keepFactor = pencil_.hasApart(), .progress = &progress_});
            wanted = below ? std::min<Eigen::Index>(wanted, negativeOf(pencil_, *below)) : 0;
        }
        if (wanted > many) return findMany(request, wanted, listener);
    }
    return findFew(request, listener);
}

Extraction ModeExtractor::findFew(const ModeRequest& request, const ModeListener& listener)
{
    progress_.stage("modes");
    begun_ = true;
    if (!hasFactor()) return recorded(onTheirWay()); // stopped
    const Eigen::Index size = pencil_.size(), rigid = rigid_.cols();
    const bool byCountAlone = !std::isfinite(request.upTo) && !request.enough;
    if (byCountAlone && 2 * request.most > size && size <= denseLimit) return counted(cut(dense(), request), request);
    if (rounds_.empty()) rounds_.push_back(firstRound());
    if (request.enough)
        for (auto& round : rounds_)
            round->watch(request.watched);
    auto& lanczos = *rounds_.back();
    limitDimension(request);
    // Nothing has converged while there are few directions more than modes wanted.
    const Eigen::Index fewest = byCountAlone && record_.keptModes == 0 ? (3 * (request.most - rigid)) / 2 : 0;
    Eigen::Index lookedAt = 0;
    std::optional<Eigen::Index> wanted;
    // More directions than unknowns are made of rounding.
    const auto spent = [&] { return lanczos.exhausted() || lanczos.dimension() > size; };
    while (!wanted && !spent() && !progress_.stopped() && lanczos.restarts() < mostRestarts) {
        const Eigen::Index next = nextLook(fewest);
        const long restarts = lanczos.restarts();
        do
            lanczos.step();
        while (lanczos.dimension() < next && lanczos.restarts() == restarts && !spent() && !progress_.stopped());
        wanted = settled(request, lookedAt);
        limitDimension(request);
        if (request.most > rigid)
            progress_.fraction(std::min(1.0, double(convergedCount()) / double(request.most - rigid + 1)));
        if (!wanted)
            tell(listener);
        else if (listener.frequencies) // more have converged than will be kept: their masses are not told
            listener.frequencies(convergedHertz());
    }
    if (progress_.stopped() && listener.modes && convergedCount() > handedOut_) listener.modes(onTheirWay());
    if (!wanted && spent() && convergedCount() < lanczos.dimension() && size <= denseLimit)
        return counted(cut(dense(), request), request);
    if (request.last && wanted) {
        lanczos.forgetBeyond(lanczos.converged(ritzTolerance()));
        giveBackFreed();
    }
    return proven(request, std::min(request.most, wanted.value_or(rigid + convergedCount())), listener);
}

Extraction ModeExtractor::proven(const ModeRequest& request, Eigen::Index wanted, const ModeListener& listener)
{
    const auto gathered = [&] {
        Extraction extraction = gather(wanted);
        return std::isfinite(request.upTo) ? cut(std::move(extraction), request) : extraction;
    };
    Extraction extraction = gathered();
    if (!request.prove || progress_.stopped()) return recorded(std::move(extraction));
    if (request.last && !keeps_) factor_ = kept_->factor = nullptr;
    extraction.check = count(extraction, request);
    // Copies of a repeated frequency beyond the block size, or modes that the start had no part in: look again
    // beside everything found, until the count agrees. Where rounding has taken over, looking on brings nothing.
    int inVain = 0;
    for (std::uint64_t attempt = 1; attempt < 60 && inVain < 3 && !progress_.stopped(); ++attempt) {
        const CountCheck check = extraction.check;
        if (extraction.all || check.expected <= check.found || check.found == 0 || !hasFactor()) break;
        progress_.stage("modes");
        Eigen::MatrixXd known = convergedPairs(pencil_.size()).vectors;
        known.conservativeResize(Eigen::NoChange, known.cols() + rigid_.cols());
        known.rightCols(rigid_.cols()) = rigid_;
        const double highest = std::max(extraction.lambda[extraction.lambda.size() - 1], toLambda(check.belowHz));
        rounds_.push_back(std::make_unique<BlockLanczos>(shifted_, blockSize, known, 20011 + 7919 * attempt));
        auto& lanczos = *rounds_.back();
        lanczos.limitDimension(restartFactor * static_cast<Eigen::Index>(check.expected - check.found) + 6 * blockSize);
        while (!lanczos.exhausted() && !progress_.stopped() && lanczos.restarts() < mostRestarts) {
            lanczos.step();
            tell(listener);
            const Eigen::Index done = lanczos.converged(ritzTolerance());
            if (done > 0 && 1.0 / lanczos.thetas(done)[done - 1] - shiftUp_ > highest) break;
        }
        if (std::isfinite(request.upTo))
            wanted = std::min<Eigen::Index>(request.most, wanted + check.expected - check.found);
        extraction = gathered();
        extraction.check = count(extraction, request);
        inVain = extraction.check.found > check.found ? 0 : inVain + 1;
    }
    return recorded(std::move(extraction));
}

Extraction ModeExtractor::cut(Extraction extraction, const ModeRequest& request) const
{
    const Eigen::Index found = extraction.lambda.size();
    Eigen::Index kept = std::min(found, request.most);
    if (request.enough)
        if (const Eigen::Index suffice = request.enough(extraction.shapes.leftCols(kept).transpose() * request.watched);
            suffice > 0)
            kept = suffice;
    Eigen::Index inside = 0;
    while (inside < found && toHertz(extraction.lambda[inside]) <= request.upTo)
        ++inside;
    return leading(std::move(extraction), std::min(kept, inside));
}

Extraction ModeExtractor::counted(Extraction extraction, const ModeRequest& request)
{
    if (request.prove && !progress_.stopped()) extraction.check = count(extraction, request);
    return recorded(std::move(extraction));
}

Extraction ModeExtractor::recorded(Extraction extraction)
{
    record_ = recordSoFar();
    record_.orthogonality = orthogonalityLoss(pencil_, extraction.shapes);
    extraction.record = record_;
    return extraction;
}

RunRecord ModeExtractor::recordSoFar() const
{
    RunRecord record = record_;
    record.shifts = {-shiftUp_};
    record.held = static_cast<long>(held_.size());
    record.blockSolves = record.restarts = 0;
    for (const auto& round : rounds_) {
        record.blockSolves += round->solves();
        record.restarts += round->restarts();
    }
    record.lookedAgain = std::max<long>(0, static_cast<long>(rounds_.size()) - 1);
    record.factorEntries = double(analysis_->entries());
    return record;
}

double ModeExtractor::largestRatio() const
{
    double largest = 0.0;
    for (Eigen::Index at = 0; at < pencil_.size(); ++at)
        if (pencil_.mass.diagonal(at) > 0.0)
            largest = std::max(largest, std::abs(pencil_.stiffness.diagonal(at)) / pencil_.mass.diagonal(at));
    return largest;
}

} // namespace undisona
