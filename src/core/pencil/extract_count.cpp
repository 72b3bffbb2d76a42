// The proof: eigenvalues counted by inertia, afresh or carried over from an earlier run.
#include "core/base/memory.hpp"
#include "core/numerics/dense_eigen.hpp"
#include "core/pencil/bordered.hpp"
#include "core/pencil/extract.hpp"
#include "core/pencil/hertz.hpp"

namespace undisona {

CountCheck ModeExtractor::count(const Extraction& extraction, const ModeRequest& request)
{
    if (request.countElsewhere)
        if (const auto updated = updatedCount(extraction)) return *updated;
    CountCheck check;
    check.found = extraction.lambda.size();
    const double last = check.found > 0 ? extraction.lambda[check.found - 1] : 0.0;
    if (last <= 0.0 && extraction.nextLambda <= 0.0 && check.found == 0) return check;
    double at = last + std::abs(last) * (std::pow(1.0 + 1e-4, 2) - 1.0);
    if (extraction.nextLambda > last) at = std::min(at, (last + extraction.nextLambda) / 2.0);
    const bool releases = last < 0.0 && !ZeroEnergy(pencil_).costsNothing(last, extraction.shapes.rightCols(1));
    if (last <= 0.0 && !releases) {
        at = extraction.nextLambda > 0.0 ? extraction.nextLambda / 2.0 : 1e-9 * largestRatio();
        if (check.found > 0) // above what rounding makes of nothing
            at = std::max(at, 1e3 * 2.220446049250313e-16 * pencil_.stiffness.norm() *
                                  extraction.shapes.col(check.found - 1).squaredNorm());
        if (at <= 0.0) at = 1.0; // nothing has stiffness: any place does
    }
    if (keeps_ && request.countElsewhere) at = withMargin(at, extraction, check.found);
    check.belowHz = signedHertz(at);
    progress_.stage("count");
    const bool toSpare = keeps_ && 8e-6 * double(analysis_->entries()) < machineMegabytes() / 12.0;
    kept_->countFactor = nullptr;
    for (const bool pivot : {false, true}) {
        ++record_.factorisations;
        const auto factor = ShiftedFactor::factorise(
            analysis_, pencil_.stiffness, at, pencil_.mass,
            {.keepFactor = (toSpare && !pivot) || pencil_.hasApart(), .pivot = pivot, .progress = &progress_});
        if (!factor) break;
        check.expected = negativeOf(pencil_, *factor);
        record_.countGrowth = factor->growth();
        if (check.expected == check.found && toSpare && !pencil_.hasApart()) {
            kept_->countedAt = at;
            kept_->countFactor = factor->plain();
            kept_->countedMass = std::make_shared<const SparseSymmetric>(pencil_.mass);
        }
        if (check.expected == check.found || factor->pivoted()) break; // what disagrees is counted again with pivots
    }
    check.proven = check.expected == check.found;
    return check;
}

/// A place for the count a few modes higher, where they have converged: a change of the mass of rank r moves no
/// eigenvalue past more than r others (Weyl), so that the count can be carried over to the next run.
double ModeExtractor::withMargin(double at, const Extraction& extraction, std::int64_t& found) const
{
    constexpr std::size_t margin = 6; // a mass with inertia
    const auto elastic = static_cast<std::size_t>(extraction.lambda.size() - extraction.rigid);
    if (elastic == 0 || convergedLambda_.size() < elastic + 2) return at;
    const std::size_t last = std::min(elastic + margin, convergedLambda_.size() - 1);
    const double lower = convergedLambda_[last - 1], upper = convergedLambda_[last];
    if (upper < lower * (1.0 + 1e-5)) return at;
    found = extraction.rigid + static_cast<std::int64_t>(last);
    return std::min((lower + upper) / 2.0, lower * std::pow(1.0 + 1e-4, 2));
}

std::optional<CountCheck> ModeExtractor::updatedCount(const Extraction& extraction)
{
    const Eigen::Index found = extraction.lambda.size();
    if (!kept_->countFactor || record_.keptModes == 0 || found == 0) return std::nullopt;
    const double last = extraction.lambda[found - 1], sigma = kept_->countedAt;
    if (last >= sigma * (1.0 - 1e-6)) return std::nullopt;
    constexpr Eigen::Index mostRank = 60;
    const auto change = changeOf(*kept_->countedMass, pencil_.mass, mostRank);
    if (!change) return std::nullopt;
    progress_.stage("count");
    // A - sigma U D U' and D^-1 / sigma - U' A^-1 U are the two Schur complements of one matrix, so their inertias with
    // those of D^-1 / sigma and A add up alike (Haynsworth 1968).
    std::int64_t expected = kept_->countFactor->negative();
    if (change->columns.cols() > 0) {
        const Eigen::VectorXd corner = change->weights.cwiseInverse() / sigma;
        Eigen::MatrixXd rest = -(change->columns.transpose() * kept_->countFactor->solve(change->columns));
        rest.diagonal() += corner;
        const DenseEigen eigen = denseEigen((rest + rest.transpose()) / 2.0);
        if (!(eigen.values.cwiseAbs().minCoeff() > 1e-9 * eigen.values.cwiseAbs().maxCoeff())) return std::nullopt;
        expected += (eigen.values.array() < 0.0).count() - (corner.array() < 0.0).count();
    }
    CountCheck check;
    check.belowHz = toHertz(sigma);
    check.expected = expected;
    check.found =
        rigid_.cols() + (Eigen::Map<const Eigen::ArrayXd>(convergedLambda_.data(),
                                                          static_cast<Eigen::Index>(convergedLambda_.size())) < sigma)
                            .count();
    check.proven = check.expected == check.found;
    if (!check.proven) return std::nullopt; // counted afresh
    record_.countByUpdate = true;
    return check;
}

} // namespace undisona
