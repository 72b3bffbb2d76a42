// Words that say where: what they find of members, sheet and solids together, and what is said where they cannot be
// meant.
#include "core/mesh/frame_mesh.hpp"
#include "core/picks/pick.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::AllOf;
using testing::ElementsAre;
using testing::HasSubstr;

namespace {

/// A portal of three members, a deck beside it, and a block with a shaft through it.
SaidModel yard()
{
    SaidModel said = steel();
    said.say("points", {{"rows", "a|0 m|0 m|0 m\nb|0 m|0 m|3 m\nc|4 m|0 m|3 m\nd|4 m|0 m|0 m"}})
        .say("members",
             {{"name", "Portal"}, {"rows", "left|a|b\nbeam|b|c\nright|d|c"}, {"section", "rectangle 100x50 mm"}})
        .say("plate", {{"name", "Deck"},
                       {"length", "2 m"},
                       {"width", "1 m"},
                       {"thickness", "10 mm"},
                       {"at", "0, 2, 1 m"},
                       {"along", "1, 0, 0"},
                       {"towards", "0, 1, 0"}})
        .say("solid-box", {{"name", "Block"}, {"x", "1 m"}, {"y", "1 m"}, {"z", "0.5 m"}, {"at", "0, 5, 0 m"}})
        .say("solid-cylinder",
             {{"name", "Post"}, {"diameter", "0.4 m"}, {"length", "2 m"}, {"at", "3, 5, 0 m"}, {"along", "0, 0, 1"}});
    return said;
}

std::array<std::size_t, 6> counts(const Picked& picked)
{
    std::array<std::size_t, 6> found{};
    for (const Target target : everyTarget)
        found[static_cast<std::size_t>(target)] = picked.of(target).size();
    return found;
}

} // namespace

TEST(Picks, ANameMeansWhatTheFieldMayName)
{
    const Frame frame = yard().structure().frame;
    using Counts = std::array<std::size_t, 6>; // points, members, edges, sheets, faces, solids
    EXPECT_EQ(counts(pick(frame, "everything", anyTarget)), (Counts{0, 3, 0, 1, 0, 2}));
    EXPECT_EQ(counts(pick(frame, "everything", Target::member)), (Counts{0, 3, 0, 0, 0, 0}));
    EXPECT_EQ(counts(pick(frame, "everything", Target::solid | Target::face)), (Counts{0, 0, 0, 0, 0, 2}));
    EXPECT_EQ(counts(pick(frame, "Portal, Deck and Block", anyTarget)), (Counts{0, 3, 0, 1, 0, 1}));
    EXPECT_EQ(counts(pick(frame, "Portal", Target::point)), (Counts{4, 0, 0, 0, 0, 0})) << "those of its members";
    EXPECT_EQ(counts(pick(frame, "points of left, left", anyTarget)), (Counts{2, 1, 0, 0, 0, 0}));
    EXPECT_EQ(counts(pick(frame, "all points", anyTarget)), (Counts{8, 0, 0, 0, 0, 0})) << "of the portal and the deck";
    EXPECT_EQ(counts(pick(frame, "all solids except Post", anyTarget)), (Counts{0, 0, 0, 0, 0, 1}));
    EXPECT_EQ(counts(pick(frame, "a, edges of Deck, faces of Block", anyTarget)), (Counts{1, 0, 4, 0, 6, 0}));

    const auto wrong = [&](const char* text, Targets meant) {
        const Picked picked = pick(frame, text, meant);
        return picked.problem + " | " + picked.remedy;
    };
    EXPECT_THAT(wrong("Deck", Target::member), HasSubstr("\"Deck\" means a sheet, and members are meant here"));
    EXPECT_THAT(wrong("everything", Target::point), AllOf(HasSubstr("means members, sheets and solids, and points are"),
                                                          HasSubstr("Write \"all points\"")));
    EXPECT_THAT(wrong("Block", placeTargets), AllOf(HasSubstr("means a solid, and points, edges or faces are meant"),
                                                    HasSubstr("\"faces of Block\"")));
    EXPECT_THAT(wrong("edges of Deck", Target::face | Target::sheet),
                AllOf(HasSubstr("means edges, and sheets or faces are meant"), HasSubstr("Name sheets or faces")));
    EXPECT_THAT(wrong("a", partTargets), HasSubstr("\"a\" means a point, and members, sheets or solids are meant"));
    EXPECT_THAT(wrong("Dock", anyTarget), HasSubstr("no point, member, edge, sheet, face or solid or group of them"));
}

