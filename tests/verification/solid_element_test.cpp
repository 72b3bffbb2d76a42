// Solid elements alone: patches, motions that cost nothing, mass, incompressible material, and what trapezoids cost the
// linear brick (MacNeal, Finite Elem. Anal. Des. 1987).
#include "core/elements/solid_work.hpp"
#include "core/system/motion_map.hpp"
#include "tests/solid_block.hpp"

#include <gtest/gtest.h>

using namespace undisona;

namespace {

constexpr SolidKind everyKind[] = {SolidKind::tetrahedron10, SolidKind::brick8, SolidKind::brick20, SolidKind::wedge6,
                                   SolidKind::wedge15};

/// Inner corners of a unit cube of two parts each way pushed about, the outer ones left where they are.
SolidBlock patchOf(SolidKind kind)
{
    SolidBlock block(kind, {1, 1, 1}, {2, 2, 2});
    block.warp([](const Eigen::Vector3d& at) {
        const double inside = 64.0 * at.x() * (1 - at.x()) * at.y() * (1 - at.y()) * at.z() * (1 - at.z());
        return Eigen::Vector3d(at + inside * Eigen::Vector3d(0.09, -0.07, 0.11));
    });
    block.close();
    return block;
}

Eigen::MatrixXd dense(const SparseSymmetric& matrix)
{
    return matrix * Eigen::MatrixXd(Eigen::MatrixXd::Identity(matrix.size, matrix.size));
}

Eigen::MatrixXd rigidOf(const std::vector<Eigen::Vector3d>& places)
{
    Eigen::MatrixXd rigid(3 * static_cast<Eigen::Index>(places.size()), 6);
    for (std::size_t at = 0; at < places.size(); ++at)
        rigid.middleRows<3>(3 * static_cast<Eigen::Index>(at)) = carry(places[at]).topRows<3>();
    return rigid;
}

std::array<bool, 3> nothing(const Eigen::Vector3d&)
{
    return {false, false, false};
}

} // namespace

TEST(SolidElement, PatchHasEachConstantStrainExactly)
{
    for (const SolidKind kind : everyKind)
        for (const double poisson : {0.3, 0.49}) {
            SolidBlock patch = patchOf(kind);
            patch.poisson = poisson;
            const Eigen::MatrixXd k = dense(patch.system([](const auto& e) { return stiffness(e); }, nothing));
            std::vector<int> inner, outer;
            for (std::size_t at = 0; at < patch.places.size(); ++at) {
                const auto& p = patch.places[at];
                const bool outside = (p.array() < 1e-9).any() || (p.array() > 1.0 - 1e-9).any();
                for (int axis = 0; axis < 3; ++axis)
                    (outside ? outer : inner).push_back(static_cast<int>(3 * at) + axis);
            }
            for (int strain = 0; strain < 9; ++strain) { // each entry of the gradient
                Eigen::Matrix3d gradient = Eigen::Matrix3d::Zero();
                gradient(strain / 3, strain % 3) = 1e-3;
                Eigen::VectorXd wanted(3 * static_cast<Eigen::Index>(patch.places.size()));
                for (std::size_t at = 0; at < patch.places.size(); ++at)
                    wanted.segment<3>(3 * static_cast<Eigen::Index>(at)) = gradient * patch.places[at];
                const Eigen::VectorXd found =
                    Eigen::MatrixXd(k(inner, inner)).ldlt().solve(-k(inner, outer) * wanted(outer));
                EXPECT_LT((found - wanted(inner)).norm(), 1e-9 * wanted.norm()) << int(kind) << " " << strain;
                const Eigen::Matrix3d e = (gradient + gradient.transpose()) / 2.0;
                const double lame = patch.modulus * poisson / (1 + poisson) / (1 - 2 * poisson),
                             shear = patch.modulus / (2 + 2 * poisson);
                const double energy = lame * e.trace() * e.trace() / 2.0 + shear * e.squaredNorm();
                EXPECT_NEAR(wanted.dot(k * wanted) / 2.0, energy, 1e-9 * energy + 1e-12 * patch.modulus * 1e-6);
            }
        }
}

