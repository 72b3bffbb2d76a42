#include "core/model/states.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

/// A cantilever with 3 kg of crates at its tip, and 2 kg of ice that is off.
SaidModel loaded()
{
    SaidModel said = straightBeam(1, 0.02, 0.03, 4);
    said.say("hold", {{"where", "Beam.0"}, {"directions", "all"}, {"label", "wall"}})
        .say("hold", {{"where", "Beam.1"}, {"directions", "y"}, {"label", "guide"}})
        .say("mass", {{"mass", "3 kg"}, {"points", "Beam.1"}, {"label", "crates"}})
        .say("mass", {{"mass", "2 kg"}, {"points", "Beam.1"}, {"label", "ice"}})
        .say("lowest", {{"count", "2"}});
    for (const auto& sentence : said.model().group(Group::addedMass))
        if (sentence->text("label") == "ice") return SaidModel(said.model().replaced(sentence->switched(false)));
    return said;
}

SaidModel with(SaidModel said, const Words& state)
{
    return said.say("state", state);
}

} // namespace

TEST(States, AreTheModelWithoutAndWithWhatTheyName)
{
    SaidModel said = loaded();
    const auto before = solveKey(said.model());
    said.say("state", {{"name", "empty"}, {"without", "crates"}})
        .say("state", {{"name", "iced, guide lost"}, {"without", "guide"}, {"with", "ice"}});
    EXPECT_EQ(said.problems(), "");
    EXPECT_EQ(solveKey(said.model()), before) << "states leave the model's own modes";
    const auto states = statesOf(said.model());
    ASSERT_EQ(states.size(), 2u);
    EXPECT_EQ(states[0].name, "empty");
    const double bare = 0.02 * 0.03 * rho;
    const auto mass = [](const Model& model) { return SaidModel(model).solved()->mass.mass; };
    EXPECT_NEAR(mass(said.model()), bare + 3.0, 1e-9);
    EXPECT_NEAR(mass(states[0].model), bare, 1e-9);
    EXPECT_NEAR(mass(states[1].model), bare + 5.0, 1e-9);
    EXPECT_LT(SaidModel(states[1].model).frequencies()[0], 0.9 * SaidModel(said.model()).frequencies()[0]);
    EXPECT_TRUE(statesOf(states[0].model).empty());
}

TEST(States, ARopeIsLeftOutByItsLabel)
{
    SaidModel said = straightBeam(1, 0.02, 0.03, 4);
    said.say("points", {{"rows", "up|1 m|0 m|1 m"}})
        .say("hold", {{"where", "Beam.0, up"}, {"directions", "all"}})
        .say("one-sided", {{"from", "Beam.1"}, {"to", "up"}, {"way", "only pull each other"}, {"label", "the rope"}})
        .say("lowest", {{"count", "2"}});
    const double roped = said.frequencies()[0];
    SaidModel bare = said;
    bare.say("leave-out", {{"what", "the rope"}});
    EXPECT_LT(bare.frequencies()[0], 0.9 * roped);
    const auto states = statesOf(with(said, {{"name", "slack"}, {"without", "the rope"}}).model());
    ASSERT_EQ(states.size(), 1u);
    EXPECT_NEAR(SaidModel(states[0].model).frequencies()[0], bare.frequencies()[0], 1e-9);
}

TEST(States, SayWhatIsWrongWithThem)
{
    const auto problem = [](const Words& state) {
        const auto findings = with(loaded(), state).findings();
        return findings.empty() ? std::string() : oneLine(findings.front());
    };
    EXPECT_THAT(problem({{"without", "nothing"}}), HasSubstr("Say what it is without: crates, wall, guide"));
    EXPECT_THAT(problem({{"without", "cargo"}}), HasSubstr("no added mass, support or rope is called \"cargo\""));
    EXPECT_THAT(problem({{"with", "crates"}}),
                HasSubstr("no sentence that is off is called \"crates\" (sentence s9). There are: ice"));
    SaidModel twice = with(loaded(), {{"without", "crates"}});
    EXPECT_THAT(oneLine(with(twice, {{"without", "guide"}}).findings().front()), HasSubstr("two states called"));
}
