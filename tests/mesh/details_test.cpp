// Bodies whose details govern their mesh.
#include "core/modal/first_mesh.hpp"
#include "core/modal/refine_mesh.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

/// A rack: a bar of 160 mm by 8 mm with teeth along one side, as deep and wide as the gaps between them; without any it
/// is the bar.
SaidModel rack(int teeth, const std::string& length)
{
    const double half = 80.0 / std::max(teeth, 1); // mm, of a pitch
    std::string rows = "0 mm|0 mm\n160 mm|0 mm\n160 mm|8 mm";
    for (int tooth = teeth - 1; tooth >= 0; --tooth)
        for (const auto& [x, y] : {std::pair{1.5, 0.0}, {1.5, 1.0}, {0.5, 1.0}, {0.5, 0.0}})
            rows += "\n" + std::to_string(half * (2 * tooth + x)) + " mm|" + std::to_string(8.0 + half * y) + " mm";
    rows += "\n0 mm|8 mm";
    auto said = steel();
    said.say("extrusion", {{"name", "Rack"}, {"rows", rows}, {"length", length}})
        .say("solid-elements", {{"what", "Rack"}, {"elements", "tetrahedra"}});
    return said;
}

} // namespace

// By the pieces of one mesh it is told how many another would have: a plain bar an eighth as many on elements twice as
// large, one with teeth not nearly as few.
TEST(Details, SayHowManyPiecesOtherSizesLeave)
{
    const auto piecesBy = [](const SaidModel& said, double size, double times) {
        const Structure structure = said.structure();
        const MeshSizes sizes{{size}};
        const FrameMesh own = meshOf(structure, {}, sizes);
        const MeshSizes other = scaled({{}, sizes}, times).sizes;
        const double told = piecesOn(structure, own, other), real = double(meshOf(structure, {}, other).solids.size());
        EXPECT_NEAR(std::log2(told / real), 0.0, 0.7) << told << " told, " << real << " made";
        return told / double(own.solids.size());
    };
    const auto bar = rack(0, "16 mm"), toothed = rack(40, "16 mm");
    ASSERT_EQ(bar.problems() + toothed.problems(), "");
    EXPECT_NEAR(piecesBy(bar, 0.003, 2.0), 0.125, 0.06);
    EXPECT_GT(piecesBy(bar, 0.004, 0.5), 5.0);
    EXPECT_GT(piecesBy(toothed, 0.008, 2.0), 0.6);
    EXPECT_LT(piecesBy(toothed, 0.008, 0.7), 1.6);
}

// Where details have the elements of the short run as small as those of the first mesh, it is the whole run: its modes
// are those of the user's ask, proven. Many pieces alone do not make it so.
TEST(Details, MakeTheShortRunTheWholeOne)
{
    const auto guessOf = [](SaidModel said, std::size_t veryMany) {
        said.say("lowest", {{"count", "2"}});
        Progress progress;
        return firstGuess(said.structure(), progress, {}, nullptr, veryMany);
    };
    const FirstGuess toothed = guessOf(rack(160, "4 mm"), 800);
    ASSERT_TRUE(toothed.whole && toothed.pass);
    EXPECT_GT(toothed.pass->mesh.solids.size(), 800u);
    EXPECT_EQ(toothed.pass->extraction.lambda.size(), 8);
    EXPECT_TRUE(toothed.pass->extraction.check.proven);
    EXPECT_EQ(toothed.plan.sizes.ofPart, toothed.pass->mesh.sizes.ofPart);
    const FirstGuess bar = guessOf(rack(0, "4 mm"), 200);
    ASSERT_TRUE(bar.pass);
    EXPECT_GT(bar.pass->mesh.solids.size(), 200u);
    EXPECT_FALSE(bar.whole);
    EXPECT_FALSE(bar.pass->extraction.check.proven);
    EXPECT_GT(bar.pass->extraction.lambda.size(), 8);
    EXPECT_LT(bar.plan.sizes.ofPart[0], 0.7 * bar.pass->mesh.sizes.ofPart[0]);
}
