#pragma once
#include "core/elements/strains_of.hpp"
#include "core/model/material.hpp"

#include <Eigen/Dense>

#include <optional>

namespace undisona {

/// Elasticity of a sheet in its own plane: stresses xx, yy, xy by the strains, and transverse shears xz, yz; N/m2.
/// Forces per length N and moments M of a thickness t follow from strains e and curvatures k of the middle face:
/// N = t plane e + t2 coupling k, M = t2 coupling e + t3 / 12 bending k.
struct PlaneElasticity {
    Eigen::Matrix3d plane, bending; ///< one and the same in a sheet that is one through its thickness
    Eigen::Matrix3d coupling;       ///< nothing but in stacks that differ above and below
    Eigen::Matrix2d shear;          ///< so that 5/6 t of it are the shear forces

    /// Along axes turned by an angle about the normal from those it is given in.
    PlaneElasticity seenFrom(double angle) const;
    bool couples() const { return !coupling.isZero(0.0); }
};

/// Of a material in its own directions, x along its grain where it has one (Lekhnitskii 1963; plane stress); of a stack
/// of layers by classical lamination, with the transverse shear that its layers' bending stresses leave (laminate.hpp).
PlaneElasticity planeElasticity(const Material&);

/// A flat shell with three or four corners in axes of its own: x and y in its middle face, z normal to it, the corners
/// counter-clockwise about z. Unknowns per corner, at the middle face: ux uy uz (m), rx ry rz (rad).
///
/// Membrane: displacements quadratic along the edges by the corners' turns about z (Allman 1984; Ibrahimbegovic, Taylor
/// and Wilson 1990), with a bubble inside four corners; the turns are tied to the membrane's own rotation in the mean
/// (Hughes and Brezzi 1989), which is the drilling stiffness. Bending and transverse shear: Reissner and Mindlin's
/// plate with the shear mixed-interpolated, four corners by Dvorkin and Bathe 1984, three by Lee, Lee and Bathe 2014.
struct ShellElement {
    std::vector<Eigen::Vector2d> corner; ///< 3 or 4, m
    std::vector<double> thickness;       ///< at each, m
    PlaneElasticity elasticity;
    double density;        ///< kg/m3
    double drilling = 1.0; ///< factor of the drilling stiffness, of no influence between 0.1 and 10
    /// It carries forces in its plane alone and has nothing to do with the nodes' turns (membrane.hpp).
    bool membrane = false;
    /// In its axes: onto the directions in which its mass acts, without rotary inertia; in all of them where none.
    std::optional<Eigen::Matrix3d> acts{};

    Eigen::Index unknowns() const { return 6 * static_cast<Eigen::Index>(corner.size()); }
    double area() const;
};

/// Symmetric, of rank unknowns - 6: the rigid motions alone cost nothing; of a membrane twice the corners less 3, by ux
/// and uy alone. N/m, N, N m by block.
Eigen::MatrixXd stiffness(const ShellElement&);

/// Consistent with the interpolation, with the rotary inertia of the thickness about x and y; kg, kg m, kg m2 by block.
/// The deflection is that which belongs to the sampled shear, linked to the turns along the edges (Zienkiewicz and
/// others 1993), which leaves a third of the error that a linear one has.
Eigen::MatrixXd consistentMass(const ShellElement&);

/// Each corner has the mass of its share of the area; diagonal, every entry positive.
Eigen::MatrixXd lumpedMass(const ShellElement&);

/// The integral of N' D N over the area, N the interpolation of ux uy uz, linear but for the linked deflection, D a
/// weight in the element's axes: kg/m2 or N/m3.
Eigen::MatrixXd overArea(const ShellElement&, const Eigen::Matrix3d& perArea);
/// The same with each corner's share of the area at it.
Eigen::MatrixXd lumpedOverArea(const ShellElement&, const Eigen::Matrix3d& perArea);

/// The forces (by its unknowns) that do the work of strains of one by temperature, the same all ways in its plane:
/// evenly; and from -1/2 at the lower to 1/2 at the upper side.
struct ExpansionForces {
    Eigen::VectorXd evenly, across;
};
ExpansionForces expansionForces(const ShellElement&);

/// What an element does inside, where no neighbour has a part, by what its corners do: made once, it serves every
/// motion.
struct ShellInside {
    /// 2 x half the unknowns: of what it has inside its face with four corners, out of its face with three. By the
    /// other half too, where the two are coupled; else without columns.
    Eigen::Matrix<double, 2, Eigen::Dynamic> inner, across;
    /// By the unknowns in its face; half the square of what it gives is the energy of drilling, J.
    Eigen::RowVectorXd spin;
};
ShellInside insideOf(const ShellElement&);

/// Strains at a place of some motions (unknowns x motions), a column each.
struct ShellStrains {
    Eigen::Matrix<double, 3, Eigen::Dynamic> membrane, curvature; ///< xx, yy, xy (engineering), 1 and 1/m
    Eigen::Matrix<double, 2, Eigen::Dynamic> shear;               ///< xz, yz
};
/// At places as the element's parameters have them: -1...1 each way of four corners, shares of the second and the
/// third of three. In its middle what it has inside strains nothing, and may be left out there ({}).
std::vector<ShellStrains> strainsAt(const ShellElement&, const ShellInside&, const Eigen::MatrixXd& motions,
                                    const std::vector<Eigen::Vector2d>& places, StrainsOf = StrainsOf::stiffness);
/// Where all corners have the same part: 0, 0 or 1/3, 1/3.
Eigen::Vector2d middleOf(const ShellElement&);

/// Places of an element.
struct ShellPlaces {
    std::vector<Eigen::Vector2d> parameters;
    std::vector<Eigen::Vector2d> places; ///< in its axes, m
    std::vector<double> weights;         ///< m2
    std::vector<double> thickness;       ///< m
    Eigen::MatrixXd corners;             ///< places x corners: the part each corner has in each; rows add up to 1
};
ShellPlaces middlePlace(const ShellElement&);
/// Of rules that take squares of linear strains, and of those of one order more.
ShellPlaces coarsePlaces(const ShellElement&);
ShellPlaces finePlaces(const ShellElement&);

/// Forces per length by them in a sheet of that thickness: membrane forces xx, yy, xy, N/m; moments, N; shears, N/m.
ShellStrains forcesOf(const ShellElement&, const ShellStrains&, double thickness);
/// Energy of the turns about the normal that the drilling stiffness holds, J by motion.
Eigen::RowVectorXd drillingEnergy(const ShellElement&, const ShellInside&, const Eigen::MatrixXd& motions);
/// Energy per area of such strains in a sheet of that thickness there, J/m2, by motion.
Eigen::RowVectorXd energyPerArea(const ShellElement&, const ShellStrains&, double thickness);

/// Strain energy by kind of each of some motions (unknowns x motions), J; adds up to half of d' K d.
/// What stretching and bending share goes to both in halves.
struct ShellEnergy {
    Eigen::RowVectorXd membrane, bending, shear;
    Eigen::RowVectorXd total() const { return membrane + bending + shear; }
};
ShellEnergy strainEnergy(const ShellElement&, const Eigen::MatrixXd& motions);

} // namespace undisona
