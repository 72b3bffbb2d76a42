#include "core/numerics/shifted_factor.hpp"

#include "core/base/progress.hpp"

namespace undisona {

std::unique_ptr<ShiftedFactor> ShiftedFactor::factorise(const std::shared_ptr<const Analysis>& analysis,
                                                        const SparseSymmetric& stiffness, double sigma,
                                                        const SparseSymmetric& mass, const Options& options)
{
    std::unique_ptr<ShiftedFactor> own(new ShiftedFactor);
    if (analysis && !options.pivot) {
        std::shared_ptr<const SignedFactor> factor = SignedFactor::factorise(
            analysis, {stiffness, -sigma, mass}, {.keepFactor = options.keepFactor, .progress = options.progress});
        if (factor) {
            Eigen::VectorXd scale(stiffness.size);
            for (Eigen::Index at = 0; at < scale.size(); ++at) {
                scale[at] = std::abs(stiffness.diagonal(at)) + std::abs(sigma * mass.diagonal(at));
                if (!(scale[at] > 0.0)) scale[at] = std::numeric_limits<double>::min();
            }
            // Digits lost to terms that cancel: of sixteen, ten must be left.
            constexpr double most = 1e6;
            own->growth_ = factor->growth(scale);
            own->negative_ = factor->negative();
            own->factor_ = std::move(factor);
            if (own->growth_ < most) return own;
        }
        own->factor_ = nullptr;
        own->growth_ = 0.0;
        if (options.progress && options.progress->stopped()) return nullptr;
    }
    const SparseSymmetric shifted = sum(stiffness, -sigma, mass);
    if (options.keepFactor) {
        own->pivoted_ = IndefiniteFactor::factorise(shifted);
        if (!own->pivoted_) return nullptr;
        own->negative_ = own->pivoted_->negative();
        return own;
    }
    const auto negative = negativeEigenvalues(shifted);
    if (!negative) return nullptr;
    own->negative_ = *negative;
    return own;
}

} // namespace undisona
