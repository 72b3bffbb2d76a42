#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// Of more than these a run is refused: a hundred bodies that float, each by itself, are no structure.
inline constexpr Eigen::Index mostRigidMotions = 600;

/// The motions of each connected part as a rigid body that its supports and springs allow: translations x y z
/// first, then turns about the principal axes through the part's mass centre; M-orthonormal, largest
/// translation or turn positive. Motions without mass are left out.
/// Beyond mostRigidMotions it goes no further.
Eigen::MatrixXd rigidModes(const System&);

/// Unknowns that, held, keep every rigid motion from happening without straining anything: as many as there are
/// motions, by a pivoted QR of them part by part. Fewer only where the motions are not independent.
std::vector<std::int64_t> determinateUnknowns(const System&, const Eigen::MatrixXd& rigid);

} // namespace undisona
