#include "core/system/combination.hpp"

namespace undisona {

Part partOf(PartKind kind, const std::string& sentence, OwnerKind of, int owner, const Combination& own,
            const Eigen::MatrixXd& stiffness, const Eigen::MatrixXd& mass)
{
    Part part{kind, sentence, of, owner, own.free.unknowns(), {}, {}};
    const Eigen::MatrixXd& a = own.free.matrix();
    if (stiffness.size() > 0) part.stiffness = a.transpose() * stiffness * a;
    if (mass.size() == 0) return part;
    const Eigen::MatrixXd forces = a.transpose() * mass;
    part.mass = forces * a;
    if (own.held.unknowns().empty()) return part;
    part.held = own.held.unknowns();
    part.massToHeld = forces * own.held.matrix();
    return part;
}

} // namespace undisona
