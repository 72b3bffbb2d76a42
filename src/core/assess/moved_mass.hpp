#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// Frequencies told without a run, from modes that are at hand.
struct QuickModes {
    std::vector<double> hertz; ///< as many as there were modes, ascending; rigid motions are 0
    /// That they may be true at: what fewer modes leave shows what more would bring. 0 where nothing is known.
    std::vector<double> lower;
};

/// A mass that goes from its point to other nodes, by modal modification: with the modes q of a solution, K' = Lambda
/// and M' = I - Phi_p' m Phi_p + Phi_q' m Phi_q (Hirai, Yoshimura and Takamura 1973; Ewins, Modal Testing, 2nd ed.
/// 2000, ch. 6), m of six by six with its centre and rotary inertia. From above where modes are missing.
class MovedMass {
public:
    /// The solution must outlive it. Of its modes the lowest are used, up to `most`.
    MovedMass(const Solution&, const PointMass&, Eigen::Index most = 120);

    /// At a node of the solution's mesh.
    QuickModes at(int node) const;

private:
    Eigen::MatrixXd motionOf(int node) const; ///< 6 x modes
    Eigen::VectorXd lowest(const Eigen::MatrixXd& mass, Eigen::Index modes) const;
    const Solution& solution_;
    Matrix6 mass_;
    Eigen::VectorXd lambda_;  ///< (rad/s)2
    Eigen::MatrixXd without_; ///< the modal mass without the one that moves
};

} // namespace undisona
