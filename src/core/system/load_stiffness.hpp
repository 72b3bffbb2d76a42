#pragma once
#include "core/system/static_loads.hpp"

namespace undisona {

/// The forces that a state holds a structure with, by the pieces of its mesh.
struct Prestress {
    /// On the faces towards the second end, at both ends: N V1 V2 T M1 M2; N, N m.
    std::vector<std::array<Vector6, 2>> members;
    std::vector<Eigen::Matrix<double, 3, Eigen::Dynamic>> shells; ///< xx yy xy at the fine places, N/m
    Eigen::Matrix3d spin = Eigen::Matrix3d::Zero();               ///< force by mass and distance of what spins, 1/s2
    std::vector<Eigen::Matrix<double, 6, Eigen::Dynamic>> solids; ///< xx yy zz xy yz zx at the fine places, Pa
    /// How many times each load acts, of pressure that turns with what it presses on; empty: none does.
    std::vector<double> pressing;
    std::vector<Eigen::Vector3d> masses; ///< by which point masses are pulled at their centres, N

    /// Without shear, bending and twisting of members, and without what turns with an arm.
    Prestress pullsAlone() const;
};

/// Of one state, by the motion that its loads make (K u = forces).
Prestress prestressOf(const Structure&, const FrameMesh&, const System&, const StaticLoads&, Eigen::Index state,
                      const Eigen::VectorXd& u);

/// End forces of an element of a member in its own axes, as its nodes push on it, for a motion and what acts on it;
/// with what the state does that the equations have.
Vector12 endForces(const System&, const StaticLoads&, std::size_t element, Eigen::Index state,
                   const Eigen::VectorXd& u);

/// What they add to the stiffness of small motions about the state; of pieces that nothing pulls there is none.
/// Pressure turns with what it presses on. What spins is pushed outwards as it moves outwards, seen by one who spins
/// with it: less stiffness across the axis, by mass.
std::vector<Part> tensionParts(const Structure&, const FrameMesh&, const System&, const Prestress&);

/// Of one solid, without the way to the unknowns.
Eigen::MatrixXd stateStiffness(const SolidElement&, const Prestress&, std::size_t solid);

/// Its sum, in the pattern of the stiffness or a part of it.
SparseSymmetric sumOf(const System&, const std::vector<Part>& tension);

/// Adds it to the equations.
void stiffenBy(System&, const Structure&, const FrameMesh&, Prestress);

} // namespace undisona
