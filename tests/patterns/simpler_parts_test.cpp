// Solids without their small features, and thin ones as sheet: volumes and areas against closed forms.
#include "core/assess/model_checks.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/shapes/mid_face.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

double volume(const SaidModel& said)
{
    double sum = 0.0;
    for (const auto& body : said.structure().frame.faces->solids)
        sum += body.volume;
    return sum;
}

std::string allFindings(const SaidModel& said)
{
    std::string text;
    for (const auto& finding : said.findings())
        text += oneLine(finding) + "\n";
    return text;
}

/// 100 x 60 x 20 mm with four upright edges rounded by 2 mm, a bore of 4 mm and one of 12 mm through it, a blind one of
/// 5 mm, and a mark 3 x 3 x 1 mm in its upper face.
SaidModel block()
{
    return steel()
        .say("extrusion", {{"name", "Block"},
                           {"rows", "0 m|0 m|2 mm\n100 mm|0 m|2 mm\n100 mm|60 mm|2 mm\n0 m|60 mm|2 mm"},
                           {"length", "20 mm"}})
        .say("solid-cylinder", {{"name", "A"}, {"diameter", "4 mm"}, {"length", "60 mm"}, {"at", "20, 20, -20 mm"}})
        .say("solid-cylinder", {{"name", "B"}, {"diameter", "12 mm"}, {"length", "60 mm"}, {"at", "60, 30, -20 mm"}})
        .say("solid-cylinder", {{"name", "C"}, {"diameter", "5 mm"}, {"length", "60 mm"}, {"at", "80, 20, 10 mm"}})
        .say("solid-box", {{"name", "D"}, {"x", "3 mm"}, {"y", "3 mm"}, {"z", "3 mm"}, {"at", "40, 40, 19 mm"}})
        .say("solid-cut", {{"tool", "A, B, C, D"}, {"body", "Block"}});
}
constexpr double box = 0.1 * 0.06 * 0.02, rounds = (4.0 - pi) * 4e-6 * 0.02, large = pi / 4 * 144e-6 * 0.02,
                 through = pi / 4 * 16e-6 * 0.02, blind = pi / 4 * 25e-6 * 0.01, mark = 9e-9;

double bent(double inner, double t) ///< area of a round corner's section
{
    return pi / 4 * (std::pow(inner + t, 2) - inner * inner);
}

/// An angle of legs 60 and 40 mm outside, 3 mm thick, 200 mm long, with a bend inside of 5 mm or a sharp one.
SaidModel angle(bool round)
{
    return steel().say("extrusion",
                       {{"name", "Angle"},
                        {"rows", round ? "0 m|0 m|8 mm\n60 mm|0 m\n60 mm|3 mm\n3 mm|3 mm|5 mm\n3 mm|40 mm\n0 m|40 mm"
                                       : "0 m|0 m\n60 mm|0 m\n60 mm|3 mm\n3 mm|3 mm\n3 mm|40 mm\n0 m|40 mm"},
                        {"length", "200 mm"}});
}

} // namespace

TEST(SmallFeatures, AreClosedOverListedAndComeBack)
{
    ASSERT_NEAR(volume(block()), box - rounds - large - through - blind - mark, 1e-12);
    auto said = block();
    said.say("small-left-out", {{"solids", "Block"}, {"size", "6 mm"}});
    EXPECT_EQ(said.problems(), "");
    EXPECT_NEAR(volume(said), box - large, 1e-12);
    const std::string text = allFindings(said);
    EXPECT_THAT(text, HasSubstr("4 rounds of 2 mm"));
    EXPECT_THAT(text, HasSubstr("2 holes of 4 to 5 mm"));
    EXPECT_THAT(text, HasSubstr("1 mark of 4.36 mm")); // the diagonal of its box
    for (const auto& [what, gone] : {std::pair{"rounds", rounds}, {"holes", through + blind}, {"marks", mark}}) {
        auto some = block();
        some.say("small-left-out", {{"solids", "Block"}, {"size", "6 mm"}, {"what", what}});
        EXPECT_NEAR(volume(some), volume(block()) + gone, 1e-12) << what;
    }
    auto few = block();
    few.say("small-left-out", {{"solids", "Block"}, {"size", "4.5 mm"}, {"keep", "20 20 10 mm; 0 0 10 mm"}});
    EXPECT_NEAR(volume(few), box - rounds / 4 - large - through - blind, 1e-12) << "the one of 5 mm is too large";
}

