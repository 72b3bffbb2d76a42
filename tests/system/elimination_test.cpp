// Linear relations between unknowns, against the null space of their dense matrix.
#include "core/system/elimination.hpp"

#include <Eigen/Dense>
#include <gtest/gtest.h>

#include <random>

using namespace undisona;

namespace {

Elimination::Row rowOf(const Eigen::VectorXd& weights, Eigen::Index held)
{
    Elimination::Row row;
    const Eigen::Index free = weights.size() - held;
    for (Eigen::Index at = 0; at < weights.size(); ++at)
        if (weights[at] != 0.0)
            (at < free ? row.free : row.held)[static_cast<int>(at < free ? at : at - free)] = weights[at];
    if (!row.free.empty()) row.following = {row.free.begin()->first};
    return row;
}

/// What all unknowns are, free ones before held ones, for each of those that are left (then for each that is held).
Eigen::MatrixXd transformation(Elimination& elimination, Eigen::Index free, Eigen::Index held)
{
    std::map<int, Eigen::Index> column;
    for (int at = 0; at < free; ++at)
        if (!elimination.followers().contains(at)) column.emplace(at, static_cast<Eigen::Index>(column.size()));
    const auto left = static_cast<Eigen::Index>(column.size());
    Eigen::MatrixXd all = Eigen::MatrixXd::Zero(free + held, left + held);
    for (const auto& [unknown, at] : column)
        all(unknown, at) = 1.0;
    for (Eigen::Index at = 0; at < held; ++at)
        all(free + at, left + at) = 1.0;
    for (const auto& [follower, sum] : elimination.followers()) {
        for (const auto& [unknown, weight] : sum.free)
            all(follower, column.at(unknown)) = weight; // throws where a follower stands on the right
        for (const auto& [unknown, weight] : sum.held)
            all(follower, left + unknown) = weight;
    }
    return all;
}

} // namespace

TEST(Elimination, LeavesWhatTheRelationsLeaveAndFindsThoseThatSayNothingNew)
{
    std::mt19937 random(11);
    const auto below = [&](int count) { return static_cast<int>(random() % static_cast<unsigned>(count)); };
    int repeated = 0;
    for (int round = 0; round < 300; ++round) {
        const Eigen::Index free = 3 + below(20), held = below(4), count = 1 + below(static_cast<int>(free));
        Eigen::MatrixXd rows = Eigen::MatrixXd::Zero(count, free + held);
        for (Eigen::Index row = 0; row < count; ++row) {
            if (row > 1 && below(4) == 0) { // said by two before it together
                rows.row(row) = 0.7 * rows.row(below(int(row))) - 1.9 * rows.row(below(int(row)));
                continue;
            }
            for (int terms = 1 + below(5); terms > 0; --terms)
                rows(row, below(int(free))) +=
                    (below(2) ? 1.0 : -1.0) * std::pow(10.0, below(3) - 1.0) * (1 + below(9));
            if (held > 0 && below(2)) rows(row, free + below(int(held))) += 1.0;
        }
        Elimination elimination;
        Eigen::Index taken = 0;
        for (Eigen::Index row = 0; row < count; ++row) {
            const auto rankOf = [&](Eigen::Index some) {
                return some == 0 ? 0 : Eigen::FullPivLU<Eigen::MatrixXd>(rows.topLeftCorner(some, free)).rank();
            };
            const bool isNew = elimination.take(rowOf(rows.row(row), held));
            EXPECT_EQ(isNew, rankOf(row + 1) > rankOf(row)) << "round " << round << ", row " << row;
            taken += isNew;
            repeated += !isNew;
        }
        const Eigen::MatrixXd all = transformation(elimination, free, held);
        ASSERT_EQ(all.cols(), free + held - taken) << "round " << round;
        if (taken == free) continue; // nothing is left
        EXPECT_LT((rows.leftCols(free) * all.topLeftCorner(free, free - taken)).cwiseAbs().maxCoeff(),
                  1e-8 * rows.cwiseAbs().maxCoeff() * all.cwiseAbs().maxCoeff())
            << "round " << round;
    }
    EXPECT_GT(repeated, 100);
}

TEST(Elimination, CarriesWhatIsHeldToAllThatFollows)
{
    // c = b, b = a, a = s: in the worst order, each follower known before what it follows.
    Elimination elimination;
    EXPECT_TRUE(elimination.take({{{2, 1.0}, {1, -1.0}}, {}, {2}}));
    EXPECT_TRUE(elimination.take({{{1, 1.0}, {0, -1.0}}, {}, {1}}));
    EXPECT_TRUE(elimination.take({{{0, 2.0}}, {{5, -2.0}}, {0}}));
    EXPECT_FALSE(elimination.take({{{2, 1.0}}, {{5, -1.0}}, {2}})) << "all of it is known";
    ASSERT_EQ(elimination.followers().size(), 3u);
    for (const auto& [follower, sum] : elimination.followers()) {
        EXPECT_TRUE(sum.free.empty()) << follower;
        EXPECT_EQ(sum.held, (WeightedSum{{5, 1.0}})) << follower;
    }
}

TEST(Elimination, AChainOfThousandsStaysShort)
{
    constexpr int count = 20000;
    Elimination elimination;
    for (int at = count - 1; at > 0; --at) // each follows the one before it
        elimination.take({{{at, 1.0}, {at - 1, -1.0}}, {}, {at}});
    ASSERT_EQ(elimination.followers().size(), std::size_t(count - 1));
    EXPECT_EQ(elimination.followers().at(count - 1).free, (WeightedSum{{0, 1.0}}));
}
