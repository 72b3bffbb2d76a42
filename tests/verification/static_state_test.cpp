// Static states: what supports carry, stresses, buckling and modes about a state, against closed forms.
#include "core/io/rest_table.hpp"
#include "core/units/unit.hpp"
#include "tests/verification/resting.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;
using testing::Not;

namespace {

/// A beam pinned at both ends, free to shorten, that bends across its height alone.
SaidModel pinned(double length, double height, int elements)
{
    SaidModel beam = elements > 0 ? straightBeam(length, height, 10 * height, elements) : steel();
    if (elements == 0) // as many as the program chooses
        beam.say("run", {{"name", "Beam"},
                         {"from", "0, 0, 0 m"},
                         {"to", fmt::format("{}, 0, 0 m", length)},
                         {"parts", "1"},
                         {"section", fmt::format("rectangle {}x{} mm", 1000 * height, 10000 * height)}});
    return beam.say("hold", {{"where", "Beam"}, {"directions", "y rx rz"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "x z"}})
        .say("hold", {{"where", "Beam.1"}, {"directions", "z"}});
}

SaidModel& pull(SaidModel& beam, double force, const std::string& state = "pulled")
{
    return beam.say(
        "force",
        {{"load", fmt::format("{} N", force)}, {"direction", "1, 0, 0"}, {"where", "Beam.1"}, {"state", state}});
}

/// What pressing alone does to a pinned beam, N: Euler's force with what shear takes of it (Engesser 1889).
double buckles(double length, double height, int halfWaves = 1)
{
    const Section section = rectangleSection(height, 10 * height);
    const double euler = std::pow(halfWaves * pi / length, 2) * E * section.iy;
    return euler / (1.0 + euler / (E / 2.6 * section.shearArea(1, nu)));
}

} // namespace

TEST(StaticState, ACantileverCarriesForcesAndMomentsByTheLever)
{
    SaidModel beam = straightBeam(2, 0.1, 0.06, 4);
    beam.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("own-weight", {{"state", "hung"}})
        .say("force", {{"load", "300 N"}, {"direction", "0, 1, 0"}, {"where", "Beam.1"}, {"state", "blown"}})
        .say("moment", {{"moment", "70 N m"}, {"direction", "1, 0, 0"}, {"points", "Beam.1"}, {"state", "blown"}})
        .say("force", {{"load", "50 N/m"}, {"direction", "0, 0, -1"}, {"where", "Beam"}, {"state", "blown"}})
        .say("combined-state", {{"name", "both"}, {"rows", "hung|1.5\nblown|2"}});
    const Rest found = loadedRest(beam, 0);
    ASSERT_EQ(found.states.size(), 3u);
    const double weight = rho * 0.006 * 2 * standardGravity;
    const auto hung = carriedAt(found.states[0], "Beam.0");
    EXPECT_NEAR(hung.force.z() / weight, 1.0, 1e-10);
    EXPECT_NEAR(hung.moment.y() / (-weight * 1.0), 1.0, 1e-10) << "weight times half of the length";
    const auto blown = carriedAt(found.states[1], "Beam.0");
    EXPECT_LT((blown.force - Eigen::Vector3d(0, -300, 100)).norm(), 1e-7);
    EXPECT_LT((blown.moment - Eigen::Vector3d(-70, -100, -600)).norm(), 1e-7);
    const auto both = carriedAt(found.states[2], "Beam.0");
    EXPECT_LT((both.moment - 1.5 * hung.moment - 2.0 * blown.moment).norm(), 1e-7);
    for (const auto& state : found.states)
        EXPECT_LT(state.unbalanced, 1e-10) << state.name;

    // The tip of the third and the largest stress: bending and shear of Timoshenko's beam, M / W.
    const Section section = rectangleSection(0.1, 0.06);
    const double shear = E / 2.6, iz = section.iz, q = 50.0;
    const double sideways = 300 * 8.0 / (3 * E * iz) + 300 * 2.0 / (shear * section.shearArea(0, nu));
    const double down = q * 16.0 / (8 * E * section.iy) + q * 4.0 / (2 * shear * section.shearArea(1, nu));
    EXPECT_NEAR(found.states[1].moved.y() / sideways, 1.0, 1e-9);
    EXPECT_NEAR(-found.states[1].moved.z() / down, 1.0, 1e-9);
    const double bent = weight / (0.06 * 0.1 * 0.1 / 6.0);
    EXPECT_NEAR(partNamed(found.states[0], "Beam").most.equivalent / bent, 1.0, 1e-9);
    EXPECT_NEAR(std::abs(partNamed(found.states[0], "Beam").forces.bending[0]) / weight, 1.0, 1e-9);
}

