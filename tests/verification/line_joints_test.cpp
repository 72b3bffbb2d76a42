// Members and edges on the surfaces of other parts, and what a mount and a bolt are made of.
#include "core/assess/model_checks.hpp"
#include "core/model/stated.hpp"
#include "core/statement/bolt_stiffness.hpp"
#include "tests/rigid_balance.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;
using testing::Not;

namespace {

const Words foot{{"where", "faces at z = 0 m of Block"}, {"directions", "x y z"}};

/// A post of 40 by 60 mm and half a metre on the middle of a block, which nothing holds.
SaidModel postOnBlock(const std::string& from = "0.2 m | 0.2 m | 0.2 m",
                      const std::string& to = "0.2 m | 0.2 m | 0.7 m")
{
    SaidModel said = steel();
    said.say("solid-box", {{"name", "Block"}, {"x", "0.4 m"}, {"y", "0.4 m"}, {"z", "0.2 m"}})
        .say("points", {{"rows", "a | " + from + "\nb | " + to}})
        .say("members", {{"name", "Post"}, {"rows", "Post | a | b"}, {"section", "rectangle 40x60 mm"}});
    return said;
}

} // namespace

TEST(LineJoint, APostWeldedOnABlockIsThePostThatIsOneBodyWithIt)
{
    SaidModel whole = steel();
    whole.say("solid-box", {{"name", "Block"}, {"x", "0.4 m"}, {"y", "0.4 m"}, {"z", "0.2 m"}})
        .say("hold", foot)
        .say("solid-box",
             {{"name", "Post"}, {"x", "40 mm"}, {"y", "60 mm"}, {"z", "500 mm"}, {"at", "180, 170, 200 mm"}})
        .say("lowest", {{"count", "6"}});
    const auto body = whole.frequencies();
    const auto joined = postOnBlock()
                            .say("hold", foot)
                            .say("join", {{"what", "Post"}, {"other", "Block"}})
                            .say("lowest", {{"count", "6"}})
                            .frequencies();
    ASSERT_GE(body.size(), 6u);
    ASSERT_GE(joined.size(), 6u);
    for (std::size_t mode = 0; mode < 6; ++mode)
        EXPECT_NEAR(joined[mode] / body[mode], 1.0, 1e-2) << mode;
}

TEST(LineJoint, NothingStrainsItWhenTheWholeMoves)
{
    // Upright and leaning, across a gap, two in one place, on sheet and on a body, lying beside either.
    balanced(postOnBlock().say("join", {{"what", "Post"}, {"other", "Block"}}), "a post");
    balanced(postOnBlock("0.2 m | 0.2 m | 0.203 m", "0.3 m | 0.2 m | 0.5 m")
                 .say("join", {{"what", "Post"}, {"other", "Block"}}),
             "a leaning post across a gap");
    balanced(postOnBlock().say("join", {{"what", "Post"}, {"other", "Block"}, {"turning", "hinged"}}), "a hinged post");
    SaidModel sheet = steel();
    sheet.say("plate", {{"name", "Deck"}, {"length", "0.8 m"}, {"width", "0.6 m"}, {"thickness", "10 mm"}})
        .say("points", {{"rows", "a | 0.4 m | 0.3 m | 0 m\nb | 0.6 m | 0.3 m | 0.4 m\nc | 0.2 m | 0.3 m | 0.4 m\n"
                                 "d | 0.1 m | 0.1 m | 0.04 m\ne | 0.7 m | 0.2 m | 0.04 m"}})
        .say("members", {{"name", "Legs"}, {"rows", "left | a | b\nright | a | c"}, {"section", "tube 60x4 mm"}})
        .say("members", {{"name", "Rail"}, {"rows", "Rail | d | e"}, {"section", "angle 50x50x5 mm"}})
        .say("join", {{"what", "Legs"}, {"other", "Deck"}})
        .say("join", {{"what", "Rail"}, {"other", "Deck"}});
    balanced(sheet, "a brace and a rail on sheet");
    SaidModel body = postOnBlock("0.1 m | 0.1 m | 0.23 m", "0.3 m | 0.3 m | 0.23 m");
    balanced(body.say("join", {{"what", "Post"}, {"other", "Block"}}), "a rail on a body");
}

