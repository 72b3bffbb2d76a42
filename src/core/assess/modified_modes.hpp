#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// Frequencies told without a run, from modes that are at hand.
struct QuickModes {
    std::vector<double> hertz; ///< as many as there were modes, ascending; rigid motions are 0
    /// That they may be true at: what fewer modes leave shows what more would bring. 0 where nothing is known.
    std::vector<double> lower;
};

/// Modes of a structure that has been changed, in the coordinates of those that are at hand: with the modes and
/// residual vectors q of a solution the equations are K = Lambda and M = I, and a change adds Phi' dK Phi and Phi' dM
/// Phi to them (Hirai, Yoshimura and Takamura 1973; Ewins, Modal Testing, 2nd ed. 2000, ch. 6). Frequencies come out
/// from above: what neither modes nor residual vectors can do is missing.
class ModifiedModes {
public:
    /// Of the solution, which must outlive it, the lowest modes up to `most`; and vectors that serve beside all of them
    /// (unknowns x vectors, orthonormal to the modes and among each other by the mass, lambda in (rad/s)2).
    explicit ModifiedModes(const Solution&, Eigen::Index most = 120, const ResidualVectors* beside = nullptr);

    Eigen::Index size() const { return lambda_.size(); } ///< of the basis: modes first
    Eigen::Index modes() const { return modes_; }
    const Eigen::VectorXd& lambda() const { return lambda_; } ///< (rad/s)2

    /// Motion of a node (ux uy uz rx ry rz) in each vector of the basis; 6 x size.
    Eigen::MatrixXd motionOf(int node) const;
    /// The basis itself, unknowns x size.
    Eigen::MatrixXd basis() const;

    struct Changed {
        Eigen::VectorXd hertz;  ///< ascending; rigid motions are 0
        Eigen::MatrixXd shapes; ///< in the basis' coordinates, unit modal mass; size x modes
    };
    /// With the leading `of` vectors of the basis alone (0: all); stiffness and mass that the change adds, size x size.
    Changed with(const Eigen::MatrixXd& stiffness, const Eigen::MatrixXd& mass, Eigen::Index of = 0) const;

    /// The frequencies alone, with what they may be true at.
    QuickModes quick(const Eigen::MatrixXd& stiffness, const Eigen::MatrixXd& mass) const;

private:
    const Solution& solution_;
    const ResidualVectors* beside_;
    Eigen::Index modes_;
    Eigen::VectorXd lambda_;
};

} // namespace undisona
