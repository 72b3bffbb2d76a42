// Bent members against closed forms.
#include "core/model/pipe_bend.hpp"
#include "core/model/section_text.hpp"
#include "core/studies/self_weight.hpp"
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

TEST(PipeBend, IsAsStiffAsTheSameOfSheetBetweenStraightTubes)
{
    // Tubes of mean diameter 100 mm, 3 mm thick, three diameters long on both sides of a bend of 300 mm, the far end
    // rigid: forces there in and across the plane. Straight tubes hold the ends of the bend rounder than the formula
    // has it, by some per cent.
    const auto stiffnessAt = [](const SaidModel& said, const std::string& point) {
        Progress progress;
        KeptRuns kept;
        const auto found = selfWeightStudy().run(said.model(), {{}, {point}}, {progress, kept});
        EXPECT_TRUE(found) << (found ? "" : oneLine(found.findings().front()));
        return found ? found->stiffness.front().along : Eigen::Vector3d(1, 1, 1);
    };
    for (const bool bendsUp : {true, false}) { // however the seams of the tubes lie
        const char* towards = bendsUp ? "0, 0, 1" : "0, 1, 0";
        SaidModel sheet = steel();
        sheet
            .say("cylinder-shell", {{"name", "First"},
                                    {"diameter", "100 mm"},
                                    {"length", "0.3 m"},
                                    {"along", "1, 0, 0"},
                                    {"thickness", "3 mm"},
                                    {"size", "13 mm"}})
            .say("elbow", {{"name", "Bend"},
                           {"diameter", "100 mm"},
                           {"bend", "300 mm"},
                           {"at", "0.3, 0, 0 m"},
                           {"along", "1, 0, 0"},
                           {"towards", towards},
                           {"thickness", "3 mm"},
                           {"size", "13 mm"}})
            .say("cylinder-shell", {{"name", "Second"},
                                    {"diameter", "100 mm"},
                                    {"length", "0.3 m"},
                                    {"at", bendsUp ? "0.6, 0, 0.3 m" : "0.6, 0.3, 0 m"},
                                    {"along", towards},
                                    {"thickness", "3 mm"},
                                    {"size", "13 mm"}})
            .say("centre", {{"name", "Tip"},
                            {"where", bendsUp ? "edges at z = 0.6 m of Second" : "edges at y = 0.6 m of Second"},
                            {"how", "tied rigidly to it"}})
            .say("hold", {{"where", "edges at x = 0 m of First"}, {"directions", "all"}});
        EXPECT_EQ(sheet.problems(), "") << "they join along their circles";
        SaidModel pipe = steel();
        pipe.say("pipe",
                 {{"rows", bendsUp ? "0, 0, 0 m\n0.6, 0, 0 m\n0.6, 0, 0.6 m" : "0, 0, 0 m\n0.6, 0, 0 m\n0.6, 0.6, 0 m"},
                  {"section", "tube 103x3 mm"},
                  {"radius", "300 mm"}})
            .say("hold", {{"where", "Pipe.0"}, {"directions", "all"}});
        const Eigen::Vector3d ofSheet = stiffnessAt(sheet, "Tip"), ofPipe = stiffnessAt(pipe, "Pipe.2");
        for (int axis = 0; axis < 3; ++axis) {
            EXPECT_GT(ofSheet[axis] / ofPipe[axis], 0.99) << axis << bendsUp;
            EXPECT_LT(ofSheet[axis] / ofPipe[axis], 1.12) << axis << bendsUp;
        }
    }
}
