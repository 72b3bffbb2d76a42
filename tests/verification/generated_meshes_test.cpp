// Boxes with cuts made by chance: every mesh closes, fits together, is turned the right way round and has the body's
// volume.
#include "core/mesh/tetrahedralize.hpp"
#include "core/shapes/joined_faces.hpp"
#include "tests/closed_mesh.hpp"
#include "tests/said_model.hpp"

#include <fmt/format.h>

#include <random>

using namespace undisona;

namespace {

class Chance {
public:
    explicit Chance(unsigned seed) : generator_(seed) {}
    double between(double low, double high) { return std::uniform_real_distribution<double>(low, high)(generator_); }
    int upTo(int most) { return std::uniform_int_distribution<int>(1, most)(generator_); }

private:
    std::mt19937 generator_;
};

std::string mm(double value)
{
    return fmt::format("{:.2f} mm", value);
}
std::string mm(double x, double y, double z)
{
    return fmt::format("{:.2f}, {:.2f}, {:.2f} mm", x, y, z);
}

/// A box with boxes, cylinders and balls cut out of it anywhere.
SaidModel cutBox(Chance& chance)
{
    auto said = steel();
    const double x = chance.between(100, 300), y = chance.between(80, 200), z = chance.between(40, 120);
    said.say("solid-box", {{"name", "Block"}, {"x", mm(x)}, {"y", mm(y)}, {"z", mm(z)}});
    const int cuts = chance.upTo(4);
    for (int cut = 0; cut < cuts; ++cut) {
        const std::string name = fmt::format("Tool {}", cut);
        const double px = chance.between(0, x), py = chance.between(0, y), pz = chance.between(0, z);
        const int kind = chance.upTo(3);
        if (kind == 1)
            said.say("solid-box", {{"name", name},
                                   {"x", mm(chance.between(20, 120))},
                                   {"y", mm(chance.between(20, 90))},
                                   {"z", mm(chance.between(15, 70))},
                                   {"at", mm(px, py, pz)}});
        const double lean = chance.upTo(2) == 1 ? 0.0 : 0.4; // a bore straight through leaves a sweep
        if (kind == 2)
            said.say("solid-cylinder", {{"name", name},
                                        {"diameter", mm(chance.between(12, 70))},
                                        {"length", mm(300)},
                                        {"at", mm(px, py, pz - 150)},
                                        {"along", fmt::format("{:.2f}, {:.2f}, 1", chance.between(-lean, lean),
                                                              chance.between(-lean, lean))}});
        if (kind == 3)
            said.say("solid-sphere",
                     {{"name", name}, {"diameter", mm(chance.between(20, 80))}, {"at", mm(px, py, pz)}});
        said.say("solid-cut", {{"tool", name}, {"body", "Block"}});
    }
    return said;
}

FrameMesh meshed(const Structure& structure)
{
    return meshOf(structure, {}, proposeSizes(structure, 0.0));
}

/// Triangles over a ball of 1 m: an octahedron, each face parted into four so many times.
std::pair<std::vector<Eigen::Vector3d>, std::vector<std::array<int, 3>>> roundBall(int times)
{
    std::vector<Eigen::Vector3d> points{{1, 0, 0}, {0, 1, 0}, {-1, 0, 0}, {0, -1, 0}, {0, 0, 1}, {0, 0, -1}};
    std::vector<std::array<int, 3>> triangles;
    for (int side = 0; side < 4; ++side) {
        triangles.push_back({side, (side + 1) % 4, 4});
        triangles.push_back({(side + 1) % 4, side, 5});
    }
    for (int time = 0; time < times; ++time) {
        std::map<std::pair<int, int>, int> middles;
        const auto middle = [&](int a, int b) {
            const auto [at, isNew] = middles.emplace(std::minmax(a, b), int(points.size()));
            if (isNew) points.push_back((points[std::size_t(a)] + points[std::size_t(b)]).normalized());
            return at->second;
        };
        std::vector<std::array<int, 3>> finer;
        for (const auto& [a, b, c] : triangles) {
            const int ab = middle(a, b), bc = middle(b, c), ca = middle(c, a);
            finer.insert(finer.end(), {{a, ab, ca}, {ab, b, bc}, {ca, bc, c}, {ab, bc, ca}});
        }
        triangles = std::move(finer);
    }
    return {points, triangles};
}

} // namespace

TEST(Filling, ALargeSurfaceIsFilledBesideTheProgramAndCanBeStopped)
{
    const auto [points, triangles] = roundBall(5); // 8192 of them
    const auto filled = fillSurface(points, triangles, 1e-3);
    ASSERT_EQ(filled.problem, "");
    double volume = 0.0, within = 0.0;
    for (const auto& [a, b, c, d] : filled.tetrahedra) {
        const auto at = [&](int node) { return filled.points[std::size_t(node)]; };
        const double own = (at(b) - at(a)).cross(at(c) - at(a)).dot(at(d) - at(a)) / 6.0;
        EXPECT_GT(own, 0.0);
        volume += own;
    }
    for (const auto& [a, b, c] : triangles)
        within += points[std::size_t(a)].cross(points[std::size_t(b)]).dot(points[std::size_t(c)]) / 6.0;
    EXPECT_NEAR(volume, within, 1e-9);
    for (std::size_t at = 0; at < points.size(); ++at)
        EXPECT_EQ(filled.points[at], points[at]) << "the surface stays as it is";
    const auto again = fillSurface(points, triangles, 1e-3);
    EXPECT_EQ(again.tetrahedra, filled.tetrahedra);
    Progress stopped;
    stopped.stop();
    EXPECT_NE(fillSurface(points, triangles, 1e-9, &stopped).problem.find("stopped"), std::string::npos)
        << "which would be three billion of them";
}

TEST(GeneratedMeshes, BoxesWithCutsAreFilledWithoutAGap)
{
    int swept = 0, filled = 0, refused = 0;
    for (unsigned seed = 1; seed <= 110; ++seed) {
        Chance chance(seed);
        const SaidModel said = cutBox(chance);
        if (said.problems().find("nothing is left") != std::string::npos) continue;
        SCOPED_TRACE(fmt::format("seed {}", seed));
        const std::string problems = said.problems(); // a cut may lie within an earlier one
        ASSERT_TRUE(problems.empty() || (problems.find("does not meet it") != std::string::npos &&
                                         problems.find("error") == std::string::npos))
            << problems;
        const Structure structure = said.structure();
        FrameMesh mesh = meshed(structure);
        std::erase_if(mesh.problems, [](const Finding& own) { return own.severity != Severity::error; });
        if (!mesh.problems.empty()) { // only where an edge is a hair long, and with its place
            const auto& edges = structure.frame.faces->edges;
            ASSERT_TRUE(std::any_of(edges.begin(), edges.end(), [](const FaceEdge& e) { return e.length < 5e-5; }))
                << oneLine(mesh.problems.front());
            EXPECT_NE(oneLine(mesh.problems.front()).find(" at "), std::string::npos);
            ++refused;
            continue;
        }
        double volume = 0.0;
        for (const auto& body : structure.frame.faces->solids)
            volume += body.volume;
        EXPECT_NEAR(closedVolume(mesh, 0.0) / volume, 1.0, 0.01);
        for (const auto& body : mesh.bodies)
            ++(body.sweep ? swept : filled);
    }
    EXPECT_GT(swept, 3);
    EXPECT_GT(filled, 50);
    EXPECT_LE(refused, 2);
}
