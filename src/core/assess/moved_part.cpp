#include "core/assess/moved_part.hpp"

#include "core/system/motion_map.hpp"
#include "core/system/relations.hpp"

namespace undisona {

namespace {

Matrix6 stiffnessOf(const Hold& springs)
{
    const Matrix6 turn = turned(springs.axes);
    return turn.transpose() * Eigen::Map<const Vector6>(springs.elastic.data()).asDiagonal() * turn;
}

} // namespace

MovedPart::MovedPart(const Solution& solution, int point, const Matrix6& stiffness, const Matrix6& mass,
                     Eigen::Index most)
    : modes_(solution, most), stiffness_(stiffness), mass_(mass)
{
    const Eigen::MatrixXd own = modes_.motionOf(point);
    stiffnessTaken_ = own.transpose() * stiffness_ * own;
    massTaken_ = own.transpose() * mass_ * own;
}

MovedPart::MovedPart(const Solution& solution, const PointMass& mass, Eigen::Index most)
    : MovedPart(solution, mass.point, Matrix6::Zero(),
                carry(mass.centre).transpose() * matrixOf(mass) * carry(mass.centre), most)
{
}

MovedPart::MovedPart(const Solution& solution, const Hold& springs, Eigen::Index most)
    : MovedPart(solution, springs.point(), stiffnessOf(springs), Matrix6::Zero(), most)
{
}

QuickModes MovedPart::at(int node) const
{
    const Eigen::MatrixXd motion = modes_.motionOf(node);
    return modes_.quick(motion.transpose() * stiffness_ * motion - stiffnessTaken_,
                        motion.transpose() * mass_ * motion - massTaken_);
}

} // namespace undisona