TEST(LineJoint, AMemberThatGoesThroughIsTheTwoThatStandOnEitherSide)
{
    const auto deck = [](SaidModel& said) -> SaidModel& {
        return said
            .say("plate",
                 {{"name", "Deck"}, {"length", "0.8 m"}, {"width", "0.6 m"}, {"thickness", "10 mm"}, {"size", "15 mm"}})
            .say("hold", {{"where", "edges of Deck"}, {"directions", "all"}});
    };
    SaidModel through = steel(), halves = steel();
    deck(through)
        .say("points", {{"rows", "low | 0.3 m | 0.25 m | -0.3 m\nhigh | 0.3 m | 0.25 m | 0.6 m"}})
        .say("members",
             {{"name", "Post"}, {"rows", "Post | low | high"}, {"section", "rectangle 40x60 mm"}, {"elements", "6"}});
    deck(halves)
        .say("points",
             {{"rows", "low | 0.3 m | 0.25 m | -0.3 m\nhigh | 0.3 m | 0.25 m | 0.6 m\non | 0.3 m | 0.25 m | 0 m"}})
        .say("members",
             {{"name", "Lower"}, {"rows", "Lower | low | on"}, {"section", "rectangle 40x60 mm"}, {"elements", "2"}})
        .say("members",
             {{"name", "Upper"}, {"rows", "Upper | on | high"}, {"section", "rectangle 40x60 mm"}, {"elements", "4"}})
        .say("join", {{"what", "Lower, Upper"}, {"other", "Deck"}})
        .say("lowest", {{"count", "6"}});

    // Not joined it is pointed out, and the click that is offered joins it.
    const auto findings = [](const SaidModel& said) {
        const Structure structure = said.structure();
        return checkStructure(structure, massSummary(structure), said.model());
    };
    const auto passing = [&](const SaidModel& said) -> std::optional<Finding> {
        for (const auto& finding : findings(said))
            if (finding.what.find("Post goes through Deck at 0.3, 0.25, 0 m") != std::string::npos) return finding;
        return std::nullopt;
    };
    const auto found = passing(through);
    ASSERT_TRUE(found);
    ASSERT_EQ(found->cures.size(), 1u);
    SaidModel joined(*stated(through.model(), found->cures[0].statements));
    EXPECT_FALSE(passing(joined));
    const auto one = joined.say("lowest", {{"count", "6"}}).frequencies(), two = halves.frequencies();
    ASSERT_EQ(one.size(), two.size());
    for (std::size_t mode = 0; mode < one.size(); ++mode)
        EXPECT_NEAR(one[mode] / two[mode], 1.0, 2e-3) << mode; // meshes differ by the place that one of them states
    through.say("holes", {{"sheet", "Deck"}, {"diameter", "150 mm"}, {"rows", "0.3 m | 0.25 m"}});
    EXPECT_FALSE(passing(through)) << "it goes through a hole";

    // A pile in a block follows it where it goes in and where it comes out: held there, its free ends are shorter.
    balanced(postOnBlock("0.2 m | 0.2 m | -0.4 m", "0.25 m | 0.2 m | 0.7 m")
                 .say("join", {{"what", "Post"}, {"other", "Block"}}),
             "a pile through a block");
    SaidModel pile = postOnBlock("0.2 m | 0.2 m | -0.5 m", "0.2 m | 0.2 m | 0.7 m");
    pile.say("hold", {{"where", "faces of Block"}, {"directions", "x y z"}})
        .say("join", {{"what", "Post"}, {"other", "Block"}})
        .say("lowest", {{"count", "4"}});
    // Cantilevers of 0.5 m either way from the faces (Blevins 1979), with their shear.
    const double cantilever = 1.875104 * 1.875104 / (2.0 * pi * 0.25) * std::sqrt(E * 0.04 * 0.04 / 12.0 / rho);
    const auto ends = pile.frequencies();
    ASSERT_GE(ends.size(), 2u);
    EXPECT_NEAR(ends[0] / cantilever, 1.0, 0.03);
    EXPECT_NEAR(ends[1] / cantilever, 1.0, 0.03);
}

