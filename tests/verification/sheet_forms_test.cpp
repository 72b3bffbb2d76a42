// Sheets of other forms and materials than the flat, even, isotropic plate, against closed forms.
#include "core/base/number_text.hpp"
#include "core/shapes/joined_faces.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;

namespace {

SaidModel plate(const Words& more)
{
    Words words{{"name", "Plate"}, {"length", "1 m"}, {"width", "0.8 m"}, {"thickness", "5 mm"}, {"size", "40 mm"}};
    for (const auto& [key, value] : more)
        words[key] = value;
    SaidModel said;
    return said.say("plate", words);
}

SaidModel& supported(SaidModel& said, double length = 1.0, double width = 0.8)
{
    for (const double x : {0.0, length})
        said.say("hold", {{"where", "edges at x = " + metres(x)}, {"directions", "x y z rx"}});
    for (const double y : {0.0, width})
        said.say("hold", {{"where", "edges at y = " + metres(y)}, {"directions", "x y z ry"}});
    return said;
}

/// Lowest frequency of a cantilever whose depth falls evenly from `deep` to `shallow`, width 1, by Ritz with
/// polynomials; E 200 GPa, density 8000.
double taperedCantilever(double length, double deep, double shallow)
{
    constexpr int terms = 8, places = 400;
    Eigen::MatrixXd k = Eigen::MatrixXd::Zero(terms, terms), m = k;
    for (int place = 0; place < places; ++place) {
        const double x = (place + 0.5) / places, depth = deep + x * (shallow - deep);
        for (int i = 0; i < terms; ++i)
            for (int j = 0; j < terms; ++j) {
                const double bend = (i + 2) * (i + 1) * std::pow(x, i) * (j + 2) * (j + 1) * std::pow(x, j);
                k(i, j) += 200e9 * std::pow(depth, 3) / 12 * bend / std::pow(length, 3) / places;
                m(i, j) += 8000 * depth * std::pow(x, i + j + 4) * length / places;
            }
    }
    const Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd> solved(k, m);
    return std::sqrt(solved.eigenvalues()[0]) / (2 * pi);
}

} // namespace

// Leissa, Vibration of Plates, 1969, eq. 9.26: a board supported all round, its grain along x, then along y.
TEST(Orthotropic, SupportedBoardHasItsFrequencies)
{
    const double e1 = 12e9, e2 = 0.8e9, g = 0.7e9, poisson = 0.35, density = 450, h = 0.005, a = 1.0, b = 0.8;
    const double back = poisson * e2 / e1, scale = h * h * h / 12 / (1 - poisson * back);
    const double along = e1 * scale, across = e2 * scale, both = poisson * e2 * scale + 2 * g * h * h * h / 12;
    for (const bool alongX : {true, false}) {
        auto said = plate({});
        said.say("orthotropic", {{"name", "board"},
                                 {"modulus", "12 GPa"},
                                 {"across", "0.8 GPa"},
                                 {"shear", "0.7 GPa"},
                                 {"poisson", "0.35"},
                                 {"density", "450 kg/m3"}})
            .say("material", {{"what", "everything"}, {"material", "board"}})
            .say("grain", {{"sheets", "Plate"}, {"along", alongX ? "1, 0, 0" : "0, 1, 0"}});
        const auto found = supported(said).say("lowest", {{"count", "8"}}).frequencies();
        std::vector<double> expected;
        for (int m = 1; m < 9; ++m)
            for (int n = 1; n < 9; ++n) {
                const double x = m * pi / a, y = n * pi / b, dx = alongX ? along : across, dy = alongX ? across : along;
                expected.push_back(
                    std::sqrt((dx * std::pow(x, 4) + 2 * both * x * x * y * y + dy * std::pow(y, 4)) / (density * h)) /
                    (2 * pi));
            }
        std::sort(expected.begin(), expected.end());
        for (std::size_t at = 0; at < found.size(); ++at)
            EXPECT_NEAR(found[at] / expected[at], 1.0, at < 4 ? 0.005 : 0.012) << at << alongX;
    }
}

