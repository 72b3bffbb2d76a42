#pragma once
#include "core/assess/modified_modes.hpp"

namespace undisona {

/// A mass that goes from its point to other nodes: M' = I - Phi_p' m Phi_p + Phi_q' m Phi_q in the modes at hand, m of
/// six by six with its centre and rotary inertia. From above where modes are missing.
class MovedMass {
public:
    /// The solution must outlive it. Of its modes the lowest are used, up to `most`.
    MovedMass(const Solution&, const PointMass&, Eigen::Index most = 120);

    /// At a node of the solution's mesh.
    QuickModes at(int node) const;

private:
    ModifiedModes modes_;
    Matrix6 mass_;
    Eigen::MatrixXd taken_; ///< from the modal mass, where it was
};

} // namespace undisona