TEST(StaticState, ABeamBucklesByEulerAndItsSquaredFrequenciesFollowThePull)
{
    constexpr double length = 2.0, height = 0.02;
    SaidModel beam = pinned(length, height, 12);
    pull(beam, -1000);
    const Rest found = loadedRest(beam);
    ASSERT_GE(found.states[0].buckles.size(), 3u);
    for (int waves = 1; waves <= 3; ++waves)
        EXPECT_NEAR(found.states[0].buckles[std::size_t(waves - 1)] * 1000 / buckles(length, height, waves), 1.0, 1e-3)
            << waves;
    EXPECT_GT(found.states[0].buckles[0], 0.0);
    SaidModel turned = pinned(length, height, 12);
    pull(turned, 1000);
    EXPECT_NEAR(loadedRest(turned).states[0].buckles[0], -found.states[0].buckles[0], 1e-6);

    // f2 = f02 (1 + T / Pn), down to nothing; on the mesh that the program chooses.
    const auto frequencies = [&](double force) {
        SaidModel said = pinned(length, height, 0);
        pull(said, force);
        return about(said).say("lowest", {{"count", "3"}}).frequencies();
    };
    const auto still = pinned(length, height, 0).say("lowest", {{"count", "3"}}).frequencies();
    for (const double share : {-0.999, -0.5, 0.5, 30.0}) {
        const auto loaded = frequencies(share * buckles(length, height));
        for (std::size_t mode = 0; mode < 3; ++mode) {
            const double ratio = 1.0 + share * buckles(length, height) / buckles(length, height, int(mode) + 1);
            EXPECT_NEAR(loaded[mode] / (still[mode] * std::sqrt(ratio)), 1.0, share < -0.9 && mode == 0 ? 0.03 : 2e-3)
                << share << ", mode " << mode + 1;
        }
    }
    SaidModel beyond = pinned(length, height, 6);
    pull(beyond, -5.0 * buckles(length, height));
    Progress progress;
    const auto solved = solve(about(beyond).model(), progress);
    ASSERT_FALSE(solved);
    EXPECT_THAT(solved.findings()[0].what, HasSubstr("has buckled: 2 motions release energy"));
}

TEST(StaticState, WiresChainsAndPendulumsHaveTheirStiffnessFromItAlone)
{
    // A wire: n / 2L sqrt(T / m), with the little that bending adds.
    SaidModel wire = straightBeam(2, 0.001, 0.001, 12);
    wire.say("hold", {{"where", "Beam.0, Beam.1"}, {"directions", "x y z rx"}})
        .say("pretension", {{"force", "80 N"}, {"members", "Beam"}})
        .say("lowest", {{"count", "6"}});
    const auto tones = about(wire, "loaded").frequencies();
    const double base = std::sqrt(80.0 / (rho * 1e-6)) / 4.0, bending = E * 1e-12 / 12.0;
    for (int mode = 0; mode < 6; ++mode) {
        const double n = 1 + mode / 2;
        const double own = base * n * std::sqrt(1.0 + n * n * pi * pi * bending / (80.0 * 4.0));
        EXPECT_NEAR(tones[std::size_t(mode)] / own, 1.0, 2e-4) << mode + 1;
    }

    // A chain of hinged rods under its own weight: zeros of J0 (Bernoulli 1732), 2 pi f = j sqrt(standardGravity / L)
    // / 2.
    constexpr int links = 24;
    std::string points, rows;
    for (int at = 0; at <= links; ++at) {
        points += fmt::format("p{}|0 m|0 m|{} m\n", at, -3.0 * at / links);
        if (at > 0) rows += fmt::format("l{0}|p{1}|p{0}\n", at, at - 1);
    }
    SaidModel chain = steel();
    chain.say("points", {{"rows", points}})
        .say("members", {{"name", "Chain"}, {"rows", rows}, {"section", "round 8 mm"}})
        .say("rods", {{"members", "Chain"}})
        .say("hold", {{"where", "p0"}, {"directions", "x y z"}})
        .say("own-weight")
        .say("lowest", {{"count", "6"}});
    const auto swings = about(chain, "loaded").frequencies();
    const double zeros[] = {2.404826, 5.520078, 8.653728};
    for (std::size_t mode = 0; mode < 6; ++mode)
        EXPECT_NEAR(swings[mode] / (zeros[mode / 2] * std::sqrt(standardGravity / 3.0) / (4 * pi)), 1.0, 0.01)
            << mode + 1;

    // A stiff bar on a ball joint: 3 g / 2 L.
    SaidModel bar = steel();
    bar.say("points", {{"rows", "top|0 m|0 m|0 m\nend|0 m|0 m|-1.5 m"}})
        .say("members", {{"name", "Bar"}, {"rows", "b|top|end"}, {"section", "tube 80x5 mm"}})
        .say("hold", {{"where", "top"}, {"directions", "x y z rz"}})
        .say("own-weight")
        .say("lowest", {{"count", "2"}});
    for (const double swing : about(bar, "loaded").frequencies())
        EXPECT_NEAR(swing / (std::sqrt(3 * standardGravity / 3.0) / (2 * pi)), 1.0, 2e-3);
}

