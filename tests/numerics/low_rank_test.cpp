// What is kept apart from a sparse matrix, against the dense one that holds it.
#include "core/numerics/low_rank.hpp"
#include "core/numerics/dense_eigen.hpp"
#include "core/pencil/extract.hpp"
#include "core/pencil/interior.hpp"
#include "tests/dense_as_sparse.hpp"

#include <gtest/gtest.h>

#include <random>

using namespace undisona;

namespace {

/// A pencil by chance: a chain that is held at its ends, masses, some of them nothing, and terms and relations apart.
struct ChancePencil {
    Eigen::MatrixXd stiffness, mass;
    LowRank apart;

    explicit ChancePencil(unsigned seed, Eigen::Index size)
    {
        std::mt19937 random(seed);
        const auto between = [&](double low, double high) {
            return std::uniform_real_distribution<double>(low, high)(random);
        };
        stiffness = Eigen::MatrixXd::Zero(size, size);
        mass = Eigen::MatrixXd::Zero(size, size);
        for (Eigen::Index at = 0; at < size; ++at) {
            const double own = between(1.0, 3.0);
            stiffness(at, at) += own;
            if (at + 1 < size) {
                stiffness(at + 1, at + 1) += own;
                stiffness(at, at + 1) -= own;
                stiffness(at + 1, at) -= own;
            }
            mass(at, at) = between(0.5, 2.0);
        }
        apart.size = size;
        for (const double compliance : {0.0, 0.0, 0.02, -3.0, 0.5}) {
            LowRank::Column column{{}, {}, compliance};
            for (Eigen::Index at = 0; at < size; ++at)
                if (between(0.0, 1.0) < 0.4) {
                    column.row.push_back(at);
                    column.value.push_back(between(-1.0, 1.0) / std::sqrt(double(size)));
                }
            apart.columns.push_back(column);
        }
    }

    Eigen::MatrixXd whole() const
    {
        Eigen::MatrixXd all = stiffness;
        apart.addProduct(Eigen::MatrixXd::Identity(apart.size, apart.size), all);
        return all;
    }
    /// Eigenvalues within the relations, by a basis of what they leave.
    Eigen::VectorXd eigenvalues() const
    {
        Eigen::MatrixXd rows(apart.size, 2);
        rows << apart.dense().leftCols(2);
        const Eigen::MatrixXd left = Eigen::FullPivLU<Eigen::MatrixXd>(rows.transpose()).kernel();
        return Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd>(
                   left.transpose() * whole() * left, left.transpose() * mass * left, Eigen::EigenvaluesOnly)
            .eigenvalues();
    }
};

} // namespace

TEST(LowRank, SolutionsAndInertiaAreThoseOfTheDenseBorderedMatrix)
{
    for (unsigned seed = 1; seed <= 40; ++seed) {
        const Eigen::Index size = 12 + seed % 9;
        const ChancePencil chance(seed, size);
        const Eigen::VectorXd lambda = chance.eigenvalues();
        for (const Eigen::Index below : {Eigen::Index(0), Eigen::Index(1), size / 2}) {
            const double sigma = below == 0 ? lambda[0] - 1.0 : (lambda[below - 1] + lambda[below]) / 2.0;
            const Eigen::MatrixXd a = chance.stiffness - sigma * chance.mass;
            const Eigen::PartialPivLU<Eigen::MatrixXd> lu(a);
            const BorderedSolve solve(&chance.apart,
                                      [&](const Eigen::MatrixXd& x) { return Eigen::MatrixXd(lu.solve(x)); });
            EXPECT_EQ(solve.negative((denseEigen(a).values.array() < 0.0).count()), below) << "seed " << seed;
            Eigen::MatrixXd bordered = Eigen::MatrixXd::Zero(size + 2, size + 2);
            bordered.topLeftCorner(size, size) = chance.whole() - sigma * chance.mass;
            bordered.topRightCorner(size, 2) = chance.apart.dense().leftCols(2);
            bordered.bottomLeftCorner(2, size) = chance.apart.dense().leftCols(2).transpose();
            Eigen::MatrixXd right = Eigen::MatrixXd::Zero(size + 2, 3);
            right.topRows(size).setRandom();
            const Eigen::MatrixXd wanted = Eigen::FullPivLU<Eigen::MatrixXd>(bordered).solve(right).topRows(size);
            EXPECT_LT((solve(right.topRows(size)) - wanted).norm(), 1e-7 * wanted.norm()) << "seed " << seed;
        }
    }
}

TEST(LowRank, ModesAreThoseOfTheDensePencilHoweverTheyAreAskedFor)
{
    for (const Eigen::Index size : {30, 400}) {
        const ChancePencil chance(unsigned(size), size);
        const Eigen::VectorXd lambda = chance.eigenvalues();
        const SparseSymmetric stiffness = sparse(chance.stiffness), mass = sparse(chance.mass);
        const Pencil pencil{stiffness, mass, &chance.apart};
        const auto agree = [&](const Extraction& found, Eigen::Index first, const char* how) {
            ASSERT_LE(first + found.lambda.size(), lambda.size()) << how;
            EXPECT_TRUE(found.check.proven) << how << ", " << size;
            for (Eigen::Index at = 0; at < found.lambda.size(); ++at) {
                EXPECT_NEAR(found.lambda[at], lambda[first + at], 1e-9 * lambda.cwiseAbs().maxCoeff()) << how << at;
                EXPECT_LT(found.residual[at], std::max(1e-8, found.floor[at])) << how << at;
            }
            EXPECT_LT(chance.apart.times(found.shapes).topRows(2).cwiseAbs().maxCoeff(), 1e-9) << how;
        };
        Progress progress;
        KeptRuns kept;
        for (const bool again : {false, true}) { // the second with what the first one left
            auto extractor = ModeExtractor::prepare(pencil, progress, &kept, 6);
            ASSERT_TRUE(extractor);
            agree((*extractor)->find({.most = 6}), 0, again ? "again " : "lowest ");
        }
        auto all = ModeExtractor::prepare(pencil, progress, nullptr, size);
        ASSERT_TRUE(all);
        const Extraction every = (*all)->find({.most = size});
        EXPECT_EQ(every.lambda.size(), size - 2);
        agree(every, 0, "every ");
        InteriorExtractor inside(pencil, progress);
        const double low = std::sqrt((lambda[9] + lambda[10]) / 2.0) / (2.0 * std::numbers::pi),
                     high = std::sqrt((lambda[16] + lambda[17]) / 2.0) / (2.0 * std::numbers::pi);
        const auto band = inside.band(low, high, 100, {});
        ASSERT_TRUE(band);
        EXPECT_EQ(band->lambda.size(), 7);
        agree(*band, 10, "band ");
    }
}
