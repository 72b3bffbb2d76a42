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
    if (normK_ == 0.0) return true; // nothing costs anything, and rounding has no measure
    const double noise = 1e3 * eps * normK_ * shape.squaredNorm();
    if (lambda > noise) return false;
    // Below zero an eigenvalue may be the rounding of the shift it was found from; the energy itself tells.
    if (lambda < 0.0 && shape.dot(pencil_.stiffnessTimes(shape).col(0)) < -noise) return false;
    return !pencil_.strainsNothing || pencil_.strainsNothing(lambda, shape);
}

Eigen::MatrixXd Pencil::stiffnessTimes(const Eigen::MatrixXd& x) const
{
    Eigen::MatrixXd product = stiffness * x;
    if (hasApart()) apart->addProduct(x, product);
    return product;
}

} // namespace undisona
