// Boxes with cuts made by chance: every mesh closes, fits together, is turned the right way round and has the body's
// volume.
#include "core/geometry/joined_faces.hpp"
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

} // namespace

TEST(GeneratedMeshes, BoxesWithCutsAreFilledWithoutAGap)
{
    int swept = 0, filled = 0, refused = 0;
    for (unsigned seed = 1; seed <= 110; ++seed) {
        Chance chance(seed);
        const SaidModel said = cutBox(chance);
        if (said.problems().find("nothing is left") != std::string::npos) continue;
        SCOPED_TRACE(fmt::format("seed {}", seed));
        ASSERT_EQ(said.problems(), "");
        const Structure structure = said.structure();
        const FrameMesh mesh = meshed(structure);
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
