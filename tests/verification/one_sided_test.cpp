// What bears on one side alone, and what holds in vibration or at rest alone, against linear models of either.
#include "core/assess/model_checks.hpp"
#include "core/io/rest_table.hpp"
#include "core/studies/self_weight.hpp"
#include "core/units/unit.hpp"
#include "tests/verification/resting.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

constexpr double armLength = 2.0, armWidth = 0.05, ropeStiffness = 4000.0; // m, m, N/m

/// An arm of 2 m with 20 kg at its tip; above and below the tip a point that is held.
SaidModel arm()
{
    SaidModel said = steel();
    said.say("points", {{"rows", "root|0 m|0 m|0 m\ntip|2 m|0 m|0 m\nup|2 m|0 m|1 m\nlow|2 m|0 m|-1 m"}})
        .say("members", {{"name", "Arm"}, {"rows", "arm|root|tip"}, {"section", "rectangle 50x50 mm"}})
        .say("hold", {{"where", "root"}, {"directions", "all"}})
        .say("hold", {{"where", "up, low"}, {"directions", "x y z"}})
        .say("mass", {{"mass", "20 kg"}, {"points", "tip"}})
        .say("lowest", {{"count", "4"}});
    return said;
}

Words joining(const char* from, const char* to, const char* way)
{
    return {{"from", from}, {"to", to}, {"way", way}, {"stiffness", "4 N/mm"}};
}

Words with(Words words, const char* key, const std::string& value)
{
    words[key] = value;
    return words;
}

Words force(const char* load, const char* direction, const char* state)
{
    return {{"load", load}, {"direction", direction}, {"where", "tip"}, {"state", state}};
}

/// Of the arm's tip across it, N/m: bending and shear.
double ofArm()
{
    const Section section = rectangleSection(armWidth, armWidth);
    return 1.0 / (std::pow(armLength, 3) / (3 * E * section.iy) +
                  armLength / (E / (2 * (1 + nu)) * section.shearArea(1, nu)));
}

const RestContact& contactWith(const RestState& state, const std::string& against)
{
    for (const auto& contact : state.contacts)
        if (contact.against == against) return contact;
    ADD_FAILURE() << "nothing between points at " << against;
    static const RestContact none;
    return none;
}

/// How far a point moves up in the first state, m.
double upAt(const SaidModel& said, const std::string& point)
{
    const auto answer = restOfModel(said.model(), 0);
    if (!answer) return 0.0;
    const auto places = restPlaces(said.model(), *answer, {point});
    return places ? places->begin()->second.at(0).moves.z() : 0.0;
}

void expectSame(const std::vector<double>& own, const std::vector<double>& other, double within)
{
    ASSERT_EQ(own.size(), other.size());
    for (std::size_t at = 0; at < own.size(); ++at)
        EXPECT_NEAR(own[at] / other[at], 1.0, within) << at;
}

} // namespace

