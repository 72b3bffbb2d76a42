#include "core/io/tolerance_table.hpp"
#include "core/model/stated.hpp"
#include "core/remedy/tolerated_modes.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

#include <random>

using namespace undisona;
using testing::HasSubstr;

namespace {

/// Two masses, each on its spring up and down: two modes that know nothing of each other.
SaidModel twoMasses(const std::string& stiffness, const std::string& mass)
{
    SaidModel said;
    said.say("points", {{"rows", "a | 0 m | 0 m | 0 m\nb | 1 m | 0 m | 0 m"}})
        .say("hold", {{"where", "a, b"}, {"directions", "x y rx ry rz"}})
        .say("ground-spring", {{"points", "a"}, {"kz", stiffness}, {"label", "under a"}})
        .say("ground-spring", {{"points", "b"}, {"kz", "400 kN/m"}})
        .say("mass", {{"mass", mass}, {"points", "a"}, {"label", "first"}})
        .say("mass", {{"mass", "10 kg"}, {"points", "b"}, {"label", "second"}})
        .say("lowest", {{"count", "2"}});
    return said;
}

Result<ToleratedModes> followed(const SaidModel& said, const ToleranceOrder& order = {})
{
    Progress progress;
    return toleratedModes(said.model(), said.solved(), order, progress, nullptr);
}

double hertzOf(double stiffness, double mass)
{
    return std::sqrt(stiffness / mass) / (2.0 * pi);
}

} // namespace

TEST(Tolerances, OfASpringAndAMassAreThoseOfTheRootOfTheirRatio)
{
    SaidModel said = twoMasses("40 kN/m 30..60", "10 kg +- 10 %");
    said.say("fixed-frequency", {{"name", "Pump"}, {"frequency", "11 Hz"}, {"margin", "2 %"}});
    const auto found = followed(said, {true, 60, 7});
    ASSERT_TRUE(found);
    ASSERT_EQ(found->words.size(), 2U);
    ASSERT_EQ(found->modes.size(), 2U);
    const FrequencyRange& moved = found->modes[0];
    const double now = hertzOf(40e3, 10.0);
    EXPECT_NEAR(moved.hertz, now, 1e-9 * now);
    EXPECT_NEAR(moved.atLow[0], hertzOf(30e3, 10.0) - now, 1e-7);
    EXPECT_NEAR(moved.atHigh[0], hertzOf(60e3, 10.0) - now, 1e-7);
    EXPECT_NEAR(moved.atLow[1], hertzOf(40e3, 9.0) - now, 1e-7);
    EXPECT_NEAR(moved.atHigh[1], hertzOf(40e3, 11.0) - now, 1e-7);
    // At their worst together: by the sum, and solved.
    EXPECT_NEAR(moved.low, now + moved.atLow[0] + moved.atHigh[1], 1e-9);
    EXPECT_NEAR(moved.solvedLow, hertzOf(30e3, 11.0), 1e-7);
    EXPECT_NEAR(moved.solvedHigh, hertzOf(60e3, 9.0), 1e-7);
    EXPECT_EQ(mostCausedBy(moved).first, 0);

    // Nine of ten, and the likelihood of a clash, against draws of the closed form.
    std::mt19937_64 random(99);
    std::uniform_real_distribution<double> stiffness(30e3, 60e3), mass(9.0, 11.0);
    std::vector<double> true_;
    for (int draw = 0; draw < 10000; ++draw)
        true_.push_back(hertzOf(stiffness(random), mass(random)));
    std::sort(true_.begin(), true_.end());
    const double product = std::abs(moved.atHigh[0] * moved.atLow[1]) / (now * now); // what the sum leaves out, at most
    EXPECT_NEAR(moved.usualLow / true_[500], 1.0, product);
    EXPECT_NEAR(moved.usualHigh / true_[9500], 1.0, product);
    const double share = double(std::count_if(true_.begin(), true_.end(),
                                              [](double hertz) { return std::abs(hertz / 11.0 - 1.0) < 0.02; })) /
                         10000.0;
    ASSERT_EQ(found->clashes.size(), 1U);
    EXPECT_EQ(found->clashes[0].mode, 1);
    EXPECT_FALSE(found->clashes[0].now);
    EXPECT_NEAR(found->clashes[0].likelihood, share, 0.01);
    EXPECT_NEAR(found->clashes[0].drawn, share, 0.05);
    EXPECT_THAT(chanceWords(found->clashes[0]), HasSubstr("% likely"));
    // Runs drawn lie within the worst, and the sums miss them by little.
    EXPECT_EQ(found->samples, 60);
    EXPECT_GE(moved.sampledLow, moved.solvedLow);
    EXPECT_LE(moved.sampledHigh, moved.solvedHigh);
    EXPECT_LT(moved.sampledLow, now);
    EXPECT_GT(found->missed, 0.0);
    EXPECT_LT(found->missed, 0.01);

    // The other mode knows of neither.
    EXPECT_NEAR(found->modes[1].low, found->modes[1].hertz, 1e-7);
    EXPECT_NEAR(found->modes[1].high, found->modes[1].hertz, 1e-7);
    EXPECT_THAT(toleranceTable(*found), HasSubstr("under a: "));
}

