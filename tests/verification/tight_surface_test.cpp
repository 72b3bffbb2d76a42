// Sheet and bodies that are drawn tight, pressed on or pushed sideways, against closed forms.
#include "core/units/unit.hpp"
#include "tests/verification/resting.hpp"

#include <gmock/gmock.h>

using namespace undisona;

namespace {

/// Everything of E, nu and rho, that expands.
SaidModel expanding()
{
    SaidModel said;
    said.say("own-material", {{"name", "m"},
                              {"modulus", "200 GPa"},
                              {"poisson", "0.3"},
                              {"density", "8000 kg/m3"},
                              {"expansion", "12e-6 1/K"}})
        .say("material", {{"what", "everything"}, {"material", "m"}});
    return said;
}

/// A tube along z, open at its ends, of which nothing moves along itself.
SaidModel tube(double radius, double thickness, double length)
{
    SaidModel said = steel();
    said.say("cylinder-shell", {{"name", "Tube"},
                                {"diameter", metres(2 * radius)},
                                {"length", metres(length)},
                                {"thickness", metres(thickness)}});
    return said;
}

} // namespace

TEST(TightSurface, ADrumSoundsByItsPullAlone)
{
    // J0(k a) = 0, and J1, J2: a disc that has become colder while its rim stands still.
    constexpr double radius = 0.2, thickness = 2e-4, colder = 50.0;
    SaidModel drum = expanding();
    drum.say("disc", {{"name", "Drum"}, {"diameter", metres(2 * radius)}, {"thickness", metres(thickness)}})
        .say("membranes", {{"sheets", "Drum"}})
        .say("hold", {{"where", "edges of Drum"}, {"directions", "x y z"}})
        .say("warming", {{"where", "Drum"}, {"by", fmt::format("{} K", -colder)}, {"state", "pulled"}})
        .say("lowest", {{"count", "6"}});
    const double pull = E * thickness * 12e-6 * colder / (1 - nu), speed = std::sqrt(pull / (rho * thickness));
    const auto found = about(drum).frequencies();
    const std::vector<double> roots{2.404826, 3.831706, 3.831706, 5.135622, 5.135622, 5.520078};
    ASSERT_EQ(found.size(), roots.size());
    for (std::size_t at = 0; at < roots.size(); ++at)
        EXPECT_NEAR(found[at] / (roots[at] * speed / (2 * pi * radius)), 1.0, 0.01) << at;
}

TEST(TightSurface, ATubeGivesWayToPressureThatTurnsWithIt)
{
    // n2 - 1 times E' I / R3 from outside (Levy 1884); plane strain, as nothing moves along it.
    constexpr double radius = 0.2, thickness = 4e-3, length = 0.1;
    SaidModel pressed = tube(radius, thickness, length);
    pressed.say("hold", {{"where", "Tube"}, {"directions", "z"}})
        .say("hold", {{"where", "Tube"}, {"directions", "rx ry"}})
        .say("pressure", {{"pressure", "1 bar"}, {"where", "Tube"}});
    // Held softly: a ring that is pressed evenly is not kept from moving as a whole by that.
    pressed.say("bed", {{"where", "Tube"}, {"stiffness", "1e3 N/m3"}, {"directions", "x y"}});
    const auto state = loadedRest(pressed, 2).states[0];
    ASSERT_FALSE(state.buckles.empty());
    const double stiff = E * std::pow(thickness, 3) / (12 * (1 - nu * nu));
    EXPECT_NEAR(state.buckles[0] * 1e5 / (3 * stiff / std::pow(radius, 3)), 1.0, 0.02);
}

TEST(TightSurface, ATubeThatIsBlownUpSoundsHigher)
{
    // Rings: w2 = [n2 (n2 - 1)2 E'I / R4 + n2 (n2 - 1) p / R] / (m (n2 + 1)), the second by pressure that turns with
    // it.
    constexpr double radius = 0.2, thickness = 2e-3, length = 0.05, pressure = 4e5;
    SaidModel blown = tube(radius, thickness, length);
    blown.say("hold", {{"where", "Tube"}, {"directions", "z"}})
        .say("hold", {{"where", "Tube"}, {"directions", "rx ry"}})
        .say("pressure", {{"pressure", "4 bar"}, {"where", "Tube"}, {"side", "below"}, {"state", "pulled"}})
        .say("lowest", {{"count", "8"}});
    const double stiff = E * std::pow(thickness, 3) / (12 * (1 - nu * nu)), mass = rho * thickness;
    const auto ring = [&](double n, double p) {
        const double n2 = n * n;
        return std::sqrt((n2 * (n2 - 1) * (n2 - 1) * stiff / std::pow(radius, 4) + n2 * (n2 - 1) * p / radius) /
                         (mass * (n2 + 1))) /
               (2 * pi);
    };
    const auto plain = blown.frequencies();
    const auto found = about(blown).frequencies();
    for (std::size_t pair = 0; pair < 3; ++pair) {
        EXPECT_NEAR(plain[2 * pair] / ring(double(pair) + 2, 0.0), 1.0, 0.015) << pair;
        EXPECT_NEAR(found[2 * pair] / ring(double(pair) + 2, pressure), 1.0, 0.01) << pair;
    }
    EXPECT_GT(found[0] / plain[0], 2.0);
}