TEST(Orthotropic, TurnedWithItsGrainChangesNothingAndEqualModuliAreIsotropic)
{
    const auto board = [](const std::string& turn, const std::string& grain, const std::string& across,
                          const std::string& shear) {
        auto said = plate({});
        said.say("orthotropic", {{"name", "board"},
                                 {"modulus", "12 GPa"},
                                 {"across", across},
                                 {"shear", shear},
                                 {"poisson", "0.25"},
                                 {"density", "450 kg/m3"}})
            .say("material", {{"what", "everything"}, {"material", "board"}})
            .say("grain", {{"sheets", "Plate"}, {"along", grain}})
            .say("turned", {{"what", "Plate"}, {"angle", turn}, {"axis", "x"}})
            .say("turned", {{"what", "Plate"}, {"angle", turn}, {"axis", "z"}})
            .say("lowest", {{"count", "12"}});
        return said.frequencies();
    };
    const double c = std::cos(pi / 6), s = std::sin(pi / 6);
    const auto level = board("0 deg", "0, 1, 0", "1 GPa", "0.7 GPa");
    const auto turned =
        board("30 deg", shortest(-c * s) + ", " + shortest(c * c) + ", " + shortest(s), "1 GPa", "0.7 GPa");
    ASSERT_EQ(level.size(), turned.size());
    for (std::size_t at = 0; at < level.size(); ++at)
        EXPECT_NEAR(turned[at] / level[at], 1.0, 1e-8);
    auto even = plate({});
    const auto isotropic = even.material("12 GPa", "0.25", "450 kg/m3").say("lowest", {{"count", "12"}}).frequencies();
    const auto equal = board("0 deg", "0.3, 1, 0", "12 GPa", "4.8 GPa");
    for (std::size_t at = 0; at < isotropic.size(); ++at)
        EXPECT_NEAR(equal[at] / isotropic[at], 1.0, 1e-9);
}

TEST(Orthotropic, RefusesFiguresThatNoMaterialHas)
{
    auto said = plate({});
    said.say("orthotropic", {{"name", "board"}, {"modulus", "1 GPa"}, {"across", "9 GPa"}, {"poisson", "0.4"}})
        .say("material", {{"what", "everything"}, {"material", "board"}});
    EXPECT_THAT(said.problems(), testing::HasSubstr("must lie below 0.333"));
}

TEST(Sheet, OnABedGainsTheBedsStiffness)
{
    auto bare = plate({}).material("200 GPa", "0.3", "8000 kg/m3");
    const auto before = supported(bare).say("lowest", {{"count", "5"}}).frequencies();
    auto bedded = plate({}).material("200 GPa", "0.3", "8000 kg/m3");
    const auto after = supported(bedded)
                           .say("bed", {{"where", "Plate"}, {"stiffness", "2 MN/m3"}, {"directions", "z"}})
                           .say("lowest", {{"count", "5"}})
                           .frequencies();
    for (std::size_t at = 0; at < before.size(); ++at) // w2 = w2 of bending + k / (rho h)
        EXPECT_NEAR(after[at], std::sqrt(before[at] * before[at] + 2e6 / (8000 * 0.005) / (4 * pi * pi)),
                    2e-3 * after[at]);
}

TEST(Sheet, BouncesOnBedsAlongItsEdgesWithTheMassOfItsTrim)
{
    // Stiff enough to move as one: w2 = 2 k' b / (m + m' 2 b) up and down.
    auto said = plate({{"thickness", "100 mm"}}).material("200 GPa", "0.3", "8000 kg/m3");
    const auto solution =
        said.say("bed",
                 {{"where", "edges at x = 0 m, edges at x = 1 m"}, {"stiffness", "1 kN/m2"}, {"directions", "x y z"}})
            .say("mass-spread", {{"mass", "50 kg/m"}, {"where", "edges at x = 0 m, edges at x = 1 m"}})
            .say("lowest", {{"count", "3"}})
            .solved();
    const double mass = 8000 * 0.08 + 50 * 1.6;
    EXPECT_NEAR(solution->mass.mass, mass, 1e-9 * mass);
    double nearest = 1e300;
    for (const auto& mode : solution->modes)
        nearest = std::min(nearest, std::abs(mode.frequency - std::sqrt(1000 * 1.6 / mass) / (2 * pi)));
    EXPECT_LT(nearest, 1e-5);
}