TEST(OneSided, ARopePullsAStrutPushesAndTheModesHaveWhatBears)
{
    const double gives = ofArm() + ropeStiffness;
    SaidModel roped = arm();
    roped.say("one-sided", joining("tip", "up", "only pull each other"))
        .say("one-sided", joining("low", "tip", "only pull each other"))
        .say("force", force("100 N", "0, 0, -1", "down"))
        .say("force", force("100 N", "0, 0, 1", "up"));
    const Rest found = loadedRest(roped, 0);
    const double sinks = 100 / gives;
    for (const auto& state : found.states) {
        const bool down = state.name == "down";
        const RestContact &taut = contactWith(state, down ? "up" : "tip"),
                          &slack = contactWith(state, down ? "tip" : "up");
        EXPECT_TRUE(taut.bears) << state.name;
        EXPECT_NEAR(taut.force / (100 * ropeStiffness / gives), 1.0, 1e-6) << state.name;
        EXPECT_FALSE(slack.bears) << state.name;
        EXPECT_NEAR(slack.gap / sinks, 1.0, 1e-6) << "slack by what the tip moves";
        EXPECT_NEAR(state.moves / sinks, 1.0, 1e-6);
        EXPECT_LT(state.unbalanced, 1e-8);
        EXPECT_NEAR(std::abs(carriedAt(state, down ? "up" : "low").force.z()) / taut.force, 1.0, 1e-6)
            << "what holds its other end carries it";
    }
    // About a state as with a spring that is there, about none as with both.
    SaidModel one = arm(), both = arm();
    const Words upper{{"from", "tip"}, {"to", "up"}, {"kz", "4 N/mm"}},
        lower{{"from", "tip"}, {"to", "low"}, {"kz", "4 N/mm"}};
    one.say("spring", upper);
    both.say("spring", upper).say("spring", lower);
    SaidModel aboutDown = roped;
    expectSame(about(aboutDown, "down").frequencies(), one.frequencies(), 1e-6);
    expectSame(roped.frequencies(), both.frequencies(), 1e-6);

    // The same by struts that push, and by slack: nothing until it is taken up.
    SaidModel strutted = arm();
    strutted.say("one-sided", joining("tip", "low", "only push each other"))
        .say("force", force("100 N", "0, 0, -1", "down"))
        .say("force", force("100 N", "0, 0, 1", "up"));
    const Rest pushed = loadedRest(strutted, 0);
    EXPECT_NEAR(contactWith(pushed.states[0], "low").force / (100 * ropeStiffness / gives), 1.0, 1e-6);
    EXPECT_FALSE(contactWith(pushed.states[1], "low").bears);
    SaidModel slackened = arm();
    const double slack = 0.4 * 100 / ofArm();
    slackened
        .say("one-sided", with(joining("tip", "up", "only pull each other"), "gap", fmt::format("{} mm", 1000 * slack)))
        .say("force", force("100 N", "0, 0, -1", "down"));
    EXPECT_NEAR(contactWith(loadedRest(slackened, 0).states[0], "up").force / (0.6 * 100 * ropeStiffness / gives), 1.0,
                1e-6);
    expectSame(slackened.frequencies(), arm().frequencies(), 1e-9);
}