TEST(Tolerances, OfSizesOfASectionOfAPlaceAndOfATableAreFollowed)
{
    // A cantilever: f goes with the height and with the root of the modulus over the square of the length.
    SaidModel said;
    said.say("own-material", {{"name", "own"}, {"modulus", "210 GPa +- 5 %"}, {"density", "7850 kg/m3"}})
        .say("run", {{"name", "Post"},
                     {"from", "0, 0, 0 m"},
                     {"to", "0, 0, 2 +- 0.05 m"},
                     {"parts", "6"},
                     {"section", "rectangle 60x20 +- 1 mm"}})
        .say("material", {{"what", "everything"}, {"material", "own"}})
        .say("hold", {{"where", "Post.0"}, {"directions", "all"}})
        .say("lowest", {{"count", "2"}});
    const auto found = followed(said);
    ASSERT_TRUE(found) << oneLine(found.findings().front());
    ASSERT_EQ(found->words.size(), 3U);
    const FrequencyRange& first = found->modes[0];
    for (std::size_t word = 0; word < 3; ++word) {
        const auto& of = found->words[word].said;
        const double low = found->words[word].range.low / of.value, high = found->words[word].range.high / of.value;
        const double power = of.kind == QuantityKind::length ? (of.value > 1.0 ? -2.0 : 1.0) : 0.5;
        EXPECT_NEAR((first.hertz + first.atLow[word]) / first.hertz, std::pow(low, power), 2e-3) << of.name;
        EXPECT_NEAR((first.hertz + first.atHigh[word]) / first.hertz, std::pow(high, power), 2e-3) << of.name;
    }
    // Said anew, what else carries a tolerance keeps it.
    for (const auto& word : found->words) {
        const auto changed = stated(said.model(), {saidAnew(word.said, said.model(), word.range.high)});
        ASSERT_TRUE(changed) << word.said.name;
        EXPECT_GE(toleratedWords(*changed).size(), 2U) << word.said.name;
    }
}

TEST(Tolerances, SayWhatHasNoneAndWhatIsWiderThanItsValue)
{
    const auto none = followed(twoMasses("40 kN/m", "10 kg"));
    ASSERT_FALSE(none);
    EXPECT_THAT(oneLine(none.findings().front()), HasSubstr("+- 10 %"));
    const Field* density = kindNamed("own-material")->field("density");
    const auto read = readValue(*density, "7850 kg/m3 +- 8000", NumberStyle::typed);
    ASSERT_TRUE(std::holds_alternative<QuantityProblem>(read));
    EXPECT_THAT(std::get<QuantityProblem>(read).what, HasSubstr("at the end of its tolerance"));
    const auto tooMany = followed(twoMasses("40 kN/m +- 1 %", "10 kg"), {true, 20000, 1});
    ASSERT_FALSE(tooMany);
}
