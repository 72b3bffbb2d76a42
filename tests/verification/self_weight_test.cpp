// At rest under its own weight: sag in closed form, and what each support carries by the lever rule.
#include "core/studies/self_weight.hpp"
#include "tests/chance_models.hpp"

using namespace undisona;

namespace {

constexpr double g = 9.80665;

Result<SelfWeight> rested(const Model& model)
{
    Progress progress;
    KeptRuns kept;
    return selfWeightStudy().run(model, {}, {progress, kept});
}

SelfWeight rest(const SaidModel& said)
{
    const auto found = rested(said.model());
    EXPECT_TRUE(found) << (found ? "" : found.findings().front().what);
    return found ? *found : SelfWeight{};
}

/// What is carried at a point; the test fails where nothing is.
Eigen::Vector3d forceAt(const SelfWeight& rest, const std::string& point)
{
    for (const auto& load : rest.carried)
        if (load.point == point) return load.force;
    ADD_FAILURE() << "nothing is carried by " << point;
    return Eigen::Vector3d::Zero();
}

} // namespace

TEST(SelfWeight, TellsHowStiffItIsAtAPointByUnitLoads)
{
    // A cantilever: 3 EI / L3 and EA / L against forces at its tip with its shear, EI / L and GJ / L against moments.
    SaidModel beam = straightBeam(2, 0.1, 0.06, 4);
    beam.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("points", {{"rows", "aside|2 m|1 m|0 m"}})
        .say("rigid", {{"points", "aside"}, {"to", "Beam.1"}});
    Progress progress;
    KeptRuns kept;
    const auto found = selfWeightStudy().run(beam.model(), {{}, {"Beam.1", "aside", "Beam.0"}}, {progress, kept});
    ASSERT_TRUE(found);
    ASSERT_EQ(found->stiffness.size(), 3u);
    const PointStiffness& tip = found->stiffness[0];
    const Section section = rectangleSection(0.1, 0.06);
    const double shear = E / 2.6, about[2] = {section.iy, section.iz};
    EXPECT_NEAR(tip.along.x() * 2.0 / (E * section.area), 1.0, 1e-9);
    for (const int axis : {1, 2}) {
        const double bent = 8.0 / (3.0 * E * about[axis == 2 ? 0 : 1]),
                     sheared = 2.0 / (shear * section.shearArea(axis == 2 ? 1 : 0, nu));
        EXPECT_NEAR(tip.along[axis] * (bent + sheared), 1.0, 1e-9) << axis;
        EXPECT_NEAR(tip.about[axis] * 2.0 / (E * about[axis == 1 ? 0 : 1]), 1.0, 1e-9) << axis;
    }
    // A force beside the axis twists it too.
    const double twisted = 2.0 / (shear * section.torsion);
    EXPECT_NEAR(tip.about.x() * twisted, 1.0, 1e-9);
    EXPECT_NEAR(found->stiffness[1].along.z() * (1.0 / tip.along.z() + twisted), 1.0, 1e-9);
    EXPECT_TRUE(found->stiffness[2].along.isZero(0.0)) << "it is held there";
    const auto none = selfWeightStudy().run(beam.model(), {{}, {"nowhere"}}, {progress, kept});
    ASSERT_FALSE(none);
    EXPECT_EQ(none.findings().front().what, "there is no point \"nowhere\" to ask how stiff it is there");
}

TEST(SelfWeight, PullsAtAllMassWhicheverWayItActsInTheModes)
{
    SaidModel beam = straightBeam(4, 0.04, 0.06, 8);
    beam.say("hold", {{"where", "Beam.0"}, {"directions", "all"}});
    const SelfWeight own = rest(beam);
    beam.say("weight", {{"load", "500 N"}, {"where", "Beam.1"}});
    const SelfWeight laden = rest(beam);
    EXPECT_NEAR(laden.weight - own.weight, 500.0, 1e-6);
    EXPECT_NEAR(forceAt(laden, "Beam.0").z() - forceAt(own, "Beam.0").z(), 500.0, 1e-6);
    for (const char* ways : {"x", "z"}) {
        const SelfWeight limited = rest(SaidModel(beam).say("mass-acts", {{"directions", ways}}));
        EXPECT_NEAR(limited.weight / laden.weight, 1.0, 1e-12) << ways;
        EXPECT_NEAR(limited.sinks / laden.sinks, 1.0, 1e-9) << ways;
    }
}

