#include "core/elements/inertia_force.hpp"
#include "core/elements/shell.hpp"
#include "core/system/motion_map.hpp"

#include <gtest/gtest.h>

using namespace undisona;

namespace {

using Corners = std::vector<Eigen::Vector2d>;

const Corners quadrilateral{{0.1, -0.05}, {1.2, 0.1}, {0.9, 0.8}, {-0.1, 0.6}},
    triangle{{0.1, -0.05}, {1.2, 0.1}, {0.3, 0.8}};

ShellElement shell(Corners corners, double thickness = 0.02)
{
    std::vector<double> everywhere(corners.size(), thickness);
    return {std::move(corners), std::move(everywhere), planeElasticity({"steel", 200e9, 0.3, 8000.0, 0.0, "", {}}),
            8000.0};
}

/// The motions for six rigid motions about the origin.
Eigen::MatrixXd rigid(const Corners& corners)
{
    Eigen::MatrixXd motions(6 * static_cast<Eigen::Index>(corners.size()), 6);
    for (std::size_t at = 0; at < corners.size(); ++at)
        motions.middleRows<6>(6 * static_cast<Eigen::Index>(at)) = carry({corners[at].x(), corners[at].y(), 0.0});
    return motions;
}

/// A unit square or so of distorted elements: a node inside, every neighbour slanted.
struct Patch {
    Corners node{{0, 0}, {1, 0}, {1.1, 1}, {-0.1, 0.9}, {0.28, 0.22}, {0.71, 0.33}, {0.66, 0.64}, {0.32, 0.71}};
    std::vector<std::vector<int>> elements;
    static constexpr int edgeNodes = 4;

    explicit Patch(int corners)
    {
        elements = {{0, 1, 5, 4}, {1, 2, 6, 5}, {2, 3, 7, 6}, {3, 0, 4, 7}, {4, 5, 6, 7}};
        if (corners == 4) return;
        std::vector<std::vector<int>> halves;
        for (const auto& four : elements) {
            halves.push_back({four[0], four[1], four[2]});
            halves.push_back({four[0], four[2], four[3]});
        }
        elements = halves;
    }
    Eigen::MatrixXd stiffnessOf(double thickness) const
    {
        const auto size = static_cast<Eigen::Index>(6 * node.size());
        Eigen::MatrixXd sum = Eigen::MatrixXd::Zero(size, size);
        for (const auto& corners : elements)
            scatter(corners, stiffness(of(corners, thickness)), sum);
        return sum;
    }
    ShellElement of(const std::vector<int>& corners, double thickness) const
    {
        Corners places;
        for (const int corner : corners)
            places.push_back(node[static_cast<std::size_t>(corner)]);
        return shell(places, thickness);
    }
    static void scatter(const std::vector<int>& corners, const Eigen::MatrixXd& own, Eigen::MatrixXd& sum)
    {
        for (std::size_t a = 0; a < corners.size(); ++a)
            for (std::size_t b = 0; b < corners.size(); ++b)
                sum.block<6, 6>(6 * corners[a], 6 * corners[b]) += own.block<6, 6>(6 * a, 6 * b);
    }
};

/// Motion of a place, as six numbers.
using Field = std::function<Vector6(double x, double y)>;

Vector6 six(double u, double v, double w, double rx, double ry, double rz)
{
    return (Vector6() << u, v, w, rx, ry, rz).finished();
}

/// How far the inner nodes stray from the field that the outer ones are given, with `load` at the inner ones.
double strayOf(const Patch& patch, const Eigen::MatrixXd& k, const Field& field, const Eigen::VectorXd& load)
{
    Eigen::VectorXd exact(k.rows());
    for (std::size_t at = 0; at < patch.node.size(); ++at)
        exact.segment<6>(6 * static_cast<Eigen::Index>(at)) = field(patch.node[at].x(), patch.node[at].y());
    const Eigen::Index outer = 6 * Patch::edgeNodes, inner = k.rows() - outer;
    const Eigen::VectorXd found = k.bottomRightCorner(inner, inner)
                                      .ldlt()
                                      .solve(load.tail(inner) - k.bottomLeftCorner(inner, outer) * exact.head(outer));
    return (found - exact.tail(inner)).norm() / exact.norm();
}

} // namespace

TEST(ShellElement, InertiaForcesAreThoseOfItsMass)
{
    for (const Corners& corners : {quadrilateral, triangle}) {
        ShellElement element = shell(corners);
        element.thickness[1] = 0.03;
        const Eigen::MatrixXd mass = consistentMass(element);
        for (Eigen::Index at = 0; at < mass.cols(); ++at) {
            const Eigen::VectorXd unit = Eigen::VectorXd::Unit(mass.cols(), at);
            EXPECT_LT((inertiaForce(element, unit) - mass.col(at)).norm(), 1e-12 * mass.norm()) << at;
        }
    }
}

