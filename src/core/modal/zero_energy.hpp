#pragma once
#include "core/system/assemble.hpp"

namespace undisona {

/// Tells motions that cost no energy from soft ones. A motion is judged by what it strains where it happens, against
/// the rounding of those strains there: the stiffest part of a structure says nothing of a soft mode elsewhere.
class ZeroEnergy {
public:
    explicit ZeroEnergy(const System& system) : system_(system), normK_(system.stiffness.norm()) {}

    /// Whether an eigenvalue (rad/s)2 and its shape of unit modal mass are nothing but rounding.
    bool costsNothing(double lambda, const Eigen::Ref<const Eigen::VectorXd>& shape) const;

private:
    const System& system_;
    double normK_;
};

} // namespace undisona
