// Solids against closed forms and against members and sheets of the same body: Timoshenko's bar, Lamb's sphere (Proc.
// London Math. Soc. 1882), volumes of solid geometry.
#include "core/base/number_text.hpp"
#include "core/picks/pick.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/statement/touching.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

double volumeOf(const SaidModel& said)
{
    EXPECT_EQ(said.problems(), "");
    double volume = 0.0;
    for (const auto& body : said.structure().frame.faces->solids)
        volume += body.volume;
    return volume;
}

/// Lowest bending frequencies of a clamped-free Timoshenko bar from its own members, very many of them.
std::vector<double> ofMembers(double length, double height, double width, int modes)
{
    auto said = straightBeam(length, height, width, 60);
    return said.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("lowest", {{"count", std::to_string(modes)}})
        .frequencies();
}

/// Of those found, the one nearest to a frequency, over it.
double nearest(const std::vector<double>& found, double wanted)
{
    double best = 1e300;
    for (const double one : found)
        if (std::abs(one / wanted - 1.0) < std::abs(best - 1.0)) best = one / wanted;
    return best;
}

} // namespace

TEST(Solid, HasTheVolumeOfItsForm)
{
    EXPECT_NEAR(volumeOf(steel().say(
                    "solid-box",
                    {{"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}, {"along", "1, 2, 0"}, {"towards", "-2, 1, 1"}})),
                0.006, 1e-9);
    EXPECT_NEAR(
        volumeOf(steel().say("solid-cylinder", {{"diameter", "0.2 m"}, {"length", "0.5 m"}, {"inner", "0.1 m"}})),
        pi * 0.0075 * 0.5, 1e-8);
    EXPECT_NEAR(volumeOf(steel().say("solid-sphere", {{"diameter", "0.2 m"}})), 4.0 / 3.0 * pi * 1e-3, 1e-8);
    const Words ring{{"rows", "0.2 m|0 m\n0.3 m|0 m\n0.3 m|0.05 m|0.01 m\n0.2 m|0.05 m"}};
    const double square = 0.005 - 1e-4 * (1 - pi / 4);
    const double corner = 1e-4 * (1 - pi / 4),
                 away = 0.3 - 0.01 * (10 - 3 * pi) / (12 - 3 * pi); // of what is rounded off
    const double whole = 2 * pi * (0.005 * 0.25 - corner * away);   // Pappus
    EXPECT_GT(square, 0.0);
    EXPECT_NEAR(volumeOf(steel().say("revolution", ring)), whole, 1e-8);
    auto half = ring;
    half["angle"] = "180 deg";
    EXPECT_NEAR(volumeOf(steel().say("revolution", half)), whole / 2, 1e-8);
    // A block with a ball's cap on it, and with the ball's other cap taken out of it.
    const double r = 0.05, h = 0.03, cap = pi * h * h * (3 * r - h) / 3, ball = 4.0 / 3.0 * pi * r * r * r;
    for (const char* kind : {"solid-cut", "solid-union", "solid-common"}) {
        auto said = steel();
        said.say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
            .say("solid-sphere", {{"name", "Ball"}, {"diameter", "0.1 m"}, {"at", "0.15, 0.1, 0.12 m"}})
            .say(kind, {{"tool", "Ball"}, {"body", "Block"}});
        const double expected = std::string(kind) == "solid-cut"     ? 0.006 - cap
                                : std::string(kind) == "solid-union" ? 0.006 + ball - cap
                                                                     : cap;
        EXPECT_NEAR(volumeOf(said), expected, 2e-8) << kind;
    }
}

TEST(Solid, WhatCannotBeIsSaidWithItsPlace)
{
    auto said = steel();
    said.say("solid-box", {{"name", "One"}, {"x", "1 m"}, {"y", "1 m"}, {"z", "1 m"}})
        .say("solid-box", {{"name", "Other"}, {"x", "1 m"}, {"y", "1 m"}, {"z", "1 m"}, {"at", "0.5, 0.2, 0.3 m"}});
    EXPECT_THAT(said.problems(), HasSubstr("Other overlaps One"));
    EXPECT_THAT(steel().say("revolution", {{"rows", "-0.1 m|0 m\n0.2 m|0 m\n0.2 m|0.1 m"}}).problems(),
                HasSubstr("crosses its axis"));
    EXPECT_THAT(steel().say("extrusion", {{"rows", "0 m|0 m\n1 m|1 m\n1 m|0 m\n0 m|1.5 m"}}).problems(),
                HasSubstr("crosses itself"));
    EXPECT_THAT(steel().say("solid-cylinder", {{"diameter", "80 mm"}, {"inner", "90 mm"}}).problems(),
                HasSubstr("bore"));
    auto eaten = steel();
    eaten.say("solid-box", {{"name", "Small"}, {"x", "0.1 m"}, {"y", "0.1 m"}, {"z", "0.1 m"}})
        .say("solid-box", {{"name", "Large"}, {"x", "1 m"}, {"y", "1 m"}, {"z", "1 m"}, {"at", "-0.1, -0.1, -0.1 m"}})
        .say("solid-cut", {{"tool", "Large"}, {"body", "Small"}});
    EXPECT_THAT(eaten.problems(), HasSubstr("nothing is left of Small"));
    SaidModel bare;
    bare.say("solid-box", {{"name", "Block"}});
    EXPECT_THAT(bare.problems(), HasSubstr("Block has no material"));
    Progress progress;
    const auto refused = solve(steel().say("solid-box", {{"name", "Block"}, {"size", "0.5 mm"}}).model(), progress);
    ASSERT_FALSE(refused);
    EXPECT_THAT(oneLine(refused.findings().front()), HasSubstr("elements of 0.5 mm on Block"));
}

TEST(Solid, CantileverBarBendsAsTimoshenkoHasIt)
{
    const auto members = ofMembers(1.0, 0.05, 0.03, 6); // length over depth 20
    const auto bar = [&](const std::string& held, const std::string& directions) {
        auto said = steel();
        said.say("solid-box", {{"name", "Bar"}, {"x", "1 m"}, {"y", "0.03 m"}, {"z", "0.05 m"}, {"size", "25 mm"}});
        if (directions == "x") { // free to contract sideways; the middle of the face keeps its place
            said.say("point", {{"name", "middle"}, {"at", "0, 0.015, 0.025 m"}})
                .say("point", {{"name", "side"}, {"at", "0, 0.03, 0.025 m"}})
                .say("hold", {{"where", "middle"}, {"directions", "y z"}})
                .say("hold", {{"where", "side"}, {"directions", "z"}});
        }
        said.say("hold", {{"where", held}, {"directions", directions}}).say("lowest", {{"count", "6"}});
        EXPECT_EQ(said.problems(), "");
        return said.frequencies();
    };
    const auto free = bar("faces at x = 0 m of Bar", "x"), full = bar("faces at x = 0 m of Bar", "all");
    for (std::size_t mode = 0; mode < 4; ++mode) { // both planes
        EXPECT_NEAR(nearest(free, members[mode]), 1.0, 0.002) << mode;
        EXPECT_NEAR(nearest(full, members[mode]), 1.0, 0.005) << mode;
    }
}

// One strip three ways: width over length 0.05, thickness over width 0.3.
TEST(Solid, StripAgreesAsMemberSheetAndSolid)
{
    auto members = straightBeam(1.0, 0.015, 0.05, 60);
    const auto asMember =
        members.say("hold", {{"where", "Beam.0"}, {"directions", "all"}}).say("lowest", {{"count", "14"}}).solved();
    const auto asSheet =
        steel()
            .say(
                "plate",
                {{"name", "Strip"}, {"length", "1 m"}, {"width", "50 mm"}, {"thickness", "15 mm"}, {"size", "12.5 mm"}})
            .say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
            .say("lowest", {{"count", "14"}})
            .frequencies();
    const auto asSolid =
        steel()
            .say("solid-box", {{"name", "Strip"}, {"x", "1 m"}, {"y", "50 mm"}, {"z", "15 mm"}, {"size", "15 mm"}})
            .say("hold", {{"where", "faces at x = 0 m of Strip"}, {"directions", "all"}})
            .say("lowest", {{"count", "14"}})
            .frequencies();
    int compared = 0;
    for (const auto& mode : asMember->modes) {
        const bool bends = mode.name.find("bending") != std::string::npos,
                   axial = mode.name.find("axial") != std::string::npos,
                   twists = mode.name.find("twisting") != std::string::npos;
        const bool lowest =
            mode.name.starts_with("first") || mode.name.starts_with("second") || mode.name.starts_with("third");
        if (!lowest || mode.name.find(" and ") != std::string::npos || (axial && !mode.name.starts_with("first")))
            continue;
        EXPECT_NEAR(nearest(asSolid, mode.frequency), 1.0, twists ? 0.03 : 0.01) << mode.name;
        if (!twists) EXPECT_NEAR(nearest(asSheet, mode.frequency), 1.0, 0.01) << mode.name;
        compared += bends || axial;
    }
    EXPECT_GE(compared, 7) << "three bending modes in each plane and an axial one";
}

TEST(Solid, FoldedStripsAgreeAsSheetAndSolid)
{
    // An L of two legs 60 and 40 mm, 6 mm thick, 0.6 m long; the sheet's faces are the middles of the solid's legs.
    const auto sheet = steel()
                           .say("folded-sheet", {{"name", "Angle"},
                                                 {"rows", "57 mm|0 mm\n0 mm|0 mm\n0 mm|37 mm"},
                                                 {"length", "0.6 m"},
                                                 {"thickness", "6 mm"},
                                                 {"size", "10 mm"}})
                           .say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
                           .say("lowest", {{"count", "6"}})
                           .frequencies();
    const auto solid =
        steel()
            .say("extrusion", {{"name", "Angle"},
                               {"rows", "-3 mm|-3 mm\n57 mm|-3 mm\n57 mm|3 mm\n3 mm|3 mm\n3 mm|37 mm\n-3 mm|37 mm"},
                               {"length", "0.6 m"},
                               {"along", "1, 0, 0"},
                               {"towards", "0, 1, 0"},
                               {"size", "8 mm"}})
            .say("hold", {{"where", "faces at x = 0 m of Angle"}, {"directions", "all"}})
            .say("lowest", {{"count", "6"}})
            .frequencies();
    for (std::size_t mode = 0; mode < 5; ++mode)
        EXPECT_NEAR(sheet[mode] / solid[mode], 1.0, 0.02) << mode;
}

// Lamb 1882: w R / c_s = 2.5011 for the twisting modes of order two, five of them; the spheroidal ones of order two at
// Poisson 1/4 have 2.6399, five as well.
TEST(Solid, BallHasLambsModesFiveTimesEach)
{
    for (const char* elements : {"tetrahedra", "20-node bricks"}) {
        SCOPED_TRACE(elements);
        SaidModel said;
        said.material("200 GPa", "0.25", "8000 kg/m3")
            .say("solid-sphere", {{"name", "Ball"}, {"diameter", "0.2 m"}, {"size", "30 mm"}})
            .say("solid-elements", {{"what", "Ball"}, {"elements", elements}})
            .say("lowest", {{"count", "18"}});
        const auto solution = said.solved();
        EXPECT_EQ(std::count_if(solution->modes.begin(), solution->modes.end(), [](const Mode& m) { return m.rigid; }),
                  6);
        EXPECT_EQ(solution->mesh.solids[0].kind == SolidKind::tetrahedron10, elements == std::string("tetrahedra"));
        const auto found = said.frequencies();
        ASSERT_GE(found.size(), 10u);
        const double unit = std::sqrt(200e9 / 2.5 / 8000) / 0.1 / (2 * pi);
        for (std::size_t at = 0; at < 5; ++at) {
            EXPECT_NEAR(found[at] / (2.5011 * unit), 1.0, 0.003) << at;
            EXPECT_NEAR(found[5 + at] / (2.6399 * unit), 1.0, 0.003) << at;
        }
        const double mass = 8000 * 4.0 / 3.0 * pi * 1e-3;
        EXPECT_NEAR(solution->mass.mass, mass, 2e-3 * mass) << "flat sides of second order lie within a thousandth";
    }
}

TEST(Solid, BlocksThatTouchAreJoinedAndCanBeTakenApart)
{
    const auto blocks = [](bool joined) {
        auto said = steel();
        for (const auto& [name, at] : {std::pair{"One", "0, 0, 0 m"}, std::pair{"Two", "0.1, 0, 0 m"}})
            said.say("solid-box",
                     {{"name", name}, {"x", "0.1 m"}, {"y", "0.12 m"}, {"z", "0.2 m"}, {"at", at}, {"size", "50 mm"}});
        if (!joined) said.say("apart", {{"what", "One"}, {"other", "Two"}});
        return said;
    };
    const auto joined = blocks(true), apart = blocks(false);
    const auto pairs = touchingParts(apart.structure());
    ASSERT_EQ(pairs.size(), 1u);
    EXPECT_EQ(pairs[0].faces, 1);
    EXPECT_FALSE(pairs[0].joined);
    EXPECT_TRUE(touchingParts(joined.structure()).at(0).joined);
    const auto alone = steel()
                           .say("solid-box", {{"x", "0.1 m"}, {"y", "0.12 m"}, {"z", "0.2 m"}, {"size", "50 mm"}})
                           .say("lowest", {{"count", "9"}})
                           .frequencies();
    const auto both = SaidModel(apart).say("lowest", {{"count", "18"}}).solved();
    EXPECT_EQ(std::count_if(both->modes.begin(), both->modes.end(), [](const Mode& m) { return m.rigid; }), 12);
    for (std::size_t mode = 12; mode < 18; ++mode) // each frequency of the one block twice
        EXPECT_NEAR(both->modes[mode].frequency / alone[(mode - 12) / 2], 1.0, 1e-6);
    const auto one = SaidModel(joined).say("lowest", {{"count", "8"}}).solved();
    EXPECT_EQ(std::count_if(one->modes.begin(), one->modes.end(), [](const Mode& m) { return m.rigid; }), 6);
    EXPECT_NEAR(one->mass.mass / both->mass.mass, 1.0, 1e-9);
}

TEST(Solid, EdgesAndFacesThatGoOnArePickedTogether)
{
    const auto said =
        steel()
            .say("extrusion", {{"name", "Foot"},
                               {"rows", "0 m|0 m|20 mm\n0.2 m|0 m|20 mm\n0.2 m|0.1 m|20 mm\n0 m|0.1 m|20 mm"},
                               {"length", "30 mm"}})
            .say("solid-box",
                 {{"name", "Block"}, {"x", "0.1 m"}, {"y", "0.1 m"}, {"z", "30 mm"}, {"at", "0.5, 0, 0 m"}});
    const Frame frame = said.structure().frame;
    EXPECT_EQ(pick(frame, "8 edges smooth with edge nearest to 0.1 0 0.03 m", placeTargets).problem, "");
    EXPECT_EQ(pick(frame, "1 edges smooth with edge nearest to 0.55 0 0.03 m", placeTargets).problem, "");
    EXPECT_EQ(pick(frame, "8 faces smooth with face nearest to 0.1 0 0.01 m", placeTargets).problem, "");
    EXPECT_EQ(pick(frame, "2 faces in one plane with face nearest to 0.1 0.05 0.03 m", placeTargets).problem, "");
}

TEST(Solid, ElementsAreAsSmallOnAFaceAsAskedThere)
{
    const auto largest = [](const SaidModel& said, double height) { // side of an element on the faces at z = height
        const Structure structure = said.structure();
        const FrameMesh mesh = meshOf(structure, {}, proposeSizes(structure, 0.0));
        double longest = 0.0;
        for (const auto& outer : mesh.outer)
            for (std::size_t corner = 0; corner < outer.count(); ++corner) {
                const Eigen::Vector3d
                    a = mesh.nodes[static_cast<std::size_t>(outer.corners[corner])].place,
                    b = mesh.nodes[static_cast<std::size_t>(outer.corners[(corner + 1) % outer.count()])].place;
                if (std::abs(a.z() - height) + std::abs(b.z() - height) < 1e-9)
                    longest = std::max(longest, (b - a).norm());
            }
        return longest;
    };
    const auto block =
        steel()
            .say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}, {"size", "40 mm"}})
            .say("solid-elements", {{"what", "Block"}, {"elements", "tetrahedra"}});
    EXPECT_GT(largest(block, 0.1), 0.03);
    const auto fine = SaidModel(block).say("size-at", {{"size", "12 mm"}, {"where", "faces at z = 0.1 m of Block"}});
    EXPECT_EQ(fine.problems(), "");
    EXPECT_LT(largest(fine, 0.1), 0.021);
    EXPECT_GT(largest(fine, 0.0), 0.025) << "coarse again away from it";
}

TEST(Solid, CubeHasItsFrequenciesThreeTimesAndTwoBlocksThatTouchAreOne)
{
    const auto cube = steel()
                          .say("solid-box", {{"x", "0.2 m"}, {"y", "0.2 m"}, {"z", "0.2 m"}, {"size", "40 mm"}})
                          .say("lowest", {{"count", "14"}})
                          .frequencies();
    int triples = 0;
    for (std::size_t at = 0; at + 2 < cube.size(); ++at)
        triples += std::abs(cube[at + 2] / cube[at] - 1.0) < 2e-3;
    EXPECT_GE(triples, 1);
    const auto whole = steel()
                           .say("solid-box", {{"x", "0.4 m"}, {"y", "0.05 m"}, {"z", "0.05 m"}, {"size", "20 mm"}})
                           .say("lowest", {{"count", "12"}})
                           .frequencies();
    auto halves = steel();
    const auto glued =
        halves.say("solid-box", {{"name", "A"}, {"x", "0.2 m"}, {"y", "0.05 m"}, {"z", "0.05 m"}, {"size", "20 mm"}})
            .say("solid-box", {{"name", "B"},
                               {"x", "0.2 m"},
                               {"y", "0.05 m"},
                               {"z", "0.05 m"},
                               {"at", "0.2, 0, 0 m"},
                               {"size", "20 mm"}})
            .say("lowest", {{"count", "12"}})
            .frequencies();
    ASSERT_EQ(glued.size(), whole.size());
    for (std::size_t at = 0; at < glued.size(); ++at)
        EXPECT_NEAR(glued[at] / whole[at], 1.0, 2e-3) << at;
}

TEST(Solid, WeighsTheSameOnAnyMeshAndSaysWhereAMemberIsHinged)
{
    auto said = steel();
    said.say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
        .say("run", {{"name", "Post"}, {"from", "0.15, 0.1, 0.1 m"}, {"to", "0.15, 0.1, 0.6 m"}, {"parts", "1"}})
        .say("material", {{"what", "Post"}, {"material", "structural steel"}})
        .say("hold", {{"where", "faces at z = 0 m of Block"}, {"directions", "all"}})
        .say("hold", {{"where", "Post.1"}, {"directions", "x y rz"}})
        .say("lowest", {{"count", "3"}});
    Progress progress;
    const auto solution = solve(said.model(), progress);
    ASSERT_TRUE(solution) << oneLine(solution.findings().front());
    EXPECT_NEAR((*solution)->mass.bySentence.at((*solution)->structure->frame.solids[0].sentence).mass, 48.0, 1e-8);
    std::string all;
    for (const auto& finding : (*solution)->findings)
        all += oneLine(finding) + "\n";
    EXPECT_THAT(all, HasSubstr("Post is hinged to Block"));
}
