#pragma once
#include "core/elements/member.hpp"
#include "core/elements/shell.hpp"
#include "core/elements/solid.hpp"

namespace undisona {

// What the forces of a state add to the stiffness of small motions about it: the second variation of the work of the
// stresses on the squares of the displacements' slopes (Zienkiewicz and Taylor, The Finite Element Method, vol. 2,
// 2000, ch. 11). Symmetric; what pulls makes it positive. All is linear in the stresses.

/// Of a member that is pulled by `from` at its first end and by `to` at its second, N, linear between them. With the
/// part that axial stress has in twisting (Wagner 1929); without that of bending and twisting moments.
Matrix12 stressStiffness(const MemberElement&, double from, double to);

/// Of sheet with membrane forces xx yy xy (N/m) at its fine places, a column each.
Eigen::MatrixXd stressStiffness(const ShellElement&, const Eigen::Matrix<double, 3, Eigen::Dynamic>& forces);

/// Of a solid with stresses xx yy zz xy yz zx (Pa) at its fine places, a column each.
Eigen::MatrixXd stressStiffness(const SolidElement&, const Eigen::Matrix<double, 6, Eigen::Dynamic>& stresses);

} // namespace undisona
