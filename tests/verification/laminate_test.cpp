// Stacks of layers: the elements themselves, and plates of them against closed forms.
#include "core/elements/laminate.hpp"
#include "core/model/stated.hpp"
#include "core/system/motion_map.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;

namespace {

Material ply()
{
    return {"ply", 120e9, 0.28, 1600.0, 0.0, "", Grain{9e9, 5e9, 5e9, 0.4}};
}

/// A plate 1 m by 0.8 m of a stack "stack" of "ply", whose rows are given; m times thickness.
SaidModel plateOf(const std::string& rows, const std::string& thickness, const Words& more = {})
{
    SaidModel said;
    Words layers{{"name", "stack"}, {"rows", rows}};
    layers.insert(more.begin(), more.end());
    said.say("plate",
             {{"name", "Plate"}, {"length", "1 m"}, {"width", "0.8 m"}, {"thickness", thickness}, {"size", "40 mm"}})
        .say("orthotropic", {{"name", "ply"},
                             {"modulus", "120 GPa"},
                             {"across", "9 GPa"},
                             {"shear", "5 GPa"},
                             {"rolling", "5 GPa"},
                             {"poisson", "0.28"},
                             {"density", "1600 kg/m3"}})
        .say("own-material", {{"name", "foam"}, {"modulus", "70 MPa"}, {"poisson", "0.3"}, {"density", "80 kg/m3"}})
        .say("own-material", {{"name", "skin"}, {"modulus", "70 GPa"}, {"poisson", "0.3"}, {"density", "2700 kg/m3"}})
        .say("layers", layers)
        .say("material", {{"what", "everything"}, {"material", "stack"}});
    return said;
}

/// Held at its rim so that w = W sin sin; in its plane along the rim, or square to it.
SaidModel& held(SaidModel& said, bool alongTheRim)
{
    for (const char* edge : {"x = 0 m", "x = 1 m"})
        said.say("hold",
                 {{"where", std::string("edges at ") + edge}, {"directions", alongTheRim ? "y z rx" : "x z rx"}});
    for (const char* edge : {"y = 0 m", "y = 0.8 m"})
        said.say("hold",
                 {{"where", std::string("edges at ") + edge}, {"directions", alongTheRim ? "x z ry" : "y z ry"}});
    return said;
}

std::vector<double> lowest(std::vector<double> all, std::size_t count)
{
    std::sort(all.begin(), all.end());
    all.resize(count);
    return all;
}

/// Jones, Mechanics of Composite Materials, 2nd ed. 1999, ch. 5: a supported rectangle of A, B, D per its thickness
/// whose coupling is of stretching and bending (cross-ply), or of stretching and twisting (angle-ply).
std::vector<double> supportedPlate(const PlaneElasticity& own, double h, double density, std::size_t count)
{
    const Eigen::Matrix3d a = h * own.plane, b = h * h * own.coupling, d = h * h * h / 12.0 * own.bending;
    std::vector<double> all;
    for (int m = 1; m < 12; ++m)
        for (int n = 1; n < 12; ++n) {
            const double x = m * pi, y = n * pi / 0.8;
            Eigen::Matrix2d plane;
            plane << a(0, 0) * x * x + a(2, 2) * y * y, (a(0, 1) + a(2, 2)) * x * y, (a(0, 1) + a(2, 2)) * x * y,
                a(2, 2) * x * x + a(1, 1) * y * y;
            const Eigen::Vector2d across(-(b(0, 0) * x * x * x + 3 * b(0, 2) * x * x * y + b(1, 2) * y * y * y),
                                         -(b(1, 1) * y * y * y + b(0, 2) * x * x * x + 3 * b(1, 2) * x * y * y));
            const double flexure =
                d(0, 0) * std::pow(x, 4) + 2 * (d(0, 1) + 2 * d(2, 2)) * x * x * y * y + d(1, 1) * std::pow(y, 4);
            const double k = flexure - across.dot(plane.ldlt().solve(across));
            all.push_back(std::sqrt(k / (density * h)) / (2 * pi));
        }
    return lowest(std::move(all), count);
}

void expectNear(const std::vector<double>& found, const std::vector<double>& expected, double share)
{
    ASSERT_GE(found.size(), expected.size());
    for (std::size_t at = 0; at < expected.size(); ++at)
        EXPECT_NEAR(found[at] / expected[at], 1.0, share) << at;
}

} // namespace

