#pragma once
// What every family of solids is made from: its rules and polynomials. For the files of this folder alone.
#include "core/elements/solid.hpp"

#include <array>

namespace undisona::solids {

using Three = Eigen::Vector3d;

struct Place {
    Three at; ///< brick -1...1 each; tetrahedron and wedge: shares of the second, third (and fourth) corner
    double weight;
};

/// A row for each node, as many as the family has. Nothing is allocated, for there are 20 at most.
template <int columns>
using ByNode = Eigen::Matrix<double, Eigen::Dynamic, columns, 0, 20, columns>;
/// Strains xx yy zz xy yz zx by the displacements of the nodes; 6 x 3 nodes.
using StrainRows = Eigen::Matrix<double, 6, Eigen::Dynamic, 0, 6, 60>;
/// The polynomials that shears are projected on; eight at most.
using ShearTerms = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, 8, 1>;

/// Values and derivatives by the three parameters, by node.
struct Shapes {
    explicit Shapes(int nodes) : value(nodes), slope(nodes, 3) {}
    ByNode<1> value;
    ByNode<3> slope;
};

/// A family: its polynomials, its rules, the terms of what is projected. One code serves all families: compiled for
/// each it costs minutes and is no faster.
struct Family {
    int nodes, corners;
    int pressures; ///< terms of the projected divergence; 0: never projected
    Shapes (*at)(const Three& place);
    std::vector<Place> (*rule)(bool fine);
    Three middle;
    ShearTerms (*shearTerms)(const Three& place) = nullptr; ///< null: no shears are projected
};

const Family& familyOf(SolidKind kind);

/// Gauss's points on -1...1, two or three.
std::vector<std::array<double, 2>> line(int n);
std::vector<Place> cubeRule(int n);
/// Four points, exact to the second degree; or Walkington's fourteen (2000), to the fifth. Weights add up to 1/6.
std::vector<Place> tetrahedronRule(bool fine);

constexpr std::array<std::array<double, 3>, 8> cubeCorner{
    {{-1, -1, -1}, {1, -1, -1}, {1, 1, -1}, {-1, 1, -1}, {-1, -1, 1}, {1, -1, 1}, {1, 1, 1}, {-1, 1, 1}}};

Shapes brick8(const Three& place);
Shapes wedge6(const Three& place);

inline ByNode<3> placesOf(const SolidElement& element)
{
    ByNode<3> places(familyOf(element.kind).nodes, 3);
    for (Eigen::Index i = 0; i < places.rows(); ++i)
        places.row(i) = element.node[static_cast<std::size_t>(i)].transpose();
    return places;
}

using Elasticity = Eigen::Matrix<double, 6, 6>;

inline double shearOf(const SolidElement& element)
{
    return element.modulus / (2.0 * (1.0 + element.poisson));
}

inline double bulkOf(const SolidElement& element)
{
    return element.modulus / (3.0 * (1.0 - 2.0 * element.poisson));
}

/// The part of the bulk modulus that is never projected, that of Poisson's ratio 0.3: without it the conformal motions
/// of second order, whose strains are all dilatation with no mean, would cost nothing.
inline double plainBulkOf(const SolidElement& element)
{
    return std::min(bulkOf(element), shearOf(element) * 2.0 * 1.3 / (3.0 * 0.4));
}

/// Of xx yy zz xy yz zx, with this bulk modulus.
inline Elasticity elasticityOf(const SolidElement& element, double bulk)
{
    if (element.grained) return *element.grained;
    const double shear = shearOf(element);
    Elasticity d = Elasticity::Zero();
    d.topLeftCorner<3, 3>().setConstant(bulk - 2.0 / 3.0 * shear);
    d.diagonal().head<3>().array() += 2.0 * shear;
    d.diagonal().tail<3>().setConstant(shear);
    return d;
}

/// Whether a middle of a side lies off its straight line, so that a finer rule is wanted.
bool isCurved(const SolidElement& element);

/// Rows of B for the derivatives (nodes x 3, by x y z) of the polynomials.
StrainRows strainRows(const ByNode<3>& by);

/// How strains in parameters become strains in global axes, with the derivatives `inverse` of parameters by x, y, z at
/// the middle.
Elasticity strainTurn(const Eigen::Matrix3d& inverse);

/// The element's own axes: the turn in the motion from parameters to places at its middle, which no numbering of the
/// nodes changes.
Eigen::Matrix3d ownAxes(const Eigen::Matrix3d& atMiddle);

} // namespace undisona::solids
