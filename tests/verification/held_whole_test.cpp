// Holds on members, sheet and solids as a whole: every node of them moves only as it may.
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;

namespace {

constexpr double modulus = 200e9, poisson = 0.3, density = 8000.0;

/// A bar of 2 m, alone in direction (3, 0, 4), as member, sheet or solid.
SaidModel bar(const std::string& family)
{
    SaidModel said = steel();
    if (family == "member")
        said.say("run",
                 {{"name", "Bar"}, {"from", "0, 0, 0 m"}, {"to", "1.2, 0, 1.6 m"}, {"section", "rectangle 100x50 mm"}});
    else if (family == "sheet")
        said.say("plate", {{"name", "Bar"},
                           {"length", "2 m"},
                           {"width", "0.3 m"},
                           {"thickness", "10 mm"},
                           {"along", "3, 0, 4"},
                           {"towards", "0, 1, 0"}});
    else
        said.say("solid-box", {{"name", "Bar"},
                               {"x", "2 m"},
                               {"y", "0.2 m"},
                               {"z", "0.1 m"},
                               {"along", "3, 0, 4"},
                               {"towards", "0, 1, 0"}});
    return said;
}

} // namespace

/// Free to move along itself alone it vibrates in half waves along its length (Rayleigh 1877), with the modulus that is
/// left where it cannot grow narrower: E in a member, E / (1 - nu^2) in sheet, that of plane waves in a solid.
TEST(HeldWhole, OnlyWavesAlongRemain)
{
    for (const auto& [family, stiff] :
         {std::pair<std::string, double>{"member", modulus},
          {"sheet", modulus / (1.0 - poisson * poisson)},
          {"solid", modulus * (1.0 - poisson) / ((1.0 + poisson) * (1.0 - 2.0 * poisson))}}) {
        const auto found = bar(family)
                               .say("hold", {{"where", family == "sheet" ? "everything" : "Bar"},
                                             {"directions", "y z rx ry rz"},
                                             {"x-towards", "3, 0, 4"}})
                               .say("lowest", {{"count", "3"}})
                               .frequencies();
        ASSERT_EQ(found.size(), 3u) << family;
        for (std::size_t mode = 0; mode < 3; ++mode) {
            const double wanted = double(mode + 1) / (2.0 * 2.0) * std::sqrt(stiff / density);
            EXPECT_NEAR(found[mode] / wanted, 1.0, 0.01) << family << ", mode " << mode + 1;
        }
    }
}

/// A plane portal: what is left are the modes of the whole one that stay in its plane.
TEST(HeldWhole, APlaneFrameHasThePlaneModesOfTheWhole)
{
    SaidModel portal = steel();
    portal.say("points", {{"rows", "a|0 m|0 m|0 m\nb|0 m|0 m|3 m\nc|4 m|0 m|3 m\nd|4 m|0 m|0 m"}})
        .say("members",
             {{"name", "Portal"}, {"rows", "left|a|b\nbeam|b|c\nright|d|c"}, {"section", "rectangle 100x50 mm"}})
        .say("fineness", {{"elements", "6"}})
        .say("hold", {{"where", "a, d"}, {"directions", "all"}});
    SaidModel plane = portal;
    const auto whole = portal.say("lowest", {{"count", "20"}}).solved();
    const auto inPlane = plane.say("hold", {{"where", "everything"}, {"directions", "y rx rz"}})
                             .say("lowest", {{"count", "5"}})
                             .solved();
    EXPECT_EQ(inPlane->system->size(), whole->system->size() / 2);
    std::vector<double> expected;
    for (std::size_t at = 0; at < whole->modes.size(); ++at) {
        const auto& mode = whole->modes[at];
        double across = 0.0, along = 0.0;
        for (const auto& node : whole->system->motions.nodes) {
            const Eigen::VectorXd moved = node.basis * whole->shapes(node.unknowns, static_cast<Eigen::Index>(at));
            across += std::abs(moved[1]);
            along += std::abs(moved[0]) + std::abs(moved[2]);
        }
        if (along > across) expected.push_back(mode.frequency);
    }
    ASSERT_GE(expected.size(), 5u);
    for (std::size_t at = 0; at < 5; ++at)
        EXPECT_NEAR(inPlane->modes[at].frequency, expected[at], 1e-7 * expected[at]);
}

/// What stands on its points stays free to be said elastic; what is no point does not.
TEST(HeldWhole, SpringsStandOnPointsAlone)
{
    SaidModel said = bar("sheet");
    said.say("hold", {{"where", "Bar"}, {"directions", "z"}, {"kz", "1 kN/mm"}});
    EXPECT_THAT(said.problems(), testing::HasSubstr("springs to ground stand on points alone"));
    SaidModel mixed = bar("member");
    mixed.say("plate", {{"name", "Deck"}, {"at", "0, 3, 0 m"}})
        .say("bed", {{"where", "everything"}, {"stiffness", "1 kN/mm"}});
    EXPECT_THAT(mixed.problems(), testing::AllOf(testing::HasSubstr("\"everything\" means members and sheets"),
                                                 testing::HasSubstr("not shared evenly"),
                                                 testing::HasSubstr("so much per length, area or volume")));
}
