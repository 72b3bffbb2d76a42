// Factorisations and the eigen-solver on bare matrices, against dense algebra; random ones are seeded.
#include "core/numerics/block_lanczos.hpp"
#include "core/numerics/dense_eigen.hpp"
#include "core/numerics/shifted_factor.hpp"
#include "core/numerics/tall_products.hpp"
#include "tests/dense_as_sparse.hpp"

#include <gtest/gtest.h>

#include <atomic>
#include <numeric>
#include <random>

using namespace undisona;

namespace {

/// Symmetric, about a tenth of the entries off the diagonal not zero.
Eigen::MatrixXd random(std::mt19937_64& dice, Eigen::Index size, double diagonal)
{
    std::uniform_real_distribution<double> value(-1.0, 1.0);
    Eigen::MatrixXd matrix = Eigen::MatrixXd::Zero(size, size);
    for (Eigen::Index i = 0; i < size; ++i) {
        matrix(i, i) = diagonal + value(dice);
        for (Eigen::Index j = 0; j < i; ++j)
            if (std::abs(value(dice)) < 0.1) matrix(i, j) = matrix(j, i) = value(dice);
    }
    return matrix;
}

Eigen::MatrixXd block(std::mt19937_64& dice, Eigen::Index rows, Eigen::Index columns)
{
    std::uniform_real_distribution<double> value(-1.0, 1.0);
    return Eigen::MatrixXd::NullaryExpr(rows, columns, [&] { return value(dice); });
}

} // namespace

TEST(Sparse, ProductsAndSumsAgreeWithDenseOnesForAnyWidth)
{
    std::mt19937_64 dice(7);
    const Eigen::MatrixXd a = random(dice, 57, 3.0), b = random(dice, 57, 1.0);
    for (const Eigen::Index width : {0, 1, 2, 3, 4, 5, 7, 8, 9, 12, 13, 21}) {
        const Eigen::MatrixXd x = block(dice, 57, width);
        EXPECT_LE((sparse(a) * x - a * x).norm(), 1e-13 * (1.0 + (a * x).norm())) << width;
    }
    const Eigen::MatrixXd identity = Eigen::MatrixXd::Identity(57, 57);
    EXPECT_LE((sum(sparse(a), -0.3, sparse(b)) * identity - (a - 0.3 * b)).norm(), 1e-13 * a.norm());
    EXPECT_NEAR(sparse(a).norm(), a.cwiseAbs().rowwise().sum().maxCoeff(), 1e-12);
}

TEST(Workers, WhatOneThreadThrowsReachesTheCallerAndTheOthersEnd)
{
    Workers workers(3);
    for (const int thrower : {0, 2}) {
        std::atomic<int> ended = 0;
        EXPECT_THROW(workers.run([&](int hand) {
            if (hand == thrower) throw std::bad_alloc();
            ++ended;
        }),
                     std::bad_alloc);
        EXPECT_EQ(ended, 2);
    }
    std::atomic<int> ended = 0;
    workers.run([&](int) { ++ended; });
    EXPECT_EQ(ended, 3) << "they work on";
}

TEST(IndefiniteFactor, SolvesAndCountsLikeDenseAlgebra)
{
    std::mt19937_64 dice(11);
    for (int trial = 0; trial < 40; ++trial) {
        const Eigen::Index size = 1 + static_cast<Eigen::Index>(dice() % 80);
        const Eigen::MatrixXd a = random(dice, size, trial % 3 == 0 ? 4.0 : 0.0);
        const auto factor = IndefiniteFactor::factorise(sparse(a));
        ASSERT_TRUE(factor) << trial;
        const DenseEigen eigen = denseEigen(a);
        const auto negative = (eigen.values.array() < 0.0).count();
        EXPECT_EQ(factor->negative(), negative) << trial;
        EXPECT_EQ(negativeEigenvalues(sparse(a)), negative) << trial;
        const Eigen::MatrixXd x = block(dice, size, 1 + trial % 11);
        EXPECT_LE((factor->solve(a * x) - x).norm(), 1e-8 * x.norm()) << trial;
        const auto cholesky = SignedFactor::definite(sparse(a));
        EXPECT_EQ(cholesky != nullptr, negative == 0) << "positive definite or not, trial " << trial;
        if (cholesky) EXPECT_LE((cholesky->solve(a * x) - x).norm(), 1e-8 * x.norm()) << trial;
    }
    EXPECT_EQ(IndefiniteFactor::factorise(SparseSymmetric{0, {0}, {}, {}})->negative(), 0);
    EXPECT_EQ(negativeEigenvalues(SparseSymmetric{0, {0}, {}, {}}), 0);
}