TEST(Picks, EndInARange)
{
    const Frame frame = yard().structure().frame;
    const auto found = [&](const char* text, Targets meant) {
        const Picked picked = pick(frame, text, meant);
        EXPECT_EQ(picked.problem, "") << text;
        return picked;
    };
    const auto names = [&](const char* text) {
        std::vector<std::string> list;
        for (const int at : found(text, Target::point).points)
            list.push_back(frame.points[static_cast<std::size_t>(at)].name);
        return list;
    };
    EXPECT_THAT(names("points between z = 0.5 m and 3 m"),
                ElementsAre("b", "c", "Deck.1", "Deck.2", "Deck.3", "Deck.4"));
    EXPECT_THAT(names("points of Portal between z = 0 and 2.9 m and b"), ElementsAre("a", "b", "d"));
    EXPECT_THAT(names("2 points of Portal between x = 5 m and 3.9 m"), ElementsAre("c", "d")) << "either way round";
    EXPECT_THAT(names("points of Portal within 3.1 m of a"), ElementsAre("a", "b"));
    EXPECT_THAT(names("points of Portal within 3.1 m of (4, 0, 0 m), a"), ElementsAre("a", "c", "d"));
    EXPECT_EQ(found("members between z = 3 m and 3 m", Target::member).members.size(), 1u);
    EXPECT_EQ(found("members within 0.5 m of (2, 0.4, 3 m)", Target::member).members.size(), 1u) << "beside its middle";
    EXPECT_EQ(found("edges of Deck between y = 2 m and 2.5 m", Target::edge).edges.size(), 1u);
    // A round wall reaches to its farthest side, not to its seam alone.
    EXPECT_EQ(found("faces of Post between x = 2.8 m and 3.2 m", Target::face).faces.size(), 3u);
    EXPECT_EQ(found("faces of Post between z = 0 m and 0.1 m", Target::face).faces.size(), 1u);
    EXPECT_THAT(pick(frame, "faces of Post between x = 2.9 m and 3.1 m", Target::face).problem,
                HasSubstr("finds no face"));
    EXPECT_EQ(found("faces within 0.1 m of (1.05, 5.5, 0.2 m)", Target::face).faces.size(), 1u);
    EXPECT_EQ(found("everything between y = 4 m and 7 m", anyTarget).solids.size(), 2u);
    EXPECT_EQ(found("sheets within 1.1 m of (0, 1, 1 m)", anyTarget).sheets.size(), 1u);

    SaidModel copied = yard();
    copied.say("copies", {{"name", "More"}, {"what", "sheets between y = 0 m and 9 m"}, {"step", "9, 0, 0 m"}});
    EXPECT_THAT(copied.problems(),
                HasSubstr("how far sheets and solids reach is not known while shapes are being made"));
    EXPECT_THAT(pick(frame, "points between z = 0 m", Target::point).problem, HasSubstr("is no range"));
    EXPECT_THAT(pick(frame, "points between w = 0 m and 1 m", Target::point).problem, HasSubstr("is no range"));
    EXPECT_THAT(pick(frame, "points within 2 kg of a", Target::point).problem, HasSubstr("no distance of a place"));
    EXPECT_THAT(pick(frame, "points within 2 m of nowhere", Target::point).remedy,
                HasSubstr("within 2 m of (1, 0, 3 m)"));
    EXPECT_THAT(pick(frame, "paws between z = 0 m and 1 m", Target::point).problem, HasSubstr("there is no point"));
}

TEST(Picks, SizesAreMeantOfWholePartsToo)
{
    SaidModel said = yard();
    const auto sizes = [&](const char* where) {
        SaidModel sized = said;
        sized.say("size-at", {{"size", "0.1 m"}, {"where", where}});
        EXPECT_EQ(sized.problems(), "") << where;
        const Structure structure = sized.structure();
        return meshOf(structure, proposeSplits(structure, 10.0), proposeSizes(structure, 10.0));
    };
    const FrameMesh members = sizes("left"), sheet = sizes("Deck"), solid = sizes("Block");
    EXPECT_EQ(members.firstElement[1] - members.firstElement[0], 30) << "3 m in pieces of 0.1 m";
    EXPECT_LT(members.firstElement[2] - members.firstElement[1], 10) << "the beam as it was";
    const auto shells = [](const FrameMesh& mesh) { return double(mesh.shells.size()); };
    EXPECT_NEAR(shells(sheet), 200.0, 60.0) << "2 m2 in squares of 0.1 m";
    EXPECT_LT(shells(solid), shells(sheet) / 2.0);
    EXPECT_GE(
        std::count_if(solid.solids.begin(), solid.solids.end(), [](const MeshSolid& own) { return own.solid == 0; }),
        400)
        << "0.5 m3 in cubes of 0.1 m";
}
