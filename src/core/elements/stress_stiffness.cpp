#include "core/elements/stress_stiffness.hpp"

#include "core/elements/shell_work.hpp"
#include "core/elements/solid_family.hpp"

namespace undisona {

Matrix12 stressStiffness(const MemberElement& member, double from, double to)
{
    // Three places are enough for the fourth powers of cubic interpolations' slopes times a linear force.
    constexpr std::array<std::array<double, 2>, 3> rule{
        {{0.11270166537925831, 5.0 / 18.0}, {0.5, 8.0 / 18.0}, {0.88729833462074169, 5.0 / 18.0}}};
    const double radiusSquared = member.rod ? 0.0 : (member.bending[0] + member.bending[1]) / member.axial;
    Matrix12 sum = Matrix12::Zero();
    for (const auto& [share, weight] : rule) {
        const auto slopes = interpolationSlopes(member, share);
        const double force = (1.0 - share) * from + share * to;
        sum += weight * member.length * force *
               (slopes.transpose() * Eigen::Vector3d(1.0, 1.0, radiusSquared).asDiagonal() * slopes);
    }
    return sum;
}

Eigen::MatrixXd stressStiffness(const ShellElement& element, const Eigen::Matrix<double, 3, Eigen::Dynamic>& forces)
{
    using namespace shell_work;
    const Interpolation own(element);
    const auto places = own.fine();
    Eigen::MatrixXd sum = Eigen::MatrixXd::Zero(element.unknowns(), element.unknowns());
    Eigen::MatrixXd slopes(6, element.unknowns()); // of ux uy uz by x, then by y
    for (std::size_t place = 0; place < places.size(); ++place) {
        const auto& [r, s, weight] = places[place];
        const Jacobian j = own.jacobian(r, s), inverse = j.inverse();
        slopes.setZero();
        for (std::size_t i = 0; i < own.corners(); ++i) {
            const Two corner = gradient(inverse, own.corner(i, r, s));
            slopes.block<3, 3>(0, at(i, 0)).diagonal().setConstant(corner.x());
            slopes.block<3, 3>(3, at(i, 0)).diagonal().setConstant(corner.y());
            if (element.membrane) continue;
            const Two bulge = gradient(inverse, own.edge(i, r, s));
            linkDeflection(own, i, [&](Eigen::Index unknown, double factor) {
                const Eigen::Index column = 6 * (unknown / 3) + outOfFace[static_cast<std::size_t>(unknown % 3)];
                slopes(2, column) += factor * bulge.x();
                slopes(5, column) += factor * bulge.y();
            });
        }
        const Eigen::Vector3d n = weight * j.determinant() * forces.col(static_cast<Eigen::Index>(place));
        const auto byX = slopes.topRows<3>(), byY = slopes.bottomRows<3>();
        sum += n[0] * byX.transpose() * byX + n[1] * byY.transpose() * byY +
               n[2] * (byX.transpose() * byY + byY.transpose() * byX);
    }
    return sum;
}

Eigen::MatrixXd stressStiffness(const SolidElement& element, const Eigen::Matrix<double, 6, Eigen::Dynamic>& stresses)
{
    using namespace solids;
    const Family& family = familyOf(element.kind);
    const ByNode<3> nodes = placesOf(element);
    Eigen::MatrixXd each = Eigen::MatrixXd::Zero(nodes.rows(), nodes.rows()); // the same along x, y and z
    const auto places = family.rule(true);
    for (std::size_t place = 0; place < places.size(); ++place) {
        const Shapes shapes = family.at(places[place].at);
        const Eigen::Matrix3d j = shapes.slope.transpose() * nodes; // rows: by the parameters
        const ByNode<3> by = shapes.slope * j.inverse().transpose();
        const auto s = stresses.col(static_cast<Eigen::Index>(place));
        Eigen::Matrix3d stress;
        stress << s[0], s[3], s[5], s[3], s[1], s[4], s[5], s[4], s[2];
        each += places[place].weight * j.determinant() * (by * stress * by.transpose());
    }
    Eigen::MatrixXd sum = Eigen::MatrixXd::Zero(element.unknowns(), element.unknowns());
    for (Eigen::Index row = 0; row < each.rows(); ++row)
        for (Eigen::Index column = 0; column < each.cols(); ++column)
            sum.block<3, 3>(3 * row, 3 * column).diagonal().setConstant(each(row, column));
    return sum;
}

} // namespace undisona
