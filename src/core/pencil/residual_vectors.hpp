#pragma once
#include "core/pencil/extract.hpp"

namespace undisona {

/// What the modes found leave of the static flexibility under some loads: K^-1 F less its part in the modes, made
/// M-orthonormal to them and among themselves and turned by a Rayleigh-Ritz step (Dickens, Nakagawa and Wittbrodt
/// 1997). Added to the modes they make the static answer to those loads exact. lambda in (rad/s)2, shapes unknowns x
/// vectors with unit modal mass; fewer vectors than loads where the modes say it all already.
struct ResidualVectors {
    Eigen::VectorXd lambda;
    Eigen::MatrixXd shapes;
    long loads = 0;           ///< patterns that they were made for
    double staticError = 0.0; ///< of the static answers with modes and vectors, relative, by its M-norm; the largest
};

/// `loads` unknowns x patterns, N or N m. The extractor is of the same pencil as the modes. None where a mechanism
/// leaves loads without a static answer.
ResidualVectors residualVectors(const Pencil&, ModeExtractor&, const Extraction& modes, const Eigen::MatrixXd& loads);

/// The same where the static answers (ModeExtractor::staticAnswer) are at hand.
ResidualVectors residualVectors(const Pencil&, const Extraction& modes, const Eigen::MatrixXd& loads,
                                const Eigen::MatrixXd& answers);

} // namespace undisona
