// Parts are told apart by what they are made of and how, and counted.
#include "core/statement/told_apart.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::ElementsAre;

namespace {

/// "tube 60.3x4 mm: 4".
std::vector<std::string> told(const Structure& structure, ToldBy by, const char* units = "mm kg N")
{
    std::vector<std::string> lines;
    for (const auto& kind : toldApart(structure, by, DisplayUnits(units)).kinds)
        lines.push_back(kind.name + ": " + std::to_string(kind.count));
    return lines;
}

SaidModel shed()
{
    SaidModel said;
    for (const auto& [name, y] : {std::pair("Left", "0"), std::pair("Right", "2")})
        said.say("run", {{"name", name},
                         {"from", std::string("0, ") + y + ", 0 m"},
                         {"to", std::string("4, ") + y + ", 0 m"},
                         {"parts", "2"},
                         {"section", "tube 60.3x4 mm"}});
    said.say("run",
             {{"name", "Tie"}, {"from", "0, 0, 0 m"}, {"to", "0, 2, 0 m"}, {"parts", "1"}, {"section", "round 20 mm"}})
        .say("plate", {{"name", "Floor"}, {"thickness", "8 mm"}})
        .say("plate", {{"name", "Lid"}, {"thickness", "3 mm"}, {"at", "0, 0, 1 m"}})
        .say("plate", {{"name", "Roof"}, {"thickness", "3 mm"}, {"at", "0, 0, 2 m"}})
        .say("solid-box", {{"name", "Block"}, {"at", "9, 0, 0 m"}});
    said.say("material", {{"material", "structural steel"}});
    return said.say("material", {{"what", "Lid, Roof"}, {"material", "aluminium alloy 6082"}});
}

} // namespace

TEST(ToldApart, CountsKindsAndKnowsWhoseTheyAre)
{
    const SaidModel said = shed();
    ASSERT_EQ(said.problems(), "");
    const Structure structure = said.structure();
    EXPECT_THAT(told(structure, ToldBy::section), ElementsAre("tube 60.3x4 mm: 4", "round 20 mm: 1"));
    EXPECT_THAT(told(structure, ToldBy::thickness), ElementsAre("3 mm: 2", "8 mm: 1")) << "from thin to thick";
    EXPECT_THAT(told(structure, ToldBy::thickness, "in lb lbf"), ElementsAre("0.1181 in: 2", "0.315 in: 1"));
    EXPECT_THAT(told(structure, ToldBy::part),
                ElementsAre("Left: 2", "Right: 2", "Tie: 1", "Floor: 1", "Lid: 1", "Roof: 1", "Block: 1"));
    EXPECT_THAT(told(structure, ToldBy::subAssembly), ElementsAre("the model itself: 9"));

    const auto materials = toldApart(structure, ToldBy::material, DisplayUnits());
    ASSERT_EQ(materials.kinds.size(), 2u);
    EXPECT_EQ(materials.kinds[0].count, 7);
    EXPECT_EQ(materials.kinds[1].count, 2);
    EXPECT_THAT(materials.ofMembers, ElementsAre(0, 0, 0, 0, 0));
    EXPECT_THAT(materials.ofParts, ElementsAre(0, 1, 1, 0)) << "floor, lid, roof, block";
    const auto thick = toldApart(structure, ToldBy::thickness, DisplayUnits());
    EXPECT_THAT(thick.ofMembers, ElementsAre(-1, -1, -1, -1, -1));
    EXPECT_THAT(thick.ofParts, ElementsAre(1, 0, 0, -1)) << "a body has no thickness";
}

TEST(ToldApart, ByPartGoesToTheLeastThatIsNamed)
{
    SaidModel said;
    said.say("lattice-mast", {{"name", "Mast"}, {"bays", "3"}, {"height", "6 m"}}).say("material");
    const auto lines = told(said.structure(), ToldBy::part);
    EXPECT_TRUE(std::any_of(lines.begin(), lines.end(), [](const std::string& line) {
        return line.starts_with("legs of Mast: ");
    })) << testing::PrintToString(lines);
}
