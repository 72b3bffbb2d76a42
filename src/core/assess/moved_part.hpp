#pragma once
#include "core/assess/modified_modes.hpp"

namespace undisona {

/// A mass or a spring to ground that goes from its point to other nodes: in the modes at hand
///     M' = I - Phi_p' m Phi_p + Phi_q' m Phi_q,  K' = Lambda - Phi_p' k Phi_p + Phi_q' k Phi_q
/// with m (centre and rotary inertia) and k of six by six. From above where modes are missing.
class MovedPart {
public:
    /// The solution must outlive it. Of its modes the lowest are used, up to `most`.
    MovedPart(const Solution&, const PointMass&, Eigen::Index most = 120);
    MovedPart(const Solution&, const Hold& springs, Eigen::Index most = 120); ///< elastic, of a point

    /// At a node of the solution's mesh.
    QuickModes at(int node) const;

private:
    MovedPart(const Solution&, int point, const Matrix6& stiffness, const Matrix6& mass, Eigen::Index most);
    ModifiedModes modes_;
    Matrix6 stiffness_, mass_;
    Eigen::MatrixXd stiffnessTaken_, massTaken_; ///< where it was
};

} // namespace undisona