TEST(OneSided, FrictionHoldsAtRestUntilItSlidesAndThenTakesItsShareOff)
{
    // A mass on the ground between two springs sideways: 0.3 of its weight is held before they are.
    const double weight = 50 * standardGravity, most = 0.3 * weight, kx = 2000.0, ky = 3000.0;
    SaidModel block;
    block.say("points", {{"rows", "block|0 m|0 m|0 m"}})
        .say("mass", {{"mass", "50 kg"}, {"points", "block"}})
        .say("ground-spring", {{"points", "block"}, {"kx", "2 N/mm"}, {"ky", "3 N/mm"}, {"kz", "1 N/mm"}})
        .say("rests-on", {{"points", "block"}, {"direction", "0, 0, 1"}, {"friction", "0.3"}, {"grip", "5 N/mm"}})
        .say("own-weight")
        .say("lowest", {{"count", "2"}});
    const auto pushed = [&](double force, const char* direction, const char* state) {
        block.say(
            "force",
            {{"load", fmt::format("{} N", force)}, {"direction", direction}, {"where", "block"}, {"state", state}});
    };
    pushed(0.9 * most, "1, 0, 0", "held");
    pushed(2.5 * most, "1, 0, 0", "along x");
    pushed(2.5 * most, "3, 4, 0", "aslant");
    pushed(1.1 * weight, "0, 0, 1", "lifted");
    const Rest found = loadedRest(block, 0);
    ASSERT_EQ(found.states.size(), 4u);
    const auto of = [&](std::size_t state) { return found.states[state].contacts.at(0); };
    EXPECT_FALSE(of(0).slides);
    EXPECT_NEAR(of(0).sideways.x() / (-0.9 * most), 1.0, 1e-9);
    EXPECT_LT(found.states[0].moves, 1e-9 * most / kx);
    EXPECT_NEAR(carriedAt(found.states[0], "block").force.x() / (-0.9 * most), 1.0, 1e-6) << "springs have nothing";
    EXPECT_TRUE(of(1).slides);
    EXPECT_NEAR(of(1).sideways.x() / -most, 1.0, 1e-9);
    EXPECT_NEAR(found.states[1].moves / (1.5 * most / kx), 1.0, 1e-9);
    // Aslant it slides the way that forces are in balance: the springs' and friction's, which is against the way.
    const Eigen::Vector3d slid = found.states[2].moved, push = 2.5 * most * Eigen::Vector3d(0.6, 0.8, 0);
    EXPECT_TRUE(of(2).slides);
    EXPECT_LT((push - Eigen::Vector3d(kx * slid.x(), ky * slid.y(), 0) - most * slid.normalized()).norm(), 1e-5 * most);
    EXPECT_FALSE(of(3).bears || of(3).slides);
    EXPECT_NEAR(of(3).sideways.norm(), 0.0, 1e-9);
    for (const auto& state : found.states)
        EXPECT_LT(state.unbalanced, 1e-8) << state.name;
    EXPECT_EQ(contactRemark(of(1)), ", sliding");

    // Modes: with the grip where it holds, with the springs alone where it slides.
    SaidModel held = block, sliding = block;
    const double alone = std::sqrt(kx / 50) / (2 * pi), gripped = std::sqrt((kx + 5000) / 50) / (2 * pi);
    EXPECT_NEAR(about(held, "held").frequencies()[0] / gripped, 1.0, 1e-6);
    EXPECT_NEAR(about(sliding, "along x").frequencies()[0] / alone, 1.0, 1e-6);

    // On a slope it stays as far as the tangent of the friction, and has no place of rest beyond.
    const auto onSlope = [](double degrees) {
        SaidModel said;
        const double angle = degrees * pi / 180.0;
        said.say("points", {{"rows", "block|0 m|0 m|0 m"}})
            .say("mass", {{"mass", "50 kg"}, {"points", "block"}})
            .say("rests-on", {{"points", "block"},
                              {"direction", fmt::format("{}, 0, {}", std::sin(angle), std::cos(angle))},
                              {"friction", "0.3"}})
            .say("own-weight");
        return restOfModel(said.model(), 0);
    };
    const auto stays = onSlope(16.6);
    ASSERT_TRUE(stays) << stays.findings()[0].what;
    EXPECT_NEAR(stays->found.states[0].contacts[0].sideways.norm() / (weight * std::sin(16.6 * pi / 180)), 1.0, 1e-9);
    const auto leaves = onSlope(16.8); // the arc tangent of 0.3 is 16.70 degrees
    ASSERT_FALSE(leaves);
    EXPECT_THAT(leaves.findings()[0].what, HasSubstr("no place of rest: what lifts off or slides"));
}

TEST(OneSided, ABlockOnABedThatOnlyPushesLiftsOnOneSideAsFarAsItsKernSays)
{
    // The resultant at e beside the middle bears on 3 (b / 2 - e) of the width where e is more than a sixth of it; the
    // block falls where e is more than a half.
    constexpr double width = 0.4, height = 0.5, weight = 0.4 * 0.1 * 0.5 * rho * standardGravity;
    const auto pushed = [&](double share, const char* stiffness) { // of what tips it over
        SaidModel said = steel();
        said.say("solid-box", {{"name", "Block"},
                               {"at", "0, 0, 0 m"},
                               {"x", "0.4 m"},
                               {"y", "0.1 m"},
                               {"z", "0.5 m"},
                               {"size", "0.025 m"}})
            .say("hold", {{"where", "faces at z = 0 m of Block"}, {"directions", "x y"}})
            .say("rests-on",
                 {{"points", "faces at z = 0 m of Block"}, {"direction", "0, 0, 1"}, {"stiffness", stiffness}})
            .say("own-weight")
            .say("force", {{"load", fmt::format("{} N", share * weight * width / 2 / height)},
                           {"direction", "1, 0, 0"},
                           {"where", "faces at z = 0.5 m of Block"}});
        return said;
    };
    for (const double share : {0.2, 0.6, 0.8}) {
        const auto state = loadedRest(pushed(share, "1 N/mm3"), 0).states[0];
        const RestContact& bed = state.contacts.at(0);
        EXPECT_NEAR(bed.force / weight, 1.0, 1e-6);
        const double bears = std::min(1.0, 3 * (0.5 - share / 2));
        EXPECT_NEAR(double(bed.bearing) / double(bed.places), bears, 0.07) << share << ": a row of sixteen";
        const CarriedLoad carried = carriedAt(state, "faces at z = 0 m of Block");
        EXPECT_NEAR(carried.moment.y() / (-share * weight * width / 2), 1.0, 1e-5) << "by its lever";
        EXPECT_LT(state.unbalanced, 1e-6);
    }
    const auto fallen = restOfModel(pushed(1.05, "1 N/mm3").model(), 0);
    ASSERT_FALSE(fallen);
    EXPECT_THAT(fallen.findings()[0].what, HasSubstr("no place of rest"));
    // On ground that does not give way: pressed evenly no piece of it pulls, whatever interpolation it has.
    SaidModel rigid = pushed(0.0, "1 N/mm3");
    for (const auto& sentence : rigid.model().group(Group::supports))
        if (sentence->kind->key == "rests-on") {
            Sentence hard = *sentence;
            hard.values.erase("stiffness");
            rigid = SaidModel(rigid.model().replaced(std::move(hard)));
        }
    const auto& firm = loadedRest(rigid, 0).states[0].contacts.at(0);
    EXPECT_EQ(firm.bearing, firm.places);
    EXPECT_NEAR(firm.force / weight, 1.0, 1e-6);
    EXPECT_THAT(pushed(0.5, "1 kN/mm2").problems(), HasSubstr("means a face, and members or edges are meant here"));
    SaidModel rough = pushed(0.5, "1 N/mm3");
    rough.say("rests-on", {{"points", "faces at x = 0 m of Block"}, {"direction", "1, 0, 0"}, {"friction", "0.3"}});
    EXPECT_THAT(rough.problems(), HasSubstr("friction at rest is settled at points alone"));
}

