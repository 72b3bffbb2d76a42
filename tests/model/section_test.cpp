// Section constants against handbook values and closed forms: Young and Budynas, Roark's Formulas for Stress
// and Strain, 2002, app. A and table 10.1; Cowper 1966; Pilkey, Formulas for Stress, Strain, and Structural
// Matrices, 2005, ch. 2.
#include "core/model/section_text.hpp"

#include <gmock/gmock.h>

#include <cmath>
#include <numbers>

using namespace undisona;

namespace {

Section read(const std::string& text)
{
    const auto section = readSection(text, NumberStyle::file);
    if (const auto* problem = std::get_if<QuantityProblem>(&section)) {
        ADD_FAILURE() << problem->what;
        return {};
    }
    return std::get<Section>(section);
}

#define EXPECT_REL(value, wanted, tolerance) EXPECT_NEAR(value, wanted, std::abs(wanted) * (tolerance))

} // namespace

TEST(Section, RoundAndTube)
{
    const auto round = read("round 40 mm");
    EXPECT_REL(round.area, 1256.637e-6, 1e-6);
    EXPECT_REL(round.iy, 125663.7e-12, 1e-6);
    EXPECT_REL(round.torsion, 251327.4e-12, 1e-6);
    EXPECT_REL(round.shearArea(0, 0.3) / round.area, 6 * 1.3 / (7 + 1.8), 1e-12);
    const auto tube = read("tube 60.3x4 mm"); // EN 10210-2: 7.07 cm2, 28.2 cm4
    EXPECT_REL(tube.area, 7.07e-4, 2e-3);
    EXPECT_REL(tube.iz, 28.2e-8, 2e-3);
    EXPECT_REL(tube.perimeter, std::numbers::pi * 0.0603, 1e-9);
    EXPECT_REL(read("tube 500x1 mm").shearArea(0, 0.3) / read("tube 500x1 mm").area, 2 * 1.3 / (4 + 3 * 0.3),
               2e-3); // Cowper, thin
}

TEST(Section, RectangleAndBox)
{
    const auto bar = read("rectangle 60x20 mm");
    EXPECT_REL(bar.area, 1200e-6, 1e-12);
    EXPECT_REL(bar.iy, 20 * 216000 / 12.0 * 1e-12, 1e-12);
    EXPECT_REL(bar.iz, 60 * 8000 / 12.0 * 1e-12, 1e-12);
    EXPECT_REL(bar.torsion, 0.263 * 60 * 8000 * 1e-12, 2e-3); // Timoshenko and Goodier, b/t = 3
    EXPECT_REL(read("rectangle 30x30 mm").torsion, 0.1406 * 810000e-12, 1e-3);
    const auto box = read("box 100x100x5 mm");
    EXPECT_REL(box.area, 1900e-6, 1e-9);
    EXPECT_REL(box.iy, (1e8 - 9e3 * 9e3 * 0 - std::pow(90, 4)) / 12 * 1e-12, 1e-9);
    EXPECT_REL(box.torsion, 5 * std::pow(95, 3) * 1e-12, 5e-3); // thin: t a^3
    EXPECT_TRUE(box.hole.size() == 4 && !box.thinOpen);
}

TEST(Section, IShape)
{
    const auto beam = read("I 160x82x5x7.4 mm"); // plain plates, no fillets
    EXPECT_REL(beam.area, (2 * 82 * 7.4 + 145.2 * 5) * 1e-6, 1e-9);
    EXPECT_REL(beam.iy, (82 * std::pow(160, 3) - 77 * std::pow(145.2, 3)) / 12 * 1e-12, 1e-9);
    EXPECT_REL(beam.iz, (2 * 7.4 * std::pow(82, 3) + 145.2 * 125) / 12 * 1e-12, 1e-9);
    EXPECT_REL(beam.torsion, (2 * 82 * std::pow(7.4, 3) + 145.2 * 125) / 3 * 1e-12, 0.1);
    EXPECT_REL(beam.warping, 7.4 * std::pow(82, 3) / 12 / 2 * std::pow(152.6, 2) * 1e-18, 5e-3); // Iw = I_flange h2 / 2
    EXPECT_NEAR(beam.shearCentre[0], 0, 1e-9);
    EXPECT_NEAR(beam.shearCentre[1], 0, 1e-9);
    EXPECT_REL(beam.shearFlowAreas[0], 5.0 / 6.0 * 2 * 82 * 7.4e-6, 2e-2); // two flanges, each a rectangle
    EXPECT_REL(beam.shearArea(1, 0.3), 152.6 * 5e-6, 0.12);                // nearly the web
}