TEST(Shell, SixRigidMotionsCostNothingAndTheSeventhDoes)
{
    for (const auto& corners : {quadrilateral, triangle})
        for (const double thickness : {0.2, 0.02, 0.002}) {
            ShellElement element = shell(corners, thickness);
            element.thickness[0] *= 1.4; // a taper
            const Eigen::MatrixXd k = stiffness(element);
            EXPECT_LT((k * rigid(corners)).norm(), 1e-12 * k.norm());
            // Membrane and plate apart, since the thickness parts their sizes.
            for (const auto& own : {std::vector<int>{0, 1, 5}, std::vector<int>{2, 3, 4}}) {
                std::vector<int> rows;
                for (int corner = 0; corner < static_cast<int>(corners.size()); ++corner)
                    for (const int which : own)
                        rows.push_back(6 * corner + which);
                const Eigen::MatrixXd part = k(rows, rows);
                const Eigen::VectorXd sizes = Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(part).eigenvalues();
                for (int at = 0; at < 3; ++at)
                    EXPECT_LT(std::abs(sizes[at]), 1e-12 * sizes[sizes.size() - 1]);
                const double flexural = 200e9 * std::pow(thickness, 3) / (12 * 0.91);
                EXPECT_GT(sizes[3], own[0] == 0 ? 0.005 * sizes[sizes.size() - 1] : 0.5 * flexural);
            }
            const Eigen::MatrixXd other = k(std::vector<int>{0, 1, 5}, std::vector<int>{2, 3, 4});
            EXPECT_EQ(other.norm(), 0.0);
        }
}

TEST(Shell, ConstantMembraneStrainsAreExactOnADistortedPatch)
{
    for (const int corners : {3, 4}) {
        const Patch patch(corners);
        const Eigen::MatrixXd k = patch.stiffnessOf(0.02);
        const Eigen::VectorXd none = Eigen::VectorXd::Zero(k.rows());
        EXPECT_LT(strayOf(
                      patch, k, [](double x, double) { return six(x, 0, 0, 0, 0, 0); }, none),
                  1e-9);
        EXPECT_LT(strayOf(
                      patch, k, [](double, double y) { return six(0, y, 0, 0, 0, 0); }, none),
                  1e-9);
        EXPECT_LT(strayOf(
                      patch, k, [](double x, double y) { return six(y, x, 0, 0, 0, 0); }, none),
                  1e-9);
        // Simple shear: half of it is a rotation, which the turns about z follow.
        EXPECT_LT(strayOf(
                      patch, k, [](double, double y) { return six(y, 0, 0, 0, 0, -0.5); }, none),
                  1e-9);
    }
}

TEST(Shell, ConstantCurvaturesAreExactOnADistortedPatch)
{
    for (const int corners : {3, 4})
        for (const double thickness : {0.2, 1e-3}) { // rx = w,y and ry = -w,x
            const Patch patch(corners);
            const Eigen::MatrixXd k = patch.stiffnessOf(thickness);
            const Eigen::VectorXd none = Eigen::VectorXd::Zero(k.rows());
            EXPECT_LT(strayOf(
                          patch, k, [](double x, double) { return six(0, 0, x * x / 2, 0, -x, 0); }, none),
                      1e-9);
            EXPECT_LT(strayOf(
                          patch, k, [](double, double y) { return six(0, 0, y * y / 2, y, 0, 0); }, none),
                      1e-9);
            EXPECT_LT(strayOf(
                          patch, k, [](double x, double y) { return six(0, 0, x * y, x, -y, 0); }, none),
                      1e-9);
        }
}

