#include "core/elements/member.hpp"

namespace undisona {

namespace {

/// Places in the vector of unknowns of bending along axis 1 or 2: v, its rotation, at both ends; and the sign
/// that makes the rotation equal to dv/dx.
struct BendingPlane {
    std::array<int, 4> at;
    double sign;
};
constexpr BendingPlane planes[2] = {{{1, 5, 7, 11}, 1.0}, {{2, 4, 8, 10}, -1.0}};

/// From the centroid's unknowns to those of the shear centre: v_s = v - s2 rx, w_s = w + s1 rx.
Matrix12 toShearCentre(const MemberElement& member)
{
    Matrix12 move = Matrix12::Identity();
    for (const int node : {0, 6}) {
        move(node + 1, node + 3) = -member.shearCentre[1];
        move(node + 2, node + 3) = member.shearCentre[0];
    }
    return move;
}

/// Four-point Gauss rule on 0...1: exact for the sixth powers that the mass needs.
struct GaussPoint {
    double share, weight;
};
constexpr GaussPoint gauss[4] = {{0.06943184420297371, 0.17392742256872692},
                                 {0.33000947820757187, 0.32607257743127307},
                                 {0.66999052179242813, 0.32607257743127307},
                                 {0.93056815579702629, 0.17392742256872692}};

} // namespace

double MemberElement::shearParameter(int along) const
{
    const auto a = static_cast<std::size_t>(along);
    return shear[a] > 0.0 ? 12.0 * bending[1 - a] / (shear[a] * length * length) : 0.0;
}

MemberElement memberElement(const Section& section, const Material& material, double length, double massFactor)
{
    const double e = material.modulus, g = material.shearModulus(), rho = massFactor * material.density;
    const double c = std::cos(section.principalAngle), s = std::sin(section.principalAngle);
    const auto [ys, zs] = section.shearCentre;
    return {length,
            e * section.area,
            g * section.torsion,
            {e * section.i1, e * section.i2},
            {g * section.shearArea(0, material.poisson), g * section.shearArea(1, material.poisson)},
            {c * ys + s * zs, -s * ys + c * zs},
            rho * section.area,
            {rho * section.polarMoment(), rho * section.i1, rho * section.i2}};
}

Eigen::Matrix3d principalAxes(const Section& section, const Eigen::Vector3d& x, const Eigen::Vector3d& z)
{
    const Eigen::Vector3d y = z.cross(x);
    const double c = std::cos(section.principalAngle), s = std::sin(section.principalAngle);
    Eigen::Matrix3d axes;
    axes << x, c * y + s * z, -s * y + c * z;
    return axes;
}

Matrix12 stiffness(const MemberElement& member)
{
    Matrix12 k = Matrix12::Zero();
    const double length = member.length;
    const auto bar = [&](int a, int b, double value) {
        k(a, a) += value;
        k(b, b) += value;
        k(a, b) -= value;
        k(b, a) -= value;
    };
    bar(0, 6, member.axial / length);
    if (member.rod) return k;
    bar(3, 9, member.twisting / length);
    for (int along = 0; along < 2; ++along) {
        const double phi = member.shearParameter(along);
        const double ei = member.bending[static_cast<std::size_t>(1 - along)] / (1.0 + phi);
        const double a = 12.0 * ei / std::pow(length, 3), b = 6.0 * ei / std::pow(length, 2);
        const double c = (4.0 + phi) * ei / length, d = (2.0 - phi) * ei / length;
        Eigen::Matrix4d plane;
        plane << a, b, -a, b, b, c, -b, d, -a, -b, a, -b, b, d, -b, c;
        const Eigen::Vector4d sign(1.0, planes[along].sign, 1.0, planes[along].sign);
        for (int i = 0; i < 4; ++i)
            for (int j = 0; j < 4; ++j)
                k(planes[along].at[static_cast<std::size_t>(i)], planes[along].at[static_cast<std::size_t>(j)]) +=
                    sign[i] * sign[j] * plane(i, j);
    }
    const Matrix12 move = toShearCentre(member);
    return move.transpose() * k * move;
}

Eigen::Matrix<double, 6, 12> interpolation(const MemberElement& member, double x)
{
    Eigen::Matrix<double, 6, 12> n = Eigen::Matrix<double, 6, 12>::Zero();
    const double length = member.length;
    if (member.rod) {
        n.block<3, 3>(0, 0).diagonal().setConstant(1.0 - x);
        n.block<3, 3>(0, 6).diagonal().setConstant(x);
        return n;
    }
    for (const int row : {0, 3}) {
        n(row, row) = 1.0 - x;
        n(row, row + 6) = x;
    }
    for (int along = 0; along < 2; ++along) {
        const double phi = member.shearParameter(along), scale = 1.0 / (1.0 + phi);
        const double x2 = x * x, x3 = x2 * x;
        const double displacement[4] = {1 - 3 * x2 + 2 * x3 + phi * (1 - x),
                                        length * (x - 2 * x2 + x3 + phi / 2 * (x - x2)), 3 * x2 - 2 * x3 + phi * x,
                                        length * (-x2 + x3 + phi / 2 * (x2 - x))};
        const double rotation[4] = {6 / length * (x2 - x), 1 - 4 * x + 3 * x2 + phi * (1 - x), 6 / length * (x - x2),
                                    -2 * x + 3 * x2 + phi * x};
        const double sign = planes[along].sign;
        for (int i = 0; i < 4; ++i) {
            const int column = planes[along].at[static_cast<std::size_t>(i)];
            const double ownSign = i % 2 ? sign : 1.0;
            n(1 + along, column) = scale * displacement[i] * ownSign;
            n(5 - along, column) = scale * rotation[i] * sign * ownSign;
        }
    }
    Eigen::Matrix<double, 6, 6> back = Eigen::Matrix<double, 6, 6>::Identity(); // from the shear centre to the centroid
    back(1, 3) = member.shearCentre[1];
    back(2, 3) = -member.shearCentre[0];
    return back * n * toShearCentre(member);
}

Eigen::Matrix<double, 6, 12> interpolationSlopes(const MemberElement& member, double x)
{
    // By differences over five places, which are exact for a cubic.
    constexpr double step = 0.5;
    const auto at = [&](double share) { return interpolation(member, share); };
    const Eigen::Matrix<double, 6, 12> near = at(x + step) - at(x - step), far = at(x + 2 * step) - at(x - 2 * step);
    return (8.0 * near - far) / (12.0 * step * member.length);
}

Matrix12 consistentMass(const MemberElement& member)
{
    if (member.acts) return alongLength(member, member.massPerLength * *member.acts);
    Eigen::Matrix<double, 6, 1> perLength;
    perLength << member.massPerLength, member.massPerLength, member.massPerLength, member.inertiaPerLength[0],
        member.inertiaPerLength[1], member.inertiaPerLength[2];
    Matrix12 mass = Matrix12::Zero();
    for (const auto& point : gauss) {
        const auto n = interpolation(member, point.share);
        mass += point.weight * member.length * n.transpose() * perLength.asDiagonal() * n;
    }
    return mass;
}

Matrix12 lumpedMass(const MemberElement& member)
{
    if (member.acts) return lumpedAlongLength(member, member.massPerLength * *member.acts);
    Vector12 half = Vector12::Zero();
    for (const int node : {0, 6}) {
        half.segment<3>(node).setConstant(member.massPerLength);
        for (int axis = 0; axis < 3 && !member.rod; ++axis)
            half[node + 3 + axis] = member.inertiaPerLength[static_cast<std::size_t>(axis)];
    }
    return Matrix12((half * member.length / 2.0).asDiagonal());
}

Matrix12 alongLength(const MemberElement& member, const Eigen::Matrix3d& perLength)
{
    Matrix12 sum = Matrix12::Zero();
    for (const auto& point : gauss) {
        const Eigen::Matrix<double, 3, 12> n = interpolation(member, point.share).topRows<3>();
        sum += point.weight * member.length * n.transpose() * perLength * n;
    }
    return sum;
}

Matrix12 lumpedAlongLength(const MemberElement& member, const Eigen::Matrix3d& perLength)
{
    Matrix12 sum = Matrix12::Zero();
    for (const int node : {0, 6})
        sum.block<3, 3>(node, node) = perLength * member.length / 2.0;
    return sum;
}

StrainEnergy strainEnergy(const MemberElement& member, const Vector12& atCentroid)
{
    if (member.rod) {
        StrainEnergy energy;
        energy.axial = member.axial / member.length * std::pow(atCentroid[6] - atCentroid[0], 2) / 2.0;
        return energy;
    }
    Vector12 d = atCentroid; // at the shear centre, as toShearCentre() does for matrices
    for (const int node : {0, 6}) {
        d[node + 1] -= member.shearCentre[1] * d[node + 3];
        d[node + 2] += member.shearCentre[0] * d[node + 3];
    }
    const double length3 = member.length * member.length * member.length;
    const auto square = [](double x) { return x * x; };
    StrainEnergy energy;
    energy.axial = member.axial / member.length * square(d[6] - d[0]) / 2.0;
    energy.twisting = member.twisting / member.length * square(d[9] - d[3]) / 2.0;
    for (int along = 0; along < 2; ++along) {
        const auto& plane = planes[along];
        const double v0 = d[plane.at[0]], t0 = plane.sign * d[plane.at[1]], v1 = d[plane.at[2]],
                     t1 = plane.sign * d[plane.at[3]];
        const double ei = member.bending[static_cast<std::size_t>(1 - along)], phi = member.shearParameter(along);
        // A constant moment and a constant shear force: their energies are apart.
        const double curvature = (t1 - t0) / member.length;
        const double force = 12.0 * ei / ((1.0 + phi) * length3) * (v0 - v1 + member.length * (t0 + t1) / 2.0);
        const double shear =
            phi > 0.0 ? force * force * member.length / (2.0 * member.shear[static_cast<std::size_t>(along)]) : 0.0;
        energy.bending[static_cast<std::size_t>(along)] =
            ei * curvature * curvature * member.length / 2.0 + force * force * length3 / (24.0 * ei);
        energy.shear[static_cast<std::size_t>(along)] = shear;
    }
    return energy;
}

} // namespace undisona
