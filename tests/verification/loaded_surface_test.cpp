// Plates and tubes under load against the tables: deflections, and stresses where they are largest.
#include "core/units/unit.hpp"
#include "tests/verification/resting.hpp"

using namespace undisona;

namespace {

constexpr double pressure = 2e4; // Pa

double stiffnessOf(double thickness)
{
    return E * std::pow(thickness, 3) / (12 * (1 - nu * nu));
}

/// Where a stress is steep the pieces that the program chooses do not reach its peak by themselves; the field through
/// them does, and what they miss is told.
void expectPeak(const PartStress& part, double peak, double above, double below)
{
    const double missing = 1.0 - part.most.greatest / peak;
    EXPECT_GT(missing, -above);
    EXPECT_LT(missing, below);
    EXPECT_LT(missing, part.jump + 0.01) << "and what is missing is told";
    EXPECT_GT(part.jump, 0.05);
    EXPECT_LT(part.jump, 0.3);
}

} // namespace

TEST(LoadedSurface, ClampedPlatesBendAsTheTablesSay)
{
    // Timoshenko and Woinowsky-Krieger 1959: round, q a4 / 64 D and 0.75 q a2 / t2 across its rim; square, 0.00126
    // q a4 / D and 0.0513 q a2 of moment in the middles of its sides; with the mesh that the program chooses.
    constexpr double radius = 0.3, side = 0.5, thickness = 5e-3;
    SaidModel disc = steel();
    disc.say("disc", {{"name", "Disc"}, {"diameter", metres(2 * radius)}, {"thickness", metres(thickness)}})
        .say("hold", {{"where", "edges of Disc"}, {"directions", "all"}})
        .say("pressure", {{"pressure", "0.02 MPa"}, {"where", "Disc"}});
    const auto round = loadedRest(disc, 0).states[0];
    EXPECT_NEAR(round.moves / (pressure * std::pow(radius, 4) / (64 * stiffnessOf(thickness))), 1.0, 0.01);
    const auto& rim = partNamed(round, "Disc");
    expectPeak(rim, 0.75 * pressure * radius * radius / (thickness * thickness), 0.03, 0.03);
    EXPECT_NEAR(rim.place.norm() / radius, 1.0, 0.01) << "at its rim";
    EXPECT_LT(round.unbalanced, 1e-8);

    SaidModel plate = steel();
    plate
        .say("plate",
             {{"name", "Plate"}, {"length", metres(side)}, {"width", metres(side)}, {"thickness", metres(thickness)}})
        .say("hold", {{"where", "edges of Plate"}, {"directions", "all"}})
        .say("pressure", {{"pressure", "0.02 MPa"}, {"where", "Plate"}});
    const auto square = loadedRest(plate, 0).states[0];
    EXPECT_NEAR(square.moves / (0.001265 * pressure * std::pow(side, 4) / stiffnessOf(thickness)), 1.0, 0.01);
    expectPeak(partNamed(square, "Plate"), 6 * 0.0513 * pressure * side * side / (thickness * thickness), 0.02, 0.09);
}

TEST(LoadedSurface, AThickTubeIsStressedAsLameSays)
{
    // Round it at the bore (ro2 + ri2) / (ro2 - ri2) p; the bore widens by that and nu p times ri / E where it is free
    // to grow shorter.
    constexpr double inner = 0.1, outer = 0.15;
    SaidModel tube = steel();
    tube.say("solid-cylinder",
             {{"name", "Tube"}, {"diameter", metres(2 * outer)}, {"inner", metres(2 * inner)}, {"length", "0.1 m"}})
        .say("pressure", {{"pressure", "10 MPa"}, {"where", "faces within 0.105 m of (0, 0, 0.05 m)"}});
    const auto picked = tube.problems();
    ASSERT_EQ(picked.find("error"), std::string::npos) << picked;
    const auto state = loadedRest(tube, 0).states[0];
    const double ratio = (outer * outer + inner * inner) / (outer * outer - inner * inner);
    EXPECT_NEAR(partNamed(state, "Tube").most.greatest / (ratio * 10e6), 1.0, 0.05);
    EXPECT_NEAR(state.moves / (10e6 * inner / E * (ratio + nu)), 1.0, 0.02);
}

TEST(LoadedSurface, APatchUnderEvenPullIsStressedEvenlyWhateverItsMesh)
{
    // Small elements in one corner, so that few are alike: one stress everywhere, to rounding.
    for (const bool body : {false, true}) {
        SaidModel patch = steel();
        const std::string sides = body ? "faces" : "edges";
        if (body)
            patch
                .say("solid-box",
                     {{"name", "Patch"}, {"x", "0.5 m"}, {"y", "0.3 m"}, {"z", "0.2 m"}, {"size", "0.12 m"}})
                .say("solid-elements", {{"what", "Patch"}, {"elements", "tetrahedra"}});
        else
            patch.say("plate", {{"name", "Patch"},
                                {"length", "0.5 m"},
                                {"width", "0.3 m"},
                                {"thickness", "10 mm"},
                                {"size", "0.1 m"}});
        patch.say("size-at", {{"where", sides + " at x = 0 m"}, {"size", "20 mm"}})
            .say("force", {{"load", body ? "30 MN/m2" : "300 kN/m"},
                           {"direction", "1, 0, 0"},
                           {"where", sides + " at x = 0.5 m"}})
            .say("force", {{"load", body ? "30 MN/m2" : "300 kN/m"},
                           {"direction", "-1, 0, 0"},
                           {"where", sides + " at x = 0 m"}});
        if (!body) patch.say("hold", {{"where", "Patch"}, {"directions", "z"}});
        ASSERT_EQ(patch.problems().find("error"), std::string::npos) << patch.problems();
        const Rest found = loadedRest(patch, 0);
        ASSERT_GT(found.fields.atPlaces.size(), 30);
        EXPECT_NEAR(found.fields.atPlaces.maxCoeff() / 30e6, 1.0, 1e-6) << body;
        EXPECT_NEAR(found.fields.atPlaces.minCoeff() / 30e6, 1.0, 1e-6) << body;
        EXPECT_LT(partNamed(found.states[0], "Patch").jump, 1e-6) << body;
    }
}