TEST(StaticState, EveryFamilyBucklesAlike)
{
    // A clamped column under a force on its end: pi2 EI / 4 L2.
    constexpr double length = 1.0, thin = 0.02, wide = 0.1;
    const double euler = pi * pi * E * (wide * std::pow(thin, 3) / 12.0) / 4.0;
    SaidModel sheet = steel(), solid = steel(), beam = straightBeam(length, thin, wide, 3);
    sheet.say("plate", {{"name", "Strip"}, {"length", "1 m"}, {"width", "0.1 m"}, {"thickness", "20 mm"}})
        .say("hold", {{"where", "edges at x = 0 m of Strip"}, {"directions", "all"}})
        .say("force", {{"load", "-1 kN"}, {"direction", "1, 0, 0"}, {"where", "edges at x = 1 m of Strip"}});
    solid.say("solid-box", {{"name", "Bar"}, {"x", "1 m"}, {"y", "0.1 m"}, {"z", "0.02 m"}})
        .say("hold", {{"where", "faces at x = 0 m of Bar"}, {"directions", "all"}})
        .say("force", {{"load", "-1 kN"}, {"direction", "1, 0, 0"}, {"where", "faces at x = 1 m of Bar"}});
    beam.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("force", {{"load", "-1 kN"}, {"direction", "1, 0, 0"}, {"where", "Beam.1"}});
    for (const auto& [said, within] : {std::pair(&beam, 2e-3), std::pair(&sheet, 0.02), std::pair(&solid, 0.02)}) {
        const Rest found = loadedRest(*said);
        ASSERT_FALSE(found.states[0].buckles.empty());
        EXPECT_NEAR(found.states[0].buckles[0] * 1000 / euler, 1.0, within);
        // Half of what buckles it takes off the same share of the first frequency.
        SaidModel half = *said;
        half.say("combined-state", {{"name", "half"}, {"rows", fmt::format("loaded|{}", euler / 2000)}})
            .say("lowest", {{"count", "1"}});
        SaidModel still = *said;
        still.say("lowest", {{"count", "1"}});
        EXPECT_NEAR(about(half, "half").frequencies()[0] / still.frequencies()[0], 0.7231, 0.003);
    }
}

TEST(StaticState, APlatePressedInItsPlaneBucklesByBryan)
{
    // Simply supported all round, pressed along one direction: 4 pi2 D / b2 per length (Bryan 1891).
    SaidModel plate = steel();
    plate.say("plate", {{"name", "Plate"}, {"length", "1 m"}, {"width", "1 m"}, {"thickness", "8 mm"}})
        .say("hold", {{"where", "edges at x = 0 m of Plate, edges at x = 1 m of Plate"}, {"directions", "z rx"}})
        .say("hold", {{"where", "edges at y = 0 m of Plate, edges at y = 1 m of Plate"}, {"directions", "z ry"}})
        .say("points", {{"rows", "o|0 m|0 m|0 m\np|1 m|0 m|0 m"}})
        .say("hold", {{"where", "o"}, {"directions", "x y"}})
        .say("hold", {{"where", "p"}, {"directions", "y"}})
        .say("force", {{"load", "1 kN/m"}, {"direction", "1, 0, 0"}, {"where", "edges at x = 0 m of Plate"}})
        .say("force", {{"load", "1 kN/m"}, {"direction", "-1, 0, 0"}, {"where", "edges at x = 1 m of Plate"}});
    const double d = E * std::pow(0.008, 3) / (12 * (1 - nu * nu)), pressed = 4 * pi * pi * d;
    const Rest found = loadedRest(plate);
    ASSERT_GE(found.states[0].buckles.size(), 2u);
    EXPECT_NEAR(found.states[0].buckles[0] * 1000 / pressed, 1.0, 0.01) << "on the mesh that the program chooses";
    EXPECT_NEAR(found.states[0].buckles[1] * 1000 / (pressed * 6.25 / 4), 1.0, 0.02) << "two half waves along";
    EXPECT_NEAR(partNamed(found.states[0], "Plate").most.equivalent / (1000 / 0.008), 1.0, 1e-6) << "an even stress";
    EXPECT_LT(found.states[0].unbalanced, 1e-9);
}

