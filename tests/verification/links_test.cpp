// What is tied to a point: in all directions or in some, points, edges, faces and whole parts.
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

double hertzOf(double stiffness, double mass)
{
    return std::sqrt(stiffness / mass) / (2.0 * pi);
}

SaidModel points(const std::string& rows)
{
    SaidModel said;
    said.say("points", {{"rows", rows}});
    return said;
}

long countOf(const Solution& solution, bool Mode::*what)
{
    return std::count_if(solution.modes.begin(), solution.modes.end(), [&](const Mode& mode) { return mode.*what; });
}

} // namespace

TEST(Link, InOneDirectionAloneTwoMassesMoveAsOneThereAndApartElsewhere)
{
    SaidModel said = points("a|0 m|0 m|0 m\nb|0 m|0 m|0 m");
    said.say("mass", {{"points", "a"}, {"mass", "3 kg"}})
        .say("mass", {{"points", "b"}, {"mass", "5 kg"}})
        .say("ground-spring", {{"points", "a"}, {"kx", "1 kN/m"}, {"kz", "2 kN/m"}})
        .say("ground-spring", {{"points", "b"}, {"kx", "4 kN/m"}, {"kz", "9 kN/m"}})
        .say("hold", {{"where", "a, b"}, {"directions", "y"}})
        .say("rigid", {{"points", "b"}, {"to", "a"}, {"directions", "x"}})
        .say("lowest", {{"count", "3"}});
    EXPECT_THAT(said.frequencies(), testing::ElementsAre(testing::DoubleNear(hertzOf(5e3, 8), 1e-9),
                                                         testing::DoubleNear(hertzOf(2e3, 3), 1e-9),
                                                         testing::DoubleNear(hertzOf(9e3, 5), 1e-9)));
}

TEST(Link, CarriesAtAnArmWhatFollowsInOneDirection)
{
    // b hangs 0.5 m above a, which turns about y on a spring and is held otherwise: m L^2 about k_r.
    SaidModel said = points("a|0 m|0 m|0 m\nb|0 m|0 m|0.5 m");
    said.say("hold", {{"where", "a"}, {"directions", "x y z rx rz"}})
        .say("ground-spring", {{"points", "a"}, {"kry", "700 N m/rad"}})
        .say("mass", {{"points", "b"}, {"mass", "4 kg"}})
        .say("hold", {{"where", "b"}, {"directions", "y z"}})
        .say("rigid", {{"points", "b"}, {"to", "a"}, {"directions", "x"}})
        .say("lowest", {{"count", "1"}});
    const auto found = said.frequencies();
    ASSERT_EQ(found.size(), 1u);
    EXPECT_NEAR(found[0], hertzOf(700, 4 * 0.25), 1e-9);
}

TEST(Link, ToWhatIsHeldMovesWithTheBaseAndLeavesTheLeaderItsOtherWays)
{
    // b is held along x and follows a there at the arm L: u = -L r. One motion, of inertia m L^2 + J.
    SaidModel said = points("a|0 m|0 m|0 m\nb|0 m|0 m|0.5 m");
    said.say("mass", {{"points", "a"}, {"mass", "6 kg"}, {"inertia", "2, 2, 2 kg m2"}})
        .say("hold", {{"where", "a"}, {"directions", "y z rx rz"}})
        .say("ground-spring", {{"points", "a"}, {"kx", "8 kN/m"}, {"kry", "1 kN m/rad"}})
        .say("hold", {{"where", "b"}, {"directions", "x"}})
        .say("rigid", {{"points", "b"}, {"to", "a"}, {"directions", "x"}})
        .say("lowest", {{"count", "1"}});
    const auto solution = said.solved();
    ASSERT_EQ(solution->modes.size(), 1u);
    const double inertia = 6 * 0.25 + 2;
    EXPECT_NEAR(solution->modes[0].frequency, hertzOf(8e3 * 0.25 + 1e3, inertia), 1e-9);
    EXPECT_NEAR(solution->participation.effective(0, 0), 36 * 0.25 / inertia, 1e-9) << "(m L)^2 / (m L^2 + J)";
    EXPECT_NEAR(solution->participation.movable[0], 36 * 0.25 / inertia, 1e-9);
}