TEST(Shell, ConstantTransverseShearIsExactUnderTheCouplesThatBalanceIt)
{
    // w = a x + b y without turning: Q = kappa G h (a, b) everywhere, which couples of that size over the area balance.
    // Three corners have a turn inside that the couples act on as well; where bending is stiff beyond all bounds it
    // keeps still, and the shear can be seen alone.
    const double a = 0.7, b = -0.4;
    for (const auto& [corners, thickness] : {std::pair{4, 0.2}, std::pair{3, 1e6}}) {
        const Patch patch(corners);
        const double shear = 5.0 / 6.0 * 200e9 / 2.6 * thickness;
        Eigen::VectorXd force = Eigen::VectorXd::Zero(static_cast<Eigen::Index>(6 * patch.node.size()));
        for (const auto& own : patch.elements) {
            const ShellElement element = patch.of(own, thickness);
            Eigen::VectorXd motion = Eigen::VectorXd::Zero(element.unknowns());
            for (std::size_t at = 0; at < own.size(); ++at)
                motion[6 * static_cast<Eigen::Index>(at) + 2] = a * element.corner[at].x() + b * element.corner[at].y();
            const Eigen::VectorXd needed = stiffness(element) * motion;
            Eigen::Vector2d couple = Eigen::Vector2d::Zero();
            for (std::size_t at = 0; at < own.size(); ++at) {
                couple += needed.segment<2>(6 * static_cast<Eigen::Index>(at) + 3);
                force.segment<6>(6 * own[at]) += needed.segment<6>(6 * static_cast<Eigen::Index>(at));
            }
            EXPECT_NEAR(couple.x(), -shear * b * element.area(), 1e-9 * shear) << corners;
            EXPECT_NEAR(couple.y(), shear * a * element.area(), 1e-9 * shear) << corners;
            EXPECT_NEAR(2.0 * strainEnergy(element, motion).shear[0], shear * (a * a + b * b) * element.area(),
                        1e-9 * shear);
        }
        for (std::size_t at = Patch::edgeNodes; at < patch.node.size(); ++at)
            EXPECT_NEAR(force[6 * static_cast<Eigen::Index>(at) + 2], 0.0, 1e-9 * shear) << corners;
    }
}

TEST(Shell, MassHasItsExactMassCentreAndInertia)
{
    for (const auto& corners : {quadrilateral, triangle}) {
        const ShellElement element = shell(corners);
        // Integrals of 1, x, y, xx, xy, yy over the polygon (Green's theorem).
        double area = 0, x = 0, y = 0, xx = 0, yy = 0;
        for (std::size_t at = 0; at < corners.size(); ++at) {
            const auto &a = corners[at], &b = corners[(at + 1) % corners.size()];
            const double cross = a.x() * b.y() - a.y() * b.x();
            area += cross / 2;
            x += cross * (a.x() + b.x()) / 6;
            y += cross * (a.y() + b.y()) / 6;
            xx += cross * (a.x() * a.x() + a.x() * b.x() + b.x() * b.x()) / 12;
            yy += cross * (a.y() * a.y() + a.y() * b.y() + b.y() * b.y()) / 12;
        }
        const double own = 8000.0 * 0.02, mass = own + 30.0, rotary = own * 0.02 * 0.02 / 12.0;
        const Eigen::MatrixXd r = rigid(corners);
        const Matrix6 m =
            r.transpose() * (consistentMass(element) + overArea(element, 30.0 * Eigen::Matrix3d::Identity())) * r;
        for (int axis = 0; axis < 3; ++axis)
            EXPECT_NEAR(m(axis, axis), mass * area, 1e-9 * mass * area);
        EXPECT_NEAR(m(0, 5), -mass * y, 1e-9 * mass);
        EXPECT_NEAR(m(1, 5), mass * x, 1e-9 * mass);
        EXPECT_NEAR(m(3, 3), mass * yy + rotary * area, 1e-9 * m(3, 3));
        EXPECT_NEAR(m(4, 4), mass * xx + rotary * area, 1e-9 * m(4, 4));
        EXPECT_NEAR(m(5, 5), mass * (xx + yy), 1e-9 * m(5, 5));
        const Eigen::MatrixXd lumped =
            lumpedMass(element) + lumpedOverArea(element, 30.0 * Eigen::Matrix3d::Identity());
        EXPECT_GT(lumped.diagonal().minCoeff(), 0.0);
        const Matrix6 ofLumps = r.transpose() * lumped * r;
        EXPECT_NEAR(ofLumps(2, 2), mass * area, 1e-9 * mass * area);
    }
}

TEST(Shell, EnergyByKindAddsUpToTheWhole)
{
    for (const auto& corners : {quadrilateral, triangle}) {
        const ShellElement element = shell(corners);
        Eigen::VectorXd motion(element.unknowns());
        for (Eigen::Index at = 0; at < motion.size(); ++at)
            motion[at] = std::sin(3.0 * double(at) + 1.0);
        const ShellEnergy energy = strainEnergy(element, motion);
        const double whole = motion.dot(stiffness(element) * motion) / 2.0;
        EXPECT_NEAR(energy.total()[0], whole, 1e-10 * whole);
        EXPECT_GT(energy.membrane[0], 0.0);
        EXPECT_GT(energy.bending[0], 0.0);
        EXPECT_GT(energy.shear[0], 0.0);
    }
}
