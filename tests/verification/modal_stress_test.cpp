// Stresses of modes beside closed forms, by members, sheet and solids.
#include "core/modal/modal_stress.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;

namespace {

ModalStress stressOf(const Solution& solution, std::size_t mode)
{
    Progress progress;
    return stressReading(solution, progress).modes[mode];
}

std::size_t firstCalled(const Solution& solution, const std::string& words)
{
    for (std::size_t at = 0; at < solution.modes.size(); ++at)
        if (solution.modes[at].name.find(words) != std::string::npos) return at;
    ADD_FAILURE() << "no mode is " << words;
    return 0;
}

/// The stress at a velocity amplitude of 1 m/s of the place that moves most.
double stressPerVelocity(const Solution& solution, std::size_t mode)
{
    const auto at = scaled(solution, stressOf(solution, mode), {ModalScale::By::velocity, 1.0});
    EXPECT_TRUE(at);
    return at ? at->stress : 0.0;
}

} // namespace

TEST(ModalStress, OfACantileverIsThatOfItsVelocityWhateverTheMode)
{
    // At the root of a uniform beam sigma = K sqrt(E rho) v, K the outer fibre over the radius of inertia: sqrt(3) of a
    // rectangle, in every mode and whatever the length (Hunt, Stress and strain limits on the attainable velocity in
    // mechanical vibration, 1960).
    const double slender = std::sqrt(3.0) * std::sqrt(E * rho);
    auto beam = steel();
    beam.say("run", {{"name", "Beam"}, {"from", "0, 0, 0 m"}, {"to", "2, 0, 0 m"}, {"section", "rectangle 30x50 mm"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("lowest", {{"count", "6"}});
    const auto solution = beam.solvedUnjudged();
    for (const std::size_t mode : {0u, 1u, 2u, 3u})
        EXPECT_NEAR(stressPerVelocity(*solution, mode) / slender, 1.0, 0.015) << solution->modes[mode].name;
    const ModalStress first = stressOf(*solution, 0);
    EXPECT_LT(first.parts[0].place.norm(), 1e-9) << "at the root";
    EXPECT_NEAR(first.parts[0].most.greatest, first.parts[0].most.equivalent, 1e-6 * first.parts[0].most.equivalent);
    EXPECT_NEAR(first.parts[0].most.least, -first.parts[0].most.greatest, 1e-6 * first.parts[0].most.greatest);

    // The same strip as sheet and as a solid, on the mesh that the program chooses; Poisson's ratio 0, so that the
    // clamped edge is no corner of stress.
    SaidModel sheet, solid;
    for (SaidModel* said : {&sheet, &solid})
        said->material("200 GPa", "0", "8000 kg/m3");
    sheet.say("plate", {{"name", "P"}, {"length", "2 m"}, {"width", "50 mm"}, {"thickness", "30 mm"}})
        .say("hold", {{"where", "edges at x = 0 m of P"}, {"directions", "all"}})
        .say("lowest", {{"count", "4"}});
    solid.say("solid-box", {{"name", "B"}, {"x", "2 m"}, {"y", "50 mm"}, {"z", "30 mm"}})
        .say("hold", {{"where", "faces at x = 0 m of B"}, {"directions", "x y z"}})
        .say("lowest", {{"count", "4"}});
    for (SaidModel* said : {&sheet, &solid}) {
        const auto other = said->solvedUnjudged();
        for (const std::size_t mode : {0u, 2u})
            EXPECT_NEAR(stressPerVelocity(*other, mode) / slender, 1.0, 0.05)
                << (said == &sheet ? "sheet, " : "solid, ") << other->modes[mode].name;
    }
}

TEST(ModalStress, OfARodAndAShaftIsTheirWave)
{
    auto rod = steel();
    rod.say("run", {{"name", "Rod"}, {"from", "0, 0, 0 m"}, {"to", "1, 0, 0 m"}, {"section", "round 60 mm"}})
        .say("hold", {{"where", "Rod.0"}, {"directions", "all"}})
        .say("up-to", {{"frequency", "1500 Hz"}, {"most", "20"}});
    const auto solution = rod.solvedUnjudged();
    // u = sin(pi x / 2 L): sigma = E u' = sqrt(E rho) v at the root; twisting the same with G and the rim's speed, and
    // sqrt(3) tau is the equivalent stress.
    const std::size_t axial = firstCalled(*solution, "first axial");
    EXPECT_NEAR(stressPerVelocity(*solution, axial) / std::sqrt(E * rho), 1.0, 0.01);
    const ModalStress pull = stressOf(*solution, axial);
    EXPECT_LT(std::abs(pull.parts[0].most.least), 1e-6 * pull.parts[0].most.greatest) << "pulled one way alone";

    const std::size_t twist = firstCalled(*solution, "first twisting");
    const ModalStress turned = stressOf(*solution, twist);
    double rate = 0.0;
    for (std::size_t node = 0; node < solution->mesh.nodes.size(); ++node)
        rate = std::max(rate, std::abs(solution->motion(static_cast<int>(node), twist)[3]));
    const double shear = E / 2.6; // G
    const double tau = std::sqrt(shear * rho) * std::sqrt(solution->modes[twist].lambda) * rate * 0.03;
    EXPECT_NEAR(turned.parts[0].most.equivalent / (std::sqrt(3.0) * tau), 1.0, 0.01);
    EXPECT_NEAR(std::abs(turned.parts[0].forces.twisting) / tau / (pi * std::pow(0.06, 3) / 16.0), 1.0, 0.02)
        << "M = tau W";
}

TEST(ModalStress, GoesWithTheMotionHoweverThatIsStated)
{
    auto beam = steel();
    beam.say("run", {{"name", "Beam"}, {"from", "0, 0, 0 m"}, {"to", "0, 0, 2 m"}, {"section", "tube 60.3x4 mm"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("mass", {{"mass", "30 kg"}, {"points", "Beam.1"}})
        .say("lowest", {{"count", "4"}});
    const auto solution = beam.solvedUnjudged();
    const ModalStress stress = stressOf(*solution, 0);
    const int tip = solution->structure->frame.pointNamed("Beam.1");
    using By = ModalScale::By;
    const auto moved = scaled(*solution, stress, {By::displacement, 2e-3, tip});
    ASSERT_TRUE(moved);
    EXPECT_NEAR(moved->atPoint, 2e-3, 1e-12);
    const double omega = 2.0 * pi * solution->modes[0].frequency;
    EXPECT_NEAR(moved->velocity, omega * moved->displacement, 1e-9);
    // A heavy tip on a light tube: half of its mass times the square of its speed, and of the tube about a quarter.
    const double own = rho * solution->structure->frame.members[0].section->area * 2.0;
    EXPECT_NEAR(moved->energy, (30.0 + 0.24 * own) * std::pow(omega * 2e-3, 2) / 2.0, 0.01 * moved->energy);
    // The tip's inertia bends the root: M = m omega2 u L, with what the tube adds.
    const double moment = 30.0 * omega * omega * 2e-3 * 2.0;
    const double largest =
        std::hypot(stress.parts[0].forces.bending[0], stress.parts[0].forces.bending[1]) * moved->factor;
    EXPECT_GT(largest, moment);
    EXPECT_LT(largest, 1.15 * moment);
    for (const ModalScale& other :
         {ModalScale{By::energy, moved->energy}, ModalScale{By::stress, moved->stress},
          ModalScale{By::velocity, moved->velocity}, ModalScale{By::acceleration, omega * moved->velocity}}) {
        const auto again = scaled(*solution, stress, other);
        ASSERT_TRUE(again);
        EXPECT_NEAR(again->factor, moved->factor, 1e-9 * moved->factor) << int(other.by);
    }
    const int root = solution->structure->frame.pointNamed("Beam.0");
    const auto never = scaled(*solution, stress, {By::displacement, 1e-3, root});
    ASSERT_FALSE(never);
    EXPECT_THAT(never.findings()[0].what, testing::HasSubstr("Beam.0 does not move in mode 1"));
}

TEST(ModalStress, OfLayersIsThatOfEachByItself)
{
    // A strip with skins of ten times its core's modulus, bent: at one curvature each has its modulus times its height;
    // at the root of a clamped beam that is (1.8751 / L)2 times the motion of its end. The largest is at the skin's
    // face; with the layers' order turned round, still at the stiffer ones, now at their inner heights: half the
    // thickness out there, a quarter of it here.
    const auto largest = [](const char* rows) {
        SaidModel said;
        for (const auto& [name, modulus] : {std::pair{"Hard", "200 GPa"}, {"Soft", "20 GPa"}})
            said.say("own-material",
                     {{"name", name}, {"modulus", modulus}, {"poisson", "0"}, {"density", "8000 kg/m3"}});
        said.say("layers", {{"name", "Stack"}, {"rows", rows}})
            .say("plate", {{"name", "P"}, {"length", "1 m"}, {"width", "40 mm"}, {"thickness", "10 mm"}})
            .say("material", {{"material", "Stack"}})
            .say("hold", {{"where", "edges at x = 0 m of P"}, {"directions", "all"}})
            .say("lowest", {{"count", "1"}});
        const auto solution = said.solvedUnjudged();
        const ModalStress stress = stressOf(*solution, 0);
        const double end = scaled(*solution, stress, {ModalScale::By::displacement, 1.0})->factor;
        return stress.parts[0].most.equivalent * end;
    };
    const double curvature = std::pow(1.8751, 2);
    EXPECT_NEAR(largest("Hard|2.5 mm\nSoft|5 mm\nHard|2.5 mm") / (200e9 * 0.005 * curvature), 1.0, 0.06);
    EXPECT_NEAR(largest("Soft|2.5 mm\nHard|5 mm\nSoft|2.5 mm") / (200e9 * 0.0025 * curvature), 1.0, 0.06);
    // By Timoshenko and Goodier, Theory of Elasticity, 1970, art. 109; and a thin closed wall.
    for (const auto& [height, alpha] : {std::pair{1.0, 0.208}, {2.0, 0.246}, {10.0, 0.312}})
        EXPECT_NEAR(twistingModulus(rectangleSection(height, 1.0)), alpha * height, 0.003 * height);
    EXPECT_NEAR(twistingModulus(boxSection(0.1, 0.05, 0.002)), 2.0 * 0.098 * 0.048 * 0.002, 1e-9);
}
