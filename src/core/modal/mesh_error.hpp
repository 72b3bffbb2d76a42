#pragma once
#include "core/pencil/extract.hpp"
#include "core/system/assemble.hpp"

namespace undisona {

/// Estimated relative error of each frequency, above 0 where it is too high.
struct MeshErrors {
    Eigen::MatrixXd members;  ///< members x modes
    Eigen::MatrixXf pieces;   ///< pieces of sheet, then of solids, x modes
    Eigen::VectorXd total;    ///< by mode; no number where the error cannot be told
    Eigen::VectorXd either;   ///< by mode, by how much it may be off either way
    Eigen::VectorXd inSolids; ///< by mode, the share of its strain energy in solids
    Eigen::VectorXd thin;     ///< by mode, that in bodies of layers with one through their thickness
};

/// Of members, from the size of their elements: members x modes.
///
/// A uniform member vibrating at w in elements of length h, consistent mass: bending of a slender member has a
/// relative error of (b h)^4 / 1440, with b^4 = w2 m / EI (expand the two-node cubic element's dispersion
/// relation: Belytschko and Mullen, 1978, give the same leading term); a bar in tension or twisting (w h/c)^2/24.
/// Where shear carries part of the energy the same expansion of the Timoshenko element gives
/// h2 w sqrt(m/EI) / 24 for that part. Each is weighted by the element's share of the strain energy.
/// Lumped mass errs low: bending by (b h)^2 / 24, axial and twisting as above; the sign is then negative.
Eigen::MatrixXd memberErrors(const Structure&, const FrameMesh&, const System&, const Extraction&);

/// Of members, and of sheet and solids by pieceErrors.
///
/// Without those of pieces the error of a mode cannot be told where there are any.
MeshErrors meshErrors(const Structure&, const FrameMesh&, const System&, const Extraction&, Progress&,
                      bool ofPieces = true);

/// Splits that bring every member's share of the error of every mode below a quarter of `limit`; unchanged
/// where it is below `limit` already or where the user states the number.
Splits refinedSplits(const Structure&, const FrameMesh&, const Eigen::MatrixXd& ofMembers, double limit);

} // namespace undisona
