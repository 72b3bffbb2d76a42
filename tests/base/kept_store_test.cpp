// One room for all that is kept.
#include "core/base/kept_store.hpp"
#include "core/shapes/kept_answers.hpp"

#include <gmock/gmock.h>

#include <string>
#include <thread>

using namespace undisona;
using testing::ElementsAre;

TEST(KeptStore, GivesBackWhatWasUsedLongestAgoAndNeverWhatCameLast)
{
    KeptStore store(10.0);
    std::vector<std::string> dropped;
    const auto keep = [&](const char* name, double size) {
        return store.keep(size, [&dropped, name] { dropped.push_back(name); });
    };
    const auto shape = keep("shape", 4.0);
    keep("mesh", 3.0);
    const auto factor = keep("factor", 2.0);
    EXPECT_THAT(dropped, ElementsAre());
    store.use(shape);
    keep("finer mesh", 5.0);
    EXPECT_THAT(dropped, ElementsAre("mesh", "factor"));
    EXPECT_EQ(store.megabytes(), 9.0);
    store.resize(factor, 100.0); // it is gone
    EXPECT_EQ(store.megabytes(), 9.0);
    store.resize(shape, 6.0);
    EXPECT_THAT(dropped, ElementsAre("mesh", "factor", "finer mesh")) << "but not what has grown";
    keep("huge", 50.0);
    EXPECT_THAT(dropped, ElementsAre("mesh", "factor", "finer mesh", "shape")) << "and is kept by itself";
    EXPECT_EQ(store.megabytes(), 50.0);
}

TEST(KeptStore, HoldsTheLastFewOfEachKindFromAnyThread)
{
    KeptAnswers<int> squares(4);
    std::vector<std::thread> threads;
    for (int thread = 0; thread < 4; ++thread)
        threads.emplace_back([&] {
            for (int round = 0; round < 2000; ++round) {
                const double number = round % 7;
                if (const auto known = squares.find({number}))
                    EXPECT_EQ(*known, int(number * number));
                else
                    squares.keep({number}, int(number * number));
            }
        });
    for (auto& thread : threads)
        thread.join();
    squares.keep({100.0}, 10000);
    for (double number : {101.0, 102.0, 103.0})
        squares.keep({number}, 0);
    EXPECT_EQ(squares.find({100.0}), 10000);
    squares.keep({104.0}, 0);
    EXPECT_EQ(squares.find({101.0}), std::nullopt) << "five are one more than are kept";
    EXPECT_EQ(squares.find({100.0}), 10000) << "which was used since";
}
