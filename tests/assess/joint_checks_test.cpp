// Joints that say the same, and parts that nothing joins.
#include "core/assess/model_checks.hpp"
#include "core/model/stated.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;
using testing::Not;

namespace {

std::string checked(const SaidModel& said)
{
    const auto structure = said.structure();
    std::string all;
    for (const auto& finding : checkStructure(structure, massSummary(structure), said.model()))
        all += finding.sentence + ": " + finding.what + "\n";
    return all;
}

/// Two blocks, 4 mm apart, the lower one held.
SaidModel twoApart()
{
    SaidModel said = steel();
    said.say("solid-box", {{"name", "Lower"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
        .say("solid-box", {{"name", "Upper"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}, {"at", "0, 0, 104 mm"}})
        .say("hold", {{"where", "faces at z = 0 m of Lower"}, {"directions", "x y z"}});
    return said;
}

} // namespace

TEST(JointChecks, TwoThatSayTheSameNameEachOther)
{
    SaidModel said = twoApart();
    said.say("join", {{"what", "Upper"}, {"other", "Lower"}});
    EXPECT_THAT(checked(said), Not(HasSubstr("says the same")));
    SaidModel layered = said;
    said.say("join", {{"what", "Lower"}, {"other", "Upper"}});
    EXPECT_THAT(checked(said), HasSubstr("\"Join Upper to Lower\" says the same of these two sides"));
    layered.say("layer", {{"what", "Upper"}, {"other", "Lower"}});
    EXPECT_THAT(checked(layered), HasSubstr("what is joined does not move on springs"));
    SaidModel springs = steel();
    springs.say("points", {{"rows", "a|0 m|0 m|0 m\nb|0 m|0 m|0 m"}})
        .say("spring", {{"from", "a"}, {"to", "b"}, {"kx", "1 kN/mm"}})
        .say("bolt", {{"from", "b"}, {"to", "a"}, {"axis", "0, 0, 1"}});
    EXPECT_THAT(checked(springs), HasSubstr("stands between b and a too; both count"));
    EXPECT_THAT(springs.problems(), Not(HasSubstr("at the same place"))) << "what joins them is meant";
}

TEST(JointChecks, WhatNothingHoldsIsSaidBeforeSolvingAndJoinedByOneClick)
{
    const SaidModel apart = twoApart();
    EXPECT_THAT(checked(apart), HasSubstr("Upper is joined to nothing that is held"));
    for (const auto& [kind, words] : std::vector<std::pair<std::string, Words>>{
             {"join", {{"what", "Upper"}, {"other", "Lower"}}},
             {"layer", {{"what", "Upper"}, {"other", "Lower"}}},
             {"hold", {{"where", "faces at x = 0 m of Upper"}, {"directions", "x"}}},
             {"bed", {{"where", "Upper"}, {"stiffness", "1 kN/mm"}}}})
        EXPECT_THAT(checked(SaidModel(apart).say(kind, words)), Not(HasSubstr("joined to nothing"))) << kind;
    // What it offers holds.
    const auto structure = apart.structure();
    const auto findings = checkStructure(structure, massSummary(structure), apart.model());
    const auto found =
        std::find_if(findings.begin(), findings.end(), [](const Finding& finding) { return !finding.cures.empty(); });
    ASSERT_NE(found, findings.end());
    EXPECT_EQ(found->cures[0].words, "Join Upper to Lower");
    const auto mended = stated(apart.model(), found->cures[0].statements);
    ASSERT_TRUE(mended);
    EXPECT_THAT(checked(SaidModel(*mended)), Not(HasSubstr("joined to nothing")));
    // Where nothing is held at all it is said of the others than the first; one whole is none's business.
    SaidModel loose = steel();
    loose.say("plate", {{"name", "Deck"}})
        .say("points", {{"rows", "a|0 m|0 m|5 m\nb|1 m|0 m|5 m"}})
        .say("members", {{"name", "Rail"}, {"rows", "m|a|b"}});
    EXPECT_THAT(checked(loose), HasSubstr("is joined to nothing"));
    SaidModel whole = steel();
    whole.say("plate", {{"name", "Deck"}})
        .say("points", {{"rows", "a|0 m|0 m|5 m"}})
        .say("members", {{"name", "Rail"}, {"rows", "m|a|Deck.1"}});
    EXPECT_THAT(checked(whole), Not(HasSubstr("is joined to nothing")));
}