TEST(Link, SixDirectionsAtThreePlacesHoldOneFrameToAnotherAndFiveLeaveItLoose)
{
    SaidModel two = points("a1|0 m|0 m|0 m\na2|2 m|0 m|0 m\na3|0 m|2 m|0 m\n"
                           "b1|0 m|0 m|0 m\nb2|2 m|0 m|0 m\nb3|0 m|2 m|0 m");
    two.say("members", {{"name", "A"}, {"rows", "p|a1|a2\nq|a2|a3\nr|a3|a1"}, {"section", "round 30 mm"}})
        .say("members", {{"name", "B"}, {"rows", "s|b1|b2\nt|b2|b3\nu|b3|b1"}, {"section", "tube 60.3x4 mm"}})
        .say("material")
        .say("rigid", {{"points", "b1"}, {"to", "a1"}, {"directions", "x y z"}})
        .say("rigid", {{"points", "b2"}, {"to", "a2"}, {"directions", "y z"}})
        .say("lowest", {{"count", "12"}});
    SaidModel whole = two;
    whole.say("rigid", {{"points", "b3"}, {"to", "a3"}, {"directions", "z"}});
    const auto held = whole.solved(), loose = two.solved();
    EXPECT_EQ(countOf(*held, &Mode::rigid), 6);
    EXPECT_EQ(countOf(*held, &Mode::mechanism), 0);
    EXPECT_EQ(countOf(*loose, &Mode::rigid), 6);
    EXPECT_EQ(countOf(*loose, &Mode::mechanism), 1);
    // The places of the two frames move together where they are tied, and turn each by itself.
    const std::size_t mode = 8;
    EXPECT_LT((held->motion(0, mode) - held->motion(3, mode)).head<3>().norm(), 1e-12 * held->motion(0, mode).norm());
    EXPECT_GT((held->motion(0, mode) - held->motion(3, mode)).tail<3>().norm(), 1e-6 * held->motion(0, mode).norm());
}

TEST(Link, TheEndOfAStripCarriesAMassAtAnArm)
{
    SaidModel said = steel();
    said.say("plate", {{"name", "Strip"}, {"length", "1 m"}, {"width", "20 mm"}, {"thickness", "5 mm"}})
        .say("points", {{"rows", "weight|1.05 m|0.01 m|0 m"}})
        .say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
        .say("rigid", {{"points", "edges at x = 1 m"}, {"to", "weight"}})
        .say("mass", {{"points", "weight"}, {"mass", "20 kg"}})
        .say("lowest", {{"count", "1"}});
    EXPECT_EQ(said.problems(), "");
    const double bending = 200e9 * 0.02 * std::pow(0.005, 3) / 12.0, arm = 0.05;
    const double stiffness = bending / (1.0 / 3.0 + arm + arm * arm); // of a beam with a rigid arm of this length
    EXPECT_NEAR(said.frequencies().at(0), hertzOf(stiffness, 20 + 33.0 / 140.0 * 0.8), 0.005 * hertzOf(stiffness, 20));
}

TEST(Link, APartThatIsTiedAsAWholeIsARigidBody)
{
    for (const char* elements : {"8-node bricks", "20-node bricks", "tetrahedra"}) {
        SaidModel said = steel();
        said.say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
            .say("solid-elements", {{"what", "Block"}, {"elements", elements}})
            .say("points", {{"rows", "c|0.15 m|0.1 m|0.05 m"}})
            .say("rigid", {{"points", "Block"}, {"to", "c"}})
            .say("ground-spring", {{"points", "c"},
                                   {"kx", "1 kN/mm"},
                                   {"ky", "2 kN/mm"},
                                   {"kz", "3 kN/mm"},
                                   {"krx", "1 kN m/rad"},
                                   {"kry", "1 kN m/rad"},
                                   {"krz", "1 kN m/rad"}})
            .say("lowest", {{"count", "6"}});
        const auto solution = said.solved();
        EXPECT_EQ(solution->system->size(), 6) << elements;
        const double mass = 8000 * 0.3 * 0.2 * 0.1;
        std::vector<double> hand{hertzOf(1e6, mass),
                                 hertzOf(2e6, mass),
                                 hertzOf(3e6, mass),
                                 hertzOf(1e3, mass * (0.04 + 0.01) / 12),
                                 hertzOf(1e3, mass * (0.09 + 0.01) / 12),
                                 hertzOf(1e3, mass * (0.09 + 0.04) / 12)};
        std::sort(hand.begin(), hand.end());
        ASSERT_EQ(solution->modes.size(), 6u);
        for (std::size_t at = 0; at < 6; ++at)
            EXPECT_NEAR(solution->modes[at].frequency, hand[at], 1e-8 * hand[at]) << elements;
    }
}

