#include "core/assess/pairing.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

SaidModel post(const char* section, const char* mass = "0 kg")
{
    SaidModel said;
    said.say("run", {{"name", "M"},
                     {"from", "0, 0, 0 m"},
                     {"to", "0, 0, 4 m"},
                     {"parts", "6"},
                     {"section", section},
                     {"elements", "2"}})
        .say("material")
        .say("hold", {{"where", "M.0"}, {"directions", "all"}});
    return said.say("mass", {{"mass", mass}, {"points", "M.6"}}).say("lowest", {{"count", "6"}});
}

} // namespace

TEST(Pairing, FollowsTheShapeWhenTheOrderChanges)
{
    // Upright 60x90 and lying 90x60: what swayed in x first now sways in y first.
    const auto a = post("rectangle 60x90 mm").solved(), b = post("rectangle 90x60 mm").solved();
    const auto pairs = pairModes(*a, *b);
    EXPECT_EQ(pairs[0].second, 2);
    EXPECT_EQ(pairs[1].second, 1);
    EXPECT_GT(pairs[0].assurance, 0.99);
    EXPECT_NEAR(pairs[0].shift, b->modes[1].frequency / a->modes[0].frequency - 1, 1e-12);
}

TEST(Pairing, GivesAtMostOnePartnerAndOnlyToShapesThatAreAlike)
{
    const auto a = post("rectangle 60x90 mm").solved(), b = post("rectangle 60x90 mm", "400 kg").solved();
    std::set<int> taken;
    for (const auto& pair : pairModes(*a, *b)) {
        if (pair.second == 0) continue;
        EXPECT_TRUE(taken.insert(pair.second).second);
        EXPECT_GE(pair.assurance, 0.6);
        EXPECT_LT(pair.shift, 0.0) << "a heavier head lowers every frequency";
    }
    EXPECT_GE(taken.size(), 2u);
    SaidModel other;
    other.say("run", {{"name", "Else"}})
        .say("material")
        .say("hold", {{"where", "Else.0"}, {"directions", "all"}})
        .say("lowest", {{"count", "3"}});
    for (const auto& pair : pairModes(*a, *other.solved()))
        EXPECT_EQ(pair.second, 0) << "no shared points";
}

TEST(Pairing, EqualFrequenciesPairAsAGroup)
{
    const auto a = post("tube 80x5 mm").solved(), b = post("tube 80x6 mm").solved();
    ASSERT_EQ(a->modes[0].group, a->modes[1].group);
    const auto pairs = pairModes(*a, *b);
    EXPECT_EQ(pairs[0].second + pairs[1].second, 3);
    EXPECT_GT(std::min(pairs[0].assurance, pairs[1].assurance), 0.99);
}
