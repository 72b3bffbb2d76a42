#pragma once
#include "core/system/assemble.hpp"

#include <optional>

namespace undisona {

/// Of more than these a run is refused: a hundred bodies that float, each by itself, are no structure.
inline constexpr Eigen::Index mostRigidMotions = 600;

struct RigidModes {
    Eigen::MatrixXd motions;              ///< unknowns x motions, M-orthonormal, largest translation or turn positive
    std::optional<std::int64_t> massless; ///< unknown that moves most where a whole body may move without any mass
};

/// The motions of each connected part as a rigid body that its supports and springs allow: translations x y z
/// first, then turns about the principal axes through the part's mass centre.
/// Beyond mostRigidMotions it goes no further.
RigidModes rigidModes(const System&);

/// Unknowns that, held, keep every rigid motion from happening without straining anything: as many as there are
/// motions, by a pivoted QR of them part by part. Fewer only where the motions are not independent.
std::vector<std::int64_t> determinateUnknowns(const System&, const Eigen::MatrixXd& rigid);

} // namespace undisona
