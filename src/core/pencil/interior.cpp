#include "core/pencil/interior.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/numerics/dense_eigen.hpp"
#include "core/pencil/bordered.hpp"
#include "core/pencil/hertz.hpp"

#include <numeric>

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr double infinity = std::numeric_limits<double>::infinity();
constexpr Eigen::Index blockSize = 8;
constexpr std::int64_t mostInASlice = 60;

Finding noShift(double hertz)
{
    return Finding{Severity::error,
                   fmt::format("the equations cannot be factorised at {:.4g} Hz", hertz),
                   "Ask for a slightly different frequency, or for the lowest modes.",
                   {},
                   {}};
}

} // namespace

InteriorExtractor::InteriorExtractor(const Pencil& pencil, Progress& progress, std::shared_ptr<const Analysis> analysis,
                                     double tolerance)
    : pencil_(pencil), progress_(progress), tolerance_(std::max(0.3 * tolerance, 1e-11)), analysis_(std::move(analysis))
{
    progress_.stage("factorise");
    chooseBlasThreads(pencil.size());
    if (!analysis_) analysis_ = Analysis::of(sum(pencil.stiffness, 0.0, pencil.mass));
    record_.block = blockSize;
}

bool InteriorExtractor::factoriseNear(double sigma, double nudge)
{
    progress_.stage("factorise");
    for (int attempt = 0; attempt < 6; ++attempt) { // beside an eigenvalue it may be singular to working precision
        sigma_ = sigma + nudge * attempt;
        factor_.reset(); // never two at a time
        ++record_.factorisations;
        factor_ =
            ShiftedFactor::factorise(analysis_, pencil_.stiffness, sigma_, pencil_.mass, {.progress = &progress_});
        locked_.resize(pencil_.size(), 0);
        if (factor_) {
            record_.shifts.push_back(sigma_);
            solve_ = solveBy(pencil_, *factor_);
        }
        if (factor_ || progress_.stopped()) return factor_ != nullptr;
    }
    return false;
}

std::optional<std::int64_t> InteriorExtractor::countBelow(double lambda)
{
    progress_.stage("count");
    ++record_.factorisations;
    const auto factor = ShiftedFactor::factorise(analysis_, pencil_.stiffness, lambda, pencil_.mass,
                                                 {.keepFactor = pencil_.hasApart(), .progress = &progress_});
    if (!factor) return std::nullopt;
    record_.countGrowth = std::max(record_.countGrowth, factor->growth());
    return negativeOf(pencil_, *factor);
}

InteriorExtractor::Pairs
InteriorExtractor::around(const std::function<bool(const Eigen::VectorXd& lambda, double reach)>& enough)
{
    progress_.stage("modes");
    const ShiftedPencil shifted{pencil_.size(), SymmetricProduct(pencil_.mass),
                                [this](const Eigen::MatrixXd& x) { return solve_(x); }};
    BlockLanczos lanczos(shifted, blockSize, locked_, seed_);
    seed_ += 7919;
    const std::size_t before = heard_.size();
    while (!lanczos.exhausted() && !progress_.stopped()) {
        lanczos.step();
        const Eigen::Index found = lanczos.converged(tolerance_);
        const Eigen::VectorXd theta = lanczos.thetas(found);
        const Eigen::VectorXd lambda = theta.cwiseInverse().array() + sigma_;
        heard_.resize(before);
        for (const double value : lambda)
            if (value >= window_[0] && value < window_[1]) heard_.push_back(toHertz(value));
        hear(lanczos, found);
        // As far as the farthest that has converged: a Ritz value on its way still comes nearer.
        const double reach = found > 0 ? 1.0 / std::abs(theta[found - 1]) : 0.0;
        if (enough(lambda, reach)) break;
    }
    record_.blockSolves += lanczos.solves();
    record_.restarts += lanczos.restarts();
    const Eigen::Index found = lanczos.converged(tolerance_);
    Pairs pairs = polished(lanczos.pairs(found).vectors);
    return pairs;
}