TEST(TightSurface, ASpinningDiscIsHeldFlatByItsSpinAlone)
{
    // w2 = W2 [(n + 2 s)(n + 2 s + 2)(3 + nu) - n2 (1 + 3 nu)] / 8 with n diameters and s circles, seen from the disc
    // (Lamb and Southwell 1921); stress (3 + nu) / 8 rho W2 a2 in its middle.
    constexpr double radius = 0.2, speed = 1000.0; // m, 1/s: bending is next to nothing beside it
    SaidModel disc = steel();
    disc.say("disc", {{"name", "Disc"}, {"diameter", metres(2 * radius)}, {"thickness", "0.3 mm"}})
        .say("hold", {{"where", "Disc"}, {"directions", "x y"}, {"when", "in vibration, not at rest"}})
        .say("spin", {{"speed", fmt::format("{} Hz", speed / (2 * pi))}, {"state", "pulled"}})
        .say("lowest", {{"count", "8"}});
    const auto state = loadedRest(disc, 0).states[0];
    EXPECT_NEAR(partNamed(state, "Disc").most.equivalent / ((3 + nu) / 8 * rho * speed * speed * radius * radius), 1.0,
                0.02);
    const auto wave = [&](double n, double s) {
        const double q = n + 2 * s;
        return speed / (2 * pi) * std::sqrt((q * (q + 2) * (3 + nu) - n * n * (1 + 3 * nu)) / 8);
    };
    const auto found = about(disc).frequencies();
    EXPECT_EQ(disc.problems(), "");
    // It tilts at the speed, twice; then two diameters twice, a circle, three diameters twice.
    const std::vector<double> wanted{wave(1, 0), wave(1, 0), wave(2, 0), wave(2, 0),
                                     wave(0, 1), wave(3, 0), wave(3, 0)};
    ASSERT_GE(found.size(), wanted.size());
    for (std::size_t at = 0; at < wanted.size(); ++at)
        EXPECT_NEAR(found[at] / wanted[at], 1.0, 0.01) << at;
}

TEST(TightSurface, ASpinningRingSoundsByItsWavesSeenByOneWhoSpinsWithIt)
{
    // w2 = w02 + W2 n2 (n2 - 3) / (n2 + 1) without Coriolis' forces: the mean of the squares that Bryan 1890 and
    // Carrier 1945 have with them, less what those add.
    constexpr double radius = 0.2, thickness = 2e-3, length = 0.05, speed = 300.0; // 1/s
    SaidModel ring = tube(radius, thickness, length);
    ring.say("hold", {{"where", "Tube"}, {"directions", "z"}})
        .say("hold", {{"where", "Tube"}, {"directions", "rx ry"}})
        .say("points", {{"rows", "axis|0 m|0 m|0.025 m"}})
        .say("mean", {{"point", "axis"}, {"of", "Tube"}}) // waves have none, and it does not fly off
        .say("hold", {{"where", "axis"}, {"directions", "x y rz"}})
        .say("spin", {{"speed", fmt::format("{} Hz", speed / (2 * pi))}, {"state", "pulled"}})
        .say("lowest", {{"count", "6"}});
    const double stiff = E * std::pow(thickness, 3) / (12 * (1 - nu * nu)), mass = rho * thickness;
    const auto wave = [&](double n, double spin) {
        const double n2 = n * n;
        return std::sqrt(n2 * (n2 - 1) * (n2 - 1) * stiff / (std::pow(radius, 4) * mass * (n2 + 1)) +
                         spin * spin * n2 * (n2 - 3) / (n2 + 1)) /
               (2 * pi);
    };
    const auto plain = ring.frequencies();
    const auto found = about(ring).frequencies();
    ASSERT_EQ(found.size(), 6u);
    for (std::size_t pair = 0; pair < 3; ++pair) {
        EXPECT_NEAR(plain[2 * pair] / wave(double(pair) + 2, 0.0), 1.0, 0.015) << pair;
        EXPECT_NEAR(found[2 * pair] / wave(double(pair) + 2, speed), 1.0, 0.01) << pair;
    }
}

