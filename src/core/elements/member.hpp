#pragma once
#include "core/model/material.hpp"
#include "core/model/section.hpp"

#include <Eigen/Dense>

#include <optional>

namespace undisona {

using Matrix12 = Eigen::Matrix<double, 12, 12>;
using Vector12 = Eigen::Matrix<double, 12, 1>;

/// A straight two-node Timoshenko member in its principal axes: x along the centroid line, 1 and 2 the
/// principal axes of its section. Unknowns per node, at the centroid: ux u1 u2 (m), rx r1 r2 (rad).
///
/// Shear and twisting act at the shear centre, axial force and mass at the centroid. Bending with shear is
/// exact for loads at the ends (Przemieniecki, Theory of Matrix Structural Analysis, 1968, ch. 5).
struct MemberElement {
    double length;                          ///< m, > 0
    double axial, twisting;                 ///< EA, N; GJ, N m2
    std::array<double, 2> bending;          ///< E I1, E I2: about axis 1 and axis 2, N m2
    std::array<double, 2> shear;            ///< G As along axis 1 and 2, N; 0 is stiff
    std::array<double, 2> shearCentre;      ///< along axis 1 and 2 from the centroid, m
    double massPerLength;                   ///< kg/m
    std::array<double, 3> inertiaPerLength; ///< about x, 1, 2; kg m
    /// A rod: it carries force along itself alone, its motion is linear, and it has nothing to do with the turns.
    bool rod = false;
    /// In its axes: onto the directions in which its mass acts, without rotary inertia; in all of them where none.
    std::optional<Eigen::Matrix3d> acts{};

    /// The shear parameter of bending with displacement along axis 1 or 2: 12 EI / (G As L2).
    double shearParameter(int along) const;
};

/// `massFactor` multiplies the material's mass and rotary inertia.
MemberElement memberElement(const Section&, const Material&, double length, double massFactor);

/// The columns are the directions of x, axis 1 and axis 2 in the axes in which `x` and `z` are given.
Eigen::Matrix3d principalAxes(const Section&, const Eigen::Vector3d& x, const Eigen::Vector3d& z);

/// Symmetric, rank 6: the six rigid motions cost nothing. N/m, N, N m by block.
Matrix12 stiffness(const MemberElement&);

/// Consistent mass with rotary inertia; kg, kg m, kg m2 by block. Shape functions of Friedman and Kosmatka,
/// An improved two-node Timoshenko beam finite element, 1993; integrated exactly.
Matrix12 consistentMass(const MemberElement&);

/// Half of the mass and of the rotary inertia at each node; diagonal, every entry positive where the
/// material has mass. Mass and its centre are exact, the inertia about the centre in the limit.
Matrix12 lumpedMass(const MemberElement&);

/// Motion of the centroid (ux u1 u2 rx r1 r2) at the share 0...1 of the length, for unit unknowns.
Eigen::Matrix<double, 6, 12> interpolation(const MemberElement&, double share);

/// Slopes along the length of that motion, for unit unknowns; 1, 1/m.
Eigen::Matrix<double, 6, 12> interpolationSlopes(const MemberElement&, double share);

/// The integral of N' D N over the length, with D (3x3, principal axes) per length: added mass or a bed.
Matrix12 alongLength(const MemberElement&, const Eigen::Matrix3d& perLength);
/// The same with half of D at each node.
Matrix12 lumpedAlongLength(const MemberElement&, const Eigen::Matrix3d& perLength);

/// Strain energy of a motion by kind, J; adds up to half of d' K d.
struct StrainEnergy {
    double axial = 0.0, twisting = 0.0;
    std::array<double, 2> bending{}, shear{}; ///< with displacement along axis 1 and 2
    double total() const { return axial + twisting + bending[0] + bending[1] + shear[0] + shear[1]; }
};
StrainEnergy strainEnergy(const MemberElement&, const Vector12& unknowns);

} // namespace undisona