TEST(SolidElement, OnlyRigidMotionsCostNothing)
{
    const Eigen::Matrix3d turn = (Eigen::AngleAxisd(0.7, Eigen::Vector3d(1, 2, 3).normalized()) *
                                  Eigen::AngleAxisd(0.4, Eigen::Vector3d::UnitX()))
                                     .toRotationMatrix();
    for (const SolidKind kind : everyKind)
        for (const double poisson : {0.3, 0.4999}) {
            SolidBlock one(kind, {1.0, 0.8, 0.6}, {1, 1, 1});
            one.poisson = poisson;
            one.warp([&](const Eigen::Vector3d& at) {
                return Eigen::Vector3d(
                    turn * (at + Eigen::Vector3d(0.1 * at.y() * at.z(), 0.12 * at.x(), -0.1 * at.x() * at.y())));
            });
            one.close();
            const SolidElement element = one.element(0);
            const Eigen::VectorXd values =
                Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(stiffness(element), Eigen::EigenvaluesOnly)
                    .eigenvalues();
            // The seventh, against that of the element without any projection or enhancement, which is stiffer.
            EXPECT_LT(std::abs(values[5]), 1e-12 * values.tail<1>()[0]) << int(kind);
            SolidElement plain = element;
            plain.poisson = 0.3;
            const double seventh =
                Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(stiffness(plain), Eigen::EigenvaluesOnly)
                    .eigenvalues()[6];
            EXPECT_GT(values[6], 0.25 * seventh) << int(kind) << " " << poisson;
            EXPECT_LT((stiffness(element) * rigidOf(element.node)).norm(), 1e-9 * values.tail<1>()[0]);
        }
}

// Work without a matrix is that of the matrix, whatever is projected or enhanced.
TEST(SolidElement, DoesTheWorkOfItsMatrices)
{
    for (const SolidKind kind : everyKind)
        for (const double poisson : {0.3, 0.49}) {
            SolidBlock patch = patchOf(kind);
            patch.poisson = poisson;
            const SolidElement element = patch.element(3);
            const Eigen::Index n = element.unknowns();
            Eigen::MatrixXd motions(n, 4);
            for (Eigen::Index at = 0; at < motions.size(); ++at)
                motions(at % n, at / n) = std::sin(1.0 + 0.7 * double(at) * double(at));
            const auto expectWork = [&](const Eigen::RowVectorXd& work, const Eigen::MatrixXd& matrix) {
                const Eigen::RowVectorXd wanted = (motions.transpose() * matrix * motions).diagonal().transpose();
                EXPECT_LT((work - wanted).norm(), 1e-10 * wanted.norm()) << int(kind) << " " << poisson;
            };
            expectWork(strainWork(element, motions), stiffness(element));
            expectWork(massWork(element, motions, false), consistentMass(element));
            expectWork(massWork(element, motions, true), lumpedMass(element));
        }
}

TEST(SolidElement, MassIsExactAndLumpedMassPositive)
{
    for (const SolidKind kind : everyKind) {
        const SolidBlock patch = patchOf(kind);
        const Eigen::MatrixXd rigid = rigidOf(patch.places);
        const Eigen::MatrixXd m = dense(patch.system([](const auto& e) { return consistentMass(e); }, nothing));
        const Eigen::MatrixXd sum = rigid.transpose() * m * rigid;
        const double mass = patch.density;
        EXPECT_NEAR(sum(0, 0), mass, 1e-9 * mass);
        EXPECT_NEAR(sum(1, 5), mass / 2, 1e-9 * mass) << "its centre";
        EXPECT_NEAR(sum(3, 3), mass * 2.0 / 3.0, 1e-9 * mass) << "its inertia about an edge";
        EXPECT_NEAR(sum(3, 4), -mass / 4.0, 1e-9 * mass);
        const Eigen::MatrixXd lumped = dense(patch.system([](const auto& e) { return lumpedMass(e); }, nothing));
        EXPECT_NEAR(lumped.diagonal().sum(), 3 * mass, 1e-9 * mass);
        EXPECT_GT(lumped.diagonal().minCoeff(), 0.0) << int(kind);
        for (std::size_t at = 0; at < patch.elements.size(); ++at)
            EXPECT_GT(jacobianRatio(patch.element(at)), 0.2);
    }
}

