// Sheets and members against solids of the same body: what their theories leave out must not matter here.
#include "core/modal/bare_pair.hpp"
#include "tests/said_model.hpp"
#include "tests/solid_block.hpp"

using namespace undisona;

namespace {

std::vector<double> lowest(SaidModel said, const std::string& held, int count)
{
    said.say("hold", {{"where", held}, {"directions", "all"}}).say("lowest", {{"count", std::to_string(count)}});
    EXPECT_EQ(said.problems(), "");
    return said.frequencies();
}

} // namespace

// A cantilever strip 0.6 m by 60 mm by 6 mm, turned by 45 degrees from root to tip: warped quadrilaterals.
TEST(PretwistedStrip, AsWarpedSheetAgreesWithSolid)
{
    constexpr double length = 0.6, width = 0.06, thickness = 0.006, twist = std::numbers::pi / 4.0;
    const auto turned = [&](const Eigen::Vector3d& at) {
        return Eigen::Vector3d(Eigen::AngleAxisd(twist * at.x() / length, Eigen::Vector3d::UnitX()) * at);
    };
    SolidBlock block(SolidKind::brick20, {length, width, thickness}, {36, 5, 2});
    block.warp([&](const Eigen::Vector3d& at) { return turned({at.x(), at.y() - width / 2, at.z() - thickness / 2}); });
    block.close();
    const auto solid = block.frequencies(
        [](const Eigen::Vector3d& at) {
            const bool root = at.x() < 1e-9;
            return std::array<bool, 3>{root, root, root};
        },
        6);

    const SaidModel flat =
        steel().say("plate", {{"name", "Strip"}, {"length", "0.6 m"}, {"width", "60 mm"}, {"thickness", "6 mm"}});
    Structure structure = flat.structure();
    constexpr int along = 60, across = 12; // edges of a sheet have a layer as wide as it is thick
    FrameMesh mesh;
    mesh.weight = {1.0};
    mesh.edgeNodes.resize(1);
    mesh.edgeCopies.resize(1);
    for (const auto& point : structure.frame.points)
        mesh.nodes.push_back({point.place, static_cast<int>(mesh.nodes.size())});
    const int first = static_cast<int>(mesh.nodes.size());
    for (int x = 0; x <= along; ++x)
        for (int y = 0; y <= across; ++y) {
            if (x == 0) mesh.edgeNodes[0].push_back(static_cast<int>(mesh.nodes.size()));
            mesh.nodes.push_back({turned({length * x / along, width * (double(y) / across - 0.5), 0.0}), -1});
        }
    for (int x = 0; x < along; ++x)
        for (int y = 0; y < across; ++y) {
            const int corner = first + x * (across + 1) + y;
            mesh.shells.push_back({0, 0, {corner, corner + across + 1, corner + across + 2, corner + 1}});
        }
    Hold root{Target::edge, 0};
    root.rigid.fill(true);
    structure.holds.push_back(root);
    Progress progress;
    const System system = assemble(structure, mesh, progress);
    Ask ask;
    ask.count = 6;
    const auto sheet = modesOfPair(system.stiffness, system.mass, ask, progress);
    ASSERT_TRUE(sheet);
    for (Eigen::Index mode = 0; mode < 6; ++mode)
        EXPECT_NEAR(std::sqrt(sheet->lambda[mode]) / (2 * std::numbers::pi) / solid[static_cast<std::size_t>(mode)],
                    1.0, 0.01)
            << mode;
}

// A plate 0.4 by 0.3 m, 6 mm thick, with a rib 40 mm high and 8 mm thick under its middle; held at one end.
TEST(StiffenedPlate, AsOffsetMemberAndAsRibAgreesWithSolid)
{
    const auto plate = [] {
        return steel().say(
            "plate",
            {{"name", "Plate"}, {"length", "0.4 m"}, {"width", "0.3 m"}, {"thickness", "6 mm"}, {"size", "15 mm"}});
    };
    auto rib = plate();
    // Its foot is the plate's middle, so that what stands out of the plate is 3 mm less.
    rib.say("rib", {{"name", "Rib"},
                    {"from", "0, 0.15, 0 m"},
                    {"to", "0.4, 0.15, 0 m"},
                    {"height", "43 mm"},
                    {"thickness", "8 mm"},
                    {"size", "10 mm"}});
    auto member = plate();
    member
        .say("run", {{"name", "Rib"},
                     {"from", "0, 0.15, 0 m"},
                     {"to", "0.4, 0.15, 0 m"},
                     {"parts", "1"},
                     {"section", "rectangle 40x8 mm"}})
        .say("offset", {{"members", "Rib"}, {"offset", "0, 0, 23 mm"}});
    auto solid = steel();
    solid.say(
        "extrusion",
        {{"name", "Tee"},
         {"rows", "0 mm|-3 mm\n300 mm|-3 mm\n300 mm|3 mm\n154 mm|3 mm\n154 mm|43 mm\n146 mm|43 mm\n146 mm|3 mm\n0 "
                  "mm|3 mm"},
         {"length", "0.4 m"},
         {"along", "1, 0, 0"},
         {"towards", "0, 1, 0"},
         {"size", "12 mm"}});
    const auto ofSolid = lowest(solid, "faces at x = 0 m of Tee", 6), ofRib = lowest(rib, "edges at x = 0 m", 6);
    auto held = member;
    held.say("hold", {{"where", "Rib.0"}, {"directions", "all"}});
    const auto ofMember = lowest(held, "edges at x = 0 m", 6);
    for (std::size_t mode = 0; mode < 6; ++mode) {
        EXPECT_NEAR(ofRib[mode] / ofSolid[mode], 1.0, 0.02) << mode;
        EXPECT_NEAR(ofMember[mode] / ofSolid[mode], 1.0, 0.02) << mode;
    }
}

