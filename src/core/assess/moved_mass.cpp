#include "core/assess/moved_mass.hpp"

#include "core/system/motion_map.hpp"
#include "core/system/relations.hpp"

namespace undisona {

MovedMass::MovedMass(const Solution& solution, const PointMass& mass, Eigen::Index most)
    : modes_(solution, most), mass_(carry(mass.centre).transpose() * matrixOf(mass) * carry(mass.centre))
{
    const Eigen::MatrixXd own = modes_.motionOf(mass.point);
    taken_ = own.transpose() * mass_ * own;
}

QuickModes MovedMass::at(int node) const
{
    const Eigen::MatrixXd motion = modes_.motionOf(node);
    return modes_.quick(Eigen::MatrixXd::Zero(modes_.size(), modes_.size()),
                        motion.transpose() * mass_ * motion - taken_);
}

} // namespace undisona
