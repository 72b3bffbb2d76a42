#pragma once
#include "core/modal/mesh_error.hpp"
#include "core/modal/partners.hpp"

namespace undisona {

/// How much larger the elements of the mesh are that the modes are looked at on once more.
inline constexpr double coarser = 2.0;

/// The ask for that mesh: the lowest of the modes found and a few more, since their order may change; of modes inside
/// the spectrum those in a somewhat wider range, as a coarser mesh is stiffer. Nothing beside the modes.
Ask askOfCoarser(const Ask&, const Extraction& found);

/// The same where it runs first: a few more than asked, by number or frequency.
Ask askOfCoarser(const Ask&);

/// Mesh errors set against the frequencies that the same shapes have on a mesh whose elements are so many times as
/// large, for modes whose strain energy is mostly that of solids.
///
/// With errors that fall with the power p of the size, one mesh's is the difference over times^p - 1. The fourth power
/// is that of the second order where the field is smooth; where an inner edge or the end of a support governs, it is
/// between the first and the second (Strang and Fix, An analysis of the finite element method, 1973, ch. 8). An
/// estimate from the strains that lies between what the two say stays, another is brought there. Where there is none,
/// or one that is larger than the difference, that of the third power stands, half of it either way. Shares of the
/// pieces are scaled to it.
void judgeByCoarser(MeshErrors&, const ModesOnMesh& own, const Eigen::VectorXd& lambda, const ModesOnMesh& onCoarser,
                    const Eigen::VectorXd& lambdaOnCoarser, double times);

} // namespace undisona
