#include "core/assess/model_checks.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;
using testing::Not;

namespace {

std::string checks(const SaidModel& said)
{
    const auto built = buildStructure(said.model());
    std::string all;
    for (const auto& finding : checkStructure(built.structure, massSummary(built.structure)))
        all += oneLine(finding) + "\n";
    return all;
}

SaidModel table(const char* held)
{
    SaidModel said;
    said.say("frame", {{"bays-x", "2"}, {"bays-y", "1"}, {"storeys", "1"}})
        .say("material")
        .say("hold", {{"where", held}, {"directions", "all"}});
    return said;
}

} // namespace

TEST(Checks, OneForgottenFootIsNoticed)
{
    EXPECT_THAT(checks(table("feet of Frame except Frame.2.1.0")),
                HasSubstr("Frame.2.1.0 is like the held points but is not held"));
    EXPECT_THAT(checks(table("feet of Frame")), Not(HasSubstr("not held")));
    EXPECT_THAT(checks(table("roof of Frame")), Not(HasSubstr("like the held")));
}

TEST(Checks, MassThatDwarfsTheStructure)
{
    SaidModel heavy = table("feet of Frame");
    heavy.say("mass", {{"mass", "18000 t"}, {"points", "Frame.0.0.1"}});
    EXPECT_THAT(checks(heavy), HasSubstr("times its material"));
    EXPECT_THAT(checks(table("feet of Frame")), Not(HasSubstr("times its material")));
}

TEST(Checks, NothingAskedNothingShakenNothingJoined)
{
    SaidModel said = table("feet of Frame");
    said.say("point", {{"name", "lost"}, {"at", "50, 0, 0 m"}});
    const auto text = checks(said);
    EXPECT_THAT(text, HasSubstr("nothing is joined to the point lost"));
    EXPECT_THAT(text, Not(HasSubstr("no excitation"))) << "the window says it where clashes would stand";
    EXPECT_THAT(text, HasSubstr("nothing is asked"));
    SaidModel light = table("feet of Frame");
    light.say("material-mass", {{"factor", "0 %"}});
    EXPECT_THAT(checks(light), HasSubstr("no mass at all"));
}

TEST(Checks, AMassThatLeansOnOnePlaceOfSheet)
{
    const auto deck = [](const Words& mass, bool feet) {
        SaidModel said = steel();
        said.say("plate", {{"name", "Deck"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "6 mm"}})
            .say("point", {{"name", "seat"}, {"at", feet ? "0.5, 0.3, 0.2 m" : "0.5, 0.3, 0 m"}});
        if (feet) {
            said.say("points", {{"rows", "a|0.4 m|0.2 m|0 m\nb|0.6 m|0.2 m|0 m\nc|0.4 m|0.4 m|0 m\nd|0.6 m|0.4 m|0 m"}})
                .say("rigid", {{"points", "a, b, c, d"}, {"to", "seat"}});
        }
        Words all = mass;
        all["points"] = "seat";
        all["mass"] = "40 kg";
        said.say("mass", all).say("hold", {{"where", "free edges of Deck"}, {"directions", "x y z"}});
        return checks(said);
    };
    EXPECT_THAT(deck({{"centre", "0, 0, 200 mm"}}, false),
                HasSubstr("the mass at seat leans on a single place of sheet"));
    EXPECT_THAT(deck({}, false), Not(HasSubstr("leans on")));
    EXPECT_THAT(deck({{"inertia", "1, 1, 1 kg m2"}}, true), Not(HasSubstr("leans on")));
}

TEST(Checks, PointsJustBesideAPartAreNamedWithWhereTheyWouldLieOnIt)
{
    const auto deck = [](const char* at) {
        auto said = steel();
        said.say("plate", {{"name", "Deck"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "5 mm"}})
            .say("point", {{"name", "seat"}, {"at", at}})
            .say("mass", {{"mass", "12 kg"}, {"points", "seat"}});
        return checks(said);
    };
    EXPECT_THAT(
        deck("0.4, 0.3, 0.001 m"),
        HasSubstr("seat lies beside Deck, 1 mm off, and not joined to it (sentence s4). On it seat would lie at "
                  "0.4, 0.3, 0 m"));
    EXPECT_THAT(deck("0.4, 0.3, 0 m"), Not(HasSubstr("beside")));
    EXPECT_THAT(deck("0.4, 0.3, 0.02 m"), Not(HasSubstr("beside"))) << "further off than it is thick";

    // A spring's foot beside the round face of a body, and one that is tied on purpose.
    auto post = steel();
    post.say("solid-cylinder", {{"name", "Post"}, {"diameter", "100 mm"}, {"length", "0.5 m"}})
        .say("point", {{"name", "foot"}, {"at", "0.052, 0, 0.2 m"}})
        .say("ground-spring", {{"points", "foot"}, {"kz", "2 kN/mm"}});
    EXPECT_THAT(checks(post), HasSubstr("foot lies beside Post, 2 mm off"));
    EXPECT_THAT(checks(post), HasSubstr("would lie at 0.05, 0, 0.2 m"));
    post.say("point", {{"name", "other"}, {"at", "0.05, 0, 0.2 m"}})
        .say("rigid", {{"points", "foot"}, {"to", "other"}});
    EXPECT_THAT(checks(post), Not(HasSubstr("beside")));
}
