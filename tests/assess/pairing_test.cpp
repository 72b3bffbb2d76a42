#include "core/assess/pairing.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

SaidModel post(const char* section, const char* mass = "0 kg", const char* turned = "0 deg")
{
    SaidModel said;
    said.say("run", {{"name", "M"},
                     {"from", "0, 0, 0 m"},
                     {"to", "0, 0, 4 m"},
                     {"parts", "6"},
                     {"section", section},
                     {"turned", turned},
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

TEST(Pairing, TellsModesThatChangedPlacesFromThoseThatMix)
{
    const auto a = post("rectangle 60x90 mm").solved(), b = post("rectangle 90x60 mm").solved();
    const auto places = changedPlaces(*a, *b, pairModes(*a, *b));
    ASSERT_FALSE(places.empty());
    EXPECT_EQ((std::array{places[0].lower, places[0].higher}), (std::array{1, 2}));
    EXPECT_EQ((std::array{places[0].ofLower, places[0].ofHigher}), (std::array{2, 1}));
    EXPECT_TRUE(mixedModes(*a, *b, modalAssurance(*a, *b)).empty()) << "each is all of its partner";

    // Turned by 35 degrees, it sways along axes of its own: cos2 and sin2 of that of what swayed along x and y.
    const auto turned = post("rectangle 60x90 mm", "0 kg", "35 deg").solved();
    const auto alike = modalAssurance(*turned, *a);
    const auto mixed = mixedModes(*turned, *a, alike);
    ASSERT_FALSE(mixed.empty());
    EXPECT_EQ(mixed[0].mode, 1);
    EXPECT_EQ(mixed[0].of, (std::array{1, 2}));
    EXPECT_NEAR(mixed[0].assurance[0], std::pow(std::cos(35 * pi / 180), 2), 1e-6);
    EXPECT_NEAR(mixed[0].assurance[1], std::pow(std::sin(35 * pi / 180), 2), 1e-6);
    EXPECT_TRUE(changedPlaces(*turned, *turned, pairModes(*turned, *turned)).empty());
    const auto round = post("tube 80x5 mm").solved();
    EXPECT_TRUE(mixedModes(*round, *a, modalAssurance(*round, *a)).empty()) << "of one frequency any mixture is a mode";
}