TEST(LineJoint, AStiffenerJoinedBesideASheetIsTheOneThatRunsAtAnOffset)
{
    // Points on the sheet and an offset, and points beside it that are joined: clamped along both short sides.
    const auto deck = [] {
        SaidModel said = steel();
        said.say("plate", {{"name", "Deck"}, {"length", "1.2 m"}, {"width", "0.5 m"}, {"thickness", "8 mm"}})
            .say("hold", {{"where", "edges at x = 0 m of Deck, edges at x = 1.2 m of Deck"}, {"directions", "all"}});
        return said;
    };
    const auto stiffener = [](SaidModel said, const std::string& height) {
        said.say("points", {{"rows", "a | 0 m | 0.25 m | " + height + "\nb | 1.2 m | 0.25 m | " + height}})
            .say("members", {{"name", "Bar"}, {"rows", "Bar | a | b"}, {"section", "rectangle 60x8 mm"}});
        return said;
    };
    const auto offset = stiffener(deck(), "0 m")
                            .say("offset", {{"members", "Bar"}, {"offset", "0, 0, 34 mm"}})
                            .say("lowest", {{"count", "5"}})
                            .frequencies();
    const auto joined = stiffener(deck(), "34 mm")
                            .say("join", {{"what", "Bar"}, {"other", "Deck"}})
                            .say("lowest", {{"count", "5"}})
                            .frequencies();
    const auto bare = deck().say("lowest", {{"count", "5"}}).frequencies();
    ASSERT_GE(offset.size(), 5u);
    ASSERT_GE(joined.size(), 5u);
    for (std::size_t mode = 0; mode < 5; ++mode)
        EXPECT_NEAR(joined[mode] / offset[mode], 1.0, 5e-3) << mode;
    EXPECT_GT(joined[0] / bare[0], 1.3);
}

TEST(LineJoint, SaysOnWhatItStandsAndWhatIsWrong)
{
    const SaidModel joined = postOnBlock().say("join", {{"what", "Post"}, {"other", "Block"}});
    const auto said = [](const SaidModel& model) {
        const Structure structure = model.structure();
        std::string all;
        for (const auto& finding :
             kinematicsOf(structure, meshOf(structure, proposeSplits(structure, 0.0), proposeSizes(structure, 0.0)))
                 .motions.problems)
            all += finding.what + "\n";
        return all;
    };
    EXPECT_THAT(said(joined), HasSubstr("an end of members stands on Block by a section of 24 cm2"));
    EXPECT_THAT(said(postOnBlock("0.4 m | 0.2 m | 0.2 m", "0.4 m | 0.2 m | 0.7 m")
                         .say("join", {{"what", "Post"}, {"other", "Block"}})),
                HasSubstr("50 % of the section at 0.4, 0.2, 0.2 m stands on Block"));
    EXPECT_THAT(said(postOnBlock("0.2 m | 0.2 m | 0.25 m")
                         .say("join", {{"what", "Post"}, {"other", "Block"}, {"reach", "10 mm"}})),
                HasSubstr("nothing of the two sides faces each other within 10 mm"));
    // One that ends above the other's foot, and one that lies askew on what it should stand on.
    SaidModel two = postOnBlock();
    two.say("points", {{"rows", "c | 0.3 m | 0.3 m | 0.202 m\nd | 0.3 m | 0.3 m | 0.6 m"}})
        .say("members", {{"name", "Stub"}, {"rows", "Stub | c | d"}, {"section", "round 30 mm"}});
    SaidModel within = two;
    EXPECT_THAT(said(two.say("join", {{"what", "Post, Stub"}, {"other", "Block"}})),
                HasSubstr("Stub is farther from Block than others and is not joined"));
    EXPECT_THAT(said(within.say("join", {{"what", "Post, Stub"}, {"other", "Block"}, {"reach", "3 mm"}})),
                testing::AllOf(HasSubstr("2 ends of members stand on Block"), Not(HasSubstr("is not joined"))));
    EXPECT_THAT(said(postOnBlock("0.2 m | 0.2 m | 0.2 m", "0.38 m | 0.38 m | 0.3 m")
                         .say("join", {{"what", "Post"}, {"other", "Block"}})),
                HasSubstr("no more than 0 % of the section"));
    EXPECT_THAT(postOnBlock().say("join", {{"what", "Post, faces of Block"}, {"other", "Block"}}).problems(),
                HasSubstr("are named together"));
    // What is hinged for want of turns offers to be joined, and the offer holds.
    SaidModel hinged = postOnBlock();
    hinged.say("hold", foot).say("hold", {{"where", "b"}, {"directions", "all"}}).say("lowest", {{"count", "1"}});
    const auto solution = hinged.solved();
    const auto found = std::find_if(solution->findings.begin(), solution->findings.end(), [](const Finding& finding) {
        return finding.what.find("Post is hinged to Block") != std::string::npos;
    });
    ASSERT_NE(found, solution->findings.end());
    ASSERT_EQ(found->cures.size(), 1u);
    const Statement& cure = found->cures[0].statements.at(0);
    EXPECT_EQ(cure.kind, "join");
    EXPECT_GT(hinged.say("join", {cure.words.begin(), cure.words.end()}).frequencies().at(0),
              1.2 * solution->modes.at(0).frequency);
}

