#include "core/elements/stress_stiffness.hpp"

#include "core/elements/shell_work.hpp"
#include "core/elements/solid_family.hpp"

namespace undisona {

Matrix12 stressStiffness(const MemberElement& member, const std::array<Eigen::Matrix<double, 6, 1>, 2>& forces)
{
    // The second variation of the work of axial stress and shear stress on Green's strains of r = x + u + R(t) s, with
    // s the place in the section; terms of the size of strains beside one are left out.
    // Three places are enough for the fourth powers of cubic interpolations' slopes times a linear force.
    constexpr std::array<std::array<double, 2>, 3> rule{
        {{0.11270166537925831, 5.0 / 18.0}, {0.5, 8.0 / 18.0}, {0.88729833462074169, 5.0 / 18.0}}};
    const double radiusSquared = member.rod ? 0.0 : (member.bending[0] + member.bending[1]) / member.axial;
    const Eigen::Matrix<double, 6, 1> change = forces[1] - forces[0];
    Matrix12 half = Matrix12::Zero(); // its symmetric part is half of the sum
    for (const auto& [share, weight] : rule) {
        const auto motion = interpolation(member, share), slopes = interpolationSlopes(member, share);
        Eigen::Matrix<double, 6, 1> f = (1.0 - share) * forces[0] + share * forces[1];
        const double bow = share * (1.0 - share) * member.length / 2.0; // M1' = V2, M2' = -V1
        f[4] -= bow * change[2];
        f[5] += bow * change[1];
        f *= weight * member.length;
        const auto slope1 = slopes.row(1), slope2 = slopes.row(2), rate = slopes.row(3);
        half += 0.5 * f[0] *
                (slope1.transpose() * slope1 + slope2.transpose() * slope2 + radiusSquared * rate.transpose() * rate);
        if (member.rod) continue;
        const auto twist = motion.row(3), turn1 = motion.row(4), turn2 = motion.row(5);
        const auto stretch = slopes.row(0), bend1 = slopes.row(4), bend2 = slopes.row(5);
        half += rate.transpose() * (0.5 * (f[4] * turn2 - f[5] * turn1) - f[4] * slope1 - f[5] * slope2) +
                twist.transpose() * (0.5 * (f[4] * bend2 - f[5] * bend1 + f[1] * turn1 + f[2] * turn2) + f[1] * slope2 -
                                     f[2] * slope1) +
                stretch.transpose() * (f[4] * bend1 + f[5] * bend2 + f[2] * turn1 - f[1] * turn2) +
                0.5 * f[3] * (turn2.transpose() * bend1 - turn1.transpose() * bend2);
    }
    return half + half.transpose();
}

Eigen::Matrix3d armStiffness(const Eigen::Vector3d& arm, const Eigen::Vector3d& force)
{
    const Eigen::Matrix3d both = force * arm.transpose();
    return force.dot(arm) * Eigen::Matrix3d::Identity() - (both + both.transpose()) / 2.0;
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