InteriorExtractor::Pairs InteriorExtractor::polished(const Eigen::MatrixXd& vectors) const
{
    Pairs pairs;
    pairs.lambda.resize(vectors.cols());
    pairs.shapes.resize(pencil_.size(), vectors.cols());
    if (vectors.cols() == 0) return pairs;
    // Once more through A, which takes away any part in the null space of M; then Rayleigh-Ritz on K.
    Eigen::MatrixXd y = solve_(pencil_.mass * vectors);
    for (int round = 0; round < 2; ++round) { // M-orthonormal, twice for its condition
        const Eigen::VectorXd sizes = (y.array() * (pencil_.mass * y).array()).colwise().sum().sqrt().transpose();
        y = y * sizes.cwiseInverse().asDiagonal();
        const Eigen::LLT<Eigen::MatrixXd> gram(Eigen::MatrixXd(y.transpose() * (pencil_.mass * y)));
        gram.matrixU().solveInPlace<Eigen::OnTheRight>(y);
    }
    const Eigen::MatrixXd energy = y.transpose() * pencil_.stiffnessTimes(y);
    const DenseEigen eigen = denseEigen((energy + energy.transpose()) / 2.0);
    pairs.lambda = eigen.values;
    pairs.shapes = y * eigen.vectors;
    return pairs;
}

void InteriorExtractor::hear(BlockLanczos& lanczos, Eigen::Index converged)
{
    if (listener_.frequencies) {
        std::vector<double> hertz = heard_;
        std::sort(hertz.begin(), hertz.end());
        listener_.frequencies(hertz);
    }
    if (!listener_.modes || !earlier_ || converged == 0 || !pace_.due()) return;
    pace_.take([&] {
        std::vector<Pairs> all = *earlier_;
        const RitzPairs now = lanczos.pairs(converged);
        const Eigen::VectorXd lambda = now.theta.cwiseInverse().array() + sigma_;
        std::vector<Eigen::Index> inside;
        for (Eigen::Index at = 0; at < lambda.size(); ++at)
            if (lambda[at] >= window_[0] && lambda[at] < window_[1]) inside.push_back(at);
        all.push_back({lambda(inside), now.vectors(Eigen::all, inside)});
        Extraction extraction = joined(all);
        extraction.acceptedError.setConstant(extraction.lambda.size(), tolerance_);
        extraction.record = record_;
        extraction.record.blockSolves += lanczos.solves();
        listener_.modes(extraction);
    });
}

