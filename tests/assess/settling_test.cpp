#include "core/assess/settling.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

TEST(Settling, TheLimitAndItsOrderAreThoseOfTheCourse)
{
    const double unknown = std::numeric_limits<double>::quiet_NaN();
    const std::vector<double> unknowns{130, 410, 800, 2100};
    std::vector<std::vector<double>> hertz(4);
    for (const double n : unknowns) {
        hertz[0].push_back(20.0 - 90.0 * std::pow(n, -1.5));
        hertz[1].push_back(30.0 + 70.0 * std::pow(n, -1.5) * (n == 410 ? 1.05 : 0.97)); // meshes are never quite alike
        hertz[2].push_back(40.0 + 9.0 * std::pow(n, -0.5));
        hertz[3].push_back(n == 410 ? unknown : 50.0 + 80.0 * std::pow(n, -1.5));
    }
    const auto settled = settledFrequencies(unknowns, hertz, 1.5);
    EXPECT_NEAR(settled[0]->hertz, 20.0, 1e-5);
    EXPECT_NEAR(settled[0]->order, 1.5, 0.01);
    EXPECT_NEAR(settled[0]->either, 0.25 * (20.0 - hertz[0][3]), 1e-5);
    EXPECT_NEAR(settled[1]->hertz, 30.0, 0.1 * (hertz[1][3] - 30.0));
    EXPECT_NEAR(settled[1]->order, 1.5, 0.05) << "meshes are never quite alike";
    EXPECT_NEAR(settled[2]->hertz, 40.0, 0.05 * (hertz[2][3] - 40.0));
    EXPECT_NEAR(settled[2]->order, 0.5, 0.02) << "one of its own";
    EXPECT_NEAR(settled[3]->hertz, 50.0, 1e-5);
    hertz[3][0] = unknown;
    EXPECT_FALSE(settledFrequencies(unknowns, hertz, 1.5)[3]) << "two rounds tell nothing";
}

TEST(Settling, ACourseThatIsNotSteadyHasNoLimit)
{
    const std::vector<std::vector<double>> hertz{{10.4, 10.1, 10.2, 10.15}, {10.0, 10.1, 10.4, 11.0}}; // ever faster
    const auto settled = settledFrequencies({100, 200, 400, 800}, hertz, 1.0);
    for (std::size_t mode = 0; mode < 2; ++mode) {
        ASSERT_TRUE(settled[mode]);
        EXPECT_EQ(settled[mode]->order, 0.0) << mode;
        EXPECT_EQ(settled[mode]->hertz, hertz[mode].back());
    }
    EXPECT_NEAR(settled[0]->either, 0.05, 1e-12);
    EXPECT_NEAR(settled[1]->either, 0.9, 1e-12);
}

TEST(Settling, AMemberHeldAtBothEndsFindsItsModesOnOtherMeshesAndTheirLimit)
{
    const auto beam = [](int elements) {
        SaidModel said = straightBeam(3.0, 0.1, 0.06, elements);
        return said.say("hold", {{"where", "Beam.0, Beam.1"}, {"directions", "all"}}).say("lowest", {{"count", "4"}});
    };
    const SaidModel said = beam(12);
    const auto own = said.solved(), fine = beam(60).solved();
    Progress progress;
    const auto settling = settle(said.model(), *own, progress);
    ASSERT_TRUE(settling);
    ASSERT_EQ(settling->rounds.size(), 4u);
    for (std::size_t mode = 0; mode < 4; ++mode) {
        ASSERT_TRUE(settling->settled[mode]) << mode;
        const double truth = fine->modes[mode].frequency;
        EXPECT_LT(std::abs(settling->settled[mode]->hertz - truth), 0.3 * (own->modes[mode].frequency - truth)) << mode;
        EXPECT_GT(settling->settled[mode]->order, 2.0) << "the cubic member's error falls with the fourth power";
    }
}

TEST(Settling, RitzVectorsAndAllOfAMeshAreRefused)
{
    SaidModel said = straightBeam(3.0, 0.1, 0.06, 6);
    said.say("hold", {{"where", "Beam.0"}, {"directions", "all"}}).say("every-mode");
    Progress progress;
    const auto refused = settle(said.model(), *said.solved(), progress);
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.findings().front().what.find("settle"), std::string::npos);
}