TEST(LineJoint, ASprungHingeAlongAnEdgeTurnsAsByHandAndASlidingOneSlides)
{
    // A stiff lid on a hinge of k per length: w2 = k b / (m b a2 / 3).
    const auto lid = [](const char* turning) {
        SaidModel said = steel();
        said.say("plate", {{"name", "Lid"},
                           {"length", "0.3 m"},
                           {"width", "0.5 m"},
                           {"at", "1, 0, 0 mm"},
                           {"thickness", "20 mm"}})
            .say("plate", {{"name", "Wall"},
                           {"length", "0.6 m"},
                           {"width", "0.2 m"},
                           {"at", "0, -50, -100 mm"},
                           {"along", "0, 1, 0"},
                           {"towards", "0, 0, 1"},
                           {"thickness", "10 mm"}})
            .say("hold", {{"where", "Wall"}, {"directions", "all"}});
        Words words{{"what", "edges at x = 0.001 m of Lid"}, {"other", "Wall"}, {"turning", turning}};
        if (std::string(turning).find("hinged") == 0) words["spring"] = "2 kN/rad";
        return said.say("join", words).say("lowest", {{"count", "2"}});
    };
    const double byHand = std::sqrt(3.0 * 2000.0 / (rho * 0.02 * 0.3 * 0.3 * 0.3)) / (2.0 * pi);
    EXPECT_NEAR(lid("hinged").frequencies().at(0) / byHand, 1.0, 5e-3);
    // One that slides too has nothing to hold it along the edge; one that only slides no more than that.
    const auto loose = [](const SaidModel& said) {
        const auto solution = said.solvedUnjudged();
        long count = 0;
        for (const auto& mode : solution->modes)
            count += mode.mechanism || mode.rigid;
        return count;
    };
    EXPECT_EQ(loose(lid("hinged")), 0);
    EXPECT_EQ(loose(lid("hinged and sliding along it")), 1);
    EXPECT_EQ(loose(lid("sliding along it")), 1);
    SaidModel wrong = lid("turning with it");
    wrong.say("join", {{"what", "edges of Lid"}, {"other", "Wall"}, {"spring", "2 kN/rad"}});
    EXPECT_THAT(wrong.problems(), HasSubstr("a turning stiffness is that of a hinge along an edge"));
}

TEST(LineJoint, AStiffnessInAllIsTheOnePerAreaTimesTheArea)
{
    const auto block = [](const char* across, const char* along) {
        SaidModel said = steel();
        said.say("solid-box", {{"name", "Base"}, {"x", "0.4 m"}, {"y", "0.3 m"}, {"z", "0.1 m"}})
            .say("solid-box",
                 {{"name", "Block"}, {"x", "0.2 m"}, {"y", "0.1 m"}, {"z", "0.1 m"}, {"at", "60, 70, 105 mm"}})
            .say("hold", {{"where", "Base"}, {"directions", "x y z"}})
            .say("layer", {{"what", "Block"}, {"other", "Base"}, {"across", across}, {"along", along}})
            .say("lowest", {{"count", "6"}});
        return said;
    };
    const auto spread = block("0.5 N/mm3", "0.2 N/mm3").frequencies(),
               inAll = block("10 kN/mm", "4 kN/mm").frequencies();
    ASSERT_EQ(spread.size(), 6u);
    ASSERT_EQ(inAll.size(), 6u);
    for (std::size_t mode = 0; mode < 6; ++mode)
        EXPECT_NEAR(inAll[mode] / spread[mode], 1.0, 1e-9) << mode;
    EXPECT_THAT(block("10 kN/mm", "0.2 N/mm3").problems(), HasSubstr("one stiffness is that of all of it"));
}

namespace {

/// A body of 20 kg and its inertia on what is said between it and a held point beside it.
SaidModel onAMount(const std::string& kind, const Words& words)
{
    SaidModel said = steel();
    said.say("points", {{"rows", "a | 0 m | 0 m | 0 m\nb | 0 m | 0 m | 0 m\nfar | 1 m | 0 m | 0 m"}})
        .say("hold", {{"where", "a"}, {"directions", "all"}})
        .say("mass", {{"mass", "20 kg"}, {"points", "b"}, {"inertia", "0.3, 0.5, 0.4 kg m2"}})
        .say("lowest", {{"count", "6"}});
    Words all = words;
    all.insert({{"from", "a"}, {"to", "b"}});
    return said.say(kind, all);
}

} // namespace

