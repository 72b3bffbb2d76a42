#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// The motions of each connected part as a rigid body that its supports and springs allow: translations x y z
/// first, then turns about the principal axes through the part's mass centre; M-orthonormal, largest
/// translation or turn positive. Motions without mass are left out.
Eigen::MatrixXd rigidModes(const System&);

} // namespace undisona
