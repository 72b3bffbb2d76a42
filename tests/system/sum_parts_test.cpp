// K and M as sums of parts against dense sums.
#include "core/numerics/blas_threads.hpp"
#include "core/system/assemble.hpp"
#include "core/system/sum_parts.hpp"

#include <gtest/gtest.h>

#include <random>

using namespace undisona;

namespace {

std::vector<Part> randomParts(std::uint64_t seed, int size, int count)
{
    std::mt19937_64 dice(seed);
    std::vector<Part> parts;
    for (int at = 0; at < count; ++at) {
        Part part;
        const auto wide = 1 + dice() % 12;
        while (part.unknowns.size() < wide) {
            const int unknown = static_cast<int>(dice() % std::uint64_t(size));
            if (std::find(part.unknowns.begin(), part.unknowns.end(), unknown) == part.unknowns.end())
                part.unknowns.push_back(unknown);
        }
        const auto n = static_cast<Eigen::Index>(wide);
        const auto random = [&] {
            Eigen::MatrixXd block(n, n);
            for (auto& value : block.reshaped())
                value = dice() % 3 == 0 ? 0.0 : double(dice() % 2000) / 1000.0 - 1.0;
            return Eigen::MatrixXd(block + block.transpose());
        };
        if (dice() % 5) part.stiffness = random();
        if (dice() % 3) part.mass = random();
        parts.push_back(std::move(part));
    }
    return parts;
}

Eigen::MatrixXd asDense(const SparseSymmetric& matrix)
{
    return matrix * Eigen::MatrixXd::Identity(matrix.size, matrix.size);
}

} // namespace

TEST(SumParts, AgreesWithDenseSumsAndReservesGroups)
{
    for (std::uint64_t seed = 1; seed <= 20; ++seed) {
        const int size = 40 + int(seed) * 7;
        const auto parts = randomParts(seed, size, 60);
        const std::vector<int> group{3, 11, 17, 29};
        const auto [k, m] = sumParts(size, parts, {&group});
        Eigen::MatrixXd wantK = Eigen::MatrixXd::Zero(size, size), wantM = wantK;
        for (const auto& part : parts)
            for (std::size_t i = 0; i < part.unknowns.size(); ++i)
                for (std::size_t j = 0; j < part.unknowns.size(); ++j) {
                    const auto a = Eigen::Index(i), b = Eigen::Index(j);
                    if (part.stiffness.size() > 0) wantK(part.unknowns[i], part.unknowns[j]) += part.stiffness(a, b);
                    if (part.mass.size() > 0) wantM(part.unknowns[i], part.unknowns[j]) += part.mass(a, b);
                }
        EXPECT_LT((asDense(k) - wantK).cwiseAbs().maxCoeff(), 1e-13) << seed;
        EXPECT_LT((asDense(m) - wantM).cwiseAbs().maxCoeff(), 1e-13) << seed;
        for (const auto* matrix : {&k, &m}) { // a lower triangle, rows ascending, the diagonal first
            ASSERT_EQ(matrix->columnStart.size(), std::size_t(size) + 1);
            for (int column = 0; column < size; ++column) {
                auto at = static_cast<std::size_t>(matrix->columnStart[std::size_t(column)]);
                const auto end = static_cast<std::size_t>(matrix->columnStart[std::size_t(column) + 1]);
                ASSERT_LT(at, end);
                EXPECT_EQ(matrix->row[at], column);
                for (; at + 1 < end; ++at)
                    EXPECT_LT(matrix->row[at], matrix->row[at + 1]);
            }
        }
        for (const int column : group)
            for (const int row : group)
                if (row > column) {
                    const auto begin = k.row.begin() + k.columnStart[std::size_t(column)],
                               end = k.row.begin() + k.columnStart[std::size_t(column) + 1];
                    EXPECT_TRUE(std::binary_search(begin, end, row)) << "room for a mass set there later";
                }
    }
}

TEST(SumParts, GivesTheSameDigitsOnAnyNumberOfThreads)
{
    constexpr int size = 30000; // from which on there are several
    const auto parts = randomParts(9, size, 40000);
    limitBlasThreads(1);
    const auto one = sumParts(size, parts, {});
    limitBlasThreads(3);
    const auto three = sumParts(size, parts, {});
    limitBlasThreads(0);
    EXPECT_EQ(one.first.row, three.first.row);
    EXPECT_EQ(one.first.value, three.first.value);
    EXPECT_EQ(one.second.columnStart, three.second.columnStart);
    EXPECT_EQ(one.second.value, three.second.value);
}

TEST(SumParts, OfNothingIsADiagonalOfZeros)
{
    const auto [k, m] = sumParts(3, {}, {});
    EXPECT_EQ(k.row, (std::vector<std::int64_t>{0, 1, 2}));
    EXPECT_EQ(asDense(m), Eigen::MatrixXd::Zero(3, 3));
    EXPECT_EQ(sumParts(0, {}, {}).first.size, 0);
}
