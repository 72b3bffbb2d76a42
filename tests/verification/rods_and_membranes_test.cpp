// Members without bending and sheet without bending: elements by themselves, and bars and trusses in closed form.
#include "core/elements/member.hpp"
#include "core/elements/shell.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

ShellElement membraneOf(std::vector<Eigen::Vector2d> corner)
{
    const std::size_t corners = corner.size();
    return {std::move(corner),
            std::vector<double>(corners, 0.003),
            planeElasticity(*libraryMaterial("structural steel")),
            7850.0,
            1.0,
            true};
}

} // namespace

TEST(Rod, BarHeldAtBothEndsRingsAlongItself)
{
    auto said = steel();
    said.say("run",
             {{"name", "Bar"}, {"from", "0, 0, 0 m"}, {"to", "2, 0, 0 m"}, {"parts", "20"}, {"section", "round 20 mm"}})
        .say("rods", {{"members", "Bar"}})
        .say("hold", {{"where", "everything"}, {"directions", "y z"}})
        .say("hold", {{"where", "Bar.0, Bar.20"}, {"directions", "x"}})
        .say("lowest", {{"count", "3"}});
    const auto found = said.frequencies();
    for (int mode = 1; mode <= 3; ++mode) { // linear elements with consistent mass: (k h)2 / 24 too high
        const double exact = mode / 4.0 * std::sqrt(E / rho), kh = mode * pi / 20;
        EXPECT_NEAR(found[std::size_t(mode - 1)] / exact, 1.0 + kh * kh / 24, 1e-4) << mode;
    }
    EXPECT_NEAR(said.solved()->modes[0].meshError, pi * pi / 400 / 24, 1e-5) << "and the estimate says so";
}

TEST(Rod, MassOnTwoStaysHasTheClosedFormAndNoModesOfTheStays)
{
    const auto truss = [](bool rods) {
        auto said = steel();
        said.say("points", {{"rows", "l|-1 m|0 m|0 m\nr|1 m|0 m|0 m\ntop|0 m|0 m|1 m"}})
            .say("members", {{"name", "Stays"}, {"rows", "a|l|top\nb|r|top"}, {"section", "round 10 mm"}})
            .say("mass", {{"mass", "500 kg"}, {"points", "top"}})
            .say("hold", {{"where", "l, r"}, {"directions", "x y z"}})
            .say("hold", {{"where", "top"}, {"directions", "y"}})
            .say("up-to", {{"frequency", "100 Hz"}});
        if (rods) said.say("rods", {{"members", "Stays"}});
        return said;
    };
    const double area = pi / 4 * 1e-4, stay = rho * area * std::sqrt(2.0);
    // Up and down, and to and fro, both feel E A / L; of each stay a third of its mass goes with the top.
    const double exact = std::sqrt(E * area / std::sqrt(2.0) / (500.0 + 2.0 * stay / 3.0)) / (2 * pi);
    const auto found = truss(true).frequencies();
    ASSERT_EQ(found.size(), 2u);
    EXPECT_NEAR(found[0] / exact, 1.0, 1e-6);
    EXPECT_NEAR(found[1] / exact, 1.0, 1e-6);
    EXPECT_GT(truss(false).frequencies().size(), 10u) << "bars sway by themselves from 7 Hz on";
    auto freed = truss(true);
    freed.say("release", {{"members", "Stays"}, {"directions", "ry"}});
    EXPECT_THAT(freed.problems(), HasSubstr("is a rod and has no end to free"));
}

