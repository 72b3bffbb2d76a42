#pragma once
#include "core/elements/shell.hpp"

namespace undisona {

/// consistentMass(element) * motion of sheet whose mass acts in all directions, without the matrix; N for m/s2.
Eigen::VectorXd inertiaForce(const ShellElement&, const Eigen::VectorXd& motion);

} // namespace undisona
