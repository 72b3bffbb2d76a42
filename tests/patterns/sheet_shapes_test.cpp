// Drawn sheets against the areas of solid geometry, and what is said of shapes that cannot be.
#include "core/mesh/mesh_quality.hpp"
#include "core/mesh/plane_mesh.hpp"
#include "core/picks/pick.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/system/rigid_mass.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

#include <random>

using namespace undisona;
using testing::HasSubstr;

namespace {

double areaOf(const Structure& structure, const std::string& sheet = {})
{
    double area = 0.0;
    for (const auto& face : structure.frame.faces->faces)
        if (sheet.empty() || structure.frame.sheets[static_cast<std::size_t>(face.sheet)].name == sheet)
            area += face.area;
    return area;
}

SaidModel one(const std::string& kind, Words words)
{
    SaidModel said;
    said.material("200 GPa", "0.3", "8000 kg/m3").say(kind, std::move(words));
    return said;
}

double areaOf(const SaidModel& said)
{
    EXPECT_EQ(said.problems(), "");
    return areaOf(said.structure());
}

} // namespace

TEST(Sheet, HasTheAreaOfItsForm)
{
    const double slant = std::hypot(0.3, 0.15);
    EXPECT_NEAR(areaOf(one("cone-shell", {{"diameter", "0.5 m"}, {"far", "0.2 m"}, {"length", "0.3 m"}})),
                pi * (0.25 + 0.1) * slant, 1e-9);
    EXPECT_NEAR(
        areaOf(one("cone-shell", {{"diameter", "0.5 m"}, {"far", "0.2 m"}, {"length", "0.3 m"}, {"angle", "90 deg"}})),
        pi * (0.25 + 0.1) * slant / 4.0, 1e-9);
    for (const double height : {0.05, 0.15, 0.25}) // 2 pi R h, half a ball at the end
        EXPECT_NEAR(areaOf(one("dome", {{"diameter", "0.5 m"}, {"height", metres(height)}})),
                    pi * (0.25 * 0.25 + height * height), 2e-6);
    const double radius = (0.25 * 0.25 + 0.15 * 0.15) / 0.3, lost = radius - std::sqrt(radius * radius - 0.0025);
    EXPECT_NEAR(areaOf(one("dome", {{"diameter", "0.5 m"}, {"height", "0.15 m"}, {"inner", "0.1 m"}})),
                2.0 * pi * radius * (0.15 - lost), 1e-9);
    EXPECT_NEAR(areaOf(one("elbow", {{"diameter", "0.2 m"}, {"bend", "0.3 m"}, {"angle", "90 deg"}})),
                pi * 0.2 * 0.3 * pi / 2.0, 1e-9); // Pappus
    EXPECT_NEAR(
        areaOf(one("sheet-box",
                   {{"x", "0.6 m"}, {"y", "0.4 m"}, {"z", "0.3 m"}, {"along", "1, 1, 0"}, {"towards", "-1, 1, 1"}})),
        2.0 * (0.24 + 0.18 + 0.12), 1e-9);
}

TEST(Sheet, HasAnOutlineOfArcsAndRoundedCorners)
{
    // A stadium: two half circles between straight sides, once by bows, once by rounded corners.
    const auto bowed = one("plate-through", {{"rows", "0 m|0 m|0 m\n1 m|0 m|0 m|0 m|0.2 m\n1 m|0.4 m|0 m\n"
                                                      "0 m|0.4 m|0 m|0 m|0.2 m"}});
    EXPECT_NEAR(areaOf(bowed), 0.4 + pi * 0.04, 1e-9);
    const auto rounded = one("plate-through", {{"rows", "0 m|0 m|0 m|100 mm\n0 m|0.5 m|0 m|100 mm\n1 m|0.5 m|0 m\n"
                                                        "1 m|0 m|0 m"}}); // clockwise is as good
    EXPECT_NEAR(areaOf(rounded), 0.5 - 2.0 * (0.01 - pi * 0.01 / 4.0), 1e-9);
    const auto tight =
        one("plate-through", {{"rows", "0 m|0 m|0 m|300 mm\n1 m|0 m|0 m\n1 m|0.2 m|0 m\n0 m|0.2 m|0 m"}});
    EXPECT_THAT(tight.problems(), HasSubstr("too short for its rounded corners"));
    const auto crossed = one("plate-through", {{"rows", "0 m|0 m|0 m\n1 m|1 m|0 m\n1 m|0 m|0 m\n0 m|1.5 m|0 m"}});
    EXPECT_THAT(crossed.problems(), HasSubstr("crosses itself"));
}

