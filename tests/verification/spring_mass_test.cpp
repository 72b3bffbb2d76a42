// Beams with masses and springs: Blevins 1979, tables 6-2 and 8-8; Rayleigh's 33/140 (Theory of Sound, 1894).
#include "core/base/number_text.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

constexpr double beamLength = 2.0, beamSide = 0.04, secondMoment = beamSide * beamSide * beamSide * beamSide / 12;

/// A beam whose own mass does not count, in parts so that masses can stand between.
SaidModel massless(int parts, const char* first, const char* last, const std::string& factor = "0 %")
{
    SaidModel said;
    said.say("run", {{"name", "B"},
                     {"from", "0, 0, 0 m"},
                     {"to", "2, 0, 0 m"},
                     {"parts", std::to_string(parts)},
                     {"section", "rectangle 0.04x0.04 m"},
                     {"elements", "4"}});
    said.material("200 GPa", "0.3", "8000 kg/m3").say("material-mass", {{"factor", factor}});
    if (*first) said.say("hold", {{"where", "B.0"}, {"directions", first}});
    if (*last) said.say("hold", {{"where", "B." + std::to_string(parts)}, {"directions", last}});
    return said;
}

double hertz(double k, double m)
{
    return std::sqrt(k / m) / (2 * pi);
}

} // namespace

TEST(MasslessBeam, OneMassMidSpanOffCentreAndAtTheTip)
{
    SaidModel middle = massless(2, "x y z rx", "y z");
    middle.say("mass", {{"mass", "50 kg"}, {"points", "B.1"}}).say("lowest", {{"count", "2"}});
    EXPECT_NEAR(middle.frequencies()[0] / hertz(48 * E * secondMoment / 8, 50), 1, 1e-3);
    SaidModel off = massless(4, "x y z rx", "y z");
    off.say("mass", {{"mass", "50 kg"}, {"points", "B.1"}}).say("lowest", {{"count", "2"}});
    EXPECT_NEAR(off.frequencies()[0] / hertz(3 * E * secondMoment * beamLength / (0.25 * 2.25), 50), 1, 1.5e-3);
    SaidModel tip = massless(1, "all", "");
    tip.say("mass", {{"mass", "50 kg"}, {"points", "B.1"}}).say("lowest", {{"count", "6"}});
    const auto solution = tip.solved();
    EXPECT_NEAR(solution->modes[0].frequency / hertz(3 * E * secondMoment / 8, 50), 1, 1e-3);
    EXPECT_EQ(solution->modes.size(), 3u) << "one mass has three translations; nothing else is finite";
    EXPECT_TRUE(solution->allModes);
}

TEST(HandCheck, UnitLoadGivesTheSameStiffness)
{
    SaidModel tip = massless(1, "all", "");
    tip.say("mass", {{"mass", "50 kg"}, {"points", "B.1"}})
        .say("lowest", {{"count", "2"}})
        .say("hand-check", {{"point", "B.1"}, {"direction", "z"}});
    const auto solution = tip.solved();
    ASSERT_EQ(solution->handChecks.size(), 1u);
    const double G = E / 2.6, shear = beamSide * beamSide * 13.0 / 15.3;
    EXPECT_NEAR(1.0 / solution->handChecks[0].stiffness, 8 / (3 * E * secondMoment) + 2 / (G * shear),
                1e-6 / solution->handChecks[0].stiffness);
    EXPECT_NEAR(solution->handChecks[0].mass, 50, 1e-6);
    EXPECT_NEAR(solution->handChecks[0].frequency, solution->modes[0].frequency, 1e-6 * solution->modes[0].frequency);
}

TEST(Beam, OwnMassAddsRayleighsShareAtTheTip)
{
    SaidModel tip = massless(1, "all", "", "100 %");
    const double own = rho * beamSide * beamSide * beamLength;
    tip.say("mass", {{"mass", shortest(0.3 * own) + " kg"}, {"points", "B.1"}}).say("lowest", {{"count", "2"}});
    EXPECT_NEAR(tip.frequencies()[0] / hertz(3 * E * secondMoment / 8, (0.3 + 33.0 / 140.0) * own), 1, 1e-2);
}