TEST(Sheet, TaperedCantileverBendsAsRitzHasIt)
{
    for (const double tip : {0.02, 0.01}) {
        auto said = plate({{"width", "50 mm"}, {"size", "25 mm"}}).material("200 GPa", "0", "8000 kg/m3");
        const auto found =
            said.say("taper", {{"first", "20 mm"}, {"from", "0, 0, 0 m"}, {"last", metres(tip)}, {"to", "1, 0, 0 m"}})
                .say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
                .say("lowest", {{"count", "2"}})
                .frequencies();
        const double expected = taperedCantilever(1.0, 0.02, tip);
        EXPECT_LT(std::min(std::abs(found[0] / expected - 1), std::abs(found[1] / expected - 1)), 3e-3);
    }
}

TEST(Sheet, DrawnAtItsUpperFaceIsTheSameFreePlate)
{
    auto middle = plate({{"thickness", "30 mm"}}).material("200 GPa", "0.3", "8000 kg/m3");
    auto upper = plate({{"thickness", "30 mm"}, {"drawn", "upper face"}}).material("200 GPa", "0.3", "8000 kg/m3");
    const auto one = middle.say("lowest", {{"count", "12"}}).frequencies(),
               other = upper.say("lowest", {{"count", "12"}}).frequencies();
    ASSERT_EQ(one.size(), other.size());
    for (std::size_t at = 0; at < one.size(); ++at)
        EXPECT_NEAR(other[at] / one[at], 1.0, 1e-8);
    // Held at its lower rim the offset counts: the edges slide as it bends, which takes its membrane along.
    auto held = plate({{"thickness", "30 mm"}, {"drawn", "lower face"}}).material("200 GPa", "0.3", "8000 kg/m3");
    auto plain = plate({{"thickness", "30 mm"}}).material("200 GPa", "0.3", "8000 kg/m3");
    EXPECT_GT(supported(held).say("lowest", {{"count", "1"}}).frequencies()[0],
              1.05 * supported(plain).say("lowest", {{"count", "1"}}).frequencies()[0]);
}

// Two domes on one rim: Lamb 1883 and Baker, J. Acoust. Soc. Am. 1961, the membrane sphere; n >= 2, 2 n + 1 times each.
TEST(Dome, TwoOfThemAreASphere)
{
    SaidModel said;
    said.material("200 GPa", "0.3", "8000 kg/m3");
    for (const std::string along : {"0, 0, 1", "0, 0, -1"})
        said.say("dome", {{"name", along == "0, 0, 1" ? "Upper" : "Lower"},
                          {"diameter", "1 m"},
                          {"height", "0.5 m"},
                          {"along", along},
                          {"thickness", "2 mm"},
                          {"size", "40 mm"}});
    const auto found = said.say("lowest", {{"count", "18"}}).frequencies();
    ASSERT_GE(found.size(), 12u);
    std::size_t at = 0;
    for (const int n : {2, 3}) {
        const double sum = n * (n + 1) + 1.9, product = 0.91 * (n * (n + 1) - 2);
        const double lambda = (sum - std::sqrt(sum * sum - 4 * product)) / 2; // (1 - nu^2) rho R^2 w^2 / E
        const double expected = std::sqrt(lambda / 0.91 * 200e9 / 8000) / 0.5 / (2 * pi);
        for (int copy = 0; copy < 2 * n + 1; ++copy, ++at)
            EXPECT_NEAR(found[at] / expected, 1.0, 0.01) << n << " " << copy;
    }
}

