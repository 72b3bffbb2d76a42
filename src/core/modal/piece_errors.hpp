#pragma once
#include "core/base/progress.hpp"
#include "core/system/assemble.hpp"

namespace undisona {

/// What each piece of sheet and solid brings to the relative error of a mode's frequency, above 0 where it is too high.
///
/// With discrete strains e_h, strains e(u_h) of the displacements that the mass has, unit modal mass and the true
/// stress s: lambda_h - lambda = |e - e_h|2 + 2 (s, e_h - e(u_h)) - lambda |u - u_h|2, the last of higher order. Where
/// displacements and strains belong together this is the identity of Strang and Fix (An analysis of the finite element
/// method, 1973, ch. 6); the second term is what assumed, projected and enhanced strains add or take. For e and s
/// stands the field of RecoveredStrains (Zienkiewicz and Zhu 1992), for transverse shear forces the divergence of the
/// moments. A lumped mass is set against the consistent one in the same shape. See docs/theory/mesh-error.md.
struct PieceErrors {
    Eigen::MatrixXd shells, solids; ///< pieces x modes
    /// By mode: by how much the sum may be off either way, where its parts are of both signs.
    Eigen::VectorXd either;
    /// By mode: the share of the strain energy in pieces whose error cannot be told.
    Eigen::VectorXd blind;
    Eigen::VectorXd inSolids; ///< by mode: the share of the strain energy in solids
    Eigen::VectorXd thin;     ///< by mode: that in bodies of layers with one through their thickness
};

/// Shapes of unit modal mass, unknowns x modes; where lambda is not positive there is no error. No numbers for modes
/// after a stop.
PieceErrors pieceErrors(const Structure&, const FrameMesh&, const System&, const Eigen::MatrixXd& shapes,
                        const Eigen::VectorXd& lambda, Progress&);

} // namespace undisona
