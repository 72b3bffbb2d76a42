#include "core/elements/member.hpp"
#include "core/model/section_text.hpp"
#include "core/system/motion_map.hpp"

#include <gtest/gtest.h>

using namespace undisona;

namespace {

const Material mild{"mild", 210e9, 0.3, 7850, 0, ""};

MemberElement element(const char* text, double length)
{
    return memberElement(std::get<Section>(readSection(text, NumberStyle::file)), mild, length, 1.0);
}

/// The twelve motions for six rigid motions about the first node.
Eigen::Matrix<double, 12, 6> rigid(double length)
{
    Eigen::Matrix<double, 12, 6> motions;
    motions << Matrix6::Identity(), carry({length, 0, 0});
    return motions;
}

} // namespace

TEST(Member, SixRigidMotionsCostNothingAndTheSeventhDoes)
{
    for (const char* text : {"round 40 mm", "channel 100x50x4x6 mm", "angle 80x40x6 mm", "rectangle 300x100 mm"}) {
        const auto member = element(text, 1.3);
        const Matrix12 k = stiffness(member);
        Vector12 unit; // one size for shifts and turns
        unit << 1, 1, 1, 1 / 1.3, 1 / 1.3, 1 / 1.3, 1, 1, 1, 1 / 1.3, 1 / 1.3, 1 / 1.3;
        const Eigen::VectorXd sizes =
            Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(Eigen::MatrixXd(unit.asDiagonal() * k * unit.asDiagonal()))
                .eigenvalues();
        for (int at = 0; at < 6; ++at)
            EXPECT_LT(std::abs(sizes[at]), 1e-12 * sizes[11]) << text;
        EXPECT_GT(sizes[6], 1e-9 * sizes[11]) << text;
        EXPECT_LT((k * rigid(1.3)).norm(), 1e-9 * k.norm()) << text;
    }
}

TEST(Member, ConstantStrainsAreExact)
{
    // Axial, twist, bending and shear, each constant: the deflections of a clamped member under end loads
    // (Gere and Goodno 2009, app. G; shear added).
    const double length = 0.7;
    const auto section = std::get<Section>(readSection("rectangle 80x50 mm", NumberStyle::file));
    const auto member = memberElement(section, mild, length, 1.0);
    const Eigen::Matrix<double, 6, 6> free = stiffness(member).bottomRightCorner<6, 6>();
    const Eigen::Matrix<double, 6, 6> flexibility = free.inverse();
    const double ei1 = mild.modulus * section.i1, ei2 = mild.modulus * section.i2;
    const double gas = mild.shearModulus() * section.shearArea(0, 0.3);
    EXPECT_NEAR(flexibility(0, 0), length / (mild.modulus * section.area), 1e-9 * flexibility(0, 0));
    EXPECT_NEAR(flexibility(3, 3), length / (mild.shearModulus() * section.torsion), 1e-9 * flexibility(3, 3));
    EXPECT_NEAR(flexibility(1, 1), std::pow(length, 3) / (3 * ei2) + length / gas, 1e-9 * flexibility(1, 1));
    EXPECT_NEAR(flexibility(2, 2), std::pow(length, 3) / (3 * ei1) + length / gas, 1e-9 * flexibility(2, 2));
    EXPECT_NEAR(flexibility(5, 5), length / ei2, 1e-9 * flexibility(5, 5));
    EXPECT_NEAR(flexibility(1, 5), length * length / (2 * ei2), 1e-9 * flexibility(1, 5));
}

TEST(Member, MassHasItsExactMassCentreAndInertia)
{
    const double length = 0.9;
    const auto section = std::get<Section>(readSection("channel 100x50x4x6 mm", NumberStyle::file));
    const auto member = memberElement(section, mild, length, 1.0);
    const Matrix6 own = rigid(length).transpose() * consistentMass(member) * rigid(length);
    const double mass = mild.density * section.area * length;
    EXPECT_NEAR(own(0, 0), mass, 1e-9 * mass);
    EXPECT_NEAR(own(1, 5), mass * length / 2, 1e-9 * mass);
    EXPECT_NEAR(own(3, 3), mild.density * length * section.polarMoment(), 1e-9 * own(3, 3));
    EXPECT_NEAR(own(5, 5), mass * length * length / 3 + mild.density * length * section.i2, 1e-9 * own(5, 5));
    const Matrix12 lumped = lumpedMass(member);
    EXPECT_GT(lumped.diagonal().minCoeff(), 0.0);
    EXPECT_NEAR((rigid(length).transpose() * lumped * rigid(length))(0, 0), mass, 1e-9 * mass);
    double last = 0.0; // lumped inertia comes at rate 2
    for (const int parts : {4, 8}) {
        double inertia = 0.0;
        const double h = length / parts;
        const auto part = memberElement(section, mild, h, 1.0);
        for (int at = 0; at < parts; ++at) {
            Eigen::Matrix<double, 12, 6> motions;
            motions << carry({at * h, 0, 0}), carry({(at + 1) * h, 0, 0});
            inertia += (motions.transpose() * lumpedMass(part) * motions)(5, 5);
        }
        const double error = std::abs(inertia / own(5, 5) - 1.0);
        if (last > 0.0) EXPECT_NEAR(last / error, 4.0, 0.2);
        last = error;
    }
}

TEST(Member, SlenderOneTendsToEulerBernoulliWithoutLocking)
{
    const auto section = rectangleSection(1e-3, 1e-3);
    const auto member = memberElement(section, mild, 100.0, 1.0);
    const double tip = stiffness(member).bottomRightCorner<6, 6>().inverse()(1, 1);
    EXPECT_NEAR(tip * 3 * mild.modulus * section.i2 / 1e6, 1.0, 1e-6);
}

TEST(Member, StrainEnergyByKindAddsUpToTheWhole)
{
    const auto member = element("channel 100x50x4x6 mm", 0.5);
    for (int seed = 1; seed < 20; ++seed) {
        std::srand(static_cast<unsigned>(seed));
        const Vector12 motion = Vector12::Random();
        const double whole = 0.5 * motion.dot(stiffness(member) * motion);
        EXPECT_NEAR(strainEnergy(member, motion).total(), whole, 1e-9 * whole);
    }
}