TEST(Sheets, ThatAreNotJoinedVibrateByThemselves)
{
    const auto pair = [](bool joined) {
        SaidModel said;
        said.material("200 GPa", "0.3", "8000 kg/m3")
            .say("plate",
                 {{"name", "Deck"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "8 mm"}, {"size", "60 mm"}})
            .say("rib", {{"name", "Web"},
                         {"from", "0, 0.3, 0 m"},
                         {"to", "1, 0.3, 0 m"},
                         {"height", "200 mm"},
                         {"thickness", "8 mm"},
                         {"size", "60 mm"}});
        if (!joined) said.say("apart", {{"what", "Deck"}, {"other", "Web"}});
        EXPECT_EQ(said.problems(), "");
        return said.say("lowest", {{"count", "20"}}).solved();
    };
    const auto rigidOf = [](const Solution& solution) {
        return std::count_if(solution.modes.begin(), solution.modes.end(), [](const Mode& mode) { return mode.rigid; });
    };
    EXPECT_EQ(rigidOf(*pair(true)), 6);
    const auto apart = pair(false);
    EXPECT_EQ(rigidOf(*apart), 12);
    SaidModel alone;
    const auto web = alone.material("200 GPa", "0.3", "8000 kg/m3")
                         .say("rib", {{"name", "Web"},
                                      {"from", "0, 0.3, 0 m"},
                                      {"to", "1, 0.3, 0 m"},
                                      {"height", "200 mm"},
                                      {"thickness", "8 mm"},
                                      {"size", "60 mm"}})
                         .say("lowest", {{"count", "4"}})
                         .frequencies();
    for (const double own : web) {
        double nearest = 1e300;
        for (const auto& mode : apart->modes)
            nearest = std::min(nearest, std::abs(mode.frequency / own - 1));
        EXPECT_LT(nearest, 2e-3) << own;
    }
}

TEST(SheetShape, IsNamedByItsHalfWavesDiametersAndWavesRound)
{
    const auto names = [](const Solution& solution) {
        std::vector<std::string> list;
        for (const auto& mode : solution.modes)
            list.push_back(mode.name);
        return list;
    };
    auto rectangle = plate({}).material("200 GPa", "0.3", "8000 kg/m3");
    const auto plates = names(*supported(rectangle).say("lowest", {{"count", "6"}}).solved());
    // In the order of (m/1)^2 + (n/0.8)^2.
    const std::vector<std::string> expected{"1 by 1 half-waves", "2 by 1 half-waves", "1 by 2 half-waves",
                                            "2 by 2 half-waves", "3 by 1 half-waves", "1 by 3 half-waves"};
    EXPECT_EQ(plates, expected);

    SaidModel disc;
    disc.material("200 GPa", "0.3", "8000 kg/m3")
        .say("disc", {{"name", "Disc"}, {"diameter", "600 mm"}, {"thickness", "4 mm"}, {"size", "30 mm"}})
        .say("hold", {{"where", "edges of Disc"}, {"directions", "all"}})
        .say("lowest", {{"count", "6"}});
    const std::vector<std::string> leissa{
        "dishing",           "1 nodal diameter",         "1 nodal diameter (twin)",
        "2 nodal diameters", "2 nodal diameters (twin)", "0 nodal diameters, 1 circle"};
    EXPECT_EQ(names(*disc.solved()), leissa);

    SaidModel tube;
    tube.material("200 GPa", "0.3", "8000 kg/m3")
        .say("cylinder-shell", {{"name", "Tube"}, {"diameter", "500 mm"}, {"length", "1 m"}, {"thickness", "3 mm"}})
        .say("hold", {{"where", "edges of Tube"}, {"directions", "x y"}})
        .say("lowest", {{"count", "8"}});
    const auto tubes = names(*tube.solved()); // after its shift along the axis, which nothing holds
    for (std::size_t at = 1; at < tubes.size(); ++at)
        EXPECT_THAT(tubes[at], testing::MatchesRegex(std::string("[2-6] waves round, [12] half-waves? along") +
                                                     (at % 2 == 1 ? "" : " .twin.")));
}

TEST(SheetMesh, StaysWhenAMassMovesAndIsRefusedWhereAPlaceWantsTooMuch)
{
    auto said = plate({}).material("200 GPa", "0.3", "8000 kg/m3");
    said.say("point", {{"name", "seat"}, {"at", "0.5, 0.4, 0 m"}}).say("lowest", {{"count", "1"}});
    const Structure before = said.structure();
    const Structure after = said.say("mass", {{"mass", "5 kg"}, {"points", "seat"}}).structure();
    EXPECT_EQ(before.frame.faces, after.frame.faces) << "the faces were joined once";
    said.say("size-at", {{"size", "0.01 mm"}, {"where", "edges of Plate"}});
    Progress progress;
    const auto refused = solve(said.model(), progress);
    ASSERT_FALSE(refused);
    EXPECT_THAT(oneLine(refused.findings().front()), testing::HasSubstr("would make about"));
}