TEST(OneSided, ALongBeamOnABedThatOnlyPushesLiftsWhereThatIsSaid)
{
    // Without weight, under a force: it bears on pi / b of its length, b4 = k / 4 E I, and sinks by
    // P coth(pi / 2) / (8 E I b3) (Weitsman 1970).
    constexpr double force = 1000.0, b = pi / 2;
    const double bending = E * rectangleSection(0.06, 0.04).iy, bed = 4 * bending * std::pow(b, 4);
    const auto held = [] {
        SaidModel said = steel();
        said.say("run", {{"name", "Beam"},
                         {"from", "0, 0, 0 m"},
                         {"to", "8, 0, 0 m"},
                         {"parts", "2"},
                         {"section", "rectangle 60x40 mm"}})
            .say("fineness", {{"elements", "80"}})
            .say("hold", {{"where", "Beam"}, {"directions", "y rx rz"}})
            .say("hold", {{"where", "Beam.0"}, {"directions", "x"}})
            .say("lowest", {{"count", "4"}});
        return said;
    };
    SaidModel beam = held(), bedded = held();
    beam.say("rests-on", {{"points", "Beam"}, {"direction", "0, 0, 1"}, {"stiffness", fmt::format("{} N/m2", bed)}});
    SaidModel pressed = beam;
    pressed.say("force", {{"load", fmt::format("{} N", force)}, {"direction", "0, 0, -1"}, {"where", "Beam.1"}});
    const auto state = loadedRest(pressed, 0).states[0];
    long places = 0, bearing = 0;
    for (const auto& half : state.contacts) {
        places += half.places;
        bearing += half.bearing;
    }
    EXPECT_EQ(places, 160);
    EXPECT_NEAR(double(bearing), 160 * (pi / b) / 8.0, 2.0);
    const double sinks = force / std::tanh(pi / 2) / (8 * bending * b * b * b);
    EXPECT_NEAR(-upAt(pressed, "Beam.1") / sinks, 1.0, 0.01);
    // Modes about a state that presses it on everywhere, and about none, are those on an elastic bed.
    bedded.say("bed", {{"where", "Beam"}, {"stiffness", fmt::format("{} N/m2", bed)}, {"directions", "z"}});
    SaidModel lying = beam;
    lying.say("own-weight", {{"state", "lying"}});
    expectSame(beam.frequencies(), bedded.frequencies(), 1e-3);
    expectSame(about(lying, "lying").frequencies(), bedded.frequencies(), 1e-3);
    // What is said to be open is so.
    SaidModel open = lying;
    open.say("bears-as-said", {{"points", "Beam"}, {"how", "is open"}});
    EXPECT_TRUE(restOfModel(open.model(), 0).findings()[0].what.find("no place of rest") != std::string::npos);
}

