// What is told of a run before it is made is what it then does.
#include "core/assess/before_run.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;
using testing::Not;

namespace {

/// All of it as one text, headings in brackets.
std::string told(const Model& model)
{
    const Structure structure = buildStructure(model).structure;
    std::string text;
    for (const auto& part : toldBeforeRun(model, structure, massSummary(structure), DisplayUnits())) {
        text += "[" + part.heading + "]\n";
        for (const auto& line : part.lines)
            text += line + "\n";
    }
    return text;
}

} // namespace

TEST(BeforeRun, TellsWhatTheMastWillSay)
{
    const auto document = readDocumentFile(std::string(EXAMPLES) + "/radar-mast.undisona.json");
    ASSERT_TRUE(document);
    const std::string text = told(document->model);
    EXPECT_THAT(text, HasSubstr("[What is solved]\n106 members, 856.2 kg\nheld by 1 sentence of supports\n"));
    EXPECT_THAT(text, HasSubstr("a count proves that none is missed"));
    EXPECT_THAT(text, HasSubstr("which mode meets Antenna, Ventilator and Generator"));
    EXPECT_THAT(text, HasSubstr("members that meet are rigid with each other, all of them"));
    EXPECT_THAT(text, HasSubstr("residual vectors: a response made of these modes is not exact at rest"));
    EXPECT_THAT(text, Not(HasSubstr("clashes: nothing is said")));
}

TEST(BeforeRun, FollowsWhatIsSaid)
{
    SaidModel said;
    said.say("plate", {{"name", "Deck"}})
        .say("solid-box", {{"name", "Pad"}, {"at", "0, 0, -0.06 m"}, {"size", "20 mm"}})
        .say("material");
    std::string text = told(said.model());
    EXPECT_THAT(text, HasSubstr("1 sheet and 1 body, "));
    EXPECT_THAT(text, HasSubstr("held by nothing: it floats"));
    EXPECT_THAT(text, HasSubstr("the 12 lowest modes, as nobody asks for others"));
    EXPECT_THAT(text, HasSubstr("clashes: nothing is said of what shakes it"));
    EXPECT_THAT(text, HasSubstr("joined where they touch: Deck and Pad"));
    EXPECT_THAT(text, HasSubstr("elements as large as stated"));
    said.say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
        .say("residual-vectors")
        .say("mass-matrix", {{"matrix", "lumped"}})
        .say("up-to", {{"frequency", "90 Hz"}, {"most", "40"}})
        .say("running-speed", {{"name", "Fan"}})
        .say("weighed", {{"mass", "40 kg"}});
    text = told(said.model());
    EXPECT_THAT(text, HasSubstr("held by 1 sentence of supports"));
    EXPECT_THAT(text, HasSubstr("residual vectors, with which a response at rest is exact"));
    EXPECT_THAT(text, HasSubstr("lumped mass"));
    EXPECT_THAT(text, HasSubstr("modes beyond that, and more than 40"));
    EXPECT_THAT(text, HasSubstr("which mode meets Fan"));
    EXPECT_THAT(text, Not(HasSubstr("a comparison with a scale")));
}
