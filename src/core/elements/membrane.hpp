#pragma once
#include "core/elements/shell.hpp"

namespace undisona {

// A sheet without bending: a ShellElement whose `membrane` is set. Four corners: linear displacements with the two
// incompatible modes that let it bend in its own plane, as they pass the patch test (Taylor, Beresford and Wilson, A
// non-conforming element for stress analysis, 1976); three corners: even strain.

/// Of the shell's unknowns, by ux and uy alone; of rank twice the corners less 3. N/m.
Eigen::MatrixXd stiffnessOfMembrane(const ShellElement&);

/// As strainsAt of a shell, without curvature and shear.
std::vector<ShellStrains> strainsOfMembrane(const ShellElement&, const Eigen::MatrixXd& motions,
                                            const std::vector<Eigen::Vector2d>& places, StrainsOf);

} // namespace undisona
