#include "core/pencil/pencil.hpp"

namespace undisona {

Finding freeWithoutMass(const std::string& motion)
{
    return errorAt({}, motion + " freely, and no mass acts that way there, so that it has no frequency",
                   "Hold it, tie it, give it mass, or take back a release.");
}

bool ZeroEnergy::costsNothing(double lambda, const Eigen::Ref<const Eigen::VectorXd>& shape) const
{
    constexpr double eps = 2.220446049250313e-16;
    if (std::abs(lambda) > 1e3 * eps * normK_ * shape.squaredNorm()) return false;
    return !pencil_.strainsNothing || pencil_.strainsNothing(lambda, shape);
}

} // namespace undisona
