#pragma once
#include "core/elements/member.hpp"
#include "core/elements/shell.hpp"
#include "core/elements/solid.hpp"

namespace undisona {

// What the forces of a state add to the stiffness of small motions about it: the second variation of the work of the
// stresses on the squares of the displacements' slopes (Zienkiewicz and Taylor, The Finite Element Method, vol. 2,
// 2000, ch. 11). Symmetric; what pulls makes it positive. All is linear in the stresses.

/// Of a member with the forces N V1 V2 T M1 M2 (N, N m) on the faces towards its second end, at both ends: pull,
/// twisting and shear forces linear between them, bending moments as what is spread evenly along it has them. Sections
/// turn as they are, by a rotation vector u + t x r + t x (t x r) / 2, so that moments go around corners of a frame as
/// they should (Argyris and others 1979) and stated ones are semitangential. With the part that axial stress has in
/// twisting (Wagner 1929); without that of bending stress in it, which is nothing where a section is alike on both
/// sides. Of a rod the pull alone.
Matrix12 stressStiffness(const MemberElement&, const std::array<Eigen::Matrix<double, 6, 1>, 2>& forces);

/// Of what turns with a point by an arm (m) at whose tip a force (N) acts from outside: 3 x 3 on its rotation vector.
/// The force does work - F . t x (t x r) / 2.
Eigen::Matrix3d armStiffness(const Eigen::Vector3d& arm, const Eigen::Vector3d& force);

/// Membrane forces xx yy xy (N/m) of sheet at its fine places, a column each, for the motions of its corners in its own
/// axes and what warmth makes it longer evenly (1) and bend from below to above (1).
Eigen::Matrix<double, 3, Eigen::Dynamic> membraneForces(const ShellElement&, const Eigen::VectorXd& motion,
                                                        double evenly, double across);

/// Of sheet with membrane forces xx yy xy (N/m) at its fine places, a column each.
Eigen::MatrixXd stressStiffness(const ShellElement&, const Eigen::Matrix<double, 3, Eigen::Dynamic>& forces);

/// Of a solid with stresses xx yy zz xy yz zx (Pa) at its fine places, a column each.
Eigen::MatrixXd stressStiffness(const SolidElement&, const Eigen::Matrix<double, 6, Eigen::Dynamic>& stresses);

} // namespace undisona