TEST(Cholesky, SolvesAlikeOnAnyNumberOfThreads)
{
    // A grid with a long-range tie and a part of its own: subtrees of many sizes, a forest of two trees.
    const int side = 45;
    SparseAssembler assembler(side * side + 30);
    Eigen::Matrix2d pull;
    pull << 1, -1, -1, 1;
    const auto at = [](int i, int j) { return i * 45 + j; };
    for (int i = 0; i < side; ++i)
        for (int j = 0; j < side; ++j) {
            assembler.add({at(i, j)}, Eigen::MatrixXd::Constant(1, 1, 0.01 + 0.001 * i));
            if (i + 1 < side) assembler.add({at(i, j), at(i + 1, j)}, (1.0 + 0.1 * j) * pull);
            if (j + 1 < side) assembler.add({at(i, j), at(i, j + 1)}, pull);
        }
    assembler.add({at(0, 0), at(44, 44)}, pull);
    for (int k = 0; k < 30; ++k) {
        assembler.add({side * side + k}, Eigen::MatrixXd::Constant(1, 1, 1.0));
        if (k > 0) assembler.add({side * side + k - 1, side * side + k}, 3.0 * pull);
    }
    const SparseSymmetric matrix = assembler.finish();
    std::mt19937_64 dice(5);
    for (const int threads : {1, 2, 3, 7}) {
        const auto factor = SignedFactor::definite(matrix, nullptr, threads);
        ASSERT_TRUE(factor);
        for (const Eigen::Index width : {1, 3, 8, 9, 20}) {
            const Eigen::MatrixXd x = block(dice, matrix.size, width);
            EXPECT_LE((factor->solve(matrix * x) - x).norm(), 1e-10 * x.norm()) << threads << " threads, " << width;
        }
        EXPECT_EQ(factor->solve(Eigen::MatrixXd(matrix.size, 0)).cols(), 0);
    }
}

TEST(DenseEigen, RefusesWhatIsNoNumber)
{
    EXPECT_EQ(denseEigen(Eigen::MatrixXd(0, 0)).values.size(), 0);
    Eigen::MatrixXd bad = Eigen::MatrixXd::Identity(3, 3);
    bad(1, 0) = std::numeric_limits<double>::quiet_NaN();
    EXPECT_THROW(denseEigen(bad), std::runtime_error);
}