Extraction InteriorExtractor::joined(const std::vector<Pairs>& found) const
{
    std::vector<std::pair<double, std::pair<std::size_t, Eigen::Index>>> order;
    for (std::size_t part = 0; part < found.size(); ++part)
        for (Eigen::Index at = 0; at < found[part].lambda.size(); ++at)
            order.push_back({found[part].lambda[at], {part, at}});
    std::sort(order.begin(), order.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    Extraction extraction;
    extraction.lambda.resize(static_cast<Eigen::Index>(order.size()));
    extraction.shapes.resize(pencil_.size(), extraction.lambda.size());
    for (std::size_t at = 0; at < order.size(); ++at) {
        extraction.lambda[static_cast<Eigen::Index>(at)] = order[at].first;
        extraction.shapes.col(static_cast<Eigen::Index>(at)) =
            found[order[at].second.first].shapes.col(order[at].second.second);
    }
    return extraction;
}

void InteriorExtractor::slice(double low, double high, std::int64_t expected, std::vector<Pairs>& into)
{
    if (expected == 0 || progress_.stopped()) return;
    if (!factoriseNear((low + high) / 2.0, 1e-4 * (high - low))) return;
    const double farthest = std::max(high - sigma_, sigma_ - low);
    window_ = {low, high};
    std::int64_t found = 0;
    // Copies of a repeated frequency beyond the block size take further looks beside what is known.
    for (int look = 0; look < 60 && found < expected && !progress_.stopped(); ++look) {
        Pairs pairs = around([&](const Eigen::VectorXd& lambda, double reach) {
            const auto inside = (lambda.array() >= low && lambda.array() < high).count();
            return found + inside >= expected || reach > farthest;
        });
        const Eigen::Index before = locked_.cols();
        locked_.conservativeResize(Eigen::NoChange, before + pairs.shapes.cols());
        locked_.rightCols(pairs.shapes.cols()) = pairs.shapes;
        std::vector<Eigen::Index> inside;
        for (Eigen::Index at = 0; at < pairs.lambda.size(); ++at)
            if (pairs.lambda[at] >= low && pairs.lambda[at] < high) inside.push_back(at);
        found += static_cast<std::int64_t>(inside.size());
        if (pairs.lambda.size() == 0) break; // nothing is left
        into.push_back({pairs.lambda(inside), pairs.shapes(Eigen::all, inside)});
    }
}

Extraction InteriorExtractor::gathered(const std::vector<Pairs>& found, double low, double high, std::int64_t before)
{
    Extraction extraction = joined(found);
    certify(
        pencil_, [this](const Eigen::MatrixXd& x) { return solve_(x); }, sigma_, extraction);
    record_.factorEntries = analysis_ ? double(analysis_->entries()) : 0.0;
    record_.orthogonality = orthogonalityLoss(pencil_, extraction.shapes);
    extraction.record = record_;
    extraction.check.aboveHz = toHertz(low);
    extraction.check.belowHz = toHertz(high);
    extraction.check.before = before;
    extraction.check.found = extraction.lambda.size();
    return extraction;
}

Result<Extraction> InteriorExtractor::band(double lowHz, double highHz, Eigen::Index most, const ModeListener& listener)
{
    listener_ = listener;
    heard_.clear();
    double low = toLambda(lowHz), high = toLambda(highHz);
    const auto first = countBelow(low), last = countBelow(high);
    if (!first || !last) return noShift(first ? highHz : lowHz);
    std::int64_t expected = *last - *first;
    // Slices that hold few modes each; of more than were asked, the lowest.
    struct Slice {
        double low, high;
        std::int64_t below, expected;
    };
    std::vector<Slice> waiting{{low, high, *first, expected}}, slices;
    std::int64_t taken = 0;
    while (!waiting.empty() && taken < most && !progress_.stopped()) {
        const Slice next = waiting.back();
        waiting.pop_back();
        const bool narrow = next.high - next.low < 1e-7 * next.high;
        if (next.expected <= mostInASlice || narrow) {
            slices.push_back(next);
            taken += next.expected;
            continue;
        }
        const double middle = (next.low + next.high) / 2.0;
        const auto below = countBelow(middle);
        if (!below) return noShift(toHertz(middle));
        waiting.push_back({middle, next.high, *below, next.below + next.expected - *below});
        waiting.push_back({next.low, middle, next.below, *below - next.below});
    }
    std::vector<Pairs> found;
    earlier_ = &found;
    for (const auto& one : slices)
        slice(one.low, one.high, one.expected, found);
    earlier_ = nullptr;
    if (!factor_ && !factoriseNear((low + high) / 2.0, 1e-4 * (high - low))) return noShift((lowHz + highHz) / 2.0);
    if (!slices.empty() && slices.back().high < high) { // only the lower part was asked for
        high = slices.back().high;
        expected = slices.back().below + slices.back().expected - *first;
    }
    Extraction extraction = gathered(found, low, high, *first);
    extraction.check.expected = expected;
    extraction.check.proven = expected == extraction.check.found && !progress_.stopped();
    if (extraction.lambda.size() > most) {
        extraction = leading(std::move(extraction), most);
        const double above = extraction.lambda[extraction.lambda.size() - 1];
        const double at = std::min(above * (1.0 + 2e-4), (above + extraction.nextLambda) / 2.0);
        const auto below = countBelow(at);
        extraction.check.belowHz = toHertz(at);
        extraction.check.found = extraction.lambda.size();
        extraction.check.expected = below ? *below - *first : -1;
        extraction.check.proven = extraction.check.expected == extraction.check.found;
    }
    return extraction;
}

Result<Extraction> InteriorExtractor::nearest(double hertz, Eigen::Index count, const ModeListener& listener)
{
    listener_ = listener;
    heard_.clear();
    const std::vector<Pairs> none;
    earlier_ = &none;
    window_ = {-infinity, infinity};
    if (!factoriseNear(toLambda(hertz), 1e-5 * toLambda(hertz))) return noShift(hertz);
    // What rounding leaves of an eigenvalue of nothing, beside the highest ones that the diagonals tell of.
    double highest = 0.0;
    for (Eigen::Index at = 0; at < pencil_.size(); ++at)
        if (pencil_.mass.diagonal(at) > 0.0)
            highest = std::max(highest, std::abs(pencil_.stiffness.diagonal(at)) / pencil_.mass.diagonal(at));
    const double nothing = std::max(1e-9 * sigma_, 10.0 * 2.220446049250313e-16 * highest);
    // How far off, in Hz, the count-th nearest is; the run must have reached as far on both sides.
    const auto distances = [&](const Eigen::VectorXd& lambda) {
        std::vector<double> far;
        for (const double value : lambda) // what costs nothing lies at 0 Hz, all of it as far
            far.push_back(std::abs((value < nothing ? 0.0 : toHertz(value)) - hertz));
        std::sort(far.begin(), far.end());
        return far;
    };
    const auto reaches = [&](double reach, double distance) {
        return reach >
               std::max(toLambda(hertz + distance) - sigma_, sigma_ - toLambda(std::max(0.0, hertz - distance)));
    };
    Pairs pairs = around([&](const Eigen::VectorXd& lambda, double reach) {
        const auto far = distances(lambda);
        return static_cast<Eigen::Index>(far.size()) > count &&
               reaches(reach, far[static_cast<std::size_t>(count)] * (1.0 + 1e-3));
    });
    const auto far = distances(pairs.lambda);
    const bool enough = static_cast<Eigen::Index>(far.size()) > count;
    double edge = far.empty() ? 0.0 : far.back() * (1.0 + 1e-4);
    if (enough) { // with neighbours of the farthest; then midway to the next
        auto kept = static_cast<std::size_t>(count);
        while (kept < far.size() && far[kept] < far[kept - 1] + 1e-6 * (hertz + far[kept - 1]))
            ++kept;
        edge = kept < far.size() ? (far[kept - 1] + far[kept]) / 2.0 : far.back() * (1.0 + 1e-4);
    }
    const double low = toLambda(std::max(0.0, hertz - edge)), high = toLambda(hertz + edge);
    const auto first = hertz > edge ? countBelow(low) : std::optional<std::int64_t>(0), last = countBelow(high);
    std::vector<Pairs> found;
    earlier_ = nullptr;
    if (first && last && !progress_.stopped()) {
        std::vector<Eigen::Index> inside;
        for (Eigen::Index at = 0; at < pairs.lambda.size(); ++at)
            if ((pairs.lambda[at] >= low || hertz <= edge) && pairs.lambda[at] < high) inside.push_back(at);
        found.push_back({pairs.lambda(inside), pairs.shapes(Eigen::all, inside)});
        if (static_cast<std::int64_t>(inside.size()) < *last - *first) { // copies beyond the block size
            found.clear();
            slice(hertz > edge ? low : -1e-3 * high, high, *last - *first, found);
            if (!factor_) return noShift(hertz);
        }
    } else {
        found.push_back(std::move(pairs));
    }
    Extraction extraction = gathered(found, hertz > edge ? low : 0.0, high, first.value_or(0));
    if (first && last) extraction.check.expected = *last - *first;
    extraction.check.proven = extraction.check.expected == extraction.check.found && !progress_.stopped();
    return extraction;
}

namespace {

/// Appends b's modes to a's.
void append(Extraction& a, const Extraction& b)
{
    const Eigen::Index before = a.lambda.size(), more = b.lambda.size();
    for (const auto member :
         {&Extraction::lambda, &Extraction::acceptedError, &Extraction::residual, &Extraction::floor}) {
        (a.*member).conservativeResize(before + more);
        (a.*member).tail(more) = b.*member;
    }
    a.shapes.conservativeResize(Eigen::NoChange, before + more);
    a.shapes.rightCols(more) = b.shapes;
}

Extraction picked(const Extraction& from, const std::vector<Eigen::Index>& which)
{
    Extraction to;
    to.lambda = from.lambda(which);
    to.acceptedError = from.acceptedError(which);
    to.residual = from.residual(which);
    to.floor = from.floor(which);
    to.shapes = from.shapes(Eigen::all, which);
    return to;
}

} // namespace

Extraction InteriorExtractor::upwards(Extraction known, Eigen::Index wanted, double upToHz, Eigen::Index perShift,
                                      const ModeListener& listener)
{
    listener_ = listener;
    heard_.clear();
    earlier_ = nullptr;
    for (const double lambda : known.lambda)
        heard_.push_back(toHertz(lambda));
    record_ = known.record;
    const double end = std::isfinite(upToHz) ? toLambda(upToHz) : std::numeric_limits<double>::infinity();
    Extraction ahead; // found above the last shift, not counted yet
    ahead.shapes.resize(pencil_.size(), 0);
    while (!progress_.stopped()) {
        const Eigen::Index done = known.lambda.size();
        const double proven = toLambda(known.check.belowHz);
        if (done >= wanted || proven >= end) break;
        // As many modes on as one shift is good for on its lower side, by how close the highest lie in frequency.
        Eigen::VectorXd near(known.lambda.size() + ahead.lambda.size());
        near << known.lambda, ahead.lambda;
        std::sort(near.data(), near.data() + near.size());
        const Eigen::Index window = std::min<Eigen::Index>(near.size() - 1, perShift);
        const double top = toHertz(near[near.size() - 1]);
        double spacing = window > 0 ? (top - toHertz(near[near.size() - 1 - window])) / double(window) : 0.0;
        if (!(spacing > 1e-6 * top)) spacing = 0.01 * top;
        const double step = spacing * double(perShift) / 2.0;
        double target = std::max(top, known.check.belowHz) + step;
        // No farther than asked: the last shift counts where the run ends.
        if (wanted - done <= ahead.lambda.size()) { // enough lie ahead, the shift has but to count them
            Eigen::VectorXd rest = ahead.lambda;
            std::sort(rest.data(), rest.data() + rest.size());
            const Eigen::Index last = wanted - done - 1;
            target = toHertz(last + 1 < rest.size() ? (rest[last] + rest[last + 1]) / 2.0 : rest[last] * (1.0 + 2e-4));
        }
        double sigma = toLambda(target);
        if (sigma > end) sigma = end;
        const auto nudge = [&] { return 1e-4 * std::max(sigma - proven, 1e-6 * sigma); };
        if (!factoriseNear(sigma, nudge())) break;
        // Where they lie closer than it looked from below, a nearer shift is worth another factorisation.
        const auto counted = [&] { return std::max<std::int64_t>(0, solve_.negative(factor_->negative()) - done); };
        for (int nearer = 0; nearer < 4 && counted() > 2 * perShift && wanted - done > perShift; ++nearer) {
            const double from = known.check.belowHz, to = toHertz(sigma_);
            if (to - from < 1e-6 * to) break;
            const double share = std::clamp(double(perShift) / double(counted()), 0.05, 0.7);
            sigma = toLambda(from + share * (to - from));
            if (!factoriseNear(sigma, nudge())) break;
        }
        if (!factor_) break;
        const std::int64_t expected = solve_.negative(factor_->negative());
        // Beside what is known near by, so that nothing is found twice and all is orthogonal.
        const double reachOfLock = 3.0 * (sigma_ - proven) + 1e-3 * sigma_;
        std::vector<Eigen::Index> below;
        for (Eigen::Index at = 0; at < done; ++at)
            if (known.lambda[at] > proven - reachOfLock) below.push_back(at);
        locked_.resize(pencil_.size(), static_cast<Eigen::Index>(below.size()) + ahead.lambda.size());
        locked_ << known.shapes(Eigen::all, below), ahead.shapes;
        window_ = {proven, infinity};
        auto missing = expected - done - (ahead.lambda.array() < sigma_).count();
        for (int look = 0; look < 40 && !progress_.stopped(); ++look) {
            if (look > 0 && missing <= 0) break;
            std::int64_t inside = 0;
            const bool upper = look == 0 && sigma_ < end && wanted - expected > 0;
            const auto above = upper ? std::min<std::int64_t>(perShift / 2, wanted - expected + blockSize) : 0;
            if (missing <= 0 && above == 0) break;
            Pairs pairs = around([&](const Eigen::VectorXd& lambda, double) {
                inside = (lambda.array() < sigma_ && lambda.array() >= proven).count();
                return inside >= missing && (lambda.array() >= sigma_).count() >= above;
            });
            if (pairs.lambda.size() == 0) break; // nothing is left
            // Of modes farther off, which are not locked, as much is left as they were let err.
            const Eigen::MatrixXd massive = pencil_.mass * pairs.shapes;
            for (const auto* before : {&known.shapes, &ahead.shapes})
                pairs.shapes -= *before * (before->transpose() * massive).eval();
            Extraction found;
            found.lambda = pairs.lambda;
            found.shapes = pairs.shapes;
            certify(
                pencil_, [this](const Eigen::MatrixXd& x) { return solve_(x); }, sigma_, found);
            std::vector<Eigen::Index> taken;
            for (Eigen::Index at = 0; at < found.lambda.size(); ++at)
                if (found.lambda[at] >= proven) taken.push_back(at);
            append(ahead, picked(found, taken));
            const Eigen::Index before = locked_.cols();
            locked_.conservativeResize(Eigen::NoChange, before + pairs.shapes.cols());
            locked_.rightCols(pairs.shapes.cols()) = pairs.shapes;
            missing = expected - done - (ahead.lambda.array() < sigma_).count();
        }
        if (progress_.stopped() && missing > 0) break;
        // What lies below the shift has been counted.
        std::vector<Eigen::Index> order(static_cast<std::size_t>(ahead.lambda.size())), proved, left;
        std::iota(order.begin(), order.end(), 0);
        std::sort(order.begin(), order.end(),
                  [&](Eigen::Index a, Eigen::Index b) { return ahead.lambda[a] < ahead.lambda[b]; });
        for (const auto at : order)
            (ahead.lambda[at] < sigma_ ? proved : left).push_back(at);
        append(known, picked(ahead, proved));
        ahead = picked(ahead, left);
        known.check.expected = expected;
        known.check.found = known.lambda.size();
        known.check.belowHz = toHertz(sigma_);
        known.check.proven = expected == known.lambda.size();
        if (!known.check.proven || proved.empty()) break;
        progress_.fraction(std::min(1.0, double(known.lambda.size()) / double(wanted)));
        known.cutShort = true; // should it be all that is ever told
        known.record = record_;
        known.record.factorEntries = double(analysis_->entries());
        if (listener_.modes && pace_.due()) pace_.take([&] { listener_.modes(known); });
    }
    known.cutShort = progress_.stopped() && known.lambda.size() < wanted && toLambda(known.check.belowHz) < end;
    known.nextLambda = ahead.lambda.size() > 0 ? ahead.lambda.minCoeff() : 0.0;
    if (known.lambda.size() > wanted) known = leading(std::move(known), wanted);
    record_.factorEntries = double(analysis_->entries());
    record_.orthogonality = orthogonalityLoss(pencil_, known.shapes);
    known.record = record_;
    return known;
}

} // namespace undisona
