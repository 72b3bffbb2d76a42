// Supports whose directions turn about an axis or follow an edge.
#include "core/assess/model_checks.hpp"
#include "core/model/stated.hpp"
#include "core/picks/pick.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;
using testing::Not;

namespace {

/// A ring of eight bars about an upright axis beside the origin.
SaidModel ringOfBars()
{
    SaidModel said = steel();
    std::string points, members;
    for (int corner = 0; corner < 8; ++corner) {
        const double angle = pi / 4.0 * corner;
        points += fmt::format("p{}|{:.17g} m|{:.17g} m|0.5 m\n", corner, 1.0 + 0.6 * std::cos(angle),
                              2.0 + 0.6 * std::sin(angle));
        members += fmt::format("m{}|p{}|p{}\n", corner, corner, (corner + 1) % 8);
    }
    points.pop_back();
    members.pop_back();
    return said.say("points", {{"rows", points}})
        .say("members", {{"name", "Ring"}, {"rows", members}, {"section", "rectangle 40x30 mm"}});
}

void expectSame(const std::vector<double>& one, const std::vector<double>& other, double within, const char* what)
{
    ASSERT_EQ(one.size(), other.size()) << what;
    for (std::size_t mode = 0; mode < one.size(); ++mode)
        EXPECT_NEAR(one[mode] / other[mode], 1.0, within) << what << " " << mode;
}

} // namespace

TEST(SupportAxes, AboutAnAxisAreThoseOfEachPointByItself)
{
    // Rigid outwards and up, elastic round, said once and of each point by its own x axis.
    const Words axis{{"about", "0, 0, 2"}, {"through", "1, 2, 7 m"}};
    SaidModel once = ringOfBars(), each = ringOfBars();
    Words words{{"where", "points of Ring"}, {"directions", "x y z"}, {"ky", "2 kN/mm"}};
    words.insert(axis.begin(), axis.end());
    once.say("hold", words).say("lowest", {{"count", "6"}});
    for (int corner = 0; corner < 8; ++corner) {
        const double angle = pi / 4.0 * corner;
        each.say("hold", {{"where", fmt::format("p{}", corner)},
                          {"directions", "x y z"},
                          {"ky", "2 kN/mm"},
                          {"x-towards", fmt::format("{:.17g}, {:.17g}, 0", std::cos(angle), std::sin(angle))}});
    }
    expectSame(once.frequencies(), each.say("lowest", {{"count", "6"}}).frequencies(), 1e-9, "ring");
    SaidModel wrong = ringOfBars();
    wrong.say("point", {{"name", "hub"}, {"at", "1, 2, 0 m"}})
        .say("hold", {{"where", "hub"}, {"about", "0, 0, 1"}, {"through", "1, 2, 0 m"}});
    EXPECT_THAT(wrong.problems(), HasSubstr("hub lies on the axis"));
}

TEST(SupportAxes, ABearingHoldsABoreOutwardsAndLetsItTurn)
{
    const auto disc = [](const char* directions) {
        SaidModel said = steel();
        said.say("solid-cylinder", {{"name", "Disc"},
                                    {"diameter", "0.4 m"},
                                    {"length", "30 mm"},
                                    {"inner", "0.1 m"},
                                    {"at", "0.3, 0.2, 0 m"}})
            .say("hold", {{"where", "faces of radius 50 mm of Disc"},
                          {"directions", directions},
                          {"about", "0, 0, 1"},
                          {"through", "0.3, 0.2, 0 m"}})
            .say("lowest", {{"count", "3"}});
        return said;
    };
    const auto free = [&](const char* directions) {
        const auto solution = disc(directions).solvedUnjudged();
        return std::count_if(solution->modes.begin(), solution->modes.end(),
                             [](const Mode& mode) { return mode.rigid || mode.mechanism; });
    };
    EXPECT_EQ(free("x z"), 1) << "it turns";
    EXPECT_EQ(free("x"), 2) << "and slides";
    EXPECT_EQ(free("x y z"), 0);
    // In all three it is the hold in global ones.
    SaidModel global = steel();
    global
        .say(
            "solid-cylinder",
            {{"name", "Disc"}, {"diameter", "0.4 m"}, {"length", "30 mm"}, {"inner", "0.1 m"}, {"at", "0.3, 0.2, 0 m"}})
        .say("hold", {{"where", "faces of radius 50 mm of Disc"}, {"directions", "x y z"}})
        .say("lowest", {{"count", "3"}});
    expectSame(disc("x y z").frequencies(), global.frequencies(), 1e-9, "disc");
    SaidModel whole = steel();
    whole.say("solid-cylinder", {{"name", "Rod"}, {"diameter", "0.1 m"}, {"length", "0.1 m"}})
        .say("hold", {{"where", "faces at z = 0 m of Rod"}, {"directions", "x"}, {"about", "0, 0, 1"}})
        .say("lowest", {{"count", "1"}});
    Progress progress;
    const auto refused = solve(whole.model(), progress);
    if (!refused)
        EXPECT_THAT(refused.findings().front().what, HasSubstr("reaches the axis")); // where a node lies on it
}