TEST(StaticState, WarmthAndPressureStrainByTheirLaws)
{
    // A strip between walls: E alpha dT, and buckles at 4 pi2 EI / L2.
    SaidModel strip = straightBeam(1, 0.01, 0.1, 6);
    strip.say("own-material", {{"name", "m"},
                               {"modulus", "200 GPa"},
                               {"poisson", "0.3"},
                               {"density", "8000 kg/m3"},
                               {"expansion", "12e-6 1/K"}});
    strip.say("hold", {{"where", "Beam.0, Beam.1"}, {"directions", "all"}})
        .say("warming", {{"where", "Beam"}, {"by", "10 °C"}});
    const Rest warm = loadedRest(strip);
    const double stress = E * 12e-6 * 10, force = stress * 0.001;
    EXPECT_NEAR(partNamed(warm.states[0], "Beam").forces.axial / -force, 1.0, 1e-9);
    EXPECT_NEAR(std::abs(carriedAt(warm.states[0], "Beam.1").force.x()) / force, 1.0, 1e-9);
    EXPECT_NEAR(warm.states[0].buckles[0] * force / (4 * pi * pi * E * rectangleSection(0.01, 0.1).iy), 1.0, 5e-3);

    // The same of sheet and of a body that are held all round: E alpha dT / (1 - nu), and / (1 - 2 nu); free, nothing.
    for (const bool held : {true, false})
        for (const bool body : {true, false}) {
            SaidModel said = steel();
            said.say("own-material", {{"name", "m"},
                                      {"modulus", "200 GPa"},
                                      {"poisson", "0.3"},
                                      {"density", "8000 kg/m3"},
                                      {"expansion", "12e-6 1/K"}});
            if (body)
                said.say("solid-box",
                         {{"name", "P"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}, {"size", "0.1 m"}});
            else
                said.say("plate", {{"name", "P"}, {"length", "0.3 m"}, {"width", "0.2 m"}, {"thickness", "6 mm"}});
            if (held) said.say("hold", {{"where", body ? "faces of P" : "edges of P"}, {"directions", "all"}});
            said.say("warming", {{"where", "P"}, {"by", "50 K"}});
            const auto& state = loadedRest(said, 0).states[0];
            const double most = state.parts[0].most.equivalent, least = state.parts[0].most.least,
                         wanted = E * 12e-6 * 50 / (body ? 1 - 2 * nu : 1 - nu);
            if (held)
                EXPECT_NEAR(-least / wanted, 1.0, 1e-6) << body;
            else
                EXPECT_LT(most, 1e-6 * wanted) << body;
            const double diagonal = Eigen::Vector3d(0.3, 0.2, body ? 0.1 : 0).norm();
            if (!held) EXPECT_NEAR(state.moves / (12e-6 * 50 * diagonal / 2), 1.0, 1e-6) << "from the middle, " << body;
        }

    // A pipe under pressure: p R / t round it.
    SaidModel pipe = steel();
    pipe.say("cylinder-shell", {{"name", "Pipe"}, {"diameter", "400 mm"}, {"length", "0.5 m"}, {"thickness", "4 mm"}})
        .say("pressure", {{"pressure", "2 bar"}, {"where", "Pipe"}, {"side", "below"}});
    const auto& pressed = loadedRest(pipe, 0).states[0];
    EXPECT_NEAR(pressed.parts[0].most.equivalent / (2e5 * 0.2 / 0.004), 1.0, 0.02);
    EXPECT_LT(pressed.force.norm(), 1e-6 * 2e5 * 0.4 * 0.5) << "it pushes all ways alike";
}