// A box 60 by 40 mm of 2 mm, 0.6 m long, held at one end and open at the other: bending in both planes twice.
TEST(BoxStrip, AsSheetAgreesWithSolid)
{
    auto sheet = steel();
    sheet.say("folded-sheet", {{"name", "Box"},
                               {"rows", "1 mm|1 mm\n59 mm|1 mm\n59 mm|39 mm\n1 mm|39 mm\n1 mm|1 mm"},
                               {"length", "0.6 m"},
                               {"thickness", "2 mm"},
                               {"size", "8 mm"}});
    auto solid = steel();
    solid.say("solid-box", {{"name", "Box"}, {"x", "0.6 m"}, {"y", "60 mm"}, {"z", "40 mm"}, {"size", "8 mm"}})
        .say("solid-box",
             {{"name", "Hollow"}, {"x", "0.8 m"}, {"y", "56 mm"}, {"z", "36 mm"}, {"at", "-0.1, 0.002, 0.002 m"}})
        .say("solid-cut", {{"tool", "Hollow"}, {"body", "Box"}});
    const auto ofSheet = lowest(sheet, "edges at x = 0 m", 4), ofSolid = lowest(solid, "faces at x = 0 m of Box", 4);
    for (std::size_t mode = 0; mode < 4; ++mode)
        EXPECT_NEAR(ofSheet[mode] / ofSolid[mode], 1.0, 0.01) << mode;
}

// A round post 16 mm thick and 0.6 m long stands on a plate 10 mm thick that is held all round, and carries a cross
// bar: turned about its length it takes its torque from the plate.
TEST(MemberOnSheet, CarriesItsTorqueIntoItAsASolidDoes)
{
    auto sheet = steel();
    sheet
        .say("plate",
             {{"name", "Plate"}, {"length", "0.3 m"}, {"width", "0.2 m"}, {"thickness", "10 mm"}, {"size", "12 mm"}})
        .say("run", {{"name", "Post"},
                     {"from", "0.15, 0.1, 0 m"},
                     {"to", "0.15, 0.1, 0.6 m"},
                     {"parts", "1"},
                     {"section", "round 16 mm"}})
        .say("run", {{"name", "Bar"},
                     {"from", "0.05, 0.1, 0.6 m"},
                     {"to", "0.25, 0.1, 0.6 m"},
                     {"parts", "2"},
                     {"section", "rectangle 20x20 mm"}});
    auto solid = steel();
    solid
        .say("solid-box", {{"name", "Plate"},
                           {"x", "0.3 m"},
                           {"y", "0.2 m"},
                           {"z", "10 mm"},
                           {"at", "0, 0, -0.005 m"},
                           {"size", "12 mm"}})
        .say("solid-cylinder", {{"name", "Post"}, {"diameter", "16 mm"}, {"length", "0.6 m"}, {"at", "0.15, 0.1, 0 m"}})
        .say("solid-box",
             {{"name", "Bar"}, {"x", "0.2 m"}, {"y", "20 mm"}, {"z", "20 mm"}, {"at", "0.05, 0.09, 0.59 m"}})
        .say("solid-union", {{"tool", "Post"}, {"body", "Plate"}})
        .say("solid-union", {{"tool", "Bar"}, {"body", "Plate"}});
    const auto about = [](const SaidModel& said) { // the mode that turns the bar about the post
        const auto solution = said.solved();
        const auto& nodes = solution->mesh.nodes;
        const auto nearest = [&](const Eigen::Vector3d& place) {
            return static_cast<int>(std::min_element(nodes.begin(), nodes.end(),
                                                     [&](const MeshNode& one, const MeshNode& other) {
                                                         return (one.place - place).norm() <
                                                                (other.place - place).norm();
                                                     }) -
                                    nodes.begin());
        };
        const int tip = nearest({0.25, 0.1, 0.6}), other = nearest({0.05, 0.1, 0.6});
        double frequency = 0.0, most = 0.0;
        for (const auto& mode : solution->modes) {
            const auto q = solution->shapes.col(mode.number - 1);
            const double turns =
                std::abs(solution->system->motionOf(tip, q)[1] - solution->system->motionOf(other, q)[1]);
            if (turns <= most) continue;
            most = turns;
            frequency = mode.frequency;
        }
        return frequency;
    };
    const std::string rim = "edges at x = 0 m of Plate, edges at x = 0.3 m of Plate";
    sheet.say("hold", {{"where", rim}, {"directions", "all"}}).say("lowest", {{"count", "5"}});
    solid.say("hold", {{"where", "faces at x = 0 m of Plate, faces at x = 0.3 m of Plate"}, {"directions", "all"}})
        .say("lowest", {{"count", "5"}});
    EXPECT_EQ(sheet.problems() + solid.problems(), "");
    EXPECT_NEAR(about(sheet) / about(solid), 1.0, 0.03);
}
