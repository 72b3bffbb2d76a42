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

Eigen::Matrix<double, 3, Eigen::Dynamic> membraneForces(const ShellElement& element, const Eigen::VectorXd& motion,
                                                        double evenly, double across)
{
    using namespace shell_work;
    const ShellPlaces places = finePlaces(element);
    const auto count = static_cast<Eigen::Index>(places.parameters.size());
    const ShellInside inside = insideOf(element);
    Eigen::Matrix<double, 3, Eigen::Dynamic> forces(3, count);
    if (element.membrane || element.elasticity.couples()) {
        const auto strains = strainsAt(element, inside, motion, places.parameters);
        for (Eigen::Index at = 0; at < count; ++at) {
            const double t = places.thickness[static_cast<std::size_t>(at)];
            ShellStrains elastic = strains[static_cast<std::size_t>(at)];
            elastic.membrane.topRows<2>().array() -= evenly;
            elastic.curvature.topRows<2>().array() -= across / t;
            forces.col(at) = forcesOf(element, elastic, t).membrane;
        }
        return forces;
    }
    const Interpolation own(element); // what bends has no part in it
    const Eigen::Index half = element.unknowns() / 2;
    Eigen::VectorXd face = Eigen::VectorXd::Zero(half + 2);
    face.head(half) = halfOf(motion, inFace);
    if (element.corner.size() == 4) face.tail<2>() = inside.inner * face.head(half);
    for (Eigen::Index at = 0; at < count; ++at) {
        const auto& place = places.parameters[static_cast<std::size_t>(at)];
        const Jacobian inverse = own.jacobian(place.x(), place.y()).inverse();
        Eigen::Vector3d strain = strainsOfSlopes() * (Membrane(own, inverse, place.x(), place.y()).slopes * face);
        strain.head<2>().array() -= evenly;
        forces.col(at) = places.thickness[static_cast<std::size_t>(at)] * element.elasticity.plane * strain;
    }
    return forces;
}

Eigen::MatrixXd stressStiffness(const ShellElement& element, const Eigen::Matrix<double, 3, Eigen::Dynamic>& forces)
{
    using namespace shell_work;
    const Interpolation own(element);
    const auto places = own.fine();
    const auto corners = static_cast<Eigen::Index>(own.corners());
    // Shifts in the face by the corners' shapes, the same along x and y; the deflection by its three unknowns too.
    Eigen::MatrixXd inside = Eigen::MatrixXd::Zero(corners, corners),
                    out = Eigen::MatrixXd::Zero(3 * corners, 3 * corners);
    Eigen::Matrix<double, 2, Eigen::Dynamic> shift(2, corners), deflection(2, 3 * corners); // slopes by x, by y
    for (std::size_t place = 0; place < places.size(); ++place) {
        const auto& [r, s, weight] = places[place];
        const Jacobian j = own.jacobian(r, s), inverse = j.inverse();
        deflection.setZero();
        for (std::size_t i = 0; i < own.corners(); ++i) {
            shift.col(static_cast<Eigen::Index>(i)) = gradient(inverse, own.corner(i, r, s));
            deflection.col(own3(i, 0)) += shift.col(static_cast<Eigen::Index>(i));
            if (element.membrane) continue;
            const Two bulge = gradient(inverse, own.edge(i, r, s));
            linkDeflection(own, i,
                           [&](Eigen::Index unknown, double factor) { deflection.col(unknown) += factor * bulge; });
        }
        const Eigen::Vector3d n = weight * j.determinant() * forces.col(static_cast<Eigen::Index>(place));
        Eigen::Matrix2d stress;
        stress << n[0], n[2], n[2], n[1];
        inside.noalias() += shift.transpose().lazyProduct(stress.lazyProduct(shift).eval());
        out.noalias() += deflection.transpose().lazyProduct(stress.lazyProduct(deflection).eval());
    }
    Eigen::MatrixXd sum = Eigen::MatrixXd::Zero(element.unknowns(), element.unknowns());
    for (Eigen::Index a = 0; a < corners; ++a)
        for (Eigen::Index b = 0; b < corners; ++b) {
            sum(6 * a, 6 * b) = sum(6 * a + 1, 6 * b + 1) = inside(a, b);
            for (Eigen::Index one = 0; one < 3; ++one)
                for (Eigen::Index other = 0; other < 3; ++other)
                    sum(6 * a + outOfFace[static_cast<std::size_t>(one)],
                        6 * b + outOfFace[static_cast<std::size_t>(other)]) = out(3 * a + one, 3 * b + other);
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
