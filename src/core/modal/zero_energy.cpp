#include "core/modal/zero_energy.hpp"

namespace undisona {

namespace {

constexpr double eps = 2.220446049250313e-16;

/// Twice the energy of a motion, and what rounding may leave of it where it is nothing.
struct Energy {
    double work = 0.0, noise = 0.0;
};

/// A member's strains are differences, whose rounding is that of the motions: squared, it is far below any energy.
void addMember(const ElementEquations& equations, const Eigen::Ref<const Eigen::VectorXd>& shape, Energy& sum)
{
    if (equations.unknowns.empty()) return;
    const Vector12 own = equations.toOwn * shape(equations.unknowns);
    const MemberElement& member = equations.element;
    sum.work += 2.0 * strainEnergy(member, own).total();
    const double length = member.length,
                 turn = std::max(own.segment<3>(3).cwiseAbs().maxCoeff(), own.segment<3>(9).cwiseAbs().maxCoeff()),
                 shift = std::max(own.head<3>().cwiseAbs().maxCoeff(), own.segment<3>(6).cwiseAbs().maxCoeff());
    constexpr double lost = 1e4 * eps; // by a solve in a well-conditioned model
    const double stray =
        lost * (shift + (length + std::abs(member.shearCentre[0]) + std::abs(member.shearCentre[1])) * turn);
    sum.noise +=
        (member.axial / length + 12.0 * (member.bending[0] + member.bending[1]) / std::pow(length, 3)) * stray * stray +
        member.twisting / length * std::pow(lost * turn, 2);
}

} // namespace

bool strainsNothing(const System& system, double lambda, const Eigen::Ref<const Eigen::VectorXd>& shape)
{
    Energy sum;
    for (const auto& element : system.elements)
        addMember(element, shape, sum);
    Eigen::MatrixXd room;
    for (const auto& part : system.parts) {
        if (part.kind == PartKind::member || !part.isStiff()) continue;
        const Eigen::VectorXd own = shape(part.unknowns);
        const Eigen::MatrixXd& stiffness = system.stiffnessOf(part, room);
        sum.work += own.dot(stiffness * own);
        sum.noise += 10.0 * eps * own.cwiseAbs().dot(stiffness.cwiseAbs() * own.cwiseAbs());
    }
    // A real mode's strains agree with its eigenvalue; where they do not, rounding has made the one or the other.
    return sum.work <= sum.noise || std::abs(sum.work - lambda) > 0.5 * std::abs(lambda);
}

} // namespace undisona