TEST(BlockLanczos, FindsWhatIsNearestToTheShiftInPlantedSpectra)
{
    // K = Q' diag(lambda) Q, M = Q' Q with repeated, clustered and very large eigenvalues, some directions without
    // mass; the shift stands inside the spectrum. Two hundred pairs.
    long restarts = 0;
    for (std::uint64_t seed = 1; seed <= 200; ++seed) {
        std::mt19937_64 dice(seed);
        const Eigen::Index size = 30 + static_cast<Eigen::Index>(dice() % 90);
        const Eigen::Index massless = static_cast<Eigen::Index>(dice() % 4);
        Eigen::VectorXd lambda(size);
        for (Eigen::Index at = 0; at < size; ++at)
            lambda[at] = 1.0 + double(at) + 0.3 * double(dice() % 1000) / 1000.0;
        const Eigen::Index copies = 2 + static_cast<Eigen::Index>(dice() % 10); // up to beyond the block size
        const Eigen::Index first = 8 + static_cast<Eigen::Index>(dice() % 5);
        lambda.segment(first, copies).setConstant(lambda[first]);
        for (Eigen::Index at = 0; at < 4; ++at) // a cluster
            lambda[size - 6 + at] = 55.5 * (1.0 + 1e-7 * double(at));
        const Eigen::MatrixXd q =
            Eigen::MatrixXd::Identity(size, size) + 0.3 / std::sqrt(double(size)) * block(dice, size, size);
        Eigen::VectorXd mass = Eigen::VectorXd::Ones(size);
        mass.tail(massless).setZero(); // stiff, without mass: no finite eigenvalue
        const Eigen::MatrixXd k =
            q.transpose() * (lambda.array() * mass.array() + (1.0 - mass.array()) * 40.0).matrix().asDiagonal() * q;
        const Eigen::MatrixXd m = q.transpose() * mass.asDiagonal() * q;
        const double sigma = lambda[first] + 0.4321;
        const auto factor = IndefiniteFactor::factorise(sparse(k - sigma * m));
        ASSERT_TRUE(factor);
        const SparseSymmetric sparseMass = sparse(m);
        const ShiftedPencil pencil{size, [&](const Eigen::MatrixXd& x) { return sparseMass * x; },
                                   [&](const Eigen::MatrixXd& x) { return factor->solve(x); }};
        BlockLanczos lanczos(pencil, 8, {}, seed);
        const Eigen::Index wanted = 12;
        if (seed % 2 == 0) lanczos.limitDimension(36); // with restarts
        while (!lanczos.exhausted() && lanczos.converged(1e-10) < wanted)
            lanczos.step();
        restarts += lanczos.restarts();
        ASSERT_GE(lanczos.converged(1e-10), wanted) << seed;
        const RitzPairs pairs = lanczos.pairs(wanted);
        std::vector<double> truth(lambda.data(), lambda.data() + size - massless);
        std::sort(truth.begin(), truth.end(),
                  [&](double a, double b) { return std::abs(a - sigma) < std::abs(b - sigma); });
        // A block of eight sees eight copies of one value at most; beyond those the order is compared by value.
        for (Eigen::Index at = 0; at < wanted; ++at) {
            const double found = sigma + 1.0 / pairs.theta[at];
            const double nearest = *std::min_element(truth.begin(), truth.end(), [&](double a, double b) {
                return std::abs(a - found) < std::abs(b - found);
            });
            EXPECT_NEAR(found, nearest, 1e-8 * nearest) << "seed " << seed;
            if (copies <= 8) EXPECT_NEAR(found, truth[static_cast<std::size_t>(at)], 1e-6 * found) << "seed " << seed;
        }
        const Eigen::MatrixXd gram = pairs.vectors.transpose() * m * pairs.vectors;
        EXPECT_LT((gram - Eigen::MatrixXd::Identity(wanted, wanted)).cwiseAbs().maxCoeff(), 1e-9) << seed;
        // Once more through A takes away what has no mass; then they are eigenvectors of K and M.
        const Eigen::MatrixXd x = factor->solve(m * pairs.vectors) * pairs.theta.cwiseInverse().asDiagonal();
        const Eigen::VectorXd found = pairs.theta.cwiseInverse().array() + sigma;
        EXPECT_LT((k * x - m * x * found.asDiagonal()).norm(), 1e-6 * (k * x).norm()) << seed;
    }
    EXPECT_GT(restarts, 100);
}

