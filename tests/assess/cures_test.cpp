// What findings offer: each change mends what it is offered for.
#include "core/assess/model_checks.hpp"
#include "core/model/stated.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;
using testing::Not;

namespace {

Findings findingsOf(const Model& model)
{
    const auto built = buildStructure(model);
    Findings all = built.findings;
    for (auto& finding : checkStructure(built.structure, massSummary(built.structure), model))
        all.push_back(std::move(finding));
    return all;
}

std::string wordsOfAll(const Findings& findings)
{
    std::string all;
    for (const auto& finding : findings)
        all += oneLine(finding) + "\n";
    return all;
}

/// The finding that says so, which must be there.
Finding thatSays(const Findings& findings, const std::string& what)
{
    for (const auto& finding : findings)
        if (finding.what.find(what) != std::string::npos) return finding;
    ADD_FAILURE() << what << " is not among\n" << wordsOfAll(findings);
    return {};
}

Model mended(const Model& model, const Cure& cure)
{
    const auto changed = stated(model, cure.statements);
    EXPECT_TRUE(changed) << wordsOfAll(changed.findings());
    return changed ? *changed : model;
}

double massOf(const Model& model)
{
    return massSummary(buildStructure(model).structure).mass;
}

SaidModel deckWithMotor(bool inATable)
{
    SaidModel said = steel();
    said.say("plate", {{"name", "Deck"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "6 mm"}})
        .say("hold", {{"where", "edges of Deck"}, {"directions", "all"}});
    if (inATable)
        said.say("points", {{"rows", "far|0.5 m|0.3 m|2 m\nseat|0.5 m|0.3 m|1 mm"}});
    else
        said.say("point", {{"name", "seat"}, {"at", "0.5, 0.3, 0.001 m"}});
    return said.say("mass", {{"mass", "40 kg"}, {"points", "seat"}});
}

} // namespace

TEST(Cures, AMassBesideADeckIsMovedOntoItOrTied)
{
    for (const bool inATable : {true, false}) {
        const Model model = deckWithMotor(inATable).model();
        const Finding beside = thatSays(findingsOf(model), "seat lies beside Deck, 1 mm off");
        ASSERT_EQ(beside.cures.size(), 2u);
        EXPECT_EQ(beside.cures[0].words, "Move seat onto Deck");
        EXPECT_EQ(beside.cures[1].words, "Tie seat to Deck");
        double first = 0.0; // both ways the motor rides on the deck
        for (const auto& cure : beside.cures) {
            const Model better = mended(model, cure);
            EXPECT_THAT(wordsOfAll(findingsOf(better)), Not(HasSubstr("beside Deck")));
            const double own = SaidModel(better).frequencies()[0];
            if (first > 0.0) EXPECT_NEAR(own, first, 0.002 * first);
            first = own;
        }
    }
}

TEST(Cures, AMassBelowADeckThatWasMovedIsBroughtUpToIt)
{
    SaidModel said = deckWithMotor(false);
    said.say("moved", {{"what", "Deck"}, {"step", "0, 0, 3 mm"}});
    const Finding beside = thatSays(findingsOf(said.model()), "seat lies beside Deck, 2 mm off");
    ASSERT_FALSE(beside.cures.empty());
    EXPECT_THAT(wordsOfAll(findingsOf(mended(said.model(), beside.cures[0]))), Not(HasSubstr("beside Deck")));
}

TEST(Cures, AMemberThatEndsBesideAnotherIsTiedToItsEnd)
{
    const auto tee = [](const char* foot, const char* arm = "arm|c|d") {
        SaidModel said = steel();
        said.say("points", {{"rows", std::string("a|0 m|0 m|0 m\nb|1 m|0 m|0 m\nd|1 m|1 m|0 m\nc|") + foot}})
            .say("members", {{"name", "Beam"}, {"rows", "beam|a|b"}, {"section", "tube 60.3x4 mm"}})
            .say("members", {{"name", "Arm"}, {"rows", arm}, {"section", "tube 60.3x4 mm"}})
            .say("hold", {{"where", "a"}, {"directions", "all"}});
        return said.model();
    };
    const Model atEnd = tee("1.003 m|0 m|0 m");
    const Findings findings = findingsOf(atEnd);
    const Finding beside = thatSays(findings, "c lies beside beam, 3 mm off");
    EXPECT_THAT(wordsOfAll(findings), Not(HasSubstr("b lies beside"))) << "one joint is missing, and is said once";
    ASSERT_EQ(beside.cures.size(), 1u);
    const Model joined = mended(atEnd, beside.cures[0]);
    EXPECT_THAT(wordsOfAll(findingsOf(joined)), Not(HasSubstr("beside")));
    const double whole = SaidModel(tee("9 m|9 m|9 m", "arm|b|d")).frequencies()[0];
    EXPECT_NEAR(SaidModel(joined).frequencies()[0], whole, 0.01 * whole);
    // Half way along there is no point to tie it to; its place is said.
    EXPECT_THAT(wordsOfAll(findingsOf(tee("0.5 m|0.01 m|0 m"))),
                HasSubstr("Members join at their points: give it one at 0.5, 0, 0 m and tie c rigidly"));
    EXPECT_THAT(wordsOfAll(findingsOf(tee("0.5 m|0.04 m|0 m"))), Not(HasSubstr("beside"))) << "outside of the tube";
    EXPECT_THAT(wordsOfAll(findingsOf(tee("1 m|0 m|0 m"))), HasSubstr("c lies on beam, and not joined"));
}

