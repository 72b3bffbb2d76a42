// Bent members against closed forms.
#include "core/model/pipe_bend.hpp"
#include "core/model/section_text.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

constexpr double nu_ = 0.3, shearModulus = E / 2.0 / (1.0 + nu_);

} // namespace

TEST(PipeBend, HasTheStiffnessOfACurvedBeamWhoseSectionTurnsOval)
{
    // A quarter of a circle, clamped at one end, without mass, 10 kg at the other end moving along one direction:
    // forces P along x or y leave the moments P R cos a, or P R sin a and the torque P R (1 - cos a) (Castigliano).
    const Section tube = std::get<Section>(readSection("tube 88.9x3.2 mm", NumberStyle::file));
    const double radius = 0.4, k = bendFlexibility(tube, radius), mass = 10.0;
    EXPECT_GT(k, 2.0);
    const double cubed = radius * radius * radius, bent = k * cubed / (E * tube.i1),
                 shear = radius / (shearModulus * tube.shearArea(0, nu_)), axial = radius / (E * tube.area);
    const double inPlane = pi / 4.0 * (bent + shear + axial);
    const double across =
        pi / 4.0 * bent + (3.0 * pi / 4.0 - 2.0) * cubed / (shearModulus * tube.torsion) + pi / 2.0 * shear;
    for (const auto& [direction, give] : std::map<std::string, double>{{"x", inPlane}, {"y", across}}) {
        SaidModel said;
        said.material("200 GPa", "0.3", "8000 kg/m3")
            .say("material-mass", {{"factor", "0 %"}})
            .say("pipe", {{"rows", "0, 0, 0 m\n0.4, 0, 0 m\n0.4, 0, 0.4 m"},
                          {"section", "tube 88.9x3.2 mm"},
                          {"radius", "400 mm"}})
            .say("hold", {{"where", "Pipe.0"}, {"directions", "all"}})
            .say("mass", {{"mass", "10 kg"}, {"points", "Pipe.2"}})
            .say("mass-acts", {{"directions", direction}})
            .say("lowest", {{"count", "1"}});
        const double expected = std::sqrt(1.0 / (mass * give)) / 2.0 / pi;
        EXPECT_NEAR(said.frequencies().front() / expected, 1.0, 1.5e-3) << direction;
    }
}

TEST(RoundRing, SwingsInAndAcrossItsPlane)
{
    // Love, A Treatise on the Mathematical Theory of Elasticity, 4th ed. 1927, art. 293: n waves round a slender ring,
    // in its plane n (n2 - 1) / sqrt(n2 + 1), across it n (n2 - 1) / sqrt(n2 + EI / GJ).
    SaidModel said;
    said.material("200 GPa", "0.3", "8000 kg/m3")
        .say("circle", {{"diameter", "2 m"}, {"section", "round 20 mm"}})
        .say("lowest", {{"count", "14"}});
    const auto found = said.frequencies();
    const double unit = std::sqrt(E * 0.01 * 0.01 / 4.0 / rho) / 2.0 / pi; // sqrt(EI / rho A) / R2
    std::vector<double> expected;
    for (const double n : {2.0, 3.0})
        for (const double below : {n * n + 1.0 + nu_, n * n + 1.0})
            for (int twice = 0; twice < 2; ++twice)
                expected.push_back(unit * n * (n * n - 1.0) / std::sqrt(below));
    ASSERT_GE(found.size(), expected.size());
    for (std::size_t at = 0; at < expected.size(); ++at)
        EXPECT_NEAR(found[at] / expected[at], 1.0, 4e-3) << at;
}
