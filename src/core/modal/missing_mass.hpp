#pragma once
#include "core/pencil/extract.hpp"
#include "core/system/assemble.hpp"

namespace undisona {

/// Where the mass lies, over frequency, that a direction still lacks to reach its target.
struct MissingMass {
    int direction = 0;
    double share = 0.0;               ///< still wanted, of what the target is a share of
    double lowHz = 0.0, highHz = 0.0; ///< most of it lies between
    double spreadHz = 0.0;            ///< by how much the upper end differs between the last two rules
    std::int64_t modesBelow = -1;     ///< modes below the upper end, counted; -1 where that could not be done
};

/// By a short Lanczos run with A = K^-1 M begun with the rigid motion of the direction less its part in the modes
/// known: its Ritz values and the squares of the first components of its small eigenvectors are a Gauss rule for
/// effective mass over frequency (Golub and Meurant, Matrices, Moments and Quadrature, 2010, ch. 6). Nothing is known
/// exactly from so few steps: the figures are "about". `wanted` in kg, of the effective mass in the direction beyond
/// the modes; nothing where there is less than that.
std::optional<MissingMass> missingMass(const System&, ModeExtractor&, const Eigen::MatrixXd& shapes, int direction,
                                       double wanted);

} // namespace undisona