TEST(Membrane, HasEveryStateOfEvenStrainAndNothingElseForNothing)
{
    for (const auto& element : {membraneOf({{0, 0}, {0.3, 0.02}, {0.26, 0.2}, {-0.04, 0.15}}),
                                membraneOf({{0, 0}, {0.3, 0.02}, {0.1, 0.2}})}) {
        const Eigen::MatrixXd k = stiffness(element);
        const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> solver(k);
        const auto corners = Eigen::Index(element.corner.size());
        Eigen::Index rank = 0;
        while (rank < k.rows() && solver.eigenvalues()[k.rows() - 1 - rank] > 1e-10 * solver.eigenvalues().maxCoeff())
            ++rank;
        EXPECT_EQ(rank, 2 * corners - 3);
        EXPECT_GT(solver.eigenvalues()[0], -1e-9 * solver.eigenvalues().maxCoeff());
        for (const Eigen::Vector3d& strain : {Eigen::Vector3d(1, 0, 0), Eigen::Vector3d(0, 1, 0),
                                              Eigen::Vector3d(0, 0, 1), Eigen::Vector3d(1, -0.4, 0.7)}) {
            Eigen::VectorXd motion = Eigen::VectorXd::Zero(element.unknowns());
            for (Eigen::Index at = 0; at < corners; ++at) {
                const auto& place = element.corner[std::size_t(at)];
                motion[6 * at] = strain[0] * place.x() + strain[2] * place.y();
                motion[6 * at + 1] = strain[1] * place.y();
            }
            const double exact = strain.dot(element.elasticity.plane * strain) / 2.0 * 0.003 * element.area();
            EXPECT_NEAR(motion.dot(k * motion) / 2.0, exact, 1e-9 * exact);
            EXPECT_NEAR(strainEnergy(element, motion).total()[0], exact, 1e-9 * exact);
            for (const auto& there : strainsAt(element, {}, motion, finePlaces(element).parameters)) {
                EXPECT_TRUE(there.membrane.isApprox(strain, 1e-9)) << there.membrane.transpose();
                EXPECT_TRUE(there.curvature.isZero(1e-9));
            }
        }
    }
}

TEST(Membrane, StripStretchesAsABarAndASkinStiffensABody)
{
    const auto strip = [](bool membrane) { // a cylinder keeps itself round
        auto said = steel();
        said.say("cylinder-shell",
                 {{"name", "C"}, {"diameter", "0.1 m"}, {"length", "1 m"}, {"thickness", "1 mm"}, {"size", "20 mm"}})
            .say("hold", {{"where", "edges at z = 0 m of C"}, {"directions", "x y z"}})
            .say("hold", {{"where", "edges at z = 1 m of C"}, {"directions", "x y"}})
            .say("nearest", {{"count", "1"}, {"frequency", "1250 Hz"}});
        if (membrane) said.say("membranes", {{"sheets", "C"}});
        return said;
    };
    double nearest = 1e9;
    for (const double hertz : strip(true).frequencies())
        nearest = std::min(nearest, std::abs(hertz / (std::sqrt(E / rho) / 4.0) - 1.0));
    EXPECT_LT(nearest, 0.01) << "a bar held at one end: c / 4 L";

    const auto block = [](const char* skin) {
        auto said = steel();
        said.say("solid-box", {{"name", "B"}, {"x", "0.4 m"}, {"y", "0.1 m"}, {"z", "0.04 m"}, {"size", "40 mm"}});
        if (skin)
            said.say("plate", {{"name", "Skin"},
                               {"length", "0.4 m"},
                               {"width", "0.1 m"},
                               {"thickness", "1 mm"},
                               {"at", "0, 0, 0.04 m"},
                               {"size", "20 mm"}});
        if (skin && std::string(skin) == "membrane") said.say("membranes", {{"sheets", "Skin"}});
        return said.say("hold", {{"where", "faces at x = 0 m of B"}, {"directions", "all"}})
            .say("lowest", {{"count", "4"}})
            .frequencies();
    };
    const auto bare = block(nullptr), sheet = block("sheet"), membrane = block("membrane");
    for (std::size_t mode = 0; mode < 4; ++mode)
        EXPECT_NEAR(membrane[mode] / sheet[mode], 1.0, 0.002) << mode;
    EXPECT_GT(membrane[0], 1.005 * bare[0]) << "bending up and down";
}
