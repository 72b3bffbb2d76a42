#pragma once
#include "core/numerics/sparse.hpp"

#include <memory>
#include <optional>

namespace undisona {

/// A supernodal Cholesky factorisation (CHOLMOD, METIS ordering) of a symmetric positive definite matrix.
class Cholesky {
public:
    /// Nothing if the matrix is not positive definite; `failedAt` then holds the unknown at which it fails.
    /// A 0-by-0 matrix is factorised at once. Solves use so many threads; 0: as the size asks for.
    static std::unique_ptr<Cholesky> factorise(const SparseSymmetric&, std::int64_t* failedAt = nullptr,
                                               int threads = 0);
    ~Cholesky();
    Cholesky(const Cholesky&) = delete;
    Cholesky& operator=(const Cholesky&) = delete;

    /// Solves for a block of right-hand sides, eight at a time (see supernodal_solve.hpp).
    Eigen::MatrixXd solve(const Eigen::MatrixXd& right) const;
    /// The square of the smallest over the largest diagonal entry of the factor: a rough 1/condition.
    double reciprocalCondition() const;

private:
    struct Parts;
    explicit Cholesky(std::unique_ptr<Parts>);
    std::unique_ptr<Parts> parts_;
};

} // namespace undisona
