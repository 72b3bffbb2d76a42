#include "core/assess/clash.hpp"
#include "core/assess/interval.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

/// A mast that sways in x and y at known frequencies, with the excitations to come.
SaidModel post()
{
    SaidModel said;
    said.say("run", {{"name", "M"},
                     {"from", "0, 0, 0 m"},
                     {"to", "0, 0, 4 m"},
                     {"section", "rectangle 60x90 mm"},
                     {"elements", "6"}})
        .say("material")
        .say("hold", {{"where", "M.0"}, {"directions", "all"}});
    return said.say("lowest", {{"count", "5"}});
}

ClashReading reading(const SaidModel& said)
{
    const auto solution = said.solved();
    return clashesOf(*solution, solution->structure->excitations);
}

const ClashPair* pairOf(const ClashReading& reading, int mode, double order = 1.0)
{
    for (const auto& pair : reading.pairs)
        if (pair.mode == mode && pair.order == order) return &pair;
    return nullptr;
}

std::string hz(double f)
{
    return fmt::format("{:.9g} Hz", f);
}

} // namespace

TEST(Clash, VerdictsByTheSignedSeparation)
{
    const double f1 = post().frequencies()[0];
    const auto verdict = [&](double ratio) {
        SaidModel said = post();
        said.say("fixed-frequency", {{"frequency", hz(f1 / (1 + ratio))}, {"margin", "10 %"}});
        const auto list = reading(said);
        EXPECT_NEAR(pairOf(list, 1)->separation, ratio, 1e-6);
        return pairOf(list, 1)->verdict;
    };
    EXPECT_EQ(verdict(0.05), Verdict::clash);
    EXPECT_EQ(verdict(-0.099), Verdict::clash);
    EXPECT_EQ(verdict(0.12), Verdict::close);
    EXPECT_EQ(verdict(-0.149), Verdict::close);
    EXPECT_EQ(verdict(0.16), Verdict::clear);
    EXPECT_EQ(verdict(-0.3), Verdict::clear);
}

TEST(Clash, BandsOrdersAndCriticalSpeeds)
{
    const auto f = post().frequencies();
    SaidModel said = post();
    said.say("speed-range", {{"low", fmt::format("{:.9g} rpm", 60 * f[0] * 0.7)},
                             {"high", fmt::format("{:.9g} rpm", 60 * f[0] * 1.2)},
                             {"orders", "1 2"},
                             {"margin", "5 %"}});
    const auto list = reading(said);
    const auto* first = pairOf(list, 1);
    ASSERT_TRUE(first);
    EXPECT_EQ(first->separation, 0.0);
    EXPECT_EQ(first->verdict, Verdict::clash);
    EXPECT_NEAR(first->criticalSpeedRpm, 60 * f[0], 1e-6 * f[0]);
    EXPECT_NEAR(pairOf(list, 2, 2.0)->criticalSpeedRpm, 30 * f[1], 1e-6 * f[1]);
    ASSERT_EQ(list.windows.size(), 1u);
    for (const auto& [from, to] : list.windows[0].freeRpm) // no mode within the margin anywhere in a free window
        for (double rpm = from; rpm <= to; rpm += (to - from) / 50)
            for (const double order : {1.0, 2.0})
                for (const double own : f)
                    EXPECT_GE(std::abs(own / (order * rpm / 60) - 1), 0.05 - 1e-9);
    EXPECT_FALSE(list.windows[0].freeRpm.empty());
}

TEST(Clash, WeakOnlyWhenTheWayInIsKnown)
{
    const auto f = post().frequencies();
    const auto strength = [&](const Words& extra) {
        SaidModel said = post();
        Words words{{"frequency", hz(f[0])}, {"margin", "10 %"}};
        words.insert(extra.begin(), extra.end());
        said.say("fixed-frequency", words);
        return *pairOf(reading(said), 1);
    };
    // The lowest mode of this post moves in x or y alone.
    const bool inX = post().solved()->participation.ofMovable(0, 0) > 0.5;
    const char *along = inX ? "x" : "y", *across = inX ? "y" : "x";
    EXPECT_FALSE(strength({}).weak);
    EXPECT_EQ(strength({}).strength, 1.0);
    EXPECT_FALSE(strength({{"entry", "through the base"}, {"along", along}}).weak);
    EXPECT_TRUE(strength({{"entry", "through the base"}, {"along", across}}).weak);
    EXPECT_FALSE(strength({{"entry", "as a force"}, {"points", "M.1"}, {"along", along}}).weak);
    EXPECT_TRUE(strength({{"entry", "as a force"}, {"points", "M.0"}, {"along", along}}).weak)
        << "a held point does not move";
    EXPECT_EQ(strength({{"entry", "as a force"}, {"points", "M.0"}}).verdict, Verdict::clash)
        << "weak ones stay listed";
}

TEST(Clash, WorstFirstAndNeighboursListed)
{
    SaidModel said = post();
    const auto f = said.frequencies();
    said.say("fixed-frequency", {{"name", "far"}, {"frequency", hz(std::sqrt(f[1] * f[2]))}, {"margin", "1 %"}})
        .say("fixed-frequency", {{"name", "near"}, {"frequency", hz(f[2])}, {"margin", "1 %"}});
    const auto list = reading(said);
    EXPECT_EQ(list.pairs.front().mode, 3);
    EXPECT_EQ(list.pairs.front().verdict, Verdict::clash);
    int ofFar = 0;
    for (const auto& pair : list.pairs)
        ofFar += pair.excitation == 0;
    EXPECT_EQ(ofFar, 2) << "the nearest below and above";
}

TEST(Interval, IsReadInSemitonesAndCents)
{
    EXPECT_EQ(intervalWords(1.0), "unison");
    EXPECT_EQ(intervalWords(2.0), "octave");
    EXPECT_EQ(intervalWords(0.5), "octave lower");
    EXPECT_EQ(intervalWords(1.5), "fifth, +2 cents") << "the pure fifth is two cents wider";
    EXPECT_EQ(intervalWords(1.25), "major third, −14 cents");
    EXPECT_EQ(intervalWords(2.4), "octave and a minor third, +16 cents");
    EXPECT_EQ(intervalWords(4.0 * 1.0006), "2 octaves, +1 cent");
}
