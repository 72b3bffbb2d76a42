// Orders of elimination: that they are orders, and what they are good for.
#include "core/numerics/elimination_order.hpp"
#include "core/numerics/level_dissection.hpp"
#include "core/numerics/signed_factor.hpp"

#include <gtest/gtest.h>

#include <numeric>
#include <random>

using namespace undisona;

namespace {

/// Nodes with so many unknowns each; every pair named is coupled, all unknowns of one with all of the other.
SparseSymmetric nodes(int count, int unknowns, const std::vector<std::array<int, 2>>& pairs)
{
    SparseAssembler assembler(std::int64_t(count) * unknowns);
    const auto block = [&](const std::vector<int>& which, double size) {
        std::vector<int> rows;
        for (const int node : which)
            for (int at = 0; at < unknowns; ++at)
                rows.push_back(unknowns * node + at);
        const auto n = static_cast<Eigen::Index>(rows.size());
        assembler.add(rows, size * (Eigen::MatrixXd::Constant(n, n, -0.1) + double(n) * Eigen::MatrixXd::Identity(n, n)));
    };
    for (int node = 0; node < count; ++node)
        block({node}, 1.0);
    for (const auto& [a, b] : pairs)
        block({a, b}, 0.5);
    return assembler.finish();
}

std::vector<std::array<int, 2>> grid(int wide, int high)
{
    std::vector<std::array<int, 2>> pairs;
    for (int i = 0; i < wide; ++i)
        for (int j = 0; j < high; ++j) {
            if (i + 1 < wide) pairs.push_back({i * high + j, (i + 1) * high + j});
            if (j + 1 < high) pairs.push_back({i * high + j, i * high + j + 1});
        }
    return pairs;
}

void expectOrder(const std::vector<std::int64_t>& order, std::int64_t size, const char* what)
{
    std::vector<std::int64_t> sorted = order, all(static_cast<std::size_t>(size));
    std::sort(sorted.begin(), sorted.end());
    std::iota(all.begin(), all.end(), 0);
    EXPECT_EQ(sorted, all) << what << ": each unknown once";
}

Graph graphOfPairs(int count, const std::vector<std::array<int, 2>>& pairs)
{
    std::vector<std::vector<std::int32_t>> lists(static_cast<std::size_t>(count));
    for (int at = 0; at < count; ++at)
        lists[static_cast<std::size_t>(at)].push_back(at);
    for (const auto& [a, b] : pairs) {
        lists[static_cast<std::size_t>(a)].push_back(b);
        lists[static_cast<std::size_t>(b)].push_back(a);
    }
    Graph graph;
    graph.start = {0};
    for (auto& list : lists) {
        std::sort(list.begin(), list.end());
        graph.neighbour.insert(graph.neighbour.end(), list.begin(), list.end());
        graph.start.push_back(std::int64_t(graph.neighbour.size()));
    }
    return graph;
}

} // namespace

TEST(EliminationOrder, NamesEachUnknownOnceWhateverTheGraph)
{
    const std::vector<std::pair<const char*, SparseSymmetric>> cases{
        {"empty", SparseSymmetric{0, {0}, {}, {}}},
        {"one", nodes(1, 1, {})},
        {"separate nodes", nodes(50, 3, {})},
        {"a long strip", nodes(3 * 400, 6, grid(400, 3))},
        {"a plane", nodes(40 * 40, 3, grid(40, 40))},
        {"two strips apart", [] {
             auto pairs = grid(200, 2);
             for (const auto& [a, b] : grid(150, 3))
                 pairs.push_back({a + 400, b + 400});
             return nodes(850, 2, pairs);
         }()}};
    for (const auto& [what, pattern] : cases) {
        const auto order = eliminationOrder(pattern);
        ASSERT_TRUE(order) << what;
        expectOrder(*order, pattern.size, what);
    }
}

TEST(EliminationOrder, KeepsTheUnknownsOfANodeTogether)
{
    const SparseSymmetric pattern = nodes(30 * 30, 3, grid(30, 30));
    const auto order = *eliminationOrder(pattern);
    for (std::size_t at = 0; at < order.size(); at += 3) {
        EXPECT_EQ(order[at] / 3, order[at + 1] / 3) << at;
        EXPECT_EQ(order[at] / 3, order[at + 2] / 3) << at;
    }
}

