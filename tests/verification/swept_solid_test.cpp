// Bodies filled with bricks and wedges: the mesh closes, has the body's volume, and vibrates as the same body does as
// tetrahedra, as sheet and as members.
#include "core/mesh/mesh_quality.hpp"
#include "core/shapes/joined_faces.hpp"
#include "tests/closed_mesh.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

FrameMesh meshedAs(const SaidModel& said)
{
    EXPECT_EQ(said.problems(), "");
    const Structure structure = said.structure();
    return meshOf(structure, {}, proposeSizes(structure, 0.0));
}

std::map<SolidKind, int> kindsOf(const FrameMesh& mesh)
{
    std::map<SolidKind, int> kinds;
    for (const auto& piece : mesh.solids)
        ++kinds[piece.kind];
    return kinds;
}

double volumeOfBodies(const SaidModel& said)
{
    double volume = 0.0;
    for (const auto& body : said.structure().frame.faces->solids)
        volume += body.volume;
    return volume;
}

} // namespace

TEST(SweptSolid, BodiesThatAreSweepsHaveBricksAndOthersTetrahedra)
{
    struct Case {
        const char* what;
        SaidModel said;
        std::set<SolidKind> kinds;
    };
    std::vector<Case> cases;
    const auto add = [&](const char* what, const SaidModel& said, std::set<SolidKind> kinds) {
        cases.push_back({what, said, std::move(kinds)});
    };
    add("box", steel().say("solid-box", {{"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.01 m"}}), {SolidKind::brick20});
    add("leaning box",
        steel().say("solid-box",
                    {{"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}, {"along", "1, 2, 0"}, {"towards", "-2, 1, 1"}}),
        {SolidKind::brick20});
    add("thick tube", steel().say("solid-cylinder", {{"diameter", "0.2 m"}, {"length", "0.5 m"}, {"inner", "0.14 m"}}),
        {SolidKind::brick20});
    add("round bar", steel().say("solid-cylinder", {{"diameter", "0.2 m"}, {"length", "0.5 m"}, {"size", "25 mm"}}),
        {SolidKind::brick20, SolidKind::wedge15});
    add("part of a ring",
        steel().say("revolution", {{"rows", "0.2 m|0 m\n0.3 m|0 m\n0.3 m|0.05 m|0.01 m\n0.2 m|0.05 m"},
                                   {"angle", "270 deg"},
                                   {"along", "1, 1, 1"}}),
        {SolidKind::brick20, SolidKind::wedge15});
    add("plate with a hole",
        steel()
            .say("solid-box", {{"name", "Plate"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.01 m"}})
            .say("solid-cylinder",
                 {{"name", "Drill"}, {"diameter", "60 mm"}, {"length", "0.1 m"}, {"at", "0.1, 0.1, -0.05 m"}})
            .say("solid-cut", {{"tool", "Drill"}, {"body", "Plate"}}),
        {SolidKind::brick20, SolidKind::wedge15});
    add("8-node bricks",
        steel()
            .say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
            .say("solid-elements", {{"what", "Block"}, {"elements", "8-node bricks"}, {"through", "2"}}),
        {SolidKind::brick8});
    add("two blocks side by side",
        steel()
            .say("solid-box", {{"name", "A"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.01 m"}})
            .say("solid-box", {{"name", "B"}, {"x", "0.1 m"}, {"y", "0.2 m"}, {"z", "0.01 m"}, {"at", "0.3, 0, 0 m"}}),
        {SolidKind::brick20});
    add("two layers",
        steel()
            .say("solid-box", {{"name", "A"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.01 m"}})
            .say("solid-box", {{"name", "B"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.02 m"}, {"at", "0, 0, 0.01 m"}}),
        {SolidKind::brick20});
    add("knob on a block",
        steel()
            .say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
            .say("solid-sphere", {{"name", "Ball"}, {"diameter", "0.1 m"}, {"at", "0.15, 0.1, 0.12 m"}})
            .say("solid-union", {{"tool", "Ball"}, {"body", "Block"}}),
        {SolidKind::tetrahedron10});
    add("small block on a large one",
        steel()
            .say("solid-box", {{"name", "A"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
            .say("solid-box",
                 {{"name", "B"}, {"x", "0.1 m"}, {"y", "0.1 m"}, {"z", "0.1 m"}, {"at", "0.1, 0.1, 0.1 m"}}),
        {SolidKind::tetrahedron10});
    add("as asked",
        steel()
            .say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
            .say("solid-elements", {{"what", "Block"}, {"elements", "tetrahedra"}}),
        {SolidKind::tetrahedron10});
    for (const auto& [what, said, kinds] : cases) {
        const FrameMesh mesh = meshedAs(said);
        std::set<SolidKind> found;
        for (const auto& [kind, count] : kindsOf(mesh))
            found.insert(kind);
        EXPECT_EQ(found, kinds) << what;
        EXPECT_NEAR(closedVolume(mesh) / volumeOfBodies(said), 1.0, 1e-3) << what;
        if (!kinds.contains(SolidKind::tetrahedron10))
            EXPECT_GT(qualityOf(mesh).shape(qualityOf(mesh).worst.front()), 0.3) << what;
    }
}

TEST(SweptSolid, HasAsManyElementsThroughItsThicknessAsAsked)
{
    const auto levels = [](const FrameMesh& mesh, int axis) { // corners at different heights
        std::set<long> heights;
        for (const auto& piece : mesh.solids)
            for (std::size_t corner = 0; corner < cornersOf(piece.kind); ++corner)
                heights.insert(
                    std::lround(1e7 * mesh.nodes[static_cast<std::size_t>(piece.nodes[corner])].place[axis]));
        return heights.size();
    };
    const auto plate = [](const char* through) {
        return steel()
            .say("solid-box", {{"name", "Plate"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.01 m"}, {"size", "50 mm"}})
            .say("solid-elements", {{"what", "Plate"}, {"elements", "what its shape allows"}, {"through", through}});
    };
    EXPECT_EQ(levels(meshedAs(plate("1")), 2), 2u);
    EXPECT_EQ(levels(meshedAs(plate("3")), 2), 4u);
    EXPECT_EQ(meshedAs(plate("3")).bodies[0].through(), 3);
    // Of a strip drawn out edgewise the profile is what is thin.
    auto strip = steel();
    strip.say("extrusion", {{"name", "Strip"}, {"rows", "0 m|0 m\n40 mm|0 m\n40 mm|4 mm\n0 m|4 mm"}, {"length", "1 m"}})
        .say("solid-elements", {{"what", "Strip"}, {"elements", "20-node bricks"}, {"through", "2"}});
    const FrameMesh mesh = meshedAs(strip);
    EXPECT_GE(levels(mesh, 1), 3u);
    EXPECT_GE(mesh.bodies[0].through(), 2);
    auto pierced = steel();
    pierced.say("solid-sphere", {{"name", "Ball"}, {"diameter", "0.1 m"}})
        .say("solid-cylinder", {{"name", "Bore"}, {"diameter", "20 mm"}, {"length", "1 m"}, {"along", "1, 0, 0"}})
        .say("solid-cut", {{"tool", "Bore"}, {"body", "Ball"}})
        .say("solid-elements", {{"what", "Ball"}, {"elements", "20-node bricks"}})
        .say("lowest", {{"count", "8"}});
    Progress progress;
    const auto solution = solve(pierced.model(), progress);
    ASSERT_TRUE(solution);
    std::string all;
    for (const auto& finding : (*solution)->findings)
        all += oneLine(finding) + "\n";
    EXPECT_THAT(all, HasSubstr("Ball cannot be filled with bricks"));
}

TEST(SweptSolid, VibratesAsTheSameBodyOfTetrahedraAndAsSheet)
{
    // A plate 300 by 200 by 8 mm with a hole, held along one side.
    const auto drilled = [](const char* elements, const char* size) {
        return steel()
            .say("solid-box", {{"name", "Plate"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "8 mm"}, {"size", size}})
            .say("solid-cylinder",
                 {{"name", "Drill"}, {"diameter", "60 mm"}, {"length", "0.1 m"}, {"at", "0.1, 0.1, -0.05 m"}})
            .say("solid-cut", {{"tool", "Drill"}, {"body", "Plate"}})
            .say("solid-elements", {{"what", "Plate"}, {"elements", elements}})
            .say("hold", {{"where", "faces at x = 0 m of Plate"}, {"directions", "all"}})
            .say("lowest", {{"count", "10"}});
    };
    const auto swept = drilled("20-node bricks", "10 mm").frequencies(),
               fine = drilled("tetrahedra", "7 mm").frequencies();
    const auto sheet =
        steel()
            .say("plate",
                 {{"name", "Plate"}, {"length", "0.3 m"}, {"width", "0.2 m"}, {"thickness", "8 mm"}, {"size", "8 mm"}})
            .say("holes", {{"sheet", "Plate"}, {"diameter", "60 mm"}, {"rows", "0.1 m|0.1 m"}})
            .say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
            .say("lowest", {{"count", "10"}})
            .frequencies();
    for (std::size_t mode = 0; mode < 8; ++mode) {
        EXPECT_NEAR(swept[mode] / fine[mode], 1.0, 0.004) << mode;
        EXPECT_NEAR(swept[mode] / sheet[mode], 1.0, 0.015) << mode;
    }
}

// A bar of timber whose grain runs along it bends as one of its modulus along the grain; across, of that across.
TEST(SweptSolid, GrainStiffensABarAlongIt)
{
    const auto bar = [](const char* along) {
        SaidModel said;
        said.say("orthotropic", {{"name", "ash"},
                                 {"modulus", "13 GPa"},
                                 {"across", "1.2 GPa"},
                                 {"shear", "900 MPa"},
                                 {"rolling", "300 MPa"},
                                 {"poisson", "0.35"},
                                 {"poisson-across", "0.4"},
                                 {"density", "700 kg/m3"}})
            .say("material", {{"what", "everything"}, {"material", "ash"}})
            .say("solid-box", {{"name", "Bar"}, {"x", "1 m"}, {"y", "20 mm"}, {"z", "30 mm"}, {"size", "20 mm"}})
            .say("grain", {{"sheets", "Bar"}, {"along", along}})
            .say("hold", {{"where", "faces at x = 0 m of Bar"}, {"directions", "all"}})
            .say("lowest", {{"count", "2"}});
        return said.frequencies();
    };
    const auto slender = [](double modulus, double depth) { // clamped-free, its first bending
        return 1.8751 * 1.8751 / (2 * pi) * std::sqrt(modulus * depth * depth / 12.0 / 700.0);
    };
    const auto along = bar("1, 0, 0"), across = bar("0, 1, 0");
    EXPECT_NEAR(along[0] / slender(13e9, 0.02), 1.0, 0.006);
    EXPECT_NEAR(along[1] / slender(13e9, 0.03), 1.0, 0.012) << "with a little shear";
    EXPECT_NEAR(across[0] / slender(1.2e9, 0.02), 1.0, 0.006);
    EXPECT_NEAR(across[1] / slender(1.2e9, 0.03), 1.0, 0.006);
    // At 45 degrees in its plane: 1/E = c4/E1 + s4/E2 + (1/G - 2 nu/E1) s2 c2 (Lekhnitskii 1963), bending and twisting
    // coupled but little in a slender bar.
    const double leaning = 1.0 / (0.25 / 13e9 + 0.25 / 1.2e9 + 0.25 * (1.0 / 0.9e9 - 0.7 / 13e9));
    EXPECT_NEAR(bar("1, 0, 1")[0] / slender(leaning, 0.02), 1.0, 0.02);
}
