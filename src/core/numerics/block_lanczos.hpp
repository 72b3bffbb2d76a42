#pragma once
#include "core/base/progress.hpp"
#include "core/numerics/tall_products.hpp"

#include <Eigen/Dense>

#include <functional>
#include <limits>

namespace undisona {

/// The little that the eigen-solver asks of a problem K x = lambda M x with a shift sigma that is no eigenvalue,
/// where M is positive semidefinite.
struct ShiftedPencil {
    Eigen::Index size = 0;
    std::function<Eigen::MatrixXd(const Eigen::MatrixXd&)> mass;         ///< X -> M X
    std::function<Eigen::MatrixXd(const Eigen::MatrixXd&)> solveShifted; ///< X -> (K - sigma M)^-1 X
};

/// Ritz pairs of A = (K - sigma M)^-1 M: theta = 1 / (lambda - sigma), largest magnitude first: the eigenvalues
/// nearest to the shift, those below it with a negative theta.
struct RitzPairs {
    Eigen::VectorXd theta;
    Eigen::VectorXd residual; ///< norm_M(A x - theta x) by the Lanczos recurrence
    Eigen::MatrixXd vectors;  ///< unit M-norm; empty until asked for
};

/// Block Lanczos in the M inner product with full reorthogonalisation (Grimes, Lewis and Simon, A shifted
/// block Lanczos algorithm, 1994), able to go on from where it stopped.
///
/// A block that loses rank is filled up with new random directions, so that eigenvalues of any multiplicity
/// are found; when nothing is left the space is exhausted and every finite eigenpair has been found. Random
/// numbers are seeded: the same problem gives the same digits. Only the basis is kept, not M times it; where it would
/// outgrow a limit it is compressed to its leading Ritz vectors (thick restart: Wu and Simon 2000).
///
///     BlockLanczos lanczos(pencil, 8);
///     while (!lanczos.exhausted() && lanczos.converged(1e-9) < wanted) lanczos.step();
///     const RitzPairs pairs = lanczos.pairs(wanted);
class BlockLanczos {
public:
    /// Works in the M-orthogonal complement of the `locked` eigenvectors (M-orthonormal columns), which need
    /// not be found again. Another seed starts from other random directions.
    BlockLanczos(const ShiftedPencil&, Eigen::Index blockSize, const Eigen::MatrixXd& locked = {},
                 std::uint64_t seed = 20011);

    /// Goes on from a space that A nearly maps into itself and one block more: `image` is A times the M-orthonormal
    /// columns of `space`, and what of it lies outside lies in the span of `beyond`. So do old eigenvectors after M
    /// has changed by little rank: beyond is then K^-1 times that change.
    BlockLanczos(const ShiftedPencil&, const Eigen::MatrixXd& space, const Eigen::MatrixXd& image,
                 Eigen::MatrixXd beyond, const Eigen::MatrixXd& locked = {}, std::uint64_t seed = 20011);

    /// The basis holds about so many vectors at most from now on, more where they converge slowly.
    void limitDimension(Eigen::Index most) { limit_ = most; }
    /// One block more: a solve, an orthogonalisation; a restart before it where the limit asks for one.
    void step();
    long solves() const { return solves_; } ///< blocks solved so far
    long restarts() const { return restarts_; }
    bool exhausted() const { return exhausted_; }
    Eigen::Index dimension() const { return used_; }

    /// How many leading pairs have a residual below tolerance * theta, without a gap; pairs below 1e-10 of the
    /// largest theta are left out.
    Eigen::Index converged(double tolerance);
    /// The leading `count` pairs with vectors; count is cut to the dimension. The vectors have been sent through A once
    /// by the recurrence, which takes away what rounding has left in them of the null space of M (Nour-Omid, Parlett,
    /// Ericsson and Jensen 1987).
    RitzPairs pairs(Eigen::Index count);
    /// Keeps the leading `count` pairs alone and gives back the memory of the rest.
    void forgetBeyond(Eigen::Index count);
    Eigen::VectorXd thetas(Eigen::Index count); ///< the same without residuals and vectors

    /// Loads (size x any number) whose work on the Ritz vectors can be asked for from now on, without the vectors.
    void watch(const Eigen::MatrixXd& loads);
    /// x' loads of the leading pairs' vectors, count x loads; nothing is as long as the problem is large.
    Eigen::MatrixXd watchedWork(Eigen::Index count);

private:
    void projectEigen();
    void restart();
    void keepLeading(Eigen::Index kept);
    Eigen::Index leadingConverged(double tolerance) const;
    /// Takes from the block its parts along what is locked and along the basis; returns the latter.
    Eigen::MatrixXd orthogonalise(Eigen::MatrixXd& block) const;
    Eigen::MatrixXd withoutLast(Eigen::MatrixXd& image) const;
    /// Makes the next block: M-orthonormal, at most blockSize directions from `block`; fills lost ones from
    /// chance. `sizes` are the columns' M-norms before they were orthogonalised, or the greater part of them:
    /// what is 1e-10 of that is lost.
    void normalise(Eigen::MatrixXd block, const Eigen::VectorXd& sizes);
    /// The same by Cholesky factors of the Gram matrix, twice (Yamamoto and others 2015); false where the block
    /// is too near to losing rank.
    bool normaliseAtOnce(const Eigen::MatrixXd& block, const Eigen::VectorXd& sizes);
    Eigen::VectorXd massNorms(const Eigen::MatrixXd& block) const;
    Eigen::MatrixXd randomDirections(Eigen::Index count);
    void appendNext();

    ShiftedPencil pencil_;
    TallProducts tall_;
    Eigen::Index blockSize_;
    Eigen::MatrixXd locked_;
    Eigen::MatrixXd basis_; ///< V; more columns than are used
    Eigen::Index used_ = 0; ///< columns of V in use
    Eigen::Index limit_ = std::numeric_limits<Eigen::Index>::max() / 4;
    double stretch_ = 1.0; ///< of the limit
    Eigen::Index doneBefore_ = 0;
    Eigen::Index limit() const { return static_cast<Eigen::Index>(stretch_ * double(limit_)); }
    Eigen::MatrixXd projected_;       ///< V' M A V
    Eigen::MatrixXd massLast_;        ///< M times the last block of the basis
    Eigen::MatrixXd next_, massNext_; ///< the block to come, and M times it
    Eigen::MatrixXd nextTriangle_;    ///< its coupling to the last one
    Eigen::Index lastBlock_ = 0;      ///< columns of the basis that the next block couples to, at its end
    long solves_ = 0, restarts_ = 0;
    Eigen::MatrixXd watched_, work_; ///< loads; V' loads
    bool exhausted_ = false;
    bool fresh_ = false; ///< the projection has been solved for the present basis
    Eigen::VectorXd theta_, residual_;
    Eigen::MatrixXd small_;
    std::uint64_t seed_;
};

} // namespace undisona