TEST(LevelDissection, CutsWhatIsNarrowAndLeavesTheRestAlone)
{
    const Graph strip = graphOfPairs(4 * 3000, grid(3000, 4));
    const auto order = levelDissection(strip, 16.0);
    ASSERT_TRUE(order);
    expectOrder(*order, 12000, "strip");
    EXPECT_FALSE(levelDissection(graphOfPairs(80 * 80, grid(80, 80)), 16.0)) << "eighty in a level";
    EXPECT_TRUE(levelDissection(graphOfPairs(80 * 80, grid(80, 80)), 100.0)) << "unless that is called narrow";
    const auto small = levelDissection(graphOfPairs(9, grid(3, 3)), 1.0);
    ASSERT_TRUE(small) << "too small for it to matter";
    expectOrder(*small, 9, "small");
}

TEST(LevelDissection, LeavesLittleFillAndWorkForManyHands)
{
    const SparseSymmetric matrix = nodes(4 * 2000, 6, grid(2000, 4));
    const auto analysis = Analysis::of(matrix);
    ASSERT_TRUE(analysis);
    // A level of 24 unknowns sees two others on its way: a bound by a small factor, linear in the length.
    EXPECT_LT(double(analysis->entries()), 4.0 * 24.0 * double(matrix.size));
    const TreePlan plan(*analysis, 2, [](double columns, double rows) { return columns * rows; });
    const auto weight = [&](const std::vector<std::int64_t>& list) {
        double sum = 0.0;
        for (const auto k : list) {
            const Supernode node(*analysis, nullptr, k);
            sum += double(node.columns) * double(node.rows);
        }
        return sum;
    };
    EXPECT_LT(weight(plan.top), 0.02 * double(analysis->entries()));
    EXPECT_LT(std::abs(weight(plan.subtrees[0]) - weight(plan.subtrees[1])), 0.2 * double(analysis->entries()));
}

TEST(SignedFactor, IsTheSameWhetherKeptOrCountedAndOnAnyNumberOfThreads)
{
    // Large enough for a shared top with several supernodes, some of them passing up to others.
    const SparseSymmetric definite = nodes(26 * 26, 3, grid(26, 26));
    const Eigen::MatrixXd dense = definite * Eigen::MatrixXd::Identity(definite.size, definite.size);
    const Eigen::VectorXd values =
        Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(dense, Eigen::EigenvaluesOnly).eigenvalues();
    Eigen::Index negative = 20; // as many as lie below a gap
    while (values[negative] < values[negative - 1] + 1e-4)
        ++negative;
    SparseSymmetric shifted = definite;
    for (std::int64_t column = 0; column < shifted.size; ++column)
        shifted.value[static_cast<std::size_t>(shifted.columnStart[static_cast<std::size_t>(column)])] -=
            (values[negative] + values[negative - 1]) / 2.0;
    const auto analysis = Analysis::of(definite);
    std::mt19937_64 dice(3);
    Eigen::MatrixXd x(definite.size, 5);
    for (auto& value : x.reshaped())
        value = double(dice() % 2001) / 1000.0 - 1.0;
    Eigen::MatrixXd first;
    for (const int threads : {1, 2, 3, 5}) {
        const auto kept = SignedFactor::factorise(analysis, shifted, {.threads = threads}),
                   counted = SignedFactor::factorise(analysis, shifted, {.keepFactor = false, .threads = threads}),
                   again = SignedFactor::factorise(analysis, shifted, {.threads = threads});
        ASSERT_TRUE(kept && counted && again) << threads;
        EXPECT_EQ(kept->negative(), negative) << threads;
        EXPECT_EQ(counted->negative(), negative) << threads;
        EXPECT_EQ(counted->megabytes(), 0.0);
        const Eigen::MatrixXd solved = kept->solve(shifted * x);
        EXPECT_LT((solved - x).norm(), 1e-9 * x.norm()) << threads;
        EXPECT_EQ(solved, again->solve(shifted * x)) << "to the digit, with " << threads << " threads";
        EXPECT_NEAR(kept->reciprocalCondition(), counted->reciprocalCondition(), 1e-12);
    }
}
