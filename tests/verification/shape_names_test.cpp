// Names of modes beside those that an engineer gives them by hand.
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;

namespace {

using Names = std::vector<std::string>;

Names namesOf(SaidModel said, int count)
{
    Names names;
    const auto solution = said.say("lowest", {{"count", std::to_string(count)}}).solvedUnjudged();
    for (const auto& mode : solution->modes)
        names.push_back(mode.name);
    return names;
}

SaidModel run(const char* section, const char* to)
{
    auto said = steel();
    return said.say("run", {{"name", "Beam"}, {"from", "0, 0, 0 m"}, {"to", to}, {"section", section}});
}

SaidModel plate(const char* length, const char* width, const char* held, const char* directions)
{
    auto said = steel();
    said.say("plate", {{"name", "P"}, {"length", length}, {"width", width}, {"thickness", "4 mm"}});
    if (held) said.say("hold", {{"where", held}, {"directions", directions}});
    return said;
}

} // namespace

TEST(ShapeName, OfBeamsIsTheirBendingTwistingAndStretching)
{
    auto cantilever = run("rectangle 20x35 mm", "0, 0, 1 m");
    cantilever.say("hold", {{"where", "Beam.0"}, {"directions", "all"}});
    // 35 mm stand along y: bending about the weak and the strong axis in the ratio 20 to 35, 1, 6.27, 17.5 each.
    EXPECT_EQ(namesOf(cantilever, 5), (Names{"first bending in x", "first bending in y", "second bending in x",
                                             "second bending in y", "third bending in x"}));
    // An open section twists far below what its bending is; a mass amidships does not twist.
    auto pinned = run("I 160x82x5x7.4 mm", "4, 0, 0 m");
    pinned.say("point", {{"name", "mid"}, {"at", "2, 0, 0 m"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx"}})
        .say("hold", {{"where", "Beam.1"}, {"directions", "y z rx"}});
    const Names beam = namesOf(pinned, 5);
    EXPECT_EQ(beam[0], "first bending in y");
    EXPECT_THAT(beam, testing::Contains("first twisting"));
    auto rod = run("rectangle 300x300 mm", "0, 0, 1 m");
    rod.say("hold", {{"where", "Beam.0"}, {"directions", "all"}});
    EXPECT_THAT(namesOf(rod, 6), testing::IsSupersetOf({"first twisting", "first axial"}));
}

TEST(ShapeName, OfFloorsIsTheirSwayAndTheirTurn)
{
    auto said = steel();
    said.say("frame", {{"name", "F"},
                       {"bays-x", "3"},
                       {"bay-x", "5 m"},
                       {"bays-y", "2"},
                       {"bay-y", "4 m"},
                       {"storeys", "3"},
                       {"storey", "3.2 m"},
                       {"columns", "H 200x200x9x15 mm"},
                       {"beams", "I 270x135x6.6x10.2 mm"}})
        .say("points", {{"rows", "f1|7.5 m|4 m|3.2 m\nf2|7.5 m|4 m|6.4 m\nf3|7.5 m|4 m|9.6 m"}})
        .say("hold", {{"where", "feet of F"}, {"directions", "all"}})
        .say("mass", {{"mass", "12 t"},
                      {"sharing", "on each of"},
                      {"points", "f1, f2, f3"},
                      {"body", "box"},
                      {"size", "15, 8, 0.2 m"}});
    for (const char* z : {"1", "2", "3"})
        said.say("rigid",
                 {{"points", "points at z = " + metres(std::round(32.0 * (z[0] - '0')) / 10.0) + " except f" + z},
                  {"to", std::string("f") + z}});
    const Names names = namesOf(said, 9);
    EXPECT_EQ((Names{names.begin(), names.begin() + 6}),
              (Names{"first swaying in y", "first twisting about z", "first swaying in x", "second swaying in y",
                     "third swaying in y", "second twisting about z"}));
    EXPECT_THAT(names.back(), testing::MatchesRegex("[0-9]+ members: twisting between their joints"));
}

TEST(ShapeName, OfABodyOnSpringsIsItsBounceAndItsRocking)
{
    auto said = steel();
    said.say("solid-box", {{"name", "Block"}, {"x", "1 m"}, {"y", "0.6 m"}, {"z", "0.2 m"}, {"at", "0, 0, 0 m"}})
        .say("bed", {{"where", "faces at z = 0 m of Block"}, {"stiffness", "5000 MN/m3"}, {"directions", "z"}})
        .say("bed", {{"where", "faces at z = 0 m of Block"}, {"stiffness", "1000 MN/m3"}, {"directions", "x y"}});
    const Names names = namesOf(said, 7);
    EXPECT_THAT((Names{names.begin(), names.begin() + 6}),
                testing::UnorderedElementsAre("first shifting in x", "first shifting in y", "first turning about z",
                                              "first bouncing in z", "first rocking about x", "first rocking about y"));
    EXPECT_THAT(names[6], testing::Not(testing::HasSubstr("on"))) << names[6];
}

TEST(ShapeName, OfPlatesIsTheirHalfWavesOrTheirNodalLines)
{
    // Simply supported: (m/1)2 + (n/1)2; what two shapes share a frequency names both.
    const Names square = namesOf(plate("1 m", "1 m", "free edges of P", "x y z"), 6);
    EXPECT_EQ(square[0], "1 by 1 half-waves");
    for (const std::size_t at : {1u, 2u})
        EXPECT_THAT(square[at], testing::AnyOf("2 by 1 plus 1 by 2 half-waves", "2 by 1 less 1 by 2 half-waves",
                                               "1 by 2 half-waves", "2 by 1 half-waves"));
    EXPECT_EQ(square[3], "2 by 2 half-waves");
    for (const std::size_t at : {4u, 5u})
        EXPECT_THAT(square[at], testing::AnyOf("3 by 1 plus 1 by 3 half-waves", "3 by 1 less 1 by 3 half-waves",
                                               "3 by 1 half-waves", "1 by 3 half-waves"));
    // Free: the saddle below the dish, by Poisson's ratio; twins are told apart (Leissa 1969, table 4.67).
    const Names loose = namesOf(plate("1 m", "1 m", nullptr, nullptr), 5);
    EXPECT_EQ(
        (Names{loose.end() - 5, loose.end() - 2}),
        (Names{"twisting, 1 by 1 nodal lines", "2 by 0 less 0 by 2 nodal lines", "2 by 0 plus 0 by 2 nodal lines"}));
    EXPECT_NE(loose.end()[-1], loose.end()[-2]);
    // Held at one edge, twice as long as wide (Leissa 1969, table 4.49).
    EXPECT_EQ(namesOf(plate("1 m", "0.5 m", "edges at x = 0 m", "all"), 5),
              (Names{"bending lengthwise", "twisting, 0 by 1 nodal lines", "bending lengthwise, 1 nodal line",
                     "twisting, 1 by 1 nodal lines", "bending lengthwise, 2 nodal lines"}));
    // Free all round (the same, table 4.70).
    auto free = plate("1 m", "0.4 m", nullptr, nullptr);
    const Names names = namesOf(free, 4);
    EXPECT_EQ((Names{names.end() - 4, names.end()}),
              (Names{"bending lengthwise, 2 nodal lines", "twisting, 1 by 1 nodal lines",
                     "bending lengthwise, 3 nodal lines", "twisting, 2 by 1 nodal lines"}));
}

TEST(ShapeName, SaysWhenAFewMembersMoveAlone)
{
    auto said = steel();
    said.say("plate", {{"name", "Deck"}, {"length", "2 m"}, {"width", "1 m"}, {"thickness", "30 mm"}})
        .say("points", {{"rows", "high1|0 m|0 m|1.5 m\nhigh2|0 m|1 m|1.5 m"}})
        .say("members", {{"name", "Stays"}, {"rows", "one|high1|Deck.2\ntwo|high2|Deck.3"}, {"section", "round 20 mm"}})
        .say("hold", {{"where", "edges at x = 0 m, high1, high2"}, {"directions", "all"}});
    // Each wave has its order, and whether both do so in step, for two stays of one length.
    EXPECT_THAT(
        namesOf(said, 8),
        testing::IsSupersetOf({"Stays: first bending in z, in step", "Stays: first bending in z, against each other",
                               "Stays: first bending in y, in step", "Stays: first bending in y, against each other",
                               "Stays: second bending in z, against each other",
                               "Stays: second bending in y, against each other", "Deck: bending lengthwise"}));
}

TEST(ShapeName, OfWhatIsTurnedAboutAnAxisHoldsHoweverItWasDrawn)
{
    const auto tube = [](bool asSheet) {
        SaidModel said = steel();
        said.say(
            "solid-cylinder",
            {{"name", "Tube"}, {"diameter", "200 mm"}, {"length", "250 mm"}, {"inner", "160 mm"}, {"size", "40 mm"}});
        if (asSheet) said.say("mid-face", {{"solid", "Tube"}});
        const Names names = namesOf(said, 4);
        return Names{names.end() - 4, names.end()};
    };
    const Names waves{"2 waves round, 1 half-wave along", "2 waves round, 1 half-wave along (twin)",
                      "2 waves round, 2 half-waves along", "2 waves round, 2 half-waves along (twin)"};
    EXPECT_EQ(tube(false), waves);
    EXPECT_EQ(tube(true), waves) << "and no part is named where it is all there is";
    SaidModel shaft = steel();
    shaft.say("solid-cylinder", {{"name", "Shaft"}, {"diameter", "40 mm"}, {"length", "600 mm"}});
    const Names bends = namesOf(shaft, 2);
    EXPECT_THAT((Names{bends.end() - 2, bends.end()}),
                testing::UnorderedElementsAre("first bending in x", "first bending in y"));
    SaidModel wheel = steel();
    wheel.say("solid-cylinder", {{"name", "Wheel"}, {"diameter", "400 mm"}, {"length", "20 mm"}, {"inner", "60 mm"}});
    const Names wheels = namesOf(wheel, 3);
    EXPECT_EQ((Names{wheels.end() - 3, wheels.end()}),
              (Names{"2 nodal diameters", "2 nodal diameters (twin)", "0 nodal diameters, 1 circle"}));
    // Turned by a seventh of a turn, so that no axis of it is one of the model's.
    SaidModel panel = steel();
    panel
        .say("solid-box",
             {{"name", "Panel"}, {"x", "300 mm"}, {"y", "200 mm"}, {"z", "3 mm"}, {"along", "0.6235, 0.7818, 0"}})
        .say("mid-face", {{"solid", "Panel"}});
    const Names plates = namesOf(panel, 2);
    EXPECT_EQ((Names{plates.end() - 2, plates.end()}),
              (Names{"twisting, 1 by 1 nodal lines", "bending lengthwise, 2 nodal lines"}));
}

TEST(ShapeName, SaysWhatIsLocalWhatMattersAndWhyAModeCarriesNoMass)
{
    // A pinned beam: the first mode of each plane has 8/pi2 of the mass, the second as much one way as the other.
    auto beam = run("rectangle 20x35 mm", "2, 0, 0 m");
    beam.say("hold", {{"where", "Beam.0, Beam.1"}, {"directions", "x y z rx"}}).say("lowest", {{"count", "4"}});
    const auto pinned = beam.solvedUnjudged();
    for (std::size_t at = 0; at < 4; ++at) {
        const Mode& mode = pinned->modes[at];
        const bool first = mode.name.starts_with("first");
        EXPECT_EQ(mode.matters[1] || mode.matters[2], first) << mode.name;
        EXPECT_EQ(mode.noMass.empty(), first) << mode.name;
        if (!first)
            EXPECT_THAT(mode.noMass, testing::HasSubstr("one side moves against the other, with 61 %")) << "6/pi2";
        EXPECT_FALSE(mode.local) << "all of it moves";
    }
    auto rod = run("rectangle 300x300 mm", "0, 0, 1 m");
    rod.say("hold", {{"where", "Beam.0"}, {"directions", "all"}}).say("lowest", {{"count", "6"}});
    const auto turned = rod.solvedUnjudged();
    for (const Mode& mode : turned->modes)
        if (mode.name == "first twisting") {
            EXPECT_THAT(mode.noMass, testing::HasSubstr("it turns about z"));
            EXPECT_THAT(mode.noMass, testing::HasSubstr("with 81 % of the inertia")) << "8/pi2 of a shaft's";
            EXPECT_TRUE(mode.matters[5]);
        }
    // A heavy block on three springs and a light whip on it, which moves by itself.
    auto whip = run("round 8 mm", "0, 0, 1.5 m");
    whip.say("solid-box",
             {{"name", "Block"}, {"x", "0.4 m"}, {"y", "0.4 m"}, {"z", "0.3 m"}, {"at", "-0.2, -0.2, -0.3 m"}})
        .say("rigid", {{"points", "faces at z = 0 m of Block"}, {"to", "Beam.0"}})
        .say("bed", {{"where", "faces at z = -0.3 m of Block"}, {"stiffness", "30 MN/m3"}, {"directions", "x y z"}})
        .say("lowest", {{"count", "8"}});
    std::set<std::string> local, whole;
    const auto found = whip.solvedUnjudged();
    for (const Mode& mode : found->modes)
        (mode.local ? local : whole).insert(mode.name);
    EXPECT_THAT(local, testing::Contains(testing::StartsWith("Beam: first bending in x")))
        << testing::PrintToString(whole);
    EXPECT_THAT(local, testing::Contains(testing::StartsWith("Beam: second bending in y")));
    EXPECT_THAT(whole, testing::Contains(testing::HasSubstr("bouncing in z"))) << testing::PrintToString(local);
    for (const Mode& mode : found->modes)
        if (mode.local) EXPECT_THAT(mode.noMass, testing::HasSubstr("is light")) << mode.name;
}

TEST(ShapeName, IsTheOneThatTheModelGivesToIt)
{
    auto beam = run("rectangle 20x35 mm", "0, 0, 1 m");
    beam.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("lowest", {{"count", "3"}})
        .say("call-mode", {{"mode", "first bending in x"}, {"name", "flag"}});
    const auto key = solveKey(beam.model());
    const auto solution = beam.solvedUnjudged();
    EXPECT_EQ(solution->modes[0].calledBy(solution->structure->modeNames), "flag");
    EXPECT_EQ(solution->modes[1].calledBy(solution->structure->modeNames), "first bending in y");
    const Model again = withModeName(beam.model(), "first bending in x", "pole");
    EXPECT_EQ(modeNamesOf(again).at("first bending in x"), "pole");
    EXPECT_EQ(solveKey(again), key) << "a name is no other structure";
    EXPECT_TRUE(modeNamesOf(withModeName(again, "first bending in x", "")).empty());
    beam.say("call-mode", {{"mode", "first bending in x"}, {"name", "mast"}});
    EXPECT_THAT(beam.problems(), testing::HasSubstr("is given two names"));
}
