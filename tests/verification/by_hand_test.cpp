// Estimates by hand: the tables they are from, and what they say beside computed modes.
#include "core/assess/by_hand.hpp"
#include "core/assess/closed_forms.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;

namespace {

HandReading readingOf(const Solution& solution)
{
    Progress progress;
    return byHand(solution, DisplayUnits(), progress);
}

const HandComparison* of(const HandReading& reading, const std::string& words)
{
    for (const auto& check : reading.checks)
        if ((check.of + check.by).find(words) != std::string::npos) return &check;
    return nullptr;
}

} // namespace

TEST(ByHand, HasTheFiguresOfTheTables)
{
    using enum BeamEnd;
    // Blevins 1979, table 8-1.
    EXPECT_NEAR(beamRoot(clamped, free, 1), 1.87510407, 1e-7);
    EXPECT_NEAR(beamRoot(free, clamped, 2), 4.69409113, 1e-7);
    EXPECT_NEAR(beamRoot(clamped, clamped, 1), 4.73004074, 1e-7);
    EXPECT_NEAR(beamRoot(free, free, 3), 10.9956079, 1e-6);
    EXPECT_NEAR(beamRoot(clamped, pinned, 1), 3.92660231, 1e-7);
    EXPECT_NEAR(beamRoot(free, pinned, 2), 7.06858275, 1e-7);
    EXPECT_NEAR(beamRoot(pinned, pinned, 4), 4.0 * pi, 1e-12);
    // lambda = omega a2 sqrt(rho h / D): pinned 2 pi2; clamped 35.99 and 73.41 (Leissa 1969, table 4.27), by Warburton
    // a per cent at most above.
    const auto lambda = [](bool clamped, double b, int m, int n) {
        return 2.0 * pi * plateFrequency(clamped, 1.0, b, m, n, 1.0, 1.0);
    };
    EXPECT_NEAR(lambda(false, 1.0, 1, 1), 2.0 * pi * pi, 1e-9);
    EXPECT_NEAR(lambda(true, 1.0, 1, 1) / 35.99, 1.0, 0.01);
    EXPECT_NEAR(lambda(true, 1.0, 2, 1) / 73.41, 1.0, 0.01);
    EXPECT_NEAR(lambda(true, 1.0, 1, 2) / 73.41, 1.0, 0.01);
}

TEST(ByHand, AMassOnASpringIsOneFigure)
{
    auto said = steel();
    said.say("points", {{"rows", "base|0 m|0 m|0 m\nmotor|0 m|0 m|1 m"}})
        .say("run", {{"name", "Leg"}, {"from", "base"}, {"to", "motor"}, {"section", "tube 60.3x4 mm"}})
        .say("hold", {{"where", "base"}, {"directions", "all"}})
        .say("mass", {{"mass", "400 kg"}, {"points", "motor"}})
        .say("lowest", {{"count", "4"}});
    const auto solution = said.solvedUnjudged();
    const HandReading reading = readingOf(*solution);
    const HandComparison* weight = of(reading, "own weight along x");
    ASSERT_TRUE(weight);
    EXPECT_EQ(weight->off, 0.0) << "between sqrt(g / delta) and the energies of that deflection";
    EXPECT_LT(weight->high, 1.01 * weight->low) << "which are one where all mass is at one place";
    // 3 E I / L3 under the mass, at the top of the leg.
    const HandComparison* load = of(reading, "at motor along its motion");
    ASSERT_TRUE(load);
    const Section& tube = *solution->structure->frame.members[0].section;
    EXPECT_NEAR(load->high, std::sqrt(3.0 * E * tube.iy / 402.0) / 2.0 / pi, 0.01 * load->high);
    EXPECT_FALSE(load->flagged);
    for (const auto& check : reading.checks)
        EXPECT_FALSE(check.flagged) << check.of << ": " << check.why;
}

