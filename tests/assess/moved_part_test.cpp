#include "core/assess/moved_part.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

/// A pinned beam of ten members with 6 kg, somewhat beside its axis, on one of its points.
SaidModel beamWith(const std::string& point, const std::string& count)
{
    SaidModel said = steel();
    said.say("run", {{"name", "Beam"},
                     {"from", "0, 0, 0 m"},
                     {"to", "3, 0, 0 m"},
                     {"parts", "10"},
                     {"section", "rectangle 50x30 mm"},
                     {"elements", "1"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx"}})
        .say("hold", {{"where", "Beam.10"}, {"directions", "y z"}})
        .say("mass",
             {{"mass", "6 kg"}, {"points", point}, {"centre", "0, 0, 80 mm"}, {"inertia", "0.02, 0.03, 0.02 kg m2"}})
        .say(count.empty() ? "every-mode" : "lowest", count.empty() ? Words{} : Words{{"count", count}});
    return said;
}

} // namespace

TEST(MovedPart, WithAllModesAtHandIsTheModelSolvedAnew)
{
    const auto before = beamWith("Beam.2", "").solvedUnjudged(), after = beamWith("Beam.5", "").solvedUnjudged();
    const auto& mass = before->structure->pointMasses.front();
    const QuickModes quick = MovedPart(*before, mass).at(before->structure->frame.pointNamed("Beam.5"));
    ASSERT_EQ(quick.hertz.size(), after->modes.size());
    for (std::size_t at = 0; at < 40; ++at)
        EXPECT_NEAR(quick.hertz[at] / after->modes[at].frequency, 1.0, 1e-6) << at;
    const QuickModes still = MovedPart(*before, mass).at(mass.point);
    for (std::size_t at = 0; at < 40; ++at)
        EXPECT_NEAR(still.hertz[at] / before->modes[at].frequency, 1.0, 1e-6) << at;
}

TEST(MovedPart, ASpringThatGoesElsewhereIsTheModelSolvedAnew)
{
    const auto with = [](const char* point) {
        SaidModel said = beamWith("Beam.2", "");
        said.say("ground-spring", {{"points", point}, {"kz", "40 kN/m"}, {"krx", "200 N m"}, {"x-towards", "1, 0, 1"}});
        return said.solvedUnjudged();
    };
    const auto before = with("Beam.7"), after = with("Beam.4");
    const auto& holds = before->structure->holds;
    const auto springs =
        std::find_if(holds.begin(), holds.end(), [](const Hold& hold) { return hold.elastic[2] > 0.0; });
    ASSERT_NE(springs, holds.end());
    const QuickModes quick = MovedPart(*before, *springs).at(before->structure->frame.pointNamed("Beam.4"));
    for (std::size_t at = 0; at < 40; ++at)
        EXPECT_NEAR(quick.hertz[at] / after->modes[at].frequency, 1.0, 1e-6) << at;
}

TEST(MovedPart, WithFewModesIsAboveAndItsWhiskerReachesTowardsWhatIsTrue)
{
    const auto before = beamWith("Beam.2", "12").solvedUnjudged(), after = beamWith("Beam.5", "12").solvedUnjudged();
    const QuickModes quick =
        MovedPart(*before, before->structure->pointMasses.front()).at(before->structure->frame.pointNamed("Beam.5"));
    for (std::size_t at = 0; at < 4; ++at) {
        EXPECT_GE(quick.hertz[at], after->modes[at].frequency * (1.0 - 1e-9)) << at;
        EXPECT_LT(quick.hertz[at] / after->modes[at].frequency, 1.02) << at;
        EXPECT_LE(quick.lower[at], quick.hertz[at]) << at;
        EXPECT_LT(quick.lower[at], after->modes[at].frequency * 1.005) << at;
    }
}

TEST(MovedPart, OfABodyThatFloatsKeepsItsRigidMotions)
{
    SaidModel said = steel();
    said.say("run",
             {{"name", "Beam"}, {"from", "0, 0, 0 m"}, {"to", "2, 0, 0 m"}, {"parts", "6"}, {"section", "round 40 mm"}})
        .say("mass", {{"mass", "3 kg"}, {"points", "Beam.1"}})
        .say("lowest", {{"count", "8"}});
    const auto solution = said.solvedUnjudged();
    const QuickModes quick = MovedPart(*solution, solution->structure->pointMasses.front())
                                 .at(solution->structure->frame.pointNamed("Beam.6"));
    ASSERT_EQ(quick.hertz.size(), solution->modes.size());
    for (std::size_t at = 0; at < 6; ++at)
        EXPECT_EQ(quick.hertz[at], 0.0) << at;
    EXPECT_GT(quick.hertz[6], 0.5 * solution->modes[6].frequency);
}