TEST(SmallFeatures, WhatCannotBeClosedOverStaysAndIsNamed)
{
    auto said = steel(); // a bar whose ends are half rounds: its sides never meet
    said.say("extrusion", {{"name", "Link"},
                           {"rows", "0 m|0 m|0 m|0 m\n80 mm|0 m|0 m|10 mm\n80 mm|20 mm|0 m|0 m\n0 m|20 mm|0 m|10 mm"},
                           {"length", "10 mm"}});
    const double before = volume(said);
    said.say("small-left-out", {{"solids", "Link"}, {"size", "15 mm"}});
    EXPECT_NEAR(volume(said), before, 1e-12);
    EXPECT_THAT(said.problems(), HasSubstr("still on Link"));
    auto none = block();
    none.say("small-left-out", {{"solids", "Block"}, {"size", "1 mm"}});
    EXPECT_THAT(allFindings(none), HasSubstr("Block has no rounds, holes or marks smaller than 1 mm"));
    auto wrong = block();
    wrong.say("small-left-out", {{"solids", "Block"}, {"keep", "somewhere"}});
    EXPECT_THAT(wrong.problems(), HasSubstr("\"somewhere\" is no place"));
}

TEST(MidFace, LiesHalfWayAndWeighsWhatTheSolidDoes)
{
    struct Case {
        std::string name;
        SaidModel said;
        double thickness, area;
    };
    auto plate = steel();
    plate.say("solid-box", {{"name", "P"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "4 mm"}})
        .say("solid-cylinder",
             {{"name", "Bore"}, {"diameter", "50 mm"}, {"length", "20 mm"}, {"at", "100, 100, -10 mm"}})
        .say("solid-cut", {{"tool", "Bore"}, {"body", "P"}});
    auto tube = steel();
    tube.say("solid-cylinder", {{"name", "T"}, {"diameter", "100 mm"}, {"inner", "94 mm"}, {"length", "0.3 m"}});
    for (const auto& [name, said, thickness, area] :
         {Case{"P", plate, 0.004, 0.06 - pi / 4 * 0.0025}, Case{"T", tube, 0.003, pi * 0.097 * 0.3},
          Case{"Angle", angle(true), 0.003, (0.052 + 0.032 + bent(0.005, 0.003) / 0.003) * 0.2},
          Case{"Angle", angle(false), 0.003, (0.0585 + 0.0385) * 0.2}}) {
        EXPECT_NEAR(evenThinness(*said.structure().frame.solids[0].shape).thickness, thickness, 1e-7) << name;
        auto sheet = said;
        sheet.say("mid-face", {{"solid", name}});
        EXPECT_EQ(sheet.problems(), "") << name;
        const auto structure = sheet.structure();
        ASSERT_EQ(structure.frame.sheets.size(), 1u) << name;
        EXPECT_NEAR(structure.frame.sheets[0].thickness, thickness, 1e-7);
        double found = 0.0;
        for (const auto& face : structure.frame.faces->faces)
            found += face.area;
        EXPECT_NEAR(found, area, 1e-6 * area) << name;
        EXPECT_NEAR(massSummary(structure).mass, massSummary(said.structure()).mass,
                    0.005 * massSummary(structure).mass);
    }
}

TEST(MidFace, TheBentSheetHasTheSolidsFrequencies)
{
    auto solid = angle(true), sheet = angle(true);
    sheet.say("mid-face", {{"solid", "Angle"}, {"size", "6 mm"}});
    sheet.say("hold", {{"where", "edges at z = 0 m of Angle"}, {"directions", "all"}});
    solid.say("hold", {{"where", "faces at z = 0 m of Angle"}, {"directions", "all"}});
    for (auto* said : {&solid, &sheet})
        said->say("lowest", {{"count", "6"}});
    const auto of = solid.frequencies(), as = sheet.frequencies();
    for (std::size_t at = 0; at < 6; ++at)
        EXPECT_NEAR(as[at] / of[at], 1.0, 0.02) << at;
}

TEST(MidFace, IsOfferedOnlyWhereItIsPlain)
{
    const auto offers = [](const SaidModel& said) {
        const auto structure = said.structure();
        std::string text;
        for (const auto& finding : checkStructure(structure, massSummary(structure)))
            text += oneLine(finding) + "\n";
        return text.find("as sheet along its mid-face") != std::string::npos;
    };
    EXPECT_TRUE(offers(angle(true)));
    auto tee = steel(); // three sides
    tee.say("extrusion", {{"name", "X"},
                          {"rows", "0 m|0 m\n60 mm|0 m\n60 mm|3 mm\n31.5 mm|3 mm\n31.5 mm|40 mm\n28.5 mm|40 mm\n28.5 "
                                   "mm|3 mm\n0 m|3 mm"},
                          {"length", "200 mm"}});
    auto pocket = steel(); // 2 mm here, 4 mm there
    pocket.say("solid-box", {{"name", "X"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "4 mm"}})
        .say("solid-box", {{"name", "Room"}, {"x", "0.1 m"}, {"y", "0.1 m"}, {"z", "4 mm"}, {"at", "100, 50, 2 mm"}})
        .say("solid-cut", {{"tool", "Room"}, {"body", "X"}});
    auto cube = steel();
    cube.say("solid-box", {{"name", "X"}, {"x", "0.1 m"}, {"y", "0.1 m"}, {"z", "0.08 m"}});
    for (auto* said : {&tee, &pocket, &cube}) {
        EXPECT_FALSE(offers(*said));
        said->say("mid-face", {{"solid", "X"}});
        EXPECT_THAT(said->problems(), HasSubstr("X cannot be taken as sheet: "));
        EXPECT_EQ(said->structure().frame.sheets.size(), 0u) << "it stays a solid";
    }
}