TEST(OneSided, FrictionHoldsSidewaysAsItIsSaidWhereItBearsAndNotAtAllWhereItLiftsOff)
{
    SaidModel resting = arm();
    resting.say("rests-on", {{"points", "tip"}, {"direction", "0, 0, 1"}, {"stiffness", "4 N/mm"}, {"grip", "2 N/mm"}})
        .say("own-weight", {{"state", "down"}})
        .say("own-weight", {{"state", "up"}, {"direction", "0, 0, 1"}});
    SaidModel held = arm();
    held.say("ground-spring", {{"points", "tip"}, {"kx", "2 N/mm"}, {"ky", "2 N/mm"}, {"kz", "4 N/mm"}})
        .say("own-weight", {{"state", "down"}});
    SaidModel down = resting, up = resting, loose = arm();
    loose.say("own-weight", {{"state", "up"}, {"direction", "0, 0, 1"}});
    expectSame(about(down, "down").frequencies(), about(held, "down").frequencies(), 1e-6);
    expectSame(about(up, "up").frequencies(), about(loose, "up").frequencies(), 1e-6);
    // Without friction it slides.
    SaidModel sliding = arm();
    sliding.say("rests-on", {{"points", "tip"}, {"direction", "0, 0, 1"}, {"stiffness", "4 N/mm"}})
        .say("own-weight", {{"state", "down"}});
    SaidModel across = arm();
    across.say("ground-spring", {{"points", "tip"}, {"kz", "4 N/mm"}}).say("own-weight", {{"state", "down"}});
    expectSame(about(sliding, "down").frequencies(), about(across, "down").frequencies(), 1e-6);
}

TEST(OneSided, AStopBetweenTwoArmsPassesWhatIsLeftOnceItsGapIsClosed)
{
    SaidModel two = steel();
    two.say("points", {{"rows", "a|0 m|0 m|0 m\ntip|2 m|0 m|0 m\nb|2 m|0 m|0.1 m\nc|4 m|0 m|0.1 m"}})
        .say("members", {{"name", "Arms"}, {"rows", "one|a|tip\ntwo|b|c"}, {"section", "rectangle 50x50 mm"}})
        .say("hold", {{"where", "a, c"}, {"directions", "all"}})
        .say("hold", {{"where", "Arms"}, {"directions", "y rx rz"}})
        .say("one-sided", {{"from", "b"}, {"to", "tip"}, {"way", "only push each other"}, {"gap", "1 mm"}})
        .say("force", force("400 N", "0, 0, 1", "pressed"))
        .say("force", force("10 N", "0, 0, 1", "hardly"))
        .say("lowest", {{"count", "2"}});
    const Rest found = loadedRest(two, 0);
    const double passed = (400 / ofArm() - 1e-3) * ofArm() / 2;
    EXPECT_NEAR(found.states[0].contacts[0].force / passed, 1.0, 1e-6);
    EXPECT_NEAR(carriedAt(found.states[0], "c").force.z() / -passed, 1.0, 1e-6);
    EXPECT_LT(found.states[0].unbalanced, 1e-8);
    EXPECT_FALSE(found.states[1].contacts[0].bears);
    EXPECT_NEAR(found.states[1].contacts[0].gap / (1e-3 - 10 / ofArm()), 1.0, 1e-6);
    // Both move as one across once they touch, and by themselves before.
    const auto pressed = about(two, "pressed").frequencies();
    EXPECT_GT(pressed[1] / pressed[0], 1.5);
}