TEST(TightSurface, AClosedTubeSoundsHigherByItsPullAlongAndByItsPressure)
{
    // Ends that stay round: along it w2 grows by N (m pi / L)2 / m, and round it by p (n2 - 1) / (m R (1 + 1/n2 +
    // l2/n4)), l = m pi R / L, of motions that stretch nothing round (Fung, Sechler and Kaplan 1957).
    constexpr double radius = 0.2, thickness = 3e-3, length = 0.8, pressure = 2e6;
    SaidModel closed = tube(radius, thickness, length);
    const auto ends = [](const char* load, const char* state) {
        return std::pair{
            Words{{"load", load}, {"direction", "0, 0, 1"}, {"where", "edges at z = 0.8 m"}, {"state", state}},
            Words{{"load", load}, {"direction", "0, 0, -1"}, {"where", "edges at z = 0 m"}, {"state", state}}};
    };
    const auto along = ends("600 kN/m", "pulled along"), capped = ends("200 kN/m", "closed"); // p R / 2
    closed.say("hold", {{"where", "edges at z = 0 m, edges at z = 0.8 m"}, {"directions", "x y"}})
        .say("force", along.first)
        .say("force", along.second)
        .say("force", capped.first)
        .say("force", capped.second)
        .say("pressure", {{"pressure", "20 bar"}, {"where", "Tube"}, {"side", "below"}, {"state", "closed"}})
        .say("lowest", {{"count", "6"}});
    const auto squared = [](const std::shared_ptr<const Solution>& solution, int waves) { // of one half-wave, (rad/s)2
        const std::string name = fmt::format("{} waves round, 1 half-wave", waves);
        for (const auto& mode : solution->modes)
            if (mode.name.find(name) != std::string::npos) return std::pow(2 * pi * mode.frequency, 2);
        ADD_FAILURE() << "no mode has " << name;
        return 0.0;
    };
    SaidModel pulled = closed;
    about(pulled, "pulled along");
    SaidModel blown = closed;
    about(blown, "closed");
    const auto still = closed.solvedUnjudged(), alongAlone = pulled.solvedUnjudged(), both = blown.solvedUnjudged();
    const double mass = rho * thickness, k = pi / length, l2 = std::pow(k * radius, 2);
    for (const int waves : {3, 4}) {
        const double n2 = waves * waves, plain = squared(still, waves);
        EXPECT_NEAR((squared(alongAlone, waves) - plain) / (6e5 * k * k / mass), 1.0, 0.02) << waves;
        const double round = pressure * (n2 - 1) / (mass * radius * (1 + 1 / n2 + l2 / (n2 * n2)));
        EXPECT_NEAR((squared(both, waves) - plain) / (round + 2e5 * k * k / mass), 1.0, 0.02) << waves;
    }
}

TEST(TightSurface, APortalNearSwayingSlowsDownToNothing)
{
    // Fixed columns under a girder as good as rigid: pi2 E I / L2 each; f2 falls with the load.
    constexpr double height = 3.0;
    const auto portal = [](double load) {
        SaidModel said = steel();
        said.say("points", {{"rows", "a|0 m|0 m|0 m\nb|0 m|0 m|3 m\nc|4 m|0 m|3 m\nd|4 m|0 m|0 m"}})
            .say("members", {{"name", "Columns"}, {"rows", "one|a|b\ntwo|d|c"}, {"section", "rectangle 40x40 mm"}})
            .say("members", {{"name", "Girder"}, {"rows", "girder|b|c"}, {"section", "rectangle 400x400 mm"}})
            .say("hold", {{"where", "a, d"}, {"directions", "all"}})
            .say("hold", {{"where", "Columns, Girder"}, {"directions", "y rx rz"}})
            .say("mass", {{"mass", "500 kg"}, {"points", "b"}})
            .say("mass", {{"mass", "500 kg"}, {"points", "c"}})
            .say("force", {{"load", fmt::format("{} N", 2 * load)}, {"where", "b, c"}, {"state", "pressed"}})
            .say("lowest", {{"count", "1"}});
        return said;
    };
    const double buckles = pi * pi * E * rectangleSection(0.04, 0.04).iy / (height * height);
    EXPECT_NEAR(loadedRest(portal(buckles), 2).states[0].buckles[0], 1.0, 5e-3);
    const double free = portal(buckles).frequencies()[0];
    for (const double share : {0.25, 0.5, 0.9, 0.98}) {
        SaidModel said = portal(share * buckles);
        const double ratio = about(said, "pressed").frequencies()[0] / free;
        EXPECT_NEAR(ratio * ratio / (1.0 - share), 1.0, share < 0.95 ? 0.03 : 0.15) << share;
    }
    SaidModel over = portal(1.05 * buckles);
    EXPECT_THAT(about(over, "pressed").problems() + portal(1.0).problems(),
                testing::Not(testing::HasSubstr("mechanism")));
}