TEST(Link, OneThatJoinsNothingIsSaid)
{
    SaidModel said = straightBeam(1, 0.02, 0.02, 4);
    said.say("points", {{"rows", "c|1 m|0 m|0.1 m"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("rigid", {{"points", "c"}, {"to", "Beam.1"}})
        .say("mass", {{"points", "c"}, {"mass", "1 kg"}})
        .say("rigid", {{"points", "Beam.1"}, {"to", "c"}, {"directions", "x z"}})
        .say("lowest", {{"count", "1"}});
    const auto solution = said.solved();
    EXPECT_TRUE(std::any_of(solution->findings.begin(), solution->findings.end(), [](const Finding& finding) {
        return finding.what.find("joins nothing") != std::string::npos;
    }));
}

TEST(Motions, AMassOnASpringAtAnArmThatHoldsTwoOfItsWaysHasAllItsOwn)
{
    // The spring sits half way to a, on arms: what turns b about the line between them has neither stiffness nor mass,
    // a skew direction that is left out; with it none of b's shifts may go.
    SaidModel said = points("a|0 m|0 m|0 m\nb|0.3 m|0.2 m|0.5 m");
    said.say("hold", {{"where", "a"}, {"directions", "all"}})
        .say("spring", {{"from", "a"}, {"to", "b"}, {"kx", "1 kN/mm"}, {"kz", "1 kN/mm"}})
        .say("mass", {{"points", "b"}, {"mass", "2.5 kg"}})
        .say("ground-spring", {{"points", "b"}, {"kx", "1 kN/m"}, {"ky", "2 kN/m"}, {"kz", "3 kN/m"}})
        .say("lowest", {{"count", "3"}});
    const auto found = said.frequencies();
    ASSERT_EQ(found.size(), 3u);
    for (int at = 0; at < 3; ++at)
        EXPECT_NEAR(found[std::size_t(at)], hertzOf(1e3 * (at + 1), 2.5), 1e-6) << "the spring turns out of the way";
}

TEST(Motions, AMassWhereItsBodyIsHeldIsNone)
{
    // b is held and the body may turn about it; the mass lies there, so that nothing that turns weighs anything.
    SaidModel said = points("a|0 m|0 m|0 m\nb|0.7 m|0.3 m|0.9 m");
    said.say("rigid", {{"points", "b"}, {"to", "a"}})
        .say("hold", {{"where", "b"}, {"directions", "x y z"}})
        .say("ground-spring", {{"points", "a"}, {"kx", "1 kN/m"}, {"ky", "1 kN/m"}, {"kz", "1 kN/m"}})
        .say("mass", {{"points", "b"}, {"mass", "1000 kg"}})
        .say("lowest", {{"count", "1"}});
    Progress progress;
    const auto answer = solve(said.model(), progress);
    if (answer) {
        EXPECT_TRUE((*answer)->modes.empty()) << (*answer)->modes.front().frequency << " Hz of a mass of rounding";
    } else {
        EXPECT_THAT(answer.findings().front().what, HasSubstr("mass"));
    }
    said.say("mass", {{"points", "a"}, {"mass", "3 kg"}});
    const auto found = said.frequencies();
    ASSERT_EQ(found.size(), 2u) << "a turns about b across the line between them";
    EXPECT_NEAR(found[0], hertzOf(1e3, 3), 1e-9);
    EXPECT_NEAR(found[1], hertzOf(1e3, 3), 1e-9);
}

TEST(Links, ABarePointToWhichABoreIsTiedMovesWithIt)
{
    // Neither mass nor member stands on the point: what follows it is what it has.
    const auto block = [](const char* tied, const char* mass) {
        SaidModel said = steel();
        said.say("solid-box", {{"name", "Arm"}, {"x", "0.4 m"}, {"y", "0.1 m"}, {"z", "40 mm"}})
            .say("point", {{"name", "Hub"}, {"at", "0.45, 0.05, 0.02 m"}})
            .say("hold", {{"where", "faces at x = 0 m of Arm"}, {"directions", "x y z"}})
            .say("rigid", {{"points", tied}, {"to", "Hub"}});
        if (mass) said.say("mass", {{"mass", mass}, {"points", "Hub"}, {"sharing", "on"}});
        return said.say("lowest", {{"count", "4"}}).frequencies();
    };
    for (const char* tied : {"faces at x = 0.4 m of Arm", "edges at x = 0.4 m of Arm"}) {
        const auto bare = block(tied, nullptr), light = block(tied, "1e-6 kg");
        ASSERT_EQ(bare.size(), 4u);
        for (std::size_t mode = 0; mode < 4; ++mode)
            EXPECT_NEAR(bare[mode] / light[mode], 1.0, 1e-5) << tied << mode;
    }
    // So do inner nodes of a member that is tied.
    SaidModel bar = straightBeam(1.0, 0.04, 0.03, 6);
    bar.say("point", {{"name", "Hub"}, {"at", "0.5, 0.2, 0 m"}}).say("rigid", {{"points", "Beam"}, {"to", "Hub"}});
    bar.say("lowest", {{"count", "1"}});
    const auto free = bar.solvedUnjudged();
    EXPECT_EQ(std::count_if(free->modes.begin(), free->modes.end(), [](const Mode& mode) { return mode.rigid; }), 6);
}
