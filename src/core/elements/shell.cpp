#include "core/elements/shell.hpp"

#include "core/elements/membrane.hpp"
#include "core/elements/shell_work.hpp"

namespace undisona {

using namespace shell_work;

PlaneElasticity PlaneElasticity::seenFrom(double angle) const
{
    const double c = std::cos(angle), s = std::sin(angle);
    Eigen::Matrix3d strains; // of the own directions by those of the turned ones
    strains << c * c, s * s, -c * s, s * s, c * c, c * s, 2 * c * s, -2 * c * s, c * c - s * s;
    Eigen::Matrix2d turn;
    turn << c, -s, s, c;
    return {strains.transpose() * plane * strains, strains.transpose() * bending * strains,
            strains.transpose() * coupling * strains, turn.transpose() * shear * turn};
}

PlaneElasticity planeElasticity(const Material& material)
{
    if (material.layers) return laminateElasticity(*material.layers);
    const double across = material.grain ? material.grain->across : material.modulus;
    const double nu = material.poisson, back = nu * across / material.modulus, scale = 1.0 / (1.0 - nu * back);
    const double rolling = material.grain ? material.grain->rolling : material.shearModulus();
    Eigen::Matrix3d plane;
    plane << scale * material.modulus, scale * nu * across, 0.0, scale * nu * across, scale * across, 0.0, 0.0, 0.0,
        material.shearModulus();
    return {plane, plane, Eigen::Matrix3d::Zero(), rolling * Eigen::Matrix2d::Identity()};
}

double ShellElement::area() const
{
    double twice = 0.0;
    for (std::size_t i = 0; i < corner.size(); ++i) {
        const Two &a = corner[i], &b = corner[(i + 1) % corner.size()];
        twice += a.x() * b.y() - a.y() * b.x();
    }
    return twice / 2.0;
}

Eigen::MatrixXd stiffness(const ShellElement& element)
{
    if (element.membrane) return stiffnessOfMembrane(element);
    if (element.elasticity.couples()) return CoupledStiffness(element).condensed();
    return together(membraneStiffness(element), PlateStiffness(element).both(element));
}

namespace {

/// Of a weight per area, or per volume of what is as thick as the element.
enum class Weight { perArea, perVolume };

/// What a place of the rule stands for, m2 or m3.
double extentAt(const Interpolation& own, const Place& place, Weight per)
{
    const double area = place.weight * own.jacobian(place.r, place.s).determinant();
    return per == Weight::perArea ? area : area * own.thickness(place.r, place.s);
}

Eigen::MatrixXd integral(const ShellElement& element, const Eigen::Matrix3d& weight, Weight per)
{
    const Interpolation own(element);
    Eigen::MatrixXd sum = Eigen::MatrixXd::Zero(element.unknowns(), element.unknowns());
    for (const Place& place : own.fine()) {
        const double r = place.r, s = place.s, da = extentAt(own, place, per);
        Eigen::Matrix<double, 3, Eigen::Dynamic> motion = Eigen::MatrixXd::Zero(3, element.unknowns());
        for (std::size_t i = 0; i < own.corners(); ++i) {
            motion.middleCols<3>(at(i, 0)) = own.corner(i, r, s).value * Eigen::Matrix3d::Identity();
            const double bulge = own.edge(i, r, s).value;
            linkDeflection(own, i, [&](Eigen::Index unknown, double factor) {
                motion(2, 6 * (unknown / 3) + outOfFace[static_cast<std::size_t>(unknown % 3)]) += factor * bulge;
            });
        }
        sum += da * motion.transpose() * weight * motion;
    }
    return sum;
}

Eigen::MatrixXd lumpedIntegral(const ShellElement& element, const Eigen::Matrix3d& weight, Weight per)
{
    const Interpolation own(element);
    Eigen::MatrixXd sum = Eigen::MatrixXd::Zero(element.unknowns(), element.unknowns());
    for (const Place& place : own.fine()) {
        const double r = place.r, s = place.s, da = extentAt(own, place, per);
        for (std::size_t i = 0; i < own.corners(); ++i)
            sum.block<3, 3>(at(i, 0), at(i, 0)) += da * own.corner(i, r, s).value * weight;
    }
    return sum;
}

} // namespace

Eigen::MatrixXd consistentMass(const ShellElement& element)
{
    if (element.acts) return integral(element, element.density * *element.acts, Weight::perVolume);
    const Interpolation own(element);
    const Eigen::Index count = element.unknowns() / 2;
    Square face = Square::Zero(count, count), out = face;
    for (const auto& [r, s, weight] : own.fine()) {
        const Jacobian j = own.jacobian(r, s);
        const double t = own.thickness(r, s), mass = weight * j.determinant() * element.density * t;
        const Membrane field(own, j.inverse(), r, s);
        addProduct<2>(face, field.displacement.leftCols(count), Eigen::Matrix2d::Identity(), mass);
        Strip normal = Strip::Zero(3, count);
        for (std::size_t i = 0; i < own.corners(); ++i) {
            for (int which = 0; which < 3; ++which)
                normal(which, own3(i, which)) = own.corner(i, r, s).value;
            const double bulge = own.edge(i, r, s).value;
            linkDeflection(own, i, [&](Eigen::Index unknown, double factor) { normal(0, unknown) += factor * bulge; });
        }
        addProduct<3>(out, normal, Eigen::Vector3d(1.0, t * t / 12.0, t * t / 12.0).asDiagonal().toDenseMatrix(), mass);
    }
    return together((face + face.transpose()) / 2.0, (out + out.transpose()) / 2.0);
}

Eigen::MatrixXd lumpedMass(const ShellElement& element)
{
    if (element.acts) return lumpedIntegral(element, element.density * *element.acts, Weight::perVolume);
    const Interpolation own(element);
    Eigen::VectorXd diagonal = Eigen::VectorXd::Zero(element.unknowns());
    for (const auto& [r, s, weight] : own.fine()) {
        const double da = weight * own.jacobian(r, s).determinant(), t = own.thickness(r, s);
        for (std::size_t i = 0; i < own.corners(); ++i) {
            const double share = da * own.corner(i, r, s).value;
            diagonal.segment<3>(at(i, 0)).array() += share * element.density * t;
            diagonal.segment<3>(at(i, 3)).array() += share * element.density * t * t * t / 12.0;
        }
    }
    return diagonal.asDiagonal();
}

Eigen::MatrixXd overArea(const ShellElement& element, const Eigen::Matrix3d& perArea)
{
    return integral(element, perArea, Weight::perArea);
}

Eigen::MatrixXd lumpedOverArea(const ShellElement& element, const Eigen::Matrix3d& perArea)
{
    return lumpedIntegral(element, perArea, Weight::perArea);
}

} // namespace undisona