TEST(Laminate, OfOneMaterialIsThatMaterialAndMirroredStacksDoNotCouple)
{
    const Material steel{"steel", 200e9, 0.3, 8000.0, 0.0, "", {}};
    const auto whole = planeElasticity(steel),
               stack = laminateElasticity({{steel, 1e-3, 0.0}, {steel, 4e-3, 0.5}, {steel, 2e-3, 0.0}});
    EXPECT_LT((whole.plane - stack.plane).norm(), 1e-12 * whole.plane.norm());
    EXPECT_LT((whole.bending - stack.bending).norm(), 1e-12 * whole.plane.norm());
    EXPECT_LT((whole.shear - stack.shear).norm(), 1e-12 * whole.shear.norm()) << "5/6 G by the energy of a parabola";
    EXPECT_FALSE(stack.couples());
    const double q = pi / 4;
    EXPECT_FALSE(
        laminateElasticity({{ply(), 1e-3, q}, {ply(), 1e-3, -q}, {ply(), 1e-3, -q}, {ply(), 1e-3, q}}).couples());
    EXPECT_TRUE(laminateElasticity({{ply(), 1e-3, q}, {ply(), 1e-3, -q}}).couples());
    const Material layered = layeredMaterial("it", {{steel, 1e-3, 0.0}, {steel, 2e-3, 0.0}});
    EXPECT_NEAR(layered.modulus / steel.modulus, 1.0, 1e-12);
    EXPECT_NEAR(layered.poisson, 0.3, 1e-12);
}

TEST(Laminate, CoupledElementsMoveRigidlyForNothingAndTheirEnergiesAddUp)
{
    using Corners = std::vector<Eigen::Vector2d>;
    for (const Corners& corners :
         {Corners{{0.1, -0.05}, {1.2, 0.1}, {0.9, 0.8}, {-0.1, 0.6}}, Corners{{0.1, -0.05}, {1.2, 0.1}, {0.3, 0.8}}}) {
        const ShellElement element{corners, std::vector<double>(corners.size(), 0.02),
                                   laminateElasticity({{ply(), 1e-3, 0.3}, {ply(), 3e-3, 1.2}, {ply(), 1e-3, -0.6}}),
                                   1600.0};
        const Eigen::MatrixXd k = stiffness(element);
        Eigen::MatrixXd rigid(element.unknowns(), 6), motion(element.unknowns(), 1);
        for (std::size_t at = 0; at < corners.size(); ++at)
            rigid.middleRows<6>(6 * static_cast<Eigen::Index>(at)) = carry({corners[at].x(), corners[at].y(), 0.0});
        EXPECT_LT((k * rigid).norm(), 1e-12 * k.norm());
        EXPECT_LT((k - k.transpose()).norm(), 1e-14 * k.norm());
        const Eigen::VectorXd sizes = Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(k).eigenvalues();
        EXPECT_GT(sizes[6], 1e-7 * sizes[sizes.size() - 1]) << "and nothing else";
        for (Eigen::Index at = 0; at < motion.rows(); ++at)
            motion(at, 0) = std::sin(3.0 * double(at) + 1.0) * (at % 6 < 2 ? 0.01 : 1.0);
        const double whole = motion.col(0).dot(k * motion.col(0)) / 2.0;
        EXPECT_NEAR(strainEnergy(element, motion).total()[0], whole, 1e-10 * whole);
        // The strains that the readings take, and their forces, hold that energy too.
        const ShellInside inside = insideOf(element);
        const ShellPlaces places = finePlaces(element);
        const auto strains = strainsAt(element, inside, motion, places.parameters);
        double sum = drillingEnergy(element, inside, motion)[0], byForces = sum;
        for (std::size_t at = 0; at < strains.size(); ++at) {
            const ShellStrains forces = forcesOf(element, strains[at], places.thickness[at]);
            sum += places.weights[at] * energyPerArea(element, strains[at], places.thickness[at])[0];
            byForces += places.weights[at] / 2.0 *
                        (forces.membrane.cwiseProduct(strains[at].membrane).sum() +
                         forces.curvature.cwiseProduct(strains[at].curvature).sum() +
                         forces.shear.cwiseProduct(strains[at].shear).sum());
        }
        EXPECT_NEAR(byForces, sum, 1e-12 * sum);
        EXPECT_NEAR(sum / whole, 1.0, 0.05) << "but for the rules";
    }
}

