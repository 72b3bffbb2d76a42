#pragma once
#include "core/numerics/analysis.hpp"
#include "core/numerics/sparse_sum.hpp"
#include "core/numerics/zeroed_array.hpp"

namespace undisona {

class Progress;
class SupernodalSolve;

/// A = L J L' of a permuted symmetric matrix, L lower triangular, J a diagonal of +1 and -1, without pivoting: the
/// Cholesky factor where A is definite, at its speed also where a few eigenvalues are negative. The number of -1 is
/// then the number of negative eigenvalues (Sylvester's law of inertia).
///
/// Multifrontal (Duff and Reid 1983; Liu 1992) over the supernodes of an Analysis; subtrees that do not meet go to
/// different threads. An indefinite matrix may want pivots that are not taken here: `growth` tells by how much the
/// terms of L J L' exceed the matrix, and thus how many digits are lost.
class SignedFactor {
public:
    struct Options {
        bool definite = false;              ///< stop at the first pivot that is not positive
        bool keepFactor = true;             ///< false: count alone, the factor is discarded as it is made
        int threads = 0;                    ///< 0: as the size asks for
        const Progress* progress = nullptr; ///< a stop ends the factorisation
    };

    /// The matrix has the pattern that was analysed, or a part of it. Null where a pivot is zero or no number, where
    /// the memory is not enough, where a stop was asked for, or where `definite` is asked and is not so; `failedAt`
    /// then holds the unknown at which it failed, -1 if none is to blame.
    static std::unique_ptr<SignedFactor> factorise(std::shared_ptr<const Analysis>, const SparseSum&, const Options&,
                                                   std::int64_t* failedAt = nullptr);
    /// The Cholesky factor alone, analysis included.
    static std::unique_ptr<SignedFactor> definite(const SparseSymmetric&, std::int64_t* failedAt = nullptr,
                                                  int threads = 0);
    ~SignedFactor();
    SignedFactor(const SignedFactor&) = delete;
    SignedFactor& operator=(const SignedFactor&) = delete;

    /// A x = b for a block of columns, in the order of the matrix. Only where the factor was kept.
    Eigen::MatrixXd solve(const Eigen::MatrixXd& right) const;

    std::int64_t negative() const { return negative_; }
    /// The largest sum of l(i,k)^2 over a row, over `scale[i]`: 1 for a definite matrix and its own diagonal.
    double growth(const Eigen::VectorXd& scale) const;
    /// The square of the smallest over the largest diagonal entry of L: a rough 1/condition. 1 for an empty matrix.
    double reciprocalCondition() const { return reciprocalCondition_; }
    double megabytes() const;

private:
    friend class FrontalRun;
    SignedFactor() = default;
    std::shared_ptr<const Analysis> analysis_;
    ZeroedArray value_; ///< as Analysis lays it out; null where only the count was wanted
    std::vector<signed char> sign_;
    Eigen::VectorXd squares_; ///< sums over the rows of L
    std::int64_t negative_ = 0;
    double reciprocalCondition_ = 1.0;
    std::unique_ptr<SupernodalSolve> solve_;
};

} // namespace undisona
