#pragma once
#include "core/numerics/indefinite_factor.hpp"
#include "core/numerics/signed_factor.hpp"

namespace undisona {

class Progress;

/// K - sigma M with sigma inside the spectrum: factorised without pivoting where that is stable, which is Cholesky's
/// speed, and with pivoting (see indefinite_factor.hpp) where it is not.
class ShiftedFactor {
public:
    struct Options {
        bool keepFactor = true; ///< false: count alone
        bool pivot = false;     ///< do not try without
        const Progress* progress = nullptr;
    };
    /// The analysis is of a pattern that holds those of K and M; it may be null. Null when the matrix is singular to
    /// working precision, the memory is not enough, or a stop was asked for.
    static std::unique_ptr<ShiftedFactor> factorise(const std::shared_ptr<const Analysis>&,
                                                    const SparseSymmetric& stiffness, double sigma,
                                                    const SparseSymmetric& mass, const Options&);

    /// How many eigenvalues of the pair lie below sigma.
    std::int64_t negative() const { return negative_; }
    bool pivoted() const { return pivoted_ != nullptr || !factor_; }
    /// By how much the terms of the factor exceed the matrix; 0 with pivoting.
    double growth() const { return growth_; }
    Eigen::MatrixXd solve(const Eigen::MatrixXd& right) const
    {
        return factor_ ? factor_->solve(right) : pivoted_->solve(right);
    }
    /// That without pivoting; null with.
    std::shared_ptr<const SignedFactor> plain() const { return factor_; }

private:
    ShiftedFactor() = default;
    std::shared_ptr<const SignedFactor> factor_;
    std::unique_ptr<IndefiniteFactor> pivoted_;
    std::int64_t negative_ = 0;
    double growth_ = 0.0;
};

} // namespace undisona