TEST(Laminate, SupportedPlatesHaveTheirFrequencies)
{
    // Thin, so that shear has no part: cross-ply that mirrors (eight layers said as four), cross-ply and angle-ply that
    // do not, whose coupling lowers them by up to a half.
    struct Case {
        const char* rows;
        const char* mirrored;
        std::vector<double> angles; ///< from below up, degrees
        bool alongTheRim;
    };
    for (const Case& own : {Case{"ply|1 mm\nply|1 mm|90 deg", "and again in reverse", {0, 90, 90, 0}, true},
                            Case{"ply|2 mm\nply|2 mm|90 deg", "", {0, 90}, true},
                            Case{"ply|2 mm|45 deg\nply|2 mm|-45 deg", "", {45, -45}, false}}) {
        std::vector<Ply> plies;
        for (const double angle : own.angles)
            plies.push_back({ply(), 1.0, angle * pi / 180.0});
        SaidModel said = plateOf(own.rows, "4 mm", own.mirrored[0] ? Words{{"mirrored", own.mirrored}} : Words{});
        const auto found = held(said, own.alongTheRim).say("lowest", {{"count", "6"}}).frequencies();
        expectNear(found, supportedPlate(laminateElasticity(plies), 0.004, 1600.0, 6), 0.012);
    }
}

TEST(Laminate, SandwichIsAsSoftAsItsCoreShears)
{
    // Allen, Analysis and Design of Structural Sandwich Panels, 1969: thin skins, the core's shear stiffness
    // G d2 / c with d between the skins' middles; w2 = D k4 / (m (1 + D k2 / S)).
    const double c = 0.02, t = 0.001, d = c + t, mass = 2 * t * 2700.0 + c * 80.0;
    const double flexure = 70e9 / 0.91 * (t * d * d / 2.0 + t * t * t / 6.0) + 70e6 / 0.91 * c * c * c / 12.0;
    const double shear = 70e6 / 2.6 * d * d / c;
    std::vector<double> all;
    for (int m = 1; m < 9; ++m)
        for (int n = 1; n < 9; ++n) {
            const double squared = std::pow(m * pi, 2) + std::pow(n * pi / 0.8, 2);
            all.push_back(std::sqrt(flexure * squared * squared / mass / (1.0 + flexure * squared / shear)) / (2 * pi));
        }
    SaidModel said = plateOf("skin|1 mm\nfoam|20 mm", "22 mm", {{"mirrored", "and again in reverse but for the last"}});
    const auto found = held(said, true).say("lowest", {{"count", "6"}}).frequencies();
    expectNear(found, lowest(std::move(all), 6), 0.012);
    EXPECT_NEAR(said.solved()->mass.mass, 0.8 * mass, 1e-9);
}

TEST(Laminate, SaysWhereAStackDoesNotFit)
{
    const auto errors = [](const SaidModel& said) {
        std::string all;
        for (const auto& finding : said.findings())
            if (finding.severity == Severity::error) all += oneLine(finding) + "\n";
        return all;
    };
    EXPECT_THAT(errors(plateOf("skin|1 mm\nfoam|20 mm", "22 mm")), testing::HasSubstr("22 mm thick, but the layers of "
                                                                                      "stack are 21 mm"));
    // A click makes the plate as thick as its layers.
    const SaidModel thick = plateOf("skin|1 mm\nfoam|20 mm", "22 mm");
    for (const auto& finding : thick.findings())
        if (!finding.cures.empty()) {
            const auto mended = stated(thick.model(), finding.cures.front().statements);
            ASSERT_TRUE(mended);
            EXPECT_EQ(errors(SaidModel(*mended)), "");
        }
    SaidModel member = plateOf("skin|1 mm", "1 mm");
    member.say("run", {{"name", "Post"}, {"from", "0, 0, 0 m"}, {"to", "0, 0, 1 m"}, {"section", "round 20 mm"}});
    EXPECT_THAT(errors(member), testing::HasSubstr("Post cannot be made of stack: layers lie in sheet alone"));
    EXPECT_THAT(errors(plateOf("stack|1 mm", "1 mm")), testing::HasSubstr("no material"));
}
