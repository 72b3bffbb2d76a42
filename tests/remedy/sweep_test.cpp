#include "core/remedy/word_sweep.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

SaidModel pinnedBeam(const std::string& section)
{
    SaidModel said = steel();
    said.say("run", {{"name", "Beam"},
                     {"from", "0, 0, 0 m"},
                     {"to", "3, 0, 0 m"},
                     {"parts", "4"},
                     {"section", section},
                     {"elements", "3"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx"}})
        .say("hold", {{"where", "Beam.4"}, {"directions", "y z"}})
        .say("lowest", {{"count", "4"}});
    return said;
}

Result<WordSweep> swept(const SaidModel& said, const std::string& word, double from, double to, long steps)
{
    const auto named = wordNamed(said.model(), word);
    EXPECT_TRUE(named) << word;
    if (!named) return named.findings();
    Progress progress;
    return sweep(said.model(), {*named, from, to, steps}, progress, nullptr);
}

} // namespace

TEST(Sweep, FollowsEachModeByItsShapeThroughACrossing)
{
    // Bending in z goes with the height, in y with the width: f = pi / 2 / L2 sqrt(E / 12 rho) h.
    const auto found = swept(pinnedBeam("rectangle 20x30 mm"), "Beam: the section, height", 0.020, 0.045, 10);
    ASSERT_TRUE(found);
    ASSERT_EQ(found->steps.size(), 11U);
    const double perMetre = pi / 2.0 / 9.0 * std::sqrt(E / 12.0 / rho);
    ASSERT_GE(found->modes.size(), 2U);
    for (const auto& step : found->steps) {
        EXPECT_NEAR(step.hertz[0] / (perMetre * step.value), 1.0, 3e-3) << step.value;
        EXPECT_NEAR(step.hertz[1] / (perMetre * 0.030), 1.0, 3e-3) << step.value;
    }
    const auto meeting = std::find_if(found->meetings.begin(), found->meetings.end(),
                                      [](const SweepMeeting& one) { return one.one == 0 && one.other == 1; });
    ASSERT_NE(meeting, found->meetings.end());
    EXPECT_FALSE(meeting->veers);
    EXPECT_NEAR(meeting->value, 0.030, 2e-4);
    EXPECT_NEAR(meeting->hertz / (perMetre * 0.030), 1.0, 5e-3);
}

TEST(Sweep, TellsAVeeringFromACrossingByTheGapThatStays)
{
    // Two masses on springs of k with a weak one between them; the first mass goes past the second.
    SaidModel said;
    said.say("points", {{"rows", "a | 0 m | 0 m | 0 m\nb | 1 m | 0 m | 0 m"}})
        .say("hold", {{"where", "a, b"}, {"directions", "x y rx ry rz"}})
        .say("ground-spring", {{"points", "a, b"}, {"kz", "40 kN/m"}})
        .say("spring", {{"from", "a"}, {"to", "b"}, {"kz", "1 kN/m"}})
        .say("mass", {{"mass", "8 kg"}, {"points", "a"}, {"label", "first"}})
        .say("mass", {{"mass", "10 kg"}, {"points", "b"}, {"label", "second"}})
        .say("lowest", {{"count", "2"}});
    const auto found = swept(said, "first: the mass", 8.0, 12.5, 9);
    ASSERT_TRUE(found);
    for (const auto& step : found->steps) {
        const double a = 41e3 / step.value, b = 41e3 / 10.0, c = 1e6 / (step.value * 10.0); // k2 / m m
        const double root = std::sqrt((a - b) * (a - b) / 4.0 + c);
        std::vector<double> both = step.hertz;
        std::sort(both.begin(), both.end());
        EXPECT_NEAR(both[0], std::sqrt((a + b) / 2.0 - root) / (2.0 * pi), 1e-6);
        EXPECT_NEAR(both[1], std::sqrt((a + b) / 2.0 + root) / (2.0 * pi), 1e-6);
    }
    ASSERT_EQ(found->meetings.size(), 1U);
    const SweepMeeting& meeting = found->meetings.front();
    EXPECT_TRUE(meeting.veers);
    EXPECT_NEAR(meeting.value, 10.0, 0.3);
    // With equal masses sqrt((k + 2 c) / m) - sqrt(k / m), k = 40, c = 1 kN/m.
    EXPECT_NEAR(meeting.gap / ((std::sqrt(4200.0) - std::sqrt(4000.0)) / (2.0 * pi)), 1.0, 0.02);
}

TEST(Sweep, SaysWhichValuesHaveNoModesAndWhatCannotBeMeant)
{
    const SaidModel said = pinnedBeam("tube 40x3 mm");
    const auto found = swept(said, "Beam: the section, wall", 0.004, 0.028, 4); // beyond 20 mm no tube is left
    ASSERT_TRUE(found);
    EXPECT_TRUE(found->steps.front().trouble.empty());
    EXPECT_FALSE(found->steps.back().trouble.empty());
    EXPECT_THAT(oneLine(found->findings.back()), HasSubstr("28 mm"));
    const auto same = swept(said, "Beam: the section, wall", 0.004, 0.004, 4);
    ASSERT_FALSE(same);
    EXPECT_THAT(same.findings().front().what, HasSubstr("from one value to another"));
    EXPECT_FALSE(swept(said, "Beam: the section, wall", 0.03, 0.035, 2));
    EXPECT_FALSE(wordNamed(said.model(), "Beam"));        // several
    EXPECT_FALSE(wordNamed(said.model(), "no such one")); // none
}
