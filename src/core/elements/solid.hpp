#pragma once
#include "core/elements/strains_of.hpp"
#include "core/model/material.hpp"

#include <Eigen/Dense>

#include <array>
#include <optional>
#include <vector>

namespace undisona {

/// Families of solid elements. Corners first, then the middles of the sides, in this order:
/// tetrahedron 01 12 20 03 13 23; brick 01 12 23 30, 45 56 67 74, 04 15 26 37; wedge 01 12 20, 34 45 53, 03 14 25.
enum class SolidKind {
    tetrahedron10, ///< complete second order
    brick8,        ///< with nine enhanced strains (Simo and Rifai 1990)
    brick20,       ///< serendipity second order
    wedge6,        ///< linear; stiff in bending
    wedge15        ///< serendipity second order
};
std::size_t nodesOf(SolidKind);
std::size_t cornersOf(SolidKind);
/// The corners of each face, counter-clockwise seen from outside; -1 in the last place of a triangle.
std::vector<std::array<int, 4>> facesOf(SolidKind);
/// The ends of each side, in the order of their middles.
std::vector<std::array<int, 2>> sidesOf(SolidKind);

/// Stresses xx yy zz xy yz zx by the strains, N/m2, of a material whose grain runs along the direction and which is
/// alike in every direction across it but for its rolling shear (Lekhnitskii 1963). Empty where no body has such
/// figures: their energy would not be positive.
std::optional<Eigen::Matrix<double, 6, 6>> grainElasticity(const Material&, const Eigen::Vector3d& along);

/// A body of one elastic material between nodes with three displacements each (m), in global axes.
///
/// Above Poisson's ratio 0.45 the pressure of the second-order ones is projected on a polynomial of its own, constant
/// in the tetrahedron, linear in brick and wedge (Hughes 1980; Boffi, Brezzi and Fortin 2013), so that they do not
/// lock.
struct SolidElement {
    SolidKind kind;
    std::vector<Eigen::Vector3d> node; ///< nodesOf(kind), m
    double modulus, poisson;           ///< N/m2; 0 <= poisson < 0.5
    double density;                    ///< kg/m3
    /// Of xx yy zz xy yz zx in global axes, N/m2; in place of the two moduli where the material has a grain.
    std::optional<Eigen::Matrix<double, 6, 6>> grained{};
    /// In global axes: onto the directions in which its mass acts; in all of them where none.
    std::optional<Eigen::Matrix3d> acts{};

    Eigen::Index unknowns() const { return 3 * static_cast<Eigen::Index>(node.size()); }
};

/// Symmetric, of rank unknowns - 6; N/m.
Eigen::MatrixXd stiffness(const SolidElement&);
/// Consistent with the displacements; kg.
Eigen::MatrixXd consistentMass(const SolidElement&);
/// The diagonal of the consistent mass, scaled to the element's mass (Hinton, Rock and Zienkiewicz 1976): every entry
/// positive, the mass exact.
Eigen::MatrixXd lumpedMass(const SolidElement&);

double volumeOf(const SolidElement&); ///< m3
/// Smallest over largest determinant of the Jacobian at the corners and the middle; 0 or less: turned inside out.
double jacobianRatio(const SolidElement&);

/// Strains xx yy zz xy yz zx (engineering) at places, the element's parameters each: brick -1...1 three ways;
/// tetrahedron the shares of the second to the fourth corner; wedge the shares of the second and third corner and
/// -1...1 along. A block of six rows a place, a column for each column of motions (unknowns x motions).
Eigen::MatrixXd strainsAt(const SolidElement&, const Eigen::MatrixXd& motions,
                          const std::vector<Eigen::Vector3d>& places, StrainsOf = StrainsOf::stiffness);
/// Stresses by strains, each xx yy zz xy yz zx; N/m2.
Eigen::Matrix<double, 6, 6> elasticityOf(const SolidElement&);
/// Their energy per volume, J/m3.
Eigen::RowVectorXd energyPerVolume(const SolidElement&, const Eigen::Matrix<double, 6, Eigen::Dynamic>& strains);

/// The forces (by its unknowns) that do the work of a strain of one by temperature, the same all ways.
Eigen::VectorXd expansionForces(const SolidElement&);
/// The integral of what each node interpolates, m3; all together its volume.
Eigen::VectorXd nodeVolumes(const SolidElement&);

/// Places of an element.
struct SolidPlaces {
    std::vector<Eigen::Vector3d> parameters;
    std::vector<Eigen::Vector3d> places; ///< m
    std::vector<double> weights;         ///< m3
    Eigen::MatrixXd corners;             ///< places x corners: the part each corner has in each; rows add up to 1
};
Eigen::Vector3d middleOf(SolidKind);
/// Where strains are best (Barlow 1976): the middle of linear ones, the points of Gauss's rule of one order less.
SolidPlaces bestPlaces(const SolidElement&);
/// Of a rule that takes squares of strains of one order more.
SolidPlaces finePlaces(const SolidElement&);

} // namespace undisona