TEST(LaidAgainst, TheTwoFacesMeetAndTheBodiesAreOne)
{
    auto said = steel();
    said.say("solid-box", {{"name", "Block"}, {"x", "0.2 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
        .say("solid-box", {{"name", "Foot"},
                           {"x", "0.06 m"},
                           {"y", "0.04 m"},
                           {"z", "0.3 m"},
                           {"at", "1, 1, 1 m"},
                           {"along", "1, 1, 0"}})
        .say("laid-against",
             {{"what", "Foot"}, {"other", "Block"}, {"own", "1.00707, 1.03536, 1 m"}, {"place", "0.05, 0.05, 0.2 m"}});
    EXPECT_EQ(said.problems(), "");
    const auto structure = said.structure();
    EXPECT_EQ(structure.frame.faces->solids.size(), 2u);
    bool shared = false;
    for (const auto& face : structure.frame.faces->faces)
        if (face.solids.size() == 2) {
            shared = true;
            ASSERT_TRUE(face.plane);
            EXPECT_NEAR(face.plane->place.z(), 0.1, 1e-9);
        }
    EXPECT_TRUE(shared) << "they touch";
    const auto mass = massSummary(structure);
    EXPECT_NEAR(mass.centre.z(), (0.004 * 0.05 + 0.00072 * 0.25) / 0.00472, 1e-6);
    auto wrong = said;
    wrong.say("solid-cylinder", {{"name", "Shaft"}, {"diameter", "0.1 m"}, {"length", "0.4 m"}, {"at", "3, 0, 0 m"}})
        .say("laid-against",
             {{"what", "Foot"}, {"other", "Shaft"}, {"own", "0.05, 0.05, 0.4 m"}, {"place", "3.05, 0, 0.2 m"}});
    EXPECT_THAT(wrong.problems(), HasSubstr("Shaft has no flat face there"));
}

TEST(NarrowGaps, HaveTwoElementsAcross)
{
    auto said = steel();
    said.say("plate",
             {{"name", "P"}, {"length", "0.6 m"}, {"width", "0.4 m"}, {"thickness", "4 mm"}, {"size", "80 mm"}})
        .say("holes", {{"diameter", "340 mm"}, {"sheet", "P"}, {"rows", "0.2 m|0.2 m"}}); // 30 mm to three sides
    const auto structure = said.structure();
    const auto mesh = meshOf(structure, {}, {{0.08}});
    double inGap = 0.0, far = 0.0;
    for (const auto& shell : mesh.shells)
        for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
            const auto &a = mesh.nodes[std::size_t(shell.nodes[corner])].place,
                       &b = mesh.nodes[std::size_t(shell.nodes[(corner + 1) % shell.corners()])].place;
            const Eigen::Vector3d middle = (a + b) / 2.0;
            if ((middle - Eigen::Vector3d(0.2, 0.015, 0)).norm() < 0.03) inGap = std::max(inGap, (a - b).norm());
            if (middle.x() > 0.53) far = std::max(far, (a - b).norm());
        }
    EXPECT_LT(inGap, 0.04);
    bool between = false; // a node neither on the hole nor on the rim
    for (const auto& node : mesh.nodes)
        between =
            between || (std::abs(node.place.x() - 0.2) < 0.02 && node.place.y() > 0.005 && node.place.y() < 0.025);
    EXPECT_TRUE(between) << "two across 30 mm";
    EXPECT_GT(far, 0.05);
}

TEST(ManyFaces, ABodyOfTwoThousandIsMeshedAndLookedThroughWithoutEnd)
{
    std::string rows;
    constexpr int teeth = 2000;
    for (int at = 0; at < teeth; ++at) {
        const double turn = 2.0 * pi * at / teeth, radius = at % 2 ? 0.304 : 0.3;
        rows += (at ? "\n" : "") + metres(radius * std::cos(turn)) + "|" + metres(radius * std::sin(turn));
    }
    auto said = steel();
    said.say("extrusion", {{"name", "Gear"}, {"rows", rows}, {"length", "40 mm"}});
    const auto structure = said.structure();
    ASSERT_EQ(structure.frame.faces->solids[0].faces.size(), std::size_t(teeth + 2));
    const double area = 0.5 * teeth * 0.3 * 0.304 * std::sin(2.0 * pi / teeth);
    EXPECT_NEAR(massSummary(structure).mass, 8000.0 * 0.04 * area, 1e-6 * 8000.0 * 0.04 * area);
    EXPECT_EQ(evenThinness(*structure.frame.solids[0].shape).thickness, 0.0);
}