TEST(OneSided, WhatIsSaidToBearOrToBeOpenIsTakenSoAndTellsWhatTheLoadsWouldHave)
{
    SaidModel roped = arm();
    roped.say("one-sided", joining("tip", "up", "only pull each other"))
        .say("force", force("100 N", "0, 0, 1", "up"))
        .say("force", force("100 N", "0, 0, -1", "down"));
    SaidModel said = roped;
    said.say("bears-as-said", {{"points", "tip"}, {"how", "bears whatever the loads"}, {"state", "up"}});
    const Rest held = loadedRest(said, 0);
    const RestContact& pushed = held.states[0].contacts[0];
    EXPECT_NEAR(pushed.force / (-100 * ropeStiffness / (ofArm() + ropeStiffness)), 1.0, 1e-6)
        << "it pushes, as a spring would";
    EXPECT_THAT(contactRemark(pushed), HasSubstr("it would open"));
    EXPECT_EQ(contactRemark(held.states[1].contacts[0]), "") << "of the other state nothing was said";
    SaidModel off = roped;
    off.say("bears-as-said", {{"points", "tip"}, {"how", "is open"}});
    const Rest open = loadedRest(off, 0);
    for (const auto& state : open.states) {
        EXPECT_FALSE(state.contacts[0].bears);
        EXPECT_NEAR(state.moves / (100 / ofArm()), 1.0, 1e-6);
    }
    EXPECT_THAT(restTable(off.model(), open.states[1], DisplayUnits()), HasSubstr("as said: it would bear"));
    expectSame(off.frequencies(), arm().frequencies(), 1e-9);
    EXPECT_GT(roped.frequencies()[1], 1.04 * off.frequencies()[1]);
}

TEST(OneSided, SupportsOfOnePurposeHoldInVibrationOrAtRestAlone)
{
    const auto sprung = [](const char* when) {
        SaidModel said = arm();
        Words words{{"points", "tip"}, {"kz", "4 N/mm"}};
        if (when) words["when"] = when;
        said.say("ground-spring", words).say("own-weight");
        return said;
    };
    const SaidModel always = sprung(nullptr), fast = sprung("in vibration, not at rest"),
                    slow = sprung("at rest, not in vibration");
    expectSame(fast.frequencies(), always.frequencies(), 1e-12);
    expectSame(slow.frequencies(), arm().frequencies(), 1e-12);
    SaidModel bare = arm();
    bare.say("own-weight");
    EXPECT_NEAR(loadedRest(fast, 0).states[0].moves / loadedRest(bare, 0).states[0].moves, 1.0, 1e-12);
    EXPECT_NEAR(loadedRest(slow, 0).states[0].moves / loadedRest(always, 0).states[0].moves, 1.0, 1e-12);
    const auto weighs = [](const SaidModel& said) {
        Progress progress;
        KeptRuns kept;
        const auto found = selfWeightStudy().run(said.model(), {}, {progress, kept});
        double tip = 0.0;
        for (const auto& load : found->carried)
            if (load.point == "tip") tip = load.force.z();
        return tip;
    };
    EXPECT_EQ(weighs(fast), 0.0);
    EXPECT_GT(weighs(slow), 10.0);

    // What is held otherwise at rest is drawn with the motions that it has then.
    const auto ofFast = restOfModel(fast.model(), 0);
    const auto drawn = restAsShapes(fast.model(), *ofFast, false);
    ASSERT_TRUE(drawn);
    EXPECT_NEAR((*drawn)->motion(1, 0).head<3>().norm() / ofFast->found.states[0].moves, 1.0, 1e-12) << "the tip";

    // About a state: what a drawn beam has at rest, held in its middle in vibration alone.
    SaidModel strip = steel();
    strip
        .say("run", {{"name", "Beam"},
                     {"from", "0, 0, 0 m"},
                     {"to", "4, 0, 0 m"},
                     {"parts", "2"},
                     {"section", "rectangle 20x200 mm"}})
        .say("hold", {{"where", "Beam"}, {"directions", "y rx rz"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "x z"}})
        .say("hold", {{"where", "Beam.2"}, {"directions", "z"}})
        .say("force", {{"load", "20 kN"}, {"direction", "1, 0, 0"}, {"where", "Beam.2"}, {"state", "pulled"}})
        .say("hold", {{"where", "Beam.1"}, {"directions", "z"}, {"when", "in vibration, not at rest"}})
        .say("own-weight", {{"state", "pulled"}})
        .say("lowest", {{"count", "1"}});
    const Section section = rectangleSection(0.02, 0.2);
    const double wave = pi / 2.0, perLength = rho * 0.02 * 0.2; // of half the beam
    const double expected = std::sqrt((E * section.iy * std::pow(wave, 4) + 20e3 * wave * wave) / perLength) / (2 * pi);
    EXPECT_NEAR(about(strip).frequencies()[0] / expected, 1.0, 2e-3);
    const double weight = perLength * standardGravity;
    EXPECT_GT(loadedRest(strip, 0).states[0].moves, 0.9 * 5 * weight * 256 / (384 * E * section.iy))
        << "it sags all over";
}