TEST(ByHand, ClosedFormsStandBesideBeamsMembersAndPlates)
{
    // One uniform beam: each mode of bending; where it is stocky its shear is named.
    for (const auto& [section, stocky] : {std::pair{"rectangle 20x35 mm", false}, {"rectangle 300x300 mm", true}}) {
        auto beam = steel();
        beam.say("run",
                 {{"name", "Beam"}, {"from", "0, 0, 0 m"}, {"to", "2, 0, 0 m"}, {"parts", "2"}, {"section", section}})
            .say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
            .say("lowest", {{"count", "6"}});
        const auto solution = beam.solvedUnjudged();
        const HandReading reading = readingOf(*solution);
        int bending = 0;
        for (const auto& check : reading.checks) {
            if (check.of.find("a uniform beam") == std::string::npos) continue;
            ++bending;
            EXPECT_THAT(check.of, testing::HasSubstr("clamped and free"));
            if (!stocky) EXPECT_LT(std::abs(check.off), 0.01) << check.of;
            EXPECT_FALSE(check.flagged) << check.why;
        }
        EXPECT_GE(bending, 3);
        if (stocky)
            EXPECT_THAT(reading.checks,
                        testing::Contains(testing::Field(&HandComparison::why, testing::HasSubstr("stocky"))));
    }

    // Stays pinned at both ends by releases: one figure, exact but for the rest of the structure.
    auto said = steel();
    said.say("plate", {{"name", "Deck"}, {"length", "2 m"}, {"width", "1 m"}, {"thickness", "30 mm"}})
        .say("points", {{"rows", "high1|0 m|0 m|1.5 m\nhigh2|0 m|1 m|1.5 m"}})
        .say("members", {{"name", "Stays"}, {"rows", "one|high1|Deck.2\ntwo|high2|Deck.3"}, {"section", "round 20 mm"}})
        .say("release", {{"members", "Stays"}, {"ends", "both ends"}, {"directions", "ry rz"}})
        .say("hold", {{"where", "edges at x = 0 m, high1, high2"}, {"directions", "all"}})
        .say("lowest", {{"count", "8"}});
    const auto deck = said.solvedUnjudged();
    const HandReading stays = readingOf(*deck);
    const HandComparison* stay = of(stays, "pinned at both ends");
    ASSERT_TRUE(stay) << testing::PrintToString(stays.checks.size());
    EXPECT_NEAR(stay->computed / stay->high, 1.0, 0.01);

    // A plate pinned round is at the lower end, one that is clamped near the upper; neither is flagged.
    for (const char* directions : {"x y z", "all"}) {
        auto plate = steel();
        plate.say("plate", {{"name", "P"}, {"length", "0.9 m"}, {"width", "0.6 m"}, {"thickness", "4 mm"}})
            .say("hold", {{"where", "free edges of P"}, {"directions", directions}})
            .say("lowest", {{"count", "3"}});
        const HandReading reading = readingOf(*plate.solvedUnjudged());
        const HandComparison* first = of(reading, "edges between pinned and clamped");
        ASSERT_TRUE(first) << directions;
        EXPECT_FALSE(first->flagged);
        const double end = std::string(directions) == "all" ? first->high : first->low;
        EXPECT_NEAR(first->computed / end, 1.0, 0.015) << directions;
    }
}

TEST(ByHand, WhatCannotBeIsFlagged)
{
    auto said = steel();
    said.say("run", {{"name", "Beam"}, {"from", "0, 0, 0 m"}, {"to", "2, 0, 0 m"}, {"section", "rectangle 20x35 mm"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("lowest", {{"count", "4"}});
    const auto good = said.solvedUnjudged();
    Solution wrong = *good; // as if a unit had been mistaken on the way
    for (auto& mode : wrong.modes) {
        mode.frequency *= 1.4;
        mode.lambda *= 1.96;
    }
    const HandReading reading = readingOf(wrong);
    EXPECT_THAT(reading.checks, testing::Contains(testing::Field(&HandComparison::flagged, true)));
    const HandComparison* beam = of(reading, "a uniform beam");
    ASSERT_TRUE(beam);
    EXPECT_NEAR(beam->off, 0.4, 0.01);
    EXPECT_THAT(beam->why, testing::HasSubstr("nothing that is known here explains it"));
    const HandComparison* weight = of(reading, "own weight along z");
    ASSERT_TRUE(weight);
    EXPECT_TRUE(weight->flagged) << "no shape swings below the lowest mode";
    // What floats has nothing to rest on, and says so.
    auto free = steel();
    free.say("run", {{"name", "Beam"}, {"from", "0, 0, 0 m"}, {"to", "2, 0, 0 m"}, {"section", "rectangle 20x35 mm"}})
        .say("lowest", {{"count", "3"}});
    const HandReading floating = readingOf(*free.solvedUnjudged());
    EXPECT_THAT(floating.findings, testing::Contains(testing::Field(&Finding::what, testing::HasSubstr("no rest"))));
    const HandComparison* loose = of(floating, "free at both ends");
    ASSERT_TRUE(loose) << "its closed form is there all the same";
    EXPECT_LT(std::abs(loose->off), 0.01);
}