TEST(LineJoint, AMountOfSixBySixIsItsTable)
{
    const auto plain = onAMount("spring", {{"kx", "100 N/mm"},
                                           {"ky", "80 N/mm"},
                                           {"kz", "300 N/mm"},
                                           {"krx", "2 kN m/rad"},
                                           {"kry", "3 kN m/rad"},
                                           {"krz", "4 kN m/rad"}})
                           .frequencies();
    const auto table = [](const std::string& coupled, const std::string& back) {
        return onAMount("mount",
                        {{"rows", "100 N/mm | 0 | 0 | 0 | " + coupled +
                                      " | 0\n0 | 80 N/mm | 0 | 0 | 0 | 0\n0 | 0 | 300 N/mm | 0 | 0 | 0\n"
                                      "0 | 0 | 0 | 2 kN m/rad | 0 | 0\n" +
                                      back + " | 0 | 0 | 0 | 3 kN m/rad | 0\n0 | 0 | 0 | 0 | 0 | 4 kN m/rad"}});
    };
    const auto uncoupled = table("0", "0").frequencies();
    ASSERT_EQ(plain.size(), 6u);
    ASSERT_EQ(uncoupled.size(), 6u);
    for (std::size_t mode = 0; mode < 6; ++mode)
        EXPECT_NEAR(uncoupled[mode] / plain[mode], 1.0, 1e-12) << mode;
    // Coupled, the two by two of x and ry: (k - w2 m)(kr - w2 J) = c2.
    const double k = 1e5, kr = 3e3, c = 5e3, m = 20.0, inertia = 0.5;
    const double sum = k / m + kr / inertia, product = (k * kr - c * c) / (m * inertia);
    const auto coupled = table("5 kN/rad", "5 kN").frequencies();
    for (const double sign : {-1.0, 1.0}) {
        const double hertz = std::sqrt((sum + sign * std::sqrt(sum * sum - 4.0 * product)) / 2.0) / (2.0 * pi);
        EXPECT_TRUE(std::any_of(coupled.begin(), coupled.end(), [&](double found) {
            return std::abs(found / hertz - 1.0) < 1e-9;
        })) << hertz;
    }
    EXPECT_THAT(table("5 kN/rad", "0").problems(), HasSubstr("not symmetric: row 5, column 1 and row 1, column 5"));
    EXPECT_THAT(table("50 kN/rad", "50 kN/rad").problems(), HasSubstr("its stiffness is negative"));
    EXPECT_THAT(table("5 kN/mm", "5 kN/mm").problems(), HasSubstr("row 1, column 5: 5 kN/mm is not meant there"));
}

TEST(LineJoint, ABoltIsAsStiffAsItsFormulaByHand)
{
    // M12 through 30 mm of steel: cones 0.5774 pi E d / (2 ln(5 (0.5774 l + 0.5 d) / (0.5774 l + 2.5 d))), E 210 GPa.
    const auto steelOfLibrary = libraryMaterial("structural steel");
    ASSERT_TRUE(steelOfLibrary);
    const double modulus = steelOfLibrary->modulus;
    const BoltStiffness bolt = stiffnessOfBolt(0.012, 0.03, *steelOfLibrary, *steelOfLibrary);
    const double cones = 0.57735 * pi * modulus * 0.012 / (2.0 * std::log(5.0 * 0.0233205 / 0.0473205));
    const double ofBolt = modulus * 84.82e-6 / 0.0408; // the stress area of M12 is 84.3 mm2
    EXPECT_NEAR(bolt.axial / (cones + ofBolt), 1.0, 1e-4);
    EXPECT_NEAR(bolt.shear / (cones / (2.0 * (1.0 + steelOfLibrary->poisson))), 1.0, 1e-4);
    // A ring of the same stiffness along itself: outer diameter from its area.
    const double outer = std::sqrt(4.0 * cones * 0.03 / modulus / pi + 0.012 * 0.012);
    EXPECT_NEAR(bolt.tilting / (modulus * pi * std::pow(outer, 4) / 64.0 / 0.03), 1.0, 1e-4);
    // Clear of the rest, in a model: 20 kg bounce along the bolt.
    const auto frequencies =
        onAMount("bolt", {{"size", "12 mm"}, {"grip", "30 mm"}, {"axis", "0, 0, 1"}}).frequencies();
    EXPECT_TRUE(std::any_of(frequencies.begin(), frequencies.end(), [&](double hertz) {
        return std::abs(hertz / (std::sqrt(bolt.axial / 20.0) / (2.0 * pi)) - 1.0) < 1e-9;
    }));
    EXPECT_THAT(onAMount("bolt", {{"size", "12 mm"}, {"grip", "30 mm"}}).problems(), HasSubstr("the bolt has no axis"));
}