TEST(SignedFactor, CountsAndSolvesLikeDenseAlgebraWhereItsGrowthIsSmall)
{
    std::mt19937_64 dice(23);
    int trusted = 0;
    for (int trial = 0; trial < 60; ++trial) {
        const Eigen::Index size = 1 + static_cast<Eigen::Index>(dice() % 150);
        const Eigen::MatrixXd a = random(dice, size, trial % 4 == 0 ? 6.0 : 0.3);
        const auto analysis = Analysis::of(sparse(a));
        ASSERT_TRUE(analysis);
        const DenseEigen eigen = denseEigen(a);
        const auto negative = (eigen.values.array() < 0.0).count();
        const auto factor = SignedFactor::factorise(analysis, sparse(a), {});
        if (!factor) continue; // a pivot of nothing: what the pivoted one is for
        const double growth = factor->growth(a.cwiseAbs().rowwise().sum());
        if (negative == 0) EXPECT_LE(factor->growth(a.diagonal()), 1.0 + 1e-12) << "a definite matrix grows nothing";
        if (growth > 1e6) continue;
        ++trusted;
        EXPECT_EQ(factor->negative(), negative) << trial;
        EXPECT_EQ(SignedFactor::factorise(analysis, sparse(a), {.keepFactor = false})->negative(), negative) << trial;
        const Eigen::MatrixXd x = block(dice, size, 1 + trial % 11);
        const double condition = eigen.values.cwiseAbs().maxCoeff() / eigen.values.cwiseAbs().minCoeff();
        EXPECT_LE((factor->solve(a * x) - x).norm(), 1e-14 * (1.0 + growth) * condition * x.norm() * double(size))
            << trial;
    }
    EXPECT_GE(trusted, 40);
}

TEST(SignedFactor, SaysWhereAMatrixIsNotDefinite)
{
    Eigen::MatrixXd a = Eigen::MatrixXd::Identity(30, 30) * 2.0;
    a(17, 17) = -1.0;
    std::int64_t failedAt = -1;
    EXPECT_FALSE(SignedFactor::factorise(Analysis::of(sparse(a)), sparse(a), {.definite = true}, &failedAt));
    EXPECT_EQ(failedAt, 17);
    EXPECT_EQ(SignedFactor::factorise(Analysis::of(sparse(a)), sparse(a), {})->negative(), 1);
    a(3, 3) = std::numeric_limits<double>::quiet_NaN();
    EXPECT_FALSE(SignedFactor::factorise(Analysis::of(sparse(a)), sparse(a), {}));
}

TEST(ShiftedFactor, TakesPivotsWhereItMust)
{
    // A chain of [0 1; 1 0]: no pivot is there without an exchange. Half of the eigenvalues are negative.
    const Eigen::Index size = 40;
    Eigen::MatrixXd a = Eigen::MatrixXd::Zero(size, size);
    for (Eigen::Index at = 0; at < size; at += 2)
        a(at, at + 1) = a(at + 1, at) = 1.0;
    const SparseSymmetric nothing = sparse(Eigen::MatrixXd::Zero(size, size));
    const auto factor = ShiftedFactor::factorise(Analysis::of(sparse(a)), sparse(a), 0.0, nothing, {});
    ASSERT_TRUE(factor);
    EXPECT_TRUE(factor->pivoted());
    EXPECT_EQ(factor->negative(), size / 2);
    std::mt19937_64 dice(3);
    const Eigen::MatrixXd x = block(dice, size, 5);
    EXPECT_LE((factor->solve(a * x) - x).norm(), 1e-12 * x.norm());
    // And on a tame matrix it does not.
    const Eigen::MatrixXd tame = random(dice, size, 6.0);
    EXPECT_FALSE(ShiftedFactor::factorise(Analysis::of(sparse(tame)), sparse(tame), 0.0, nothing, {})->pivoted());
}

TEST(TallProducts, AgreeWithPlainOnesWhateverTheWidth)
{
    std::mt19937_64 dice(31);
    const Eigen::Index rows = 25013; // above what one thread takes
    const Eigen::MatrixXd a = block(dice, rows, 21);
    const TallProducts tall(rows);
    for (const Eigen::Index width : {1, 2, 3, 5, 8, 9, 13}) {
        const Eigen::MatrixXd b = block(dice, rows, width), c = block(dice, 21, width);
        EXPECT_LE((tall.inner(a, b) - a.transpose() * b).norm(), 1e-12 * (a.transpose() * b).norm()) << width;
        Eigen::MatrixXd rest = b;
        tall.subtract(rest, a, c);
        EXPECT_LE((rest - (b - a * c)).norm(), 1e-12 * b.norm()) << width;
        EXPECT_LE((tall.times(a, c) - a * c).norm(), 1e-12 * (a * c).norm()) << width;
    }
}