TEST(StaticState, AWarmPartKeepsWhatIsSaidOfItsStiffness)
{
    // Cantilevers that do nothing but soften: what they sink by goes with 1 / share, their frequencies with its root.
    const auto warmed = [](SaidModel& said, const char* held) -> SaidModel& {
        return said
            .say("own-material", {{"name", "m"},
                                  {"modulus", "200 GPa"},
                                  {"poisson", "0.3"},
                                  {"density", "8000 kg/m3"},
                                  {"expansion", "1e-12 1/K"}}) // next to nothing
            .say("softening", {{"material", "m"}, {"share", "60 %"}, {"by", "400 K"}})
            .say("softening", {{"material", "m"}, {"share", "90 %"}, {"by", "200 K"}})
            .say("hold", {{"where", held}, {"directions", "all"}})
            .say("own-weight")
            .say("warming", {{"where", "everything"}, {"by", "300 K"}, {"state", "hot"}})
            .say("warming", {{"where", "everything"}, {"by", "100 K"}, {"state", "warm"}})
            .say("warming", {{"where", "everything"}, {"by", "-50 K"}, {"state", "cold"}})
            .say("lowest", {{"count", "2"}});
    };
    SaidModel beam = straightBeam(1, 0.02, 0.03, 4), sheet = steel(), body = steel();
    warmed(beam, "Beam.0");
    sheet.say("plate", {{"name", "P"}, {"length", "1 m"}, {"width", "0.2 m"}, {"thickness", "6 mm"}});
    warmed(sheet, "edges at x = 0 m of P");
    body.say("solid-box", {{"name", "P"}, {"x", "1 m"}, {"y", "0.05 m"}, {"z", "0.04 m"}, {"size", "0.05 m"}});
    warmed(body, "faces at x = 0 m of P");
    for (const SaidModel& said : {beam, sheet, body}) {
        const Rest rest = loadedRest(said, 1);
        ASSERT_EQ(rest.states.size(), 3u);
        EXPECT_EQ(rest.states[0].name, "hot");
        EXPECT_EQ(rest.motions.cols(), 3);
        const auto sinks = [&](std::size_t state) { return rest.states[state].moved.z(); };
        EXPECT_NEAR(sinks(0) / sinks(2), 1 / 0.75, 1e-6);
        EXPECT_NEAR(sinks(1) / sinks(2), 1 / 0.95, 1e-6);
        SaidModel cold = said, hot = said, without = said;
        const auto still = without.frequencies();
        const auto of = [&](SaidModel& own, const char* state) {
            return about(own, state).frequencies()[0] / still[0];
        };
        EXPECT_NEAR(of(hot, "hot"), std::sqrt(0.75), 1e-3);
        EXPECT_NEAR(of(cold, "cold"), 1.0, 1e-3);
    }
    // Of the state that modes are about all others are as they are by themselves.
    SaidModel aboutHot = beam;
    const Rest other = loadedRest(about(aboutHot, "hot"), 0), own = loadedRest(beam, 0);
    for (std::size_t state = 0; state < 3; ++state)
        EXPECT_NEAR(other.states[state].moves / own.states[state].moves, 1.0, 1e-9) << state;
    // Hotter than anything that is said.
    SaidModel beyond = beam;
    beyond.say("warming", {{"where", "everything"}, {"by", "500 K"}, {"state", "fire"}});
    EXPECT_THAT(beyond.problems(),
                HasSubstr("m is 500 K warmer in a static state, and its stiffness is not stated so far"));
    EXPECT_EQ(beam.problems(), "");
    SaidModel none = beam;
    none.say("softening", {{"material", "m"}, {"share", "90 %"}, {"by", "0 K"}});
    EXPECT_THAT(none.problems(), HasSubstr("no warmer one"));
}