TEST(ShiftedSupports, TakeTheForcesOfABeamWhoseEndOrMiddleSettles)
{
    // Clamped at both ends, one of them 3 mm lower: 12 E I d / L3 and half of that by L; and a middle support that
    // settles under a beam on three: 48 E I d / L3. The modes about either are those of the beam as it stands.
    const Section section = rectangleSection(0.05, 0.05);
    const double shear = 12 * E * section.iy / (E / (2 * (1 + nu)) * section.shearArea(1, nu) * 4);
    SaidModel clamped = steel();
    clamped
        .say("run", {{"name", "Beam"},
                     {"from", "0, 0, 0 m"},
                     {"to", "2, 0, 0 m"},
                     {"parts", "2"},
                     {"section", "rectangle 50x50 mm"}})
        .say("hold", {{"where", "Beam.0, Beam.2"}, {"directions", "all"}})
        .say("shift", {{"points", "Beam.2"}, {"by", "0, 0, -3 mm"}, {"state", "settled"}})
        .say("own-weight", {{"state", "weighs"}})
        .say("combined-state", {{"name", "both"}, {"rows", "settled|2\nweighs|1"}})
        .say("lowest", {{"count", "2"}});
    const Rest found = loadedRest(clamped, 0);
    const double force = 12 * E * section.iy * 3e-3 / 8 / (1 + shear);
    const auto &settled = found.states[0], &both = found.states[2];
    EXPECT_NEAR(carriedAt(settled, "Beam.0").force.z() / force, 1.0, 1e-8);
    EXPECT_NEAR(carriedAt(settled, "Beam.2").force.z() / -force, 1.0, 1e-8);
    EXPECT_NEAR(std::abs(carriedAt(settled, "Beam.2").moment.y()) / force, 1.0, 1e-8) << "by half of the length";
    EXPECT_NEAR(settled.moves, 3e-3, 1e-12);
    EXPECT_LT(settled.unbalanced, 1e-8);
    EXPECT_TRUE(settled.contacts.empty()) << "it is a support as others are";
    const double half = rho * 0.0025 * standardGravity;
    EXPECT_NEAR(carriedAt(both, "Beam.0").force.z() / (2 * force + half), 1.0, 1e-8);
    EXPECT_LT(both.unbalanced, 1e-8);
    SaidModel aboutIt = clamped;
    expectSame(about(aboutIt, "settled").frequencies(), clamped.frequencies(), 1e-6);

    SaidModel three = steel();
    three
        .say("run", {{"name", "Beam"},
                     {"from", "0, 0, 0 m"},
                     {"to", "4, 0, 0 m"},
                     {"parts", "2"},
                     {"section", "rectangle 50x50 mm"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx"}})
        .say("hold", {{"where", "Beam.1, Beam.2"}, {"directions", "y z"}})
        .say("shift", {{"points", "Beam.1"}, {"by", "0, 0, -3 mm"}});
    const auto sunk = loadedRest(three, 0).states[0];
    EXPECT_NEAR(carriedAt(sunk, "Beam.1").force.z() / (-48 * E * section.iy * 3e-3 / 64 / (1 + shear / 4)), 1.0, 1e-8);
    // A support that lets go of what settles away from it.
    SaidModel hung = steel();
    hung.say("run", {{"name", "Beam"},
                     {"from", "0, 0, 0 m"},
                     {"to", "4, 0, 0 m"},
                     {"parts", "2"},
                     {"section", "rectangle 50x50 mm"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("hold", {{"where", "Beam.2"}, {"directions", "y z"}})
        .say("rests-on", {{"points", "Beam.1"}, {"direction", "0, 0, 1"}})
        .say("shift", {{"points", "Beam.2"}, {"by", "0, 0, 5 mm"}, {"state", "raised"}})
        .say("shift", {{"points", "Beam.2"}, {"by", "0, 0, -5 mm"}, {"state", "sunk"}});
    const Rest let = loadedRest(hung, 0);
    ASSERT_EQ(let.states[0].contacts.size(), 1u);
    EXPECT_FALSE(let.states[0].contacts[0].bears);
    EXPECT_NEAR(let.states[0].contacts[0].gap / 5e-3, 5.0 / 16, 0.01) << "3/2 of a quarter less half of an eighth";
    EXPECT_TRUE(let.states[1].contacts[0].bears);
    EXPECT_LT(let.states[1].unbalanced, 1e-8);

    // What a rope hangs on is lifted: nothing else is joined there.
    SaidModel lifted = arm();
    lifted.say("one-sided", joining("tip", "up", "only pull each other"))
        .say("shift", {{"points", "up"}, {"by", "0, 0, 5 mm"}, {"state", "lifted"}})
        .say("shift", {{"points", "up"}, {"by", "0, 0, -5 mm"}, {"state", "lowered"}});
    const Rest pulled = loadedRest(lifted, 0);
    const double drawn = 5e-3 * ropeStiffness * ofArm() / (ropeStiffness + ofArm());
    EXPECT_NEAR(pulled.states[0].contacts[0].force / drawn, 1.0, 1e-6);
    EXPECT_NEAR(carriedAt(pulled.states[0], "up").force.z() / drawn, 1.0, 1e-6);
    EXPECT_LT(pulled.states[0].unbalanced, 1e-8);
    EXPECT_FALSE(pulled.states[1].contacts[0].bears);

    SaidModel loose = arm();
    loose.say("shift", {{"points", "tip"}, {"by", "0, 0, -3 mm"}});
    const auto refused = restOfModel(loose.model(), 0);
    ASSERT_FALSE(refused);
    EXPECT_THAT(refused.findings().front().what, HasSubstr("tip is not held rigidly the way"));
}

TEST(OneSided, WhatCannotBeIsSaidAndNothingIsLost)
{
    const auto refused = [](SaidModel& said) {
        const auto found = restOfModel(said.say("own-weight").model(), 0);
        return found ? std::string() : found.findings().front().what;
    };
    SaidModel same = arm();
    EXPECT_THAT(refused(same.say("one-sided", joining("tip", "tip", "only pull each other"))), HasSubstr("same point"));
    SaidModel one = arm();
    one.say("points", {{"rows", "there|2 m|0 m|1 m"}});
    EXPECT_THAT(refused(one.say("one-sided", joining("up", "there", "only pull each other"))),
                HasSubstr("in one place"));
    SaidModel none = arm();
    EXPECT_THAT(refused(none.say("bears-as-said", {{"points", "tip"}, {"how", "is open"}})),
                HasSubstr("on one side alone"));
    SaidModel unknown = arm();
    unknown.say("one-sided", joining("tip", "up", "only pull each other"));
    EXPECT_THAT(refused(unknown.say("bears-as-said", {{"points", "tip"}, {"how", "is open"}, {"state", "cold"}})),
                HasSubstr("no static state \"cold\""));
    // A rope between two points that are held: nothing there can move.
    SaidModel stiff = arm();
    EXPECT_THAT(refused(stiff.say("one-sided", joining("low", "up", "only pull each other"))),
                HasSubstr("cannot move"));
    // One that hangs on nothing holds nothing.
    SaidModel loose = arm();
    loose.say("points", {{"rows", "hook|2 m|0 m|2 m"}})
        .say("one-sided", joining("tip", "hook", "only pull each other"));
    const auto findings = checkStructure(loose.structure(), MassSummary{}, loose.model());
    EXPECT_TRUE(std::any_of(findings.begin(), findings.end(), [](const Finding& finding) {
        return finding.what.find("hook is joined to nothing else") != std::string::npos;
    }));
    EXPECT_EQ(loadedRest(loose.say("own-weight"), 0).states[0].contacts[0].force, 0.0);
}