// Nearly incompressible: the defaults lose no more than twice what they lose at Poisson 0.3.
TEST(SolidElement, DefaultsDoNotLockWhenNearlyIncompressible)
{
    const auto clamped = [](const Eigen::Vector3d& at) {
        const bool held = at.x() < 1e-9;
        return std::array<bool, 3>{held, held, held};
    };
    for (const SolidKind kind : {SolidKind::tetrahedron10, SolidKind::brick20, SolidKind::wedge15}) {
        std::array<double, 2> worst{};
        for (const bool soft : {false, true}) {
            const auto run = [&](int parts) {
                SolidBlock block(kind, {3, 1, 1}, {3 * parts, parts, parts});
                block.poisson = soft ? 0.4999 : 0.3;
                block.close();
                return block.frequencies(clamped, 10);
            };
            const auto coarse = run(2), fine = run(5);
            ASSERT_EQ(coarse.size(), 10u);
            for (std::size_t mode = 0; mode < 10; ++mode)
                worst[soft] = std::max(worst[soft], std::abs(coarse[mode] / fine[mode] - 1.0));
        }
        RecordProperty("worst of ten at 0.3 and 0.4999, family " + std::to_string(int(kind)),
                       std::to_string(worst[0]) + " " + std::to_string(worst[1]));
        EXPECT_LT(worst[1], 2.0 * worst[0] + 0.002) << int(kind) << " " << worst[0] << " " << worst[1];
    }
}

TEST(SolidElement, BarBendsAsTimoshenkoHasItAndTrapezoidsStiffenTheLinearBrickAlone)
{
    // Length 6, depth 0.2, width 0.1; six elements along, as in MacNeal and Harder 1985; end load in the plane of the
    // depth.
    const auto tip = [](SolidKind kind, bool trapezoids) {
        SolidBlock bar(kind, {6, 0.1, 0.2}, {6, 1, 1});
        bar.modulus = 1e7;
        bar.warp([&](const Eigen::Vector3d& at) {
            const bool inside = at.x() > 1e-9 && at.x() < 6 - 1e-9;
            const double lean = std::lround(at.x()) % 2 ? 1.0 : -1.0;
            return Eigen::Vector3d(at.x() + (trapezoids && inside ? lean * (at.z() - 0.1) : 0.0), at.y(), at.z());
        });
        bar.close();
        const auto held = [](const Eigen::Vector3d& at) {
            const bool fixed = at.x() < 1e-9;
            return std::array<bool, 3>{fixed, fixed, fixed};
        };
        const Eigen::MatrixXd k = dense(bar.system([](const auto& e) { return stiffness(e); }, held));
        // A unit force spread over the end: consistent with the displacements of the family's own end face, about.
        Eigen::VectorXd load = Eigen::VectorXd::Zero(k.rows());
        std::vector<int> ends;
        int free = 0;
        for (const auto& place : bar.places) {
            if (held(place)[0]) continue;
            if (place.x() > 6 - 1e-9) ends.push_back(free + 2);
            free += 3;
        }
        for (const int at : ends)
            load[at] = 1.0 / double(ends.size());
        const Eigen::VectorXd moved = k.ldlt().solve(load);
        double mean = 0.0;
        for (const int at : ends)
            mean += moved[at] / double(ends.size());
        return mean;
    };
    const double theory = 0.1081; // MacNeal and Harder 1985, table 3
    // The same source's table 9 has 0.970 and 0.886 for the brick of twenty nodes.
    EXPECT_NEAR(tip(SolidKind::brick20, false) / theory, 0.970, 0.01);
    EXPECT_NEAR(tip(SolidKind::brick20, true) / theory, 0.886, 0.01);
    EXPECT_NEAR(tip(SolidKind::tetrahedron10, false) / theory, 1.0, 0.10);
    EXPECT_NEAR(tip(SolidKind::wedge15, false) / theory, 1.0, 0.05);
    EXPECT_NEAR(tip(SolidKind::brick8, false) / theory, 1.0, 0.03);
    EXPECT_LT(tip(SolidKind::brick8, true) / theory, 0.35)
        << "no eight-node element that passes the patch test can do it";
}