TEST(Cures, BodiesThatOverlapAreCutOrJoined)
{
    SaidModel said = steel();
    said.say("solid-box", {{"name", "Hub"}, {"x", "100 mm"}, {"y", "80 mm"}, {"z", "60 mm"}})
        .say("solid-box", {{"name", "Pin"}, {"x", "100 mm"}, {"y", "40 mm"}, {"z", "30 mm"}, {"at", "50, 20, 15 mm"}});
    const Model model = said.model();
    const double both = (0.1 * 0.08 * 0.06 + 0.05 * 0.04 * 0.03) * 8000.0;
    const Finding overlap = thatSays(findingsOf(model), "Pin overlaps Hub");
    ASSERT_EQ(overlap.cures.size(), 3u);
    EXPECT_EQ(overlap.cures[0].words, "Give Hub the part of both");
    EXPECT_EQ(overlap.cures[1].words, "Give Pin the part of both");
    EXPECT_EQ(overlap.cures[2].words, "Make Pin a part of Hub");
    for (const auto& cure : overlap.cures) {
        const Model better = mended(model, cure);
        EXPECT_FALSE(hasError(findingsOf(better))) << cure.words << "\n" << wordsOfAll(findingsOf(better));
        EXPECT_NEAR(massOf(better), both, 1e-4 * both) << cure.words;
    }
}

TEST(Cures, AForgottenFootIsHeldLikeTheOthers)
{
    const auto table = [](const char* held) {
        SaidModel said = steel();
        said.say("frame", {{"bays-x", "2"}, {"bays-y", "1"}, {"storeys", "1"}})
            .say("hold", {{"where", held}, {"directions", "x y z"}});
        return said.model();
    };
    const Model model = table("Frame.0.0.0, Frame.1.0.0, Frame.2.0.0, Frame.0.1.0, Frame.1.1.0");
    const Finding forgotten = thatSays(findingsOf(model), "Frame.2.1.0 is like the held points but is not held");
    ASSERT_EQ(forgotten.cures.size(), 2u);
    EXPECT_EQ(forgotten.cures[0].words, "Hold Frame.2.1.0 too");
    const Model better = mended(model, forgotten.cures[0]);
    EXPECT_THAT(wordsOfAll(findingsOf(better)), Not(HasSubstr("not held")));
    EXPECT_NEAR(SaidModel(better).frequencies()[0], SaidModel(table("feet of Frame")).frequencies()[0], 1e-6);
    EXPECT_TRUE(thatSays(findingsOf(table("feet of Frame except Frame.2.1.0")), "not held").cures.empty())
        << "left out on purpose";
}

