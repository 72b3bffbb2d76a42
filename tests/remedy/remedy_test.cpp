#include "core/remedy/frequency_slopes.hpp"
#include "core/modal/pass.hpp"
#include "core/model/stated.hpp"
#include "core/remedy/remedy.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

/// A pinned beam of rectangle 50x30 mm over 3 m that bends in x z alone, with few modes at hand.
SaidModel pinned(const std::string& modes = "6")
{
    SaidModel said = steel();
    said.say("run", {{"name", "Beam"},
                     {"from", "0, 0, 0 m"},
                     {"to", "3, 0, 0 m"},
                     {"parts", "10"},
                     {"section", "rectangle 50x30 mm"},
                     {"elements", "2"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx rz"}})
        .say("hold", {{"where", "Beam.10"}, {"directions", "y z rx rz"}})
        .say("hold", {{"where", "points of Beam between x = 0.1 m and 2.9 m"}, {"directions", "y"}})
        .say("lowest", {{"count", modes}});
    return said;
}

/// A mast of square tube with a head mass, alike in x and y.
SaidModel mast()
{
    SaidModel said = steel();
    said.say("run", {{"name", "Mast"},
                     {"from", "0, 0, 0 m"},
                     {"to", "0, 0, 6 m"},
                     {"parts", "6"},
                     {"section", "box 100x100x5 mm"},
                     {"elements", "2"}})
        .say("hold", {{"where", "Mast.0"}, {"directions", "all"}})
        .say("mass", {{"mass", "40 kg"}, {"points", "Mast.6"}, {"label", "head"}})
        .say("lowest", {{"count", "8"}});
    return said;
}

struct Found {
    std::shared_ptr<const Solution> solution;
    Result<Remedy> remedy;
};

Result<Remedy> remedyOf(const Model& model, const Solution& solution, const RemedyOrder& order)
{
    Progress progress;
    const Pass equations = equationsOf(*solution.structure, planOf(solution.mesh), progress);
    return remediesFor(model, solution, *equations.system, order, progress);
}

Found found(const SaidModel& said, const RemedyOrder& order)
{
    const auto solution = said.solvedUnjudged();
    return {solution, remedyOf(said.model(), *solution, order)};
}

/// The frequency of the model with a proposal, of the mode that comes nearest to what is promised.
double solvedWith(const SaidModel& said, const Proposal& proposal)
{
    const auto changed = stated(said.model(), proposal.change.statements);
    EXPECT_TRUE(changed) << proposal.change.words;
    if (!changed) return 0.0;
    const auto hertz = SaidModel(*changed).frequencies();
    return *std::min_element(hertz.begin(), hertz.end(), [&](double a, double b) {
        return std::abs(a - proposal.after) < std::abs(b - proposal.after);
    });
}

RemedyOrder only(RemedyWay way, int mode, double hertz, const std::string& kinds)
{
    RemedyOrder order;
    order.way = way;
    order.mode = mode;
    order.hertz = hertz;
    const auto has = [&](const char* kind) { return kinds.find(kind) != std::string::npos; };
    order.masses = has("mass");
    order.props = has("prop");
    order.struts = has("strut");
    order.words = has("word");
    return order;
}

} // namespace

TEST(FrequencySlopes, OfAPinnedBeamAreThoseOfItsSine)
{
    const auto solution = pinned().solvedUnjudged();
    const double mass = rho * 0.05 * 0.03 * 3.0;
    // phi = sqrt(2 / m) sin: a kilogram in the middle does -f / m, a newton per metre 2 / (8 pi2 f m).
    const double f = solution->modes[0].frequency;
    const int middle = solution->structure->frame.pointNamed("Beam.5");
    const Eigen::VectorXd ofMass = slopesOfMass(*solution, 0), ofSpring = slopesOfSpring(*solution, 0, 2);
    EXPECT_NEAR(ofMass[middle] / (-f / mass), 1.0, 2e-3); // with shear and rotary inertia
    EXPECT_NEAR(ofSpring[middle] / (2.0 / (8.0 * pi * pi * f * mass)), 1.0, 2e-3);
    EXPECT_EQ(slopesOfSpring(*solution, 0, 1)[middle], 0.0);
    Eigen::Index most = 0;
    (-ofMass).maxCoeff(&most);
    EXPECT_EQ(most, middle);
}

TEST(FrequencySlopes, OfModesOfOneFrequencyAreAlikeAllRound)
{
    const auto solution = mast().solvedUnjudged();
    ASSERT_EQ(groupOf(*solution, 0).size(), 2U);
    const int head = solution->structure->frame.pointNamed("Mast.6");
    // Whichever way the pair is turned, a spring along x and one along y do the same to one of the two.
    EXPECT_NEAR(slopesOfSpring(*solution, 0, 0)[head] / slopesOfSpring(*solution, 0, 1)[head], 1.0, 1e-6);
    EXPECT_NEAR(slopesOfSpring(*solution, 0)[head] / slopesOfSpring(*solution, 0, 0)[head], 1.0, 1e-6);
}

TEST(WordSlopes, AreThoseOfFullSolvesForEveryKindOfWord)
{
    SaidModel said;
    said.material("200 GPa", "0.3", "8000 kg/m3")
        .say("plate",
             {{"name", "Deck"}, {"length", "1.2 m"}, {"width", "0.8 m"}, {"thickness", "8 mm"}, {"size", "0.1 m"}})
        .say("run", {{"name", "Post"},
                     {"from", "0, 0, -0.9 m"},
                     {"to", "Deck.1"},
                     {"parts", "1"},
                     {"section", "I 80x60x4x6 mm"},
                     {"elements", "4"}})
        .say("hold", {{"where", "Post.0"}, {"directions", "all"}})
        .say("ground-spring", {{"points", "Deck.3"}, {"kz", "300 kN/m"}, {"kx", "90 kN/m"}, {"ky", "70 kN/m"}})
        .say("ground-spring", {{"points", "Deck.2"}, {"kz", "500 kN/m"}})
        .say("bed", {{"where", "Deck"}, {"stiffness", "40 kN/m3"}, {"directions", "z"}})
        .say("mass",
             {{"mass", "12 kg"}, {"points", "Deck.3"}, {"centre", "0, 30, 80 mm"}, {"inertia", "0.1, 0.2, 0.3 kg m2"}})
        .say("mass-spread", {{"mass", "5 kg/m2"}, {"where", "Deck"}})
        .say("lowest", {{"count", "5"}});
    const auto solution = said.solvedUnjudged();
    Progress progress;
    const MeshPlan plan = planOf(solution->mesh);
    const Pass equations = equationsOf(*solution->structure, plan, progress);
    for (const std::size_t mode : {0U, 3U}) {
        Findings leftOut;
        const auto slopes = wordSlopes(said.model(), *solution, *equations.system, mode, progress, leftOut);
        EXPECT_GT(slopes.size(), 16U);
        std::set<std::string> fields;
        for (const auto& word : slopes) {
            if (word.remeshed) continue; // below
            fields.insert(word.said.field);
            const double span = solution->structure->frame.span();
            const double step = word.said.value != 0.0 ? 1e-3 * word.said.value : 1e-3 * span;
            std::array<double, 2> hertz{};
            for (const int side : {0, 1}) {
                const auto model =
                    stated(said.model(), {saidAnew(word.said, said.model(), word.said.value + (side ? step : -step))});
                ASSERT_TRUE(model) << word.said.name;
                const auto solved = solve(*model, progress, {.plan = plan, .meshErrors = false});
                ASSERT_TRUE(solved) << word.said.name;
                hertz[static_cast<std::size_t>(side)] = (*solved)->modes[mode].frequency;
            }
            const double slope = (hertz[1] - hertz[0]) / (2.0 * step), f = solution->modes[mode].frequency;
            // To 1e-5 of itself, or of a twentieth of the frequency over the word.
            const double scale = 0.05 * f / std::abs(word.said.value != 0.0 ? word.said.value : 0.05 * span);
            EXPECT_NEAR(word.slope, slope, 1e-5 * std::max(std::abs(slope), scale))
                << word.said.name << " mode " << mode + 1;
        }
        for (const char* field : {"thickness", "section", "kz", "kx", "stiffness", "mass", "centre", "inertia"})
            EXPECT_TRUE(fields.contains(field)) << field;
    }
}

TEST(Remedy, PromisesOfMassesAndPropsAreKept)
{
    const SaidModel said = pinned();
    const double mass = rho * 0.05 * 0.03 * 3.0, f = said.frequencies()[0];
    // A quarter of the generalised mass, m / 2, takes 1 / sqrt(1.25) of the frequency away.
    const auto lower = found(said, only(RemedyWay::below, 1, f / std::sqrt(1.2), "mass"));
    ASSERT_TRUE(lower.remedy);
    const Proposal& heavy = lower.remedy->proposals.front();
    ASSERT_TRUE(heavy.reaches);
    EXPECT_EQ(heavy.place, "Beam.5");
    EXPECT_NEAR(heavy.adds, 0.1 * mass, 0.006 * mass); // by hand, rounded up to two digits
    EXPECT_NEAR(solvedWith(said, heavy) / heavy.after, 1.0, 2e-3);
    // Dunkerley from below, Rayleigh from above: 1 / f2 = 1 / f02 + m / (4 pi2 k), k = 48 EI / L3.
    const double k = 48.0 * E * 0.03 * std::pow(0.05, 3) / 12.0 / 27.0;
    const double dunkerley = 1.0 / std::sqrt(1.0 / (f * f) + 4.0 * pi * pi * heavy.adds / k);
    EXPECT_GT(heavy.after, dunkerley);
    EXPECT_LT(heavy.after, f / std::sqrt(1.0 + 2.0 * heavy.adds / mass) * (1.0 + 1e-9));

    for (const double factor : {1.1, 1.5}) {
        const auto higher = found(said, only(RemedyWay::above, 1, factor * f, "prop"));
        ASSERT_TRUE(higher.remedy);
        int reaching = 0;
        for (const auto& prop : higher.remedy->proposals) {
            if (!prop.reaches) continue;
            ++reaching;
            EXPECT_GE(prop.after, factor * f) << prop.change.words;
            EXPECT_NEAR(solvedWith(said, prop) / prop.after, 1.0, 2e-3) << prop.change.words;
        }
        EXPECT_GT(reaching, 1);
    }
}

TEST(Remedy, StrutsAndWordsAreKeptAndSectionsAreThoseOfTheList)
{
    SaidModel said = steel();
    said.say("points", {{"rows", "a | 0 m | 0 m | 0 m\nb | 0 m | 0 m | 3 m\nc | 4 m | 0 m | 3 m\nd | 4 m | 0 m | 0 m"}})
        .say("members",
             {{"name", "Frame"}, {"rows", "left | a | b\nbeam | b | c\nright | c | d"}, {"section", "box 80x80x4 mm"}})
        .say("hold", {{"where", "a, d"}, {"directions", "all"}})
        .say("hold", {{"where", "b, c"}, {"directions", "y"}})
        .say("lowest", {{"count", "6"}});
    const double f = said.frequencies()[0];
    RemedyOrder order = only(RemedyWay::above, 1, 1.4 * f, "strut word");
    order.mostMass = 500.0;
    order.sections = {"tube 33.7x2.6 mm", "box 120x120x5 mm"};
    const auto remedy = found(said, order).remedy;
    ASSERT_TRUE(remedy);
    std::map<std::string, int> kinds;
    for (const auto& one : remedy->proposals) {
        if (!one.reaches) continue;
        ++kinds[one.kind];
        EXPECT_NEAR(solvedWith(said, one) / one.after, 1.0, one.kind == "strut" ? 2e-3 : 1e-2) << one.change.words;
        if (one.kind == "strut") EXPECT_THAT(one.change.words, HasSubstr("tube 33.7x2.6 mm")); // the lightest does
        if (one.kind == "section") EXPECT_THAT(one.amount, HasSubstr("to box 120x120x5 mm"));
        EXPECT_THAT(one.change.words, testing::Not(HasSubstr("wall"))); // no sizes beside the list
    }
    EXPECT_GT(kinds["strut"], 0);
    EXPECT_GT(kinds["section"], 0);
    // Where a diagonal would pass a member, there is none.
    SaidModel braced = said;
    braced.say("members", {{"name", "Brace"}, {"rows", "diagonal | a | c"}, {"section", "box 80x80x4 mm"}});
    const auto again = found(braced, only(RemedyWay::above, 1, 1.05 * braced.frequencies()[0], "strut")).remedy;
    if (again)
        for (const auto& one : again->proposals)
            EXPECT_THAT(one.place,
                        testing::AllOf(testing::Not(HasSubstr("b to d")), testing::Not(HasSubstr("a to c"))));
}

TEST(Remedy, ModesOfOneFrequencyAreMovedTogetherByTwoChanges)
{
    const SaidModel said = mast();
    const double f = said.frequencies()[0];
    const auto remedy = found(said, only(RemedyWay::above, 1, 2.0 * f, "prop")).remedy;
    ASSERT_TRUE(remedy);
    EXPECT_THAT(remedy->goal, HasSubstr("with those of its frequency"));
    ASSERT_FALSE(remedy->proposals.empty());
    const Proposal& best = remedy->proposals.front();
    EXPECT_TRUE(best.reaches);
    EXPECT_EQ(best.kind, "two"); // one along x, one along y
    for (const auto& one : remedy->proposals)
        if (one.reaches) EXPECT_EQ(one.kind, "two") << one.change.words;
    const auto changed = stated(said.model(), best.change.statements);
    ASSERT_TRUE(changed);
    EXPECT_NEAR(SaidModel(*changed).frequencies()[0] / best.after, 1.0, 2e-3);
}

TEST(Remedy, TwoWordsTogetherKeepTheirPromise)
{
    // Two springs under a beam, each of which may be twice as stiff: neither alone is enough.
    const auto with = [](const char* left, const char* right) {
        SaidModel said = pinned();
        said.say("ground-spring", {{"points", "Beam.3"}, {"kz", left}, {"label", "left"}})
            .say("ground-spring", {{"points", "Beam.7"}, {"kz", right}, {"label", "right"}});
        return said;
    };
    const SaidModel said = with("40 kN/m", "40 kN/m");
    const double one = with("80 kN/m", "40 kN/m").frequencies()[0], both = with("80 kN/m", "80 kN/m").frequencies()[0];
    RemedyOrder order = only(RemedyWay::above, 1, (one + both) / 2.0, "word");
    order.sections = {"rectangle 50x30 mm"}; // what it has: no sizes, no other sections
    const auto remedy = found(said, order).remedy;
    ASSERT_TRUE(remedy);
    ASSERT_FALSE(remedy->proposals.empty());
    const Proposal& best = remedy->proposals.front();
    EXPECT_TRUE(best.reaches);
    EXPECT_EQ(best.kind, "two");
    EXPECT_EQ(best.change.statements.size(), 2U);
    EXPECT_NEAR(solvedWith(said, best) / best.after, 1.0, 2e-3) << best.change.words;
}

TEST(Remedy, KeepsToItsLimitsAndSaysWhatElseComesIntoABand)
{
    SaidModel said = pinned();
    const auto hertz = said.frequencies();
    // Just below the second mode runs something that a heavier beam would meet.
    said.say(
        "running-speed",
        {{"name", "Pump"}, {"speed", fmt::format("{:.6f} Hz", 0.93 * hertz[1])}, {"orders", "1"}, {"margin", "4 %"}});
    RemedyOrder order = only(RemedyWay::below, 1, 0.93 * hertz[0], "mass");
    order.mostMass = 4.8; // kg: too little to take the second mode past the band at 0.9 m
    const auto free = found(said, order).remedy;
    ASSERT_TRUE(free);
    bool met = false;
    for (const auto& one : free->proposals)
        for (const auto& effect : one.sideEffects) {
            met = true;
            EXPECT_EQ(effect.mode, 2);
            EXPECT_THAT(effect.words, HasSubstr("Pump"));
        }
    EXPECT_TRUE(met);
    EXPECT_TRUE(free->proposals.front().sideEffects.empty()); // the middle does not move in the second mode

    order.notOn = "Beam.5, Beam.4, Beam.6";
    const auto kept = found(said, order).remedy;
    ASSERT_TRUE(kept);
    for (const auto& one : kept->proposals)
        EXPECT_THAT(one.place, testing::Not(testing::AnyOf("Beam.4", "Beam.5", "Beam.6")));
    order.notOn = "Mezzanine";
    const auto wrong = found(said, order).remedy;
    ASSERT_FALSE(wrong);
    EXPECT_THAT(wrong.findings().front().what, HasSubstr("Mezzanine"));

    order.notOn.clear();
    order.mostMass = 0.5; // far too little: what comes nearest is said
    const auto little = found(said, order).remedy;
    ASSERT_TRUE(little);
    for (const auto& one : little->proposals) {
        EXPECT_FALSE(one.reaches);
        EXPECT_LE(one.adds, 0.5 * (1.0 + 1e-9));
        EXPECT_LT(one.after, hertz[0]);
    }
    EXPECT_THAT(little->findings.back().what, HasSubstr("nothing within these limits does it"));
}

TEST(Remedy, GoalsThatMakeNoSenseAreSaid)
{
    const SaidModel said = pinned();
    const double f = said.frequencies()[0];
    const auto why = [&](const SaidModel& of, const RemedyOrder& order) {
        const auto remedy = found(of, order).remedy;
        return remedy ? std::string("found") : oneLine(remedy.findings().front());
    };
    EXPECT_THAT(why(said, only(RemedyWay::above, 1, 0.9 * f, "mass")), HasSubstr("above"));
    EXPECT_THAT(why(said, only(RemedyWay::above, 99, f, "mass")), HasSubstr("there is no mode 99"));
    EXPECT_THAT(why(said, only(RemedyWay::below, 1, -1.0, "mass")), HasSubstr("must be above zero"));
    EXPECT_THAT(why(said, only(RemedyWay::clear, 0, 0.0, "mass")), HasSubstr("nothing to clear"));
    SaidModel loose = steel();
    loose
        .say("run",
             {{"name", "Beam"}, {"from", "0, 0, 0 m"}, {"to", "2, 0, 0 m"}, {"parts", "4"}, {"section", "round 40 mm"}})
        .say("lowest", {{"count", "8"}});
    EXPECT_THAT(why(loose, only(RemedyWay::above, 2, 5.0, "prop")), HasSubstr("moves without strain"));
}