TEST(Sheet, IsOpenedByWindowsOfAnyOutline)
{
    auto said = one("plate", {{"length", "1 m"}, {"width", "0.6 m"}});
    said.say("opening", {{"length", "0.3 m"}, {"width", "0.2 m"}, {"x", "0.1 m"}, {"y", "0.1 m"}, {"round", "50 mm"}})
        .say("opening-through", {{"rows", "0.6 m|0.2 m\n0.8 m|0.2 m|0 m|0.1 m\n0.8 m|0.4 m"}});
    const double window = 0.06 - 4.0 * 0.0025 * (1.0 - pi / 4.0), corner = 0.02 + pi * 0.01 / 2.0;
    EXPECT_NEAR(areaOf(said), 0.6 - window - corner, 1e-9);
    const Frame frame = said.structure().frame;
    EXPECT_EQ(pick(frame, "rims of Plate", placeTargets).edges.size(), 8u + 3u);
    EXPECT_EQ(pick(frame, "edges of Plate", placeTargets).edges.size(), 4u);
    said.say("opening", {{"length", "0.3 m"}, {"width", "0.2 m"}, {"x", "0.35 m"}, {"y", "0.25 m"}});
    EXPECT_THAT(said.problems(), HasSubstr("meets another hole"));
}

TEST(Sheet, HasNoMoreHolesThanCanBeSetAgainstEachOther)
{
    auto said = one("plate", {{"length", "1 m"}, {"width", "1 m"}});
    said.say("hole-grid", {{"columns", "200"},
                           {"lines", "200"},
                           {"diameter", "2 mm"},
                           {"x", "5 mm"},
                           {"y", "5 mm"},
                           {"apart-x", "4 mm"},
                           {"apart-y", "4 mm"}});
    EXPECT_THAT(said.problems(), HasSubstr("would have 40000 holes; 2500 are the most"));
}

TEST(Part, IsMovedAndTurnedWithItsPoints)
{
    auto said = one("plate", {{"name", "Base"}, {"length", "1 m"}, {"width", "0.5 m"}});
    said.say("plate", {{"name", "Lid"}, {"length", "1 m"}, {"width", "0.5 m"}})
        .say("turned", {{"what", "Lid"}, {"angle", "90 deg"}, {"axis", "x"}, {"through", "0, 0, 0 m"}})
        .say("moved", {{"what", "Lid"}, {"step", "0, 0, 0.1 m"}});
    const Frame frame = said.structure().frame;
    ASSERT_EQ(said.problems(), "");
    const auto lid = pick(frame, "corners of Lid", placeTargets), base = pick(frame, "corners of Base", placeTargets);
    ASSERT_EQ(lid.points.size(), 4u);
    for (const int point : lid.points)
        EXPECT_NEAR(frame.points[static_cast<std::size_t>(point)].place.y(), 0.0, 1e-12);
    for (const int point : base.points)
        EXPECT_NEAR(frame.points[static_cast<std::size_t>(point)].place.z(), 0.0, 1e-12);
    // A member that stays hangs on the corner: the plate cannot leave it.
    auto hung = one("plate", {{"name", "Base"}});
    hung.say("run", {{"name", "Post"}, {"from", "0, 0, 0 m"}, {"to", "0, 0, -1 m"}, {"parts", "1"}})
        .say("moved", {{"what", "Post"}, {"step", "0, 0, 0.1 m"}});
    EXPECT_THAT(hung.problems(), HasSubstr("belongs to what moves and to what stays"));
}

TEST(Sheet, WeighsWhatItsTaperWeighsAndLiesWhereItIsDrawn)
{
    auto said = one("plate", {{"length", "2 m"}, {"width", "0.5 m"}, {"thickness", "10 mm"}, {"drawn", "upper face"}});
    said.say("taper", {{"first", "20 mm"}, {"from", "0, 0, 0 m"}, {"last", "10 mm"}, {"to", "2, 0, 0 m"}});
    ASSERT_EQ(said.problems(), "");
    const MassSummary mass = massSummary(said.structure());
    EXPECT_NEAR(mass.mass, 8000 * 0.5 * 2 * 0.015, 1e-9 * mass.mass);
    EXPECT_NEAR(mass.centre.x(), 2.0 * (0.02 + 2 * 0.01) / (3 * 0.03), 1e-9); // of a trapezium
    EXPECT_LT(mass.centre.z(), -0.007);
    EXPECT_GT(mass.centre.z(), -0.0085);
}