TEST(StaticState, StressIsTakenByWhatTheMaterialBears)
{
    SaidModel beam = straightBeam(2, 0.1, 0.06, 4);
    beam.say("strength", {{"material", "m"}, {"strength", "200 MPa"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("force", {{"load", "15 kN"}, {"direction", "0, 0, -1"}, {"where", "Beam.1"}, {"state", "hard"}})
        .say("force", {{"load", "3 kN"}, {"direction", "0, 0, -1"}, {"where", "Beam.1"}, {"state", "light"}});
    const Rest found = loadedRest(beam, 0);
    const auto& hard = partNamed(found.states[0], "Beam");
    EXPECT_NEAR(hard.share(), 30e3 / (0.06 * 0.01 / 6) / 200e6, 1e-6) << "M / W by what it bears";
    EXPECT_THAT(restWords(found.states[0], DisplayUnits()),
                HasSubstr("Beam: 150 % of what its material bears, which is too much"));
    EXPECT_THAT(restTable(beam.model(), found.states[1], DisplayUnits()), HasSubstr("   30 %"));
    // A wire drawn tighter than it bears is said before anything is solved.
    SaidModel wire = straightBeam(2, 0.01, 0.01, 4);
    wire.say("strength", {{"material", "m"}, {"strength", "200 MPa"}})
        .say("pretension", {{"force", "15 kN"}, {"members", "Beam"}, {"state", "a"}})
        .say("pretension", {{"force", "25 kN"}, {"members", "Beam"}, {"state", "b"}});
    EXPECT_THAT(wire.problems(),
                HasSubstr("Beam has a stress of 250 MPa by its pretension alone, and m bears 200 MPa"));
    EXPECT_THAT(wire.problems(), Not(HasSubstr("150 MPa")));
    SaidModel unknown = beam;
    unknown.say("strength", {{"material", "butter"}, {"strength", "1 MPa"}});
    EXPECT_THAT(unknown.problems(), HasSubstr("there is no material \"butter\""));
}

TEST(StaticState, ASpinningBladeIsStifferAcrossItsDiscThanInIt)
{
    // Clamped on the axis: first frequencies over sqrt(EI / m L4) at so many of it of speed (Wright, Smith, Thresher
    // and Wang, Vibration modes of centrifugally stiffened beams, 1982); in the disc the square of the speed is less.
    constexpr double length = 1.0, thin = 0.01;
    SaidModel beam = straightBeam(length, thin, thin, 8), sheet = steel(), solid = steel();
    beam.say("hold", {{"where", "Beam.0"}, {"directions", "all"}});
    sheet
        .say("plate",
             {{"name", "Blade"}, {"length", "1 m"}, {"width", "10 mm"}, {"thickness", "10 mm"}, {"size", "30 mm"}})
        .say("hold", {{"where", "edges at x = 0 m of Blade"}, {"directions", "all"}});
    solid.say("solid-box", {{"name", "Blade"}, {"x", "1 m"}, {"y", "10 mm"}, {"z", "10 mm"}, {"size", "40 mm"}})
        .say("hold", {{"where", "faces at x = 0 m of Blade"}, {"directions", "all"}});
    const double unit = std::sqrt(E * thin * thin / 12.0 / rho) / (2.0 * pi); // Hz
    for (const auto& [speed, across] : {std::pair(2.0, 4.1373), std::pair(6.0, 7.3604), std::pair(10.0, 11.2023)})
        for (const SaidModel* said : {&beam, &sheet, &solid}) {
            if (said != &beam && speed != 6.0) continue;
            SaidModel spun = *said;
            spun.say(
                    "spin",
                    {{"speed", fmt::format("{} Hz", speed * unit)}, {"direction", "0, 0, 1"}, {"through", "0, 0, 0 m"}})
                .say("lowest", {{"count", "2"}});
            const auto modes = about(spun, "loaded").frequencies();
            const double in = std::sqrt(across * across - speed * speed), within = said == &beam ? 3e-3 : 0.01;
            EXPECT_NEAR(modes[0] / (in * unit), 1.0, within * std::pow(across / in, 2)) << speed << ", a difference";
            EXPECT_NEAR(modes[1] / (across * unit), 1.0, within) << speed;
        }
    // A mass on its end pulls with m w2 r.
    SaidModel tip = beam;
    tip.say("mass", {{"mass", "3 kg"}, {"points", "Beam.1"}})
        .say("spin", {{"speed", "5 Hz"}, {"direction", "0, 0, 1"}, {"through", "0, 0, 0 m"}});
    const double pull = std::pow(10 * pi, 2) * (3.0 + rho * thin * thin / 2.0);
    EXPECT_NEAR(carriedAt(loadedRest(tip, 0).states[0], "Beam.0").force.x() / -pull, 1.0, 1e-9);
}

TEST(StaticState, WhatIsSpreadOnASpinningEdgePullsAndItsModesAreHandedOver)
{
    SaidModel blade = steel();
    blade.say("plate", {{"name", "Blade"}, {"length", "1 m"}, {"width", "0.2 m"}, {"thickness", "8 mm"}})
        .say("hold", {{"where", "edges at x = 0 m of Blade"}, {"directions", "all"}})
        .say("mass-spread", {{"mass", "2 kg"}, {"where", "edges at x = 1 m of Blade"}})
        .say("spin", {{"speed", "3 Hz"}, {"direction", "0, 1, 0"}, {"through", "0, 0, 0 m"}});
    const double pull = std::pow(6 * pi, 2) * (2.0 + rho * 0.2 * 0.008 / 2.0);
    EXPECT_NEAR(loadedRest(blade, 0).states[0].force.x() / pull, 1.0, 1e-9);
    const auto solution = about(blade, "loaded").say("lowest", {{"count", "3"}}).solved();
    ASSERT_TRUE(solution);
    for (const auto& row : solution->energies.rows)
        if (row.kind == PartKind::tension) EXPECT_NE(row.of, OwnerKind::point) << "what is spread has its edge";
    EXPECT_TRUE(solutionOf(blade.model(), Result<ModesAnswer>(answerOf(*solution)))) << "every owner is one there is";
}

TEST(StaticState, WhatCannotBeIsSaidAndWhatIsInBalanceIsSolved)
{
    const auto why = [](const SaidModel& said) {
        const auto found = restOfModel(said.model());
        return found ? std::string() : found.findings()[0].what;
    };
    SaidModel beam = straightBeam(2, 0.1, 0.06, 4);
    EXPECT_THAT(why(beam), HasSubstr("no load is stated"));
    SaidModel loose = beam;
    pull(loose, 100);
    EXPECT_THAT(why(loose), HasSubstr("the state \"pulled\" has no place of rest: Beam"));
    // Pulled at both ends it rests without supports, and its modes are stiffer; six rigid motions cost nothing.
    loose.say("force", {{"load", "-100 N"}, {"direction", "1, 0, 0"}, {"where", "Beam.0"}, {"state", "pulled"}});
    const Rest balanced = loadedRest(loose);
    EXPECT_NEAR(partNamed(balanced.states[0], "Beam").forces.axial, 100.0, 1e-6);
    SaidModel unexpanding = beam;
    unexpanding.say("warming", {{"where", "Beam"}, {"by", "10 K"}});
    EXPECT_THAT(unexpanding.problems(), HasSubstr("it is not known how much m expands"));
    SaidModel unknown = beam;
    pull(unknown, 100);
    EXPECT_THAT(about(unknown, "hung").problems(), HasSubstr("there is no static state \"hung\""));
    EXPECT_THAT(about(beam).problems(), HasSubstr("there is no static state"));
    SaidModel twice = beam;
    pull(twice, 100).say("combined-state", {{"name", "pulled"}, {"rows", "pulled|2"}});
    EXPECT_THAT(twice.problems(), HasSubstr("two static states called \"pulled\""));
}

namespace {

/// A beam of 2 x 2 m on pins at its ends and one thing in its middle that only pushes up.
SaidModel onThree(const std::string& gap = {})
{
    SaidModel beam = steel();
    beam.say("points", {{"rows", "a|0 m|0 m|0 m\nm|2 m|0 m|0 m\nb|4 m|0 m|0 m"}})
        .say("members", {{"name", "Beam"}, {"rows", "one|a|m\ntwo|m|b"}, {"section", "rectangle 60x40 mm"}})
        .say("hold", {{"where", "a"}, {"directions", "x z"}})
        .say("hold", {{"where", "b"}, {"directions", "z"}})
        .say("hold", {{"where", "Beam"}, {"directions", "y rx rz"}}); // in its own plane alone
    Words rests{{"points", "m"}, {"direction", "0, 0, 1"}};
    if (!gap.empty()) rests["gap"] = gap;
    return beam.say("rests-on", rests);
}

} // namespace

TEST(StaticState, ASupportThatOnlyPushesBearsOrLiftsOffAndTheModesFollow)
{
    const double ei = E * rectangleSection(0.06, 0.04).iy, weight = rho * 0.06 * 0.04 * standardGravity;
    // Pressed down the middle carries 5/8 of the load on both spans; pulled up it lifts off, and the beam is one span.
    SaidModel beam = onThree();
    beam.say("own-weight", {{"state", "down"}})
        .say("own-weight", {{"state", "up"}, {"factor", "2"}, {"direction", "0, 0, 1"}});
    const Rest found = loadedRest(beam, 0);
    const auto &down = found.states[0], &up = found.states[1];
    ASSERT_EQ(down.contacts.size(), 1u);
    EXPECT_TRUE(down.contacts[0].bears);
    EXPECT_NEAR(down.contacts[0].force / (0.625 * weight * 4), 1.0, 2e-3) << "but for shear";
    EXPECT_LT(down.unbalanced, 1e-8);
    EXPECT_FALSE(up.contacts[0].bears);
    EXPECT_NEAR(up.contacts[0].gap / (5 * 2 * weight * 256 / (384 * ei)), 1.0, 3e-3) << "5 q L4 / 384 EI";
    EXPECT_LT(up.unbalanced, 1e-8);
    // A gap of half of what it would sink: it bears with half of what it would.
    const double sinks = 5 * weight * 256 / (384 * ei);
    SaidModel gapped = onThree(fmt::format("{} mm", 500 * sinks));
    gapped.say("own-weight");
    const auto half = loadedRest(gapped, 0).states[0];
    EXPECT_NEAR(half.contacts[0].force / down.contacts[0].force, 0.5, 2e-3);

    // Modes about either: those of two spans, and of one; about none as two where there is no gap.
    const auto first = [](SaidModel said) { return said.say("lowest", {{"count", "1"}}).frequencies()[0]; };
    const auto one = [&](double length) { return pi / 2 / (length * length) * std::sqrt(ei / (rho * 0.06 * 0.04)); };
    SaidModel aboutDown = beam, aboutUp = beam;
    EXPECT_NEAR(first(about(aboutDown, "down")) / one(2), 1.0, 5e-3);
    EXPECT_NEAR(first(about(aboutUp, "up")) / one(4), 1.0, 5e-3);
    EXPECT_NEAR(first(beam) / one(2), 1.0, 5e-3);
    EXPECT_NEAR(first(onThree("1 m")) / one(4), 1.0, 5e-3);

    // A row of forty under a beam that is lifted at one end: those near it let go, and all is in balance.
    SaidModel row = steel();
    std::string points = "p0|0 m|0 m|0 m\n", rows, names;
    for (int at = 1; at <= 40; ++at) {
        points += fmt::format("p{}|{} m|0 m|0 m\n", at, 0.25 * at);
        rows += fmt::format("s{0}|p{1}|p{0}\n", at, at - 1);
        names += (at > 1 ? ", p" : "p") + std::to_string(at);
    }
    row.say("points", {{"rows", points}})
        .say("members", {{"name", "Rail"}, {"rows", rows}, {"section", "rectangle 40x60 mm"}})
        .say("hold", {{"where", "p0"}, {"directions", "x y z rx rz"}})
        .say("rests-on", {{"points", names}, {"direction", "0, 0, 1"}, {"stiffness", "2 kN/mm"}})
        .say("own-weight")
        .say("force", {{"load", "120 N"}, {"direction", "0, 0, 1"}, {"where", "p40"}});
    const auto lifted = loadedRest(row, 0).states[0];
    const auto open = std::count_if(lifted.contacts.begin(), lifted.contacts.end(),
                                    [](const RestContact& contact) { return !contact.bears; });
    EXPECT_GT(open, 3);
    EXPECT_LT(open, 30);
    for (const auto& contact : lifted.contacts) {
        EXPECT_GE(contact.force, -1e-9) << contact.point;
        EXPECT_GE(contact.gap, -1e-9) << contact.point;
    }
    EXPECT_LT(lifted.unbalanced, 1e-8);
    EXPECT_LT(lifted.passes, 20);

    // Nothing else holds it, and it is pulled off.
    SaidModel off = steel();
    off.say("points", {{"rows", "a|0 m|0 m|0 m\nb|1 m|0 m|0 m"}})
        .say("members", {{"name", "Bar"}, {"rows", "bar|a|b"}, {"section", "round 20 mm"}})
        .say("rests-on", {{"points", "a, b"}, {"direction", "0, 0, 1"}})
        .say("own-weight", {{"direction", "0, 0, 1"}});
    const auto gone = restOfModel(off.model());
    ASSERT_FALSE(gone);
    EXPECT_THAT(gone.findings()[0].what, HasSubstr("has no place of rest"));
}
