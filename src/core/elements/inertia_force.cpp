#include "core/elements/inertia_force.hpp"

#include "core/elements/shell_work.hpp"

namespace undisona {

Eigen::VectorXd inertiaForce(const ShellElement& element, const Eigen::VectorXd& motion)
{
    using namespace shell_work;
    const Interpolation own(element);
    const Eigen::Index count = element.unknowns() / 2;
    const Eigen::VectorXd face = halfOf(motion, inFace), out = halfOf(motion, outOfFace);
    Eigen::VectorXd onFace = Eigen::VectorXd::Zero(count), onOut = onFace;
    Strip normal(3, count);
    for (const auto& [r, s, weight] : own.fine()) {
        const Jacobian j = own.jacobian(r, s);
        const double t = own.thickness(r, s), mass = weight * j.determinant() * element.density * t;
        const Membrane field(own, j.inverse(), r, s);
        const auto shifts = field.displacement.leftCols(count);
        onFace.noalias() += shifts.transpose() * (mass * (shifts * face)).eval();
        normal.setZero();
        for (std::size_t i = 0; i < own.corners(); ++i) {
            for (int which = 0; which < 3; ++which)
                normal(which, own3(i, which)) = own.corner(i, r, s).value;
            const double bulge = own.edge(i, r, s).value;
            linkDeflection(own, i, [&](Eigen::Index unknown, double factor) { normal(0, unknown) += factor * bulge; });
        }
        Eigen::Vector3d carried = mass * (normal * out);
        carried.tail<2>() *= t * t / 12.0;
        onOut.noalias() += normal.transpose() * carried;
    }
    Eigen::VectorXd forces(element.unknowns());
    for (std::size_t i = 0; i < own.corners(); ++i)
        for (int which = 0; which < 3; ++which) {
            forces[at(i, inFace[static_cast<std::size_t>(which)])] = onFace[own3(i, which)];
            forces[at(i, outOfFace[static_cast<std::size_t>(which)])] = onOut[own3(i, which)];
        }
    return forces;
}

} // namespace undisona
