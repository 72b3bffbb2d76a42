// Elements of bodies follow what is asked of them, not every detail; and where they are in each other's way there are
// smaller ones.
#include "core/mesh/tetrahedralize.hpp"
#include "core/shapes/joined_faces.hpp"
#include "tests/closed_mesh.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;

namespace {

FrameMesh meshOn(const Structure& structure, double size)
{
    MeshSizes sizes = proposeSizes(structure, 0.0);
    for (auto& own : sizes.ofPart)
        own = size;
    return meshOf(structure, {}, sizes);
}

} // namespace

TEST(BodySizes, AWireThatIsThinBesideTheElementsAskedIsFilledAllTheSame)
{
    SaidModel can = steel();
    can.say("solid-cylinder", {{"name", "Can"}, {"diameter", "120 mm"}, {"length", "160 mm"}})
        .say("solid-cylinder", {{"name", "Wire"}, {"diameter", "4 mm"}, {"length", "90 mm"}, {"at", "0, 0, -80 mm"}})
        .say("solid-union", {{"tool", "Wire"}, {"body", "Can"}});
    const Structure structure = can.structure();
    const FrameMesh mesh = meshOn(structure, 0.04);
    EXPECT_TRUE(mesh.problems.empty()) << oneLine(mesh.problems.front());
    const double exact = pi * (0.06 * 0.06 * 0.16 + 0.002 * 0.002 * 0.08);
    EXPECT_NEAR(closedVolume(mesh, 0.0) / exact, 1.0, 2e-3);
    double low = 0.0;
    for (const auto& node : mesh.nodes)
        low = std::min(low, node.place.z());
    EXPECT_NEAR(low, -0.08, 1e-9) << "the wire has elements";
}

TEST(BodySizes, ASurfaceIsFilledTheSameAtAnyScale)
{
    // An octagonal block: both faces fanned from their middles, and its sides.
    std::vector<Eigen::Vector3d> points;
    std::vector<std::array<int, 3>> triangles;
    constexpr int around = 8;
    for (const double z : {0.0, 0.6})
        for (int at = 0; at < around; ++at)
            points.emplace_back(std::cos(2.0 * pi * at / around), std::sin(2.0 * pi * at / around), z);
    points.emplace_back(0.0, 0.0, 0.0);
    points.emplace_back(0.0, 0.0, 0.6);
    for (int at = 0; at < around; ++at) {
        const int next = (at + 1) % around;
        triangles.push_back({next, at, 2 * around});
        triangles.push_back({around + at, around + next, 2 * around + 1});
        triangles.push_back({at, next, around + next});
        triangles.push_back({at, around + next, around + at});
    }
    std::size_t cells = 0;
    for (const double scale : {1.0, 1e-6, 1e5}) {
        auto scaled = points;
        for (auto& point : scaled)
            point *= scale;
        const FilledSurface filled = fillSurface(scaled, triangles, 1e-4 * std::pow(scale, 3));
        ASSERT_EQ(filled.problem, "") << scale;
        if (cells == 0) cells = filled.tetrahedra.size();
        EXPECT_EQ(filled.tetrahedra.size(), cells) << scale;
        for (const auto& point : filled.points)
            EXPECT_LT(point.norm(), 1.2 * scale) << "no point is put outside";
    }
    EXPECT_GT(cells, 20u);
}

TEST(BodySizes, RoundsFarSmallerThanAnElementCostFewOfThem)
{
    const auto elements = [](const char* round) {
        SaidModel block = steel();
        std::string rows;
        for (const char* corner : {"0 mm|0 mm|", "200 mm|0 mm|", "200 mm|120 mm|", "0 mm|120 mm|"})
            rows += std::string(rows.empty() ? "" : "\n") + corner + round;
        block.say("extrusion", {{"name", "Block"}, {"rows", rows}, {"length", "80 mm"}})
            .say("solid-elements", {{"what", "Block"}, {"elements", "tetrahedra"}});
        const Structure structure = block.structure();
        EXPECT_EQ(block.problems(), "");
        const FrameMesh mesh = meshOn(structure, 0.03);
        EXPECT_TRUE(mesh.problems.empty()) << round;
        EXPECT_NEAR(closedVolume(mesh, 0.0) / structure.frame.faces->solids[0].volume, 1.0, 2e-3) << round;
        return double(mesh.solids.size());
    };
    const double sharp = elements("0 mm");
    EXPECT_LT(elements("1 mm"), 4.0 * sharp);
    EXPECT_LT(elements("6 mm"), 4.0 * sharp);
}

TEST(BodySizes, BodiesThatOverlapByAHairAreJoinedAndMoreIsRefused)
{
    const auto pair = [](const char* apart) {
        SaidModel said = steel();
        said.say("solid-box", {{"name", "One"}, {"x", "0.1 m"}, {"y", "0.1 m"}, {"z", "0.1 m"}})
            .say("solid-box", {{"name", "Other"}, {"x", "0.1 m"}, {"y", "0.1 m"}, {"z", "0.1 m"}, {"at", apart}});
        return said;
    };
    const auto hair = pair("99.8 mm, 0 mm, 0 mm");
    EXPECT_EQ(hair.problems(), "");
    const auto findings = hair.findings();
    ASSERT_EQ(findings.size(), 1u);
    EXPECT_EQ(findings[0].what, "Other overlaps One by 0.20 % of the smaller one, which is One's alone");
    const FrameMesh mesh = meshOn(hair.structure(), 0.05);
    EXPECT_NEAR(closedVolume(mesh, 0.0), 0.1998 * 0.1 * 0.1, 1e-9);
    EXPECT_THAT(pair("90 mm, 0 mm, 0 mm").problems(), testing::HasSubstr("10 % of the smaller one"));
}