TEST(Section, ChannelHasItsShearCentreBehindTheWeb)
{
    const auto channel = read("channel 100x50x4x6 mm");
    const double h = 94, b = 48, tf = 6, tw = 4;                  // midlines
    const double behind = 3 * b * b * tf / (6 * b * tf + h * tw); // Roark, from the web's midline
    const double area = 2 * 50 * 6 + 88 * 4, centroid = (2 * 50 * 6 * 25 + 88 * 4 * 2) / area;
    EXPECT_REL(channel.area, area * 1e-6, 1e-9);
    EXPECT_NEAR(channel.shearCentre[0] * 1e3, -(behind + centroid - 2), 0.03 * behind);
    EXPECT_NEAR(channel.shearCentre[1], 0, 1e-9);
    const double warping = tf * b * b * b * h * h / 12 * (3 * b * tf + 2 * h * tw) / (6 * b * tf + h * tw);
    EXPECT_REL(channel.warping, warping * 1e-18, 5e-3);
    EXPECT_REL(channel.torsion, (2 * 50 * 216 + 88 * 64) / 3.0 * 1e-12, 0.06);
}

TEST(Section, AngleIsTurnedToItsPrincipalAxes)
{
    const auto angle = read("angle 50x50x5 mm");
    EXPECT_REL(angle.area, 475e-6, 1e-9);
    EXPECT_NEAR(std::abs(angle.principalAngle), std::numbers::pi / 4, 1e-9);
    EXPECT_REL(std::max(angle.i1, angle.i2) + std::min(angle.i1, angle.i2), angle.iy + angle.iz, 1e-12);
    EXPECT_REL(std::max(angle.i1, angle.i2), angle.iy + std::abs(angle.iyz), 1e-9);
    const double corner = (2 * 50 * 5 * 25 + 0) / 2.0; // about the outer faces
    const double centroid = (50 * 5 * 2.5 + 45 * 5 * 27.5) / 475.0;
    EXPECT_GT(corner, 0);
    EXPECT_NEAR(angle.shearCentre[0] * 1e3, 2.5 - centroid, 0.3); // where the midlines meet
    EXPECT_NEAR(angle.shearCentre[1] * 1e3, 2.5 - centroid, 0.3);
    EXPECT_REL(angle.torsion, 95 * 125 / 3.0 * 1e-12, 0.03);
    const auto uneven = read("angle 80x40x6 mm");
    double iuv = 0.0; // the product of inertia vanishes in the turned axes
    const double c = std::cos(uneven.principalAngle), s = std::sin(uneven.principalAngle);
    iuv = (uneven.iy - uneven.iz) * s * c + uneven.iyz * (c * c - s * s);
    EXPECT_NEAR(iuv, 0, 1e-9 * uneven.iy);
}

TEST(Section, TeeAndH)
{
    const auto tee = read("tee 60x60x6x6 mm");
    EXPECT_REL(tee.area, (60 * 6 + 54 * 6) * 1e-6, 1e-9);
    EXPECT_NEAR(tee.shearCentre[1] * 1e3, 57 - (360 * 57 + 324 * 27) / 684.0, 0.3); // flange and web meet
    EXPECT_REL(tee.torsion, (60 * 216 + 54 * 216) / 3.0 * 1e-12, 0.06);
    EXPECT_REL(read("H 160x160x8x13 mm").iy, (160 * std::pow(160, 3) - 152 * std::pow(134, 3)) / 12 * 1e-12, 1e-9);
}

TEST(Section, TextWithUnitsOfItsOwnAndBadOnes)
{
    EXPECT_REL(read("tube 2 in x 0.1 in").sizes[0], 0.0508, 1e-9);
    EXPECT_REL(read("box 100×80×4 mm").sizes[1], 0.08, 1e-9);
    for (const char* bad : {"tube 60x40 mm", "tube 60 mm", "blob 3 mm", "box 10x10x6 mm", "I 100x50x5x60 mm",
                            "round -3 mm", "round 0 mm", "round 40", "round 40 kg", "", "angle 50x50x50 mm"}) {
        const auto section = readSection(bad, NumberStyle::file);
        ASSERT_TRUE(std::holds_alternative<QuantityProblem>(section)) << bad;
        EXPECT_FALSE(std::get<QuantityProblem>(section).what.empty());
    }
}