TEST(SheetMesh, IsValidOnPlatesWithRandomOpenings)
{
    std::mt19937 random(7);
    std::uniform_real_distribution<double> any(0.0, 1.0);
    for (int seed = 0; seed < 200; ++seed) {
        auto said = one("plate", {{"length", "1 m"}, {"width", "0.7 m"}, {"size", metres(0.03 + 0.05 * any(random))}});
        const int holes = 1 + seed % 4;
        for (int hole = 0; hole < holes; ++hole) { // each in a field of its own
            const double x = 0.03 + 0.5 * (hole % 2), y = 0.03 + 0.35 * (hole / 2), a = 0.05 + 0.3 * any(random),
                         b = 0.05 + 0.18 * any(random);
            if (any(random) < 0.5)
                said.say("opening", {{"length", metres(a)},
                                     {"width", metres(b)},
                                     {"x", metres(x)},
                                     {"y", metres(y)},
                                     {"round", metres(0.4 * any(random) * std::min(a, b) + 1e-3)}});
            else
                said.say("holes", {{"diameter", metres(b)},
                                   {"rows", metres(x + b / 2 + 0.1 * any(random)) + "|" +
                                                metres(y + b / 2 + 0.05 * any(random))}});
        }
        if (seed % 3 == 0) said.say("size-at", {{"size", "8 mm"}, {"where", "rims of Plate"}});
        const Structure structure = said.structure();
        ASSERT_EQ(said.problems(), "") << seed;
        const FrameMesh mesh = meshOf(structure, {}, proposeSizes(structure, 0.0));
        std::map<std::pair<int, int>, int> sides;
        double area = 0.0, worst = 1.0;
        for (const auto& shell : mesh.shells) {
            std::vector<Eigen::Vector2d> corners;
            PlaneCell cell{0, 1, 2, shell.corners() == 4 ? 3 : -1};
            for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
                const int a = shell.nodes[corner], b = shell.nodes[(corner + 1) % shell.corners()];
                ++sides[{std::min(a, b), std::max(a, b)}];
                corners.push_back(mesh.nodes[static_cast<std::size_t>(a)].place.head<2>());
            }
            worst = std::min(worst, shapeOf(corners, cell));
            area += mesh.area(shell);
        }
        EXPECT_GT(worst, 0.02) << seed;
        EXPECT_NEAR(area, areaOf(structure), 0.03 * area) << seed; // polygons in place of circles
        std::size_t rim = 0, along = 0;
        for (const auto& [side, count] : sides) {
            ASSERT_LE(count, 2) << seed;
            rim += count == 1;
        }
        for (const auto& nodes : mesh.edgeNodes)
            along += nodes.size() - 1;
        EXPECT_EQ(rim, along) << seed; // watertight but for its outline
    }
}

TEST(SheetMesh, IsFineWhereSaidAndCoarseElsewhere)
{
    auto said = one("plate", {{"length", "2 m"}, {"width", "1 m"}, {"size", "100 mm"}});
    said.say("point", {{"name", "foot"}, {"at", "1, 0.5, 0 m"}}).say("size-at", {{"size", "5 mm"}, {"where", "foot"}});
    const Structure structure = said.structure();
    ASSERT_EQ(said.problems(), "");
    const FrameMesh mesh = meshOf(structure, {}, proposeSizes(structure, 0.0));
    double near = 0.0, far = 1e300;
    for (const auto& shell : mesh.shells) {
        const double size = std::sqrt(mesh.area(shell)),
                     away = (mesh.nodes[static_cast<std::size_t>(shell.nodes[0])].place - Eigen::Vector3d(1, 0.5, 0))
                                .norm();
        if (away < 0.008) near = std::max(near, size);
        if (away > 0.6) far = std::min(far, size);
    }
    EXPECT_LT(near, 0.012);
    EXPECT_GT(far, 0.04);
    EXPECT_LT(mesh.shells.size(), 3000u);
}

TEST(MeshQuality, IsOneForEvenPiecesAndLessForOthers)
{
    FrameMesh mesh;
    const auto node = [&](double x, double y, double z) {
        mesh.nodes.push_back({{x, y, z}, -1});
        return static_cast<int>(mesh.nodes.size()) - 1;
    };
    const int a = node(0, 0, 0), b = node(1, 0, 0), c = node(1, 1, 0), d = node(0, 1, 0);
    const ShellQuality square = qualityOf(mesh, MeshShell{0, 0, {a, b, c, d}});
    EXPECT_NEAR(square.shape, 1.0, 1e-12);
    EXPECT_NEAR(square.leastAngle, pi / 2, 1e-12);
    mesh.nodes[static_cast<std::size_t>(c)].place.z() = 0.2; // warped
    EXPECT_GT(qualityOf(mesh, MeshShell{0, 0, {a, b, c, d}}).warp, 0.04);
    const int e = node(0.9, 0.1, 0); // dented inwards beyond the diagonal
    EXPECT_LT(qualityOf(mesh, MeshShell{0, 0, {a, b, e, d}}).shape, 0.25);
    MeshSolid even{0, SolidKind::tetrahedron10, {}};
    even.nodes.fill(-1);
    const std::array<Eigen::Vector3d, 4> corners{{{1, 1, 1}, {-1, -1, 1}, {1, -1, -1}, {-1, 1, -1}}};
    for (std::size_t at = 0; at < 4; ++at)
        even.nodes[at] = node(corners[at].x(), corners[at].y(), corners[at].z());
    constexpr std::array<std::array<std::size_t, 2>, 6> sides{{{0, 1}, {1, 2}, {2, 0}, {0, 3}, {1, 3}, {2, 3}}};
    for (std::size_t at = 0; at < 6; ++at) {
        const Eigen::Vector3d middle = (corners[sides[at][0]] + corners[sides[at][1]]) / 2.0;
        even.nodes[4 + at] = node(middle.x(), middle.y(), middle.z());
    }
    const SolidQuality best = qualityOf(mesh, even);
    EXPECT_NEAR(std::abs(best.shape), 1.0, 1e-12);
    EXPECT_NEAR(best.jacobian, best.shape > 0.0 ? 1.0 : -1.0, 1e-9);
    EXPECT_NEAR(best.aspect, 1.0, 1e-12);
}
