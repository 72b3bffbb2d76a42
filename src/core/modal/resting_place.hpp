#pragma once
#include "core/base/finding.hpp"
#include "core/base/progress.hpp"
#include "core/system/assemble.hpp"

#include <memory>

namespace undisona {

class SignedFactor;

/// Solves K u = f for several columns, small deflections from the shape that is drawn. The system must outlive it.
class RestingPlace {
public:
    /// Findings where nothing can move at all.
    static Result<RestingPlace> of(const System&, Progress&);

    /// Findings where something moves without being strained and the forces push along it, by the name of each column.
    /// What moves so and is not pushed stays where it is.
    Result<Eigen::MatrixXd> motions(const Eigen::MatrixXd& forces, const std::vector<std::string>& names) const;
    /// K^-1, where nothing moves without being strained.
    bool isHeld() const { return lent_ == 0.0; }
    Eigen::MatrixXd solve(const Eigen::MatrixXd& right) const;

private:
    const System* system_ = nullptr;
    std::shared_ptr<const SignedFactor> factor_; ///< of K + lent M
    double lent_ = 0.0;                          ///< (rad/s)2
};

/// The largest K_ii / M_ii, (rad/s)2.
double stiffestRatio(const System&);

} // namespace undisona