TEST(Beam, TipBodyWithOffsetAndRotaryInertia)
{
    // Euler-Bernoulli beam clamped at 0, a rigid body at L with mass M, centre c beyond the tip along x, inertia J
    // about its centre. w = A(cosh bx - cos bx) + B(sinh bx - sin bx); at the tip
    //   EI w'' = w2 (J + M c2) w' + w2 M c w,   EI w''' = -w2 M (w + c w').
    const double L = 4.0, h = 0.02, EI = E * h * std::pow(h, 3) / 12, m = rho * h * h, M = 6.0, c = 0.25, J = 0.9;
    const auto determinant = [&](double b) {
        const double w2 = std::pow(b, 4) * EI / m, ch = std::cosh(b * L), sh = std::sinh(b * L), co = std::cos(b * L),
                     si = std::sin(b * L);
        Eigen::Matrix2d a;
        const double f[2] = {ch - co, sh - si}, f1[2] = {b * (sh + si), b * (ch - co)},
                     f2[2] = {b * b * (ch + co), b * b * (sh + si)},
                     f3[2] = {b * b * b * (sh - si), b * b * b * (ch + co)};
        for (int k = 0; k < 2; ++k) {
            a(0, k) = EI * f2[k] - w2 * ((J + M * c * c) * f1[k] + M * c * f[k]);
            a(1, k) = EI * f3[k] + w2 * M * (f[k] + c * f1[k]);
        }
        return a.determinant();
    };
    std::vector<double> exact;
    for (double b = 0.05; exact.size() < 3; b += 1e-3)
        if (determinant(b) * determinant(b + 1e-3) < 0) {
            double low = b, high = b + 1e-3;
            for (int step = 0; step < 60; ++step)
                (determinant(low) * determinant((low + high) / 2) <= 0 ? high : low) = (low + high) / 2;
            exact.push_back(low * low * std::sqrt(EI / m) / (2 * pi));
        }
    SaidModel beam;
    beam.say("run", {{"name", "B"},
                     {"from", "0, 0, 0 m"},
                     {"to", "4, 0, 0 m"},
                     {"section", "rectangle 0.02x0.02 m"},
                     {"elements", "20"}})
        .material("200 GPa", "0.3", "8000 kg/m3");
    beam.say("hold", {{"where", "B.0"}, {"directions", "all"}})
        .say("mass",
             {{"mass", "6 kg"}, {"points", "B.1"}, {"centre", "0.25, 0, 0 m"}, {"inertia", "0.9, 0.9, 0.9 kg m2"}})
        .say("lowest", {{"count", "9"}});
    const auto found = beam.frequencies();
    for (const double f : exact) {
        double nearest = 1e9;
        for (const double own : found)
            nearest = std::min(nearest, std::abs(own / f - 1));
        EXPECT_LT(nearest, 1e-3) << f;
    }
}

TEST(RigidBar, OnTwoEndSprings)
{
    // A uniform bar, so short of flexibility that it is rigid: w2 = 2k/m bounce, 6k/m rocking.
    SaidModel bar;
    bar.say("points", {{"rows", "a|-1 m|0 m|0 m\nb|1 m|0 m|0 m\nc|0 m|0 m|0 m"}})
        .say("rigid", {{"points", "a, b"}, {"to", "c"}});
    bar.say("mass", {{"mass", "12 kg"}, {"points", "c"}, {"inertia", "0, 4, 4 kg m2"}});
    bar.say("hold", {{"where", "c"}, {"directions", "x y rx rz"}})
        .say("ground-spring", {{"points", "a, b"}, {"kz", "1 kN/m"}})
        .say("lowest", {{"count", "2"}});
    const auto found = bar.frequencies();
    ASSERT_EQ(found.size(), 2u);
    EXPECT_NEAR(found[0] / hertz(2000, 12), 1, 1e-6);
    EXPECT_NEAR(found[1] / hertz(6000, 12), 1, 1e-6);
}

TEST(ShearBuilding, EqualStoreys)
{
    const int n = 5;
    SaidModel building;
    std::string rows = "p0|0 m|0 m|0 m\n";
    for (int storey = 1; storey <= n; ++storey)
        rows += "p" + std::to_string(storey) + "|0 m|0 m|" + std::to_string(3 * storey) + " m\n";
    building.say("points", {{"rows", rows}}).say("hold", {{"where", "p0"}, {"directions", "all"}});
    for (int storey = 1; storey <= n; ++storey) {
        const std::string here = "p" + std::to_string(storey);
        building.say("mass", {{"mass", "2 t"}, {"points", here}})
            .say("hold", {{"where", here}, {"directions", "y z rx ry rz"}});
        building.say("spring", {{"from", "p" + std::to_string(storey - 1)}, {"to", here}, {"kx", "5 kN/mm"}});
    }
    building.say("lowest", {{"count", "5"}});
    const auto found = building.frequencies();
    for (int j = 1; j <= n; ++j)
        EXPECT_NEAR(found[static_cast<std::size_t>(j - 1)] /
                        (std::sqrt(5e6 / 2000) / pi * std::sin((2 * j - 1) * pi / (2 * (2 * n + 1)))),
                    1, 1e-9);
}
