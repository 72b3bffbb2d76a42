#pragma once
#include "core/numerics/sparse.hpp"

#include <memory>
#include <optional>

namespace undisona {

/// P A P' = L D L' of a symmetric indefinite matrix with 1x1 and 2x2 pivots (Duff and Reid 1983; by MUMPS, which
/// keeps it). Needed for shifts inside the spectrum; where the matrix is positive definite, Cholesky is cheaper.
///
///     if (const auto factor = IndefiniteFactor::factorise(sum(stiffness, -sigma, mass)))
///         x = factor->solve(right), below = factor->negative();
class IndefiniteFactor {
public:
    ~IndefiniteFactor();
    IndefiniteFactor(const IndefiniteFactor&) = delete;
    IndefiniteFactor& operator=(const IndefiniteFactor&) = delete;

    /// Null when the matrix is singular to working precision or the memory is not enough.
    static std::unique_ptr<IndefiniteFactor> factorise(const SparseSymmetric&);
    /// How many eigenvalues are negative (Sylvester's law of inertia).
    std::int64_t negative() const { return negative_; }
    /// A x = b for a block of columns.
    Eigen::MatrixXd solve(const Eigen::MatrixXd& right) const;

private:
    struct Parts;
    IndefiniteFactor(std::unique_ptr<Parts>, std::int64_t negative);
    std::unique_ptr<Parts> parts_;
    std::int64_t negative_;
};

/// The number of negative eigenvalues alone: the factors are discarded as they are made. Nothing when the
/// factorisation fails, as it does for a matrix that is singular to working precision. 0 for a 0-by-0 matrix.
std::optional<std::int64_t> negativeEigenvalues(const SparseSymmetric&);

} // namespace undisona