TEST(SelfWeight, AClampedBeamSagsAsItsLoadHasIt)
{
    SaidModel beam = straightBeam(4, 0.04, 0.06, 8);
    beam.say("hold", {{"where", "Beam.0"}, {"directions", "all"}});
    const auto found = rest(beam);
    const double perLength = 8000 * 0.04 * 0.06 * g, inertia = 0.06 * std::pow(0.04, 3) / 12;
    const double shear = 200e9 / 2.6 * 0.04 * 0.06 * (10 * 1.3 / (12 + 11 * 0.3)); // Cowper 1966
    // Gere and Goodno 2009, app. G, with the shear beside it.
    const double sag = perLength * std::pow(4.0, 4) / (8 * 200e9 * inertia) + perLength * 16 / (2 * shear);
    EXPECT_NEAR(found.sinks / sag, 1.0, 1e-4);
    EXPECT_NEAR(found.moved.z(), -found.sinks, 1e-9);
    EXPECT_EQ(found.where, "Beam.1");
    EXPECT_NEAR(found.weight / (4 * perLength), 1.0, 1e-9);
    EXPECT_NEAR(found.mass, 8000 * 0.04 * 0.06 * 4, 1e-6);
    ASSERT_EQ(found.carried.size(), 1u);
    EXPECT_NEAR(found.carried[0].force.z() / found.weight, 1.0, 1e-9) << "the half element at the wall too";
    EXPECT_LT(found.unbalanced, 1e-9);
}

TEST(SelfWeight, TwoSupportsShareAMassByTheLeverWhateverHoldsThem)
{
    // 120 kg with its centre at 1.2 m of 4, on an arm of one end; the beam's own weight in halves.
    const double own = 8000 * 0.05 * 0.05 * 4 * g / 2;
    const double near = own + 120 * g * (1.0 - 1.2 / 4), far = own + 120 * g * 1.2 / 4;
    const auto beam = [](const char* kind, const Words& support) {
        SaidModel said = straightBeam(4, 0.05, 0.05, 8);
        said.say("mass", {{"points", "Beam.0"}, {"mass", "120 kg"}, {"centre", "1.2, 0, 0.3 m"}})
            .say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx"}})
            .say(kind, support);
        return said;
    };
    for (const auto& said : {beam("hold", {{"where", "Beam.1"}, {"directions", "y z"}}),
                             beam("ground-spring", {{"points", "Beam.1"}, {"ky", "1 kN/mm"}, {"kz", "30 N/mm"}})}) {
        const auto found = rest(said);
        EXPECT_NEAR(forceAt(found, "Beam.0").z() / near, 1.0, 1e-8);
        EXPECT_NEAR(forceAt(found, "Beam.1").z() / far, 1.0, 1e-8);
        EXPECT_LT(found.unbalanced, 1e-9);
    }
    // A support on the far end of a rigid arm, and a mass that follows the mean of the two ends.
    SaidModel arm = beam("point", {{"name", "foot"}, {"at", "4, 0, -1 m"}});
    arm.say("rigid", {{"points", "Beam.1"}, {"to", "foot"}}).say("hold", {{"where", "foot"}, {"directions", "y z"}});
    EXPECT_NEAR(forceAt(rest(arm), "foot").z() / far, 1.0, 1e-8);
    arm.say("point", {{"name", "crate"}, {"at", "2, 0, 1 m"}})
        .say("mean", {{"point", "crate"}, {"of", "Beam.0, Beam.1"}})
        .say("mass", {{"points", "crate"}, {"mass", "50 kg"}, {"only", "z"}});
    const auto found = rest(arm);
    EXPECT_NEAR(forceAt(found, "foot").z() / (far + 25 * g), 1.0, 1e-8);
    EXPECT_LT(found.unbalanced, 1e-8);
}