TEST(SupportAxes, AlongAnEdgeAreThoseOfThePlateThatIsNotTurned)
{
    // Free to slide along two skew edges, held across them.
    const auto plate = [](const char* along, const char* towards, bool follows) {
        SaidModel said = steel();
        said.say("plate", {{"name", "Deck"},
                           {"length", "1 m"},
                           {"width", "0.6 m"},
                           {"along", along},
                           {"towards", towards},
                           {"thickness", "8 mm"}});
        Words words{{"where", "edges of Deck"}, {"directions", follows ? "y z" : "z"}};
        if (follows) {
            words["follow"] = "x along the edge";
        }
        return said.say("hold", words).say("lowest", {{"count", "6"}}).frequencies();
    };
    expectSame(plate("0.8, 0.6, 0", "-0.6, 0.8, 0", true), plate("1, 0, 0", "0, 1, 0", true), 1e-6, "turned");
    // Held along none of its own directions it is loose in its plane; so it is seen that they are held.
    SaidModel wrong = steel();
    wrong.say("plate", {{"name", "Deck"}}).say("hold", {{"where", "Deck"}, {"follow", "x along the edge"}});
    EXPECT_THAT(wrong.problems(), HasSubstr("edges alone have a direction to follow"));
}

TEST(SupportAxes, WhatIsLikeOneIsOnePickAndWhatIsFreeOnPurposeStaysUnasked)
{
    // A flange of six equal holes and a larger one.
    SaidModel said = steel();
    said.say("disc", {{"name", "Flange"}, {"diameter", "0.5 m"}, {"thickness", "12 mm"}})
        .say("hole-circle", {{"count", "6"}, {"diameter", "30 mm"}, {"sheet", "Flange"}, {"round", "0.4 m"}})
        .say("holes", {{"diameter", "60 mm"}, {"sheet", "Flange"}, {"rows", "0 m|0 m"}});
    const Structure shape = said.structure();
    const auto count = [&](const char* rule) { return pick(shape.frame, rule, Target::edge).edges.size(); };
    EXPECT_EQ(count("edges like edge nearest to 0.215 0 0 m"), 6u);
    EXPECT_EQ(count("edges like edge nearest to 0.03 0 0 m"), 1u);
    // Five of the six held: the sixth is asked about, and can be left free for good.
    const auto rim = [](int hole) {
        return fmt::format("edge nearest to {:.6f} {:.6f} 0 m", 0.2 * std::cos(pi / 3.0 * hole) + 0.015,
                           0.2 * std::sin(pi / 3.0 * hole));
    };
    std::string five = rim(0);
    for (int hole = 1; hole < 5; ++hole)
        five += ", " + rim(hole);
    said.say("hold", {{"where", five}, {"directions", "all"}});
    const auto asked = [](const Model& model) {
        const auto built = buildStructure(model);
        std::vector<Cure> cures;
        for (const auto& finding : checkStructure(built.structure, massSummary(built.structure), model))
            if (finding.what.find("but is not held") != std::string::npos) cures = finding.cures;
        return cures;
    };
    const auto cures = asked(said.model());
    ASSERT_EQ(cures.size(), 2u);
    EXPECT_EQ(cures[0].words, "Hold it too");
    EXPECT_EQ(cures[1].words, "Leave it free");
    for (const auto& cure : cures) {
        const auto mended = stated(said.model(), cure.statements);
        ASSERT_TRUE(mended);
        EXPECT_TRUE(asked(*mended).empty()) << cure.words;
        EXPECT_EQ(buildStructure(*mended).structure.holds.size(), cure.words == "Hold it too" ? 6u : 5u);
    }
}