TEST(Cures, AForgottenBoltIsHeldLikeTheOthersInSheetAndInABody)
{
    // Four equal holes and a larger one; three are held. The larger one, and a straight side, are none of them.
    SaidModel sheet = steel();
    sheet.say("plate", {{"name", "Foot"}, {"length", "0.3 m"}, {"width", "0.2 m"}, {"thickness", "10 mm"}})
        .say("holes", {{"rows", "0.03 m|0.03 m\n0.27 m|0.03 m\n0.27 m|0.17 m\n0.03 m|0.17 m"},
                       {"diameter", "14 mm"},
                       {"sheet", "Foot"}})
        .say("holes", {{"rows", "0.15 m|0.1 m"}, {"diameter", "60 mm"}, {"sheet", "Foot"}})
        .say("hold",
             {{"where",
               "edge nearest to 0.037 0.03 0 m, edge nearest to 0.263 0.03 0 m, edge nearest to 0.037 0.17 0 m"},
              {"directions", "x y z"}});
    SaidModel body = steel();
    body.say("solid-box", {{"name", "Foot"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "30 mm"}});
    for (const char* at : {"30, 30, -5 mm", "270, 30, -5 mm", "270, 170, -5 mm", "30, 170, -5 mm"}) {
        const std::string name = "Bolt" + std::to_string(body.model().sentences().size());
        body.say("solid-cylinder", {{"name", name}, {"diameter", "14 mm"}, {"length", "40 mm"}, {"at", at}})
            .say("solid-cut", {{"tool", name}, {"body", "Foot"}});
    }
    body.say("hold",
             {{"where", "face nearest to 0.037 0.03 0.015 m, face nearest to 0.263 0.03 0.015 m, face nearest to "
                        "0.037 0.17 0.015 m"},
              {"directions", "x y z"}});
    for (const auto& [said, what] :
         {std::pair(sheet, "like 3 held rims of Foot"), std::pair(body, "like 3 held faces of Foot")}) {
        const Finding forgotten = thatSays(findingsOf(said.model()), what);
        ASSERT_EQ(forgotten.cures.size(), 2u) << wordsOfAll(findingsOf(said.model()));
        const Model better = mended(said.model(), forgotten.cures[0]);
        EXPECT_THAT(wordsOfAll(findingsOf(better)), Not(HasSubstr("not held")));
        EXPECT_EQ(buildStructure(better).structure.holds.size(),
                  buildStructure(said.model()).structure.holds.size() + 1);
    }
}

TEST(Cures, AnEvenlyThinBodyIsTakenAsSheet)
{
    SaidModel said = steel();
    said.say("solid-box", {{"name", "Panel"}, {"x", "600 mm"}, {"y", "400 mm"}, {"z", "5 mm"}});
    const Finding thin = thatSays(findingsOf(said.model()), "Panel is 5 mm thick everywhere");
    ASSERT_EQ(thin.cures.size(), 1u);
    const auto built = buildStructure(mended(said.model(), thin.cures[0]));
    ASSERT_EQ(built.structure.frame.sheets.size(), 1u);
    EXPECT_NEAR(massSummary(built.structure).mass, 0.6 * 0.4 * 0.005 * 8000.0, 1e-3);
}

TEST(Cures, WhatSaysNothingIsSaid)
{
    const auto beam = [](const char* rows) {
        SaidModel said = steel();
        said.say("points", {{"rows", "a|0 m|0 m|0 m\nb|1 m|0 m|0 m\nc|2 m|0 m|0 m"}})
            .say("members", {{"name", "Beam"}, {"rows", rows}, {"section", "tube 60.3x4 mm"}});
        return said;
    };
    EXPECT_THAT(wordsOfAll(findingsOf(beam("x|a|b\ny|b|c\nz|b|a").model())),
                HasSubstr("x, z run between the same points, a and b: stiffness and mass count 2 times"));
    EXPECT_THAT(wordsOfAll(findingsOf(beam("x|a|b\ny|b|c").model())), Not(HasSubstr("same points")));
    EXPECT_THAT(wordsOfAll(findingsOf(beam("x|a|b\ny|b|c").say("rigid", {{"points", "b"}, {"to", "b"}}).model())),
                HasSubstr("b is tied to itself"));
    EXPECT_THAT(wordsOfAll(findingsOf(beam("x|a|b\ny|b|c").say("rigid", {{"points", "b, c"}, {"to", "b"}}).model())),
                Not(HasSubstr("tied to itself")));
    SaidModel named = steel();
    named.say("point", {{"name", "a,b"}, {"at", "0, 0, 0 m"}}).say("hold", {{"where", "a,b"}, {"directions", "all"}});
    EXPECT_THAT(wordsOfAll(findingsOf(named.model())), HasSubstr("A name with a comma stands in quotes: '\"a,b\"'"));
    SaidModel cut = steel();
    cut.say("solid-box", {{"name", "Block"}, {"x", "100 mm"}, {"y", "80 mm"}, {"z", "60 mm"}})
        .say("solid-cylinder",
             {{"name", "Drill"}, {"diameter", "10 mm"}, {"length", "100 mm"}, {"at", "500, 40, -10 mm"}})
        .say("solid-cut", {{"tool", "Drill"}, {"body", "Block"}});
    EXPECT_THAT(wordsOfAll(findingsOf(cut.model())), HasSubstr("cut out of Block does not meet it"));
}