TEST(SelfWeight, SheetSolidsAndBedsCarryWhatStandsOnThem)
{
    auto plate = steel();
    plate.say("plate", {{"name", "P"}, {"length", "2 m"}, {"width", "1 m"}, {"thickness", "8 mm"}})
        .say("hold", {{"where", "edges at x = 0 m of P"}, {"directions", "all"}})
        .say("hold", {{"where", "edges at x = 2 m of P"}, {"directions", "all"}});
    const auto sheet = rest(plate);
    ASSERT_EQ(sheet.carried.size(), 2u);
    for (const auto& load : sheet.carried)
        EXPECT_NEAR(load.force.z() / (8000 * 2 * 0.008 * g / 2), 1.0, 1e-6);
    EXPECT_LT(sheet.unbalanced, 1e-8);
    EXPECT_NEAR(sheet.at.x(), 1.0, 0.01) << "in the middle";

    // Two blocks of one size, one on the other, on a bed that is far softer: it sinks by the weight over the bed.
    auto blocks = steel();
    blocks.say("solid-box", {{"name", "A"}, {"x", "0.4 m"}, {"y", "0.3 m"}, {"z", "0.2 m"}})
        .say("solid-box", {{"name", "B"}, {"x", "0.4 m"}, {"y", "0.3 m"}, {"z", "0.2 m"}, {"at", "0, 0, 0.2 m"}})
        .say("bed", {{"where", "faces at z = 0 m of A"}, {"directions", "x y z"}, {"stiffness", "12 MN/m3"}});
    const auto solid = rest(blocks);
    const double weight = 2 * 8000 * 0.024 * g;
    EXPECT_NEAR(solid.weight / weight, 1.0, 1e-9);
    ASSERT_EQ(solid.carried.size(), 1u);
    EXPECT_NEAR(solid.carried[0].force.z() / weight, 1.0, 1e-8);
    EXPECT_NEAR(solid.sinks / (weight / (12e6 * 0.12)), 1.0, 1e-3);
    EXPECT_LT(solid.unbalanced, 1e-8);
}

TEST(SelfWeight, WhatHasNoRestIsSaid)
{
    SaidModel free = straightBeam(2, 0.05, 0.05, 4);
    const auto floats = rested(free.model());
    ASSERT_FALSE(floats);
    EXPECT_NE(floats.findings().front().what.find("no place of rest"), std::string::npos);
    free.say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx rz"}});
    const auto swings = rested(free.model());
    ASSERT_FALSE(swings) << "it turns about y at its only support";
    EXPECT_FALSE(swings.findings().front().remedy.empty());
    // A mass that acts along x alone weighs nothing.
    SaidModel post = straightBeam(2, 0.05, 0.05, 4);
    post.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("mass", {{"points", "Beam.1"}, {"mass", "500 kg"}, {"only", "x"}});
    EXPECT_NEAR(rest(post).mass, 8000 * 0.05 * 0.05 * 2, 1e-6);
}

TEST(SelfWeight, SupportsOfModelsByChanceCarryAllOfIt)
{
    int weighed = 0;
    for (const auto family : {ChanceFamily::frame, ChanceFamily::sheet, ChanceFamily::solid})
        for (unsigned number = 1; number <= (family == ChanceFamily::frame ? 150u : 16u); ++number) {
            const SaidModel said = chanceModel(family, number);
            const auto found = rested(said.model());
            if (!found) {
                EXPECT_FALSE(found.findings().empty());
                continue;
            }
            ++weighed;
            EXPECT_LT(found->unbalanced, 1e-5) << int(family) << " " << number;
            EXPECT_GE(found->weight, 0.0);
        }
    EXPECT_GT(weighed, 80) << "the others are loose";
}

TEST(SelfWeight, LiquidInAPipeHangsOnItWholly)
{
    SaidModel said = steel();
    said.say("pipe", {{"rows", "0, 0, 0 m\n0, 0, 2 m\n3, 1, 2 m"}, {"section", "tube 100x5 mm"}, {"radius", "300 mm"}})
        .say("hold", {{"where", "ends of Pipe"}, {"directions", "all"}})
        .say("contents", {{"density", "1000 kg/m3"}, {"where", "Pipe"}});
    const SelfWeight own = rest(said);
    const double length = 2.0 + std::sqrt(10.0) - 2 * 0.3 + 0.3 * pi / 2; // of the centre line
    const double metre = pi * (0.05 * 0.05 - 0.045 * 0.045) * rho + pi * 0.045 * 0.045 * 1000.0;
    EXPECT_NEAR(own.mass / (length * metre), 1.0, 5e-4) << "but for the straight pieces of the bend";
    EXPECT_LT(own.unbalanced, 1e-9);
}
