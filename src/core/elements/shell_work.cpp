#include "core/elements/shell_work.hpp"

namespace undisona::shell_work {

Eigen::MatrixXd together(const Square& face, const Square& out)
{
    const Eigen::Index corners = face.cols() / 3;
    Eigen::MatrixXd all = Eigen::MatrixXd::Zero(6 * corners, 6 * corners);
    for (Eigen::Index a = 0; a < 3 * corners; ++a)
        for (Eigen::Index b = 0; b < 3 * corners; ++b) {
            const auto i = static_cast<std::size_t>(a % 3), j = static_cast<std::size_t>(b % 3);
            all(6 * (a / 3) + inFace[i], 6 * (b / 3) + inFace[j]) = face(a, b);
            all(6 * (a / 3) + outOfFace[i], 6 * (b / 3) + outOfFace[j]) = out(a, b);
        }
    return all;
}

Eigen::MatrixXd halfOf(const Eigen::MatrixXd& motions, const std::array<int, 3>& which)
{
    Eigen::MatrixXd half(motions.rows() / 2, motions.cols());
    for (Eigen::Index row = 0; row < half.rows(); ++row)
        half.row(row) = motions.row(6 * (row / 3) + which[static_cast<std::size_t>(row % 3)]);
    return half;
}

Two gradient(const Jacobian& inverse, const Shape& shape)
{
    return inverse * Two(shape.r, shape.s);
}

Eigen::Matrix<double, 3, 4> strainsOfSlopes()
{
    Eigen::Matrix<double, 3, 4> strains;
    strains << 1, 0, 0, 0, 0, 0, 0, 1, 0, 1, 1, 0;
    return strains;
}

Strip innerByOuter(const Square& k)
{
    const Eigen::Index outer = k.cols() - 2;
    return -k.bottomRightCorner<2, 2>().ldlt().solve(k.bottomLeftCorner(2, outer));
}

Square condensed(const Square& k)
{
    const Eigen::Index outer = k.cols() - 2;
    const Square less = k.topLeftCorner(outer, outer) + k.topRightCorner(outer, 2).lazyProduct(innerByOuter(k));
    return (less + less.transpose()) / 2.0;
}

MembraneStiffness::MembraneStiffness(const ShellElement& element)
{
    const Interpolation own(element);
    const Eigen::Index count = element.unknowns() / 2;
    const auto strains = strainsOfSlopes();
    stretching.setZero(count + 2, count + 2);
    spin.setZero(count + 2); // integral of the rotation less the turn
    double volume = 0.0, area = 0.0;
    for (const auto& [r, s, weight] : own.fine()) {
        const Jacobian j = own.jacobian(r, s);
        const double da = weight * j.determinant();
        const Membrane field(own, j.inverse(), r, s);
        addProduct<3>(stretching, strains.lazyProduct(field.slopes), element.elasticity.plane,
                      own.thickness(r, s) * da);
        spin += da / 2.0 * (field.slopes.row(2) - field.slopes.row(1));
        for (std::size_t i = 0; i < own.corners(); ++i)
            spin[own3(i, 2)] -= da * own.corner(i, r, s).value;
        volume += own.thickness(r, s) * da;
        area += da;
    }
    spin *= std::sqrt(element.drilling * element.elasticity.plane(2, 2) * volume) / area;
}

Square membraneStiffness(const ShellElement& element)
{
    const Square k = MembraneStiffness(element).both();
    return element.corner.size() == 4 ? condensed(k)
                                      : Square(k.topLeftCorner(element.unknowns() / 2, element.unknowns() / 2));
}

Square couplingStiffness(const ShellElement& element)
{
    const Interpolation own(element);
    const Plate plate(element);
    const Eigen::Index count = element.unknowns() / 2;
    const auto strains = strainsOfSlopes();
    Square sum = Square::Zero(count + 2, count + 2);
    for (const auto& [r, s, weight] : own.fine()) {
        const Jacobian j = own.jacobian(r, s), inverse = j.inverse();
        const double t = own.thickness(r, s);
        const Strip stretched = strains.lazyProduct(Membrane(own, inverse, r, s).slopes);
        const Strip turned =
            weight * j.determinant() * t * t * element.elasticity.coupling.lazyProduct(plate.curvature(inverse, r, s));
        sum += stretched.transpose().lazyProduct(turned);
    }
    return sum;
}

Strip linkedShear(const Interpolation& own, const Jacobian& inverse, double r, double s)
{
    Strip shear = Strip::Zero(2, 3 * Eigen::Index(own.corners()) + 2);
    for (std::size_t i = 0; i < own.corners(); ++i) {
        const Shape n = own.corner(i, r, s);
        shear.col(own3(i, 0)) += gradient(inverse, n);
        shear(0, own3(i, 2)) += n.value;
        shear(1, own3(i, 1)) -= n.value;
        const Two slope = gradient(inverse, own.edge(i, r, s));
        linkDeflection(own, i, [&](Eigen::Index unknown, double factor) { shear.col(unknown) += factor * slope; });
    }
    return shear;
}

Membrane::Membrane(const Interpolation& own, const Jacobian& inverse, double r, double s)
{
    const auto count = static_cast<Eigen::Index>(3 * own.corners());
    displacement.setZero(2, count + 2);
    slopes.setZero(4, count + 2);
    const auto put = [&](Eigen::Index column, const Shape& shape, const Two& factor) {
        const Two by = gradient(inverse, shape);
        displacement.col(column) += shape.value * factor;
        slopes.col(column) +=
            Eigen::Vector4d(factor.x() * by.x(), factor.x() * by.y(), factor.y() * by.x(), factor.y() * by.y());
    };
    for (std::size_t i = 0; i < own.corners(); ++i) {
        const std::size_t next = (i + 1) % own.corners();
        put(own3(i, 0), own.corner(i, r, s), Two::UnitX());
        put(own3(i, 1), own.corner(i, r, s), Two::UnitY());
        const Two bulge = own.outward(i) / 8.0; // of the edge, for a turn of its second end beyond the first's
        put(own3(next, 2), own.edge(i, r, s), bulge);
        put(own3(i, 2), own.edge(i, r, s), -bulge);
    }
    if (own.corners() == 4) {
        put(count, own.bubble(r, s), Two::UnitX());
        put(count + 1, own.bubble(r, s), Two::UnitY());
    }
}

Strip Plate::curvature(const Jacobian& inverse, double r, double s) const
{
    Strip b = Strip::Zero(3, count_ + 2);
    const auto put = [&](Eigen::Index ofX, Eigen::Index ofY, double signY, const Shape& shape) {
        const Two by = gradient(inverse, shape);
        b(0, ofX) += by.x();
        b(2, ofX) += by.y();
        b(1, ofY) += signY * by.y();
        b(2, ofY) += signY * by.x();
    };
    for (std::size_t i = 0; i < own_.corners(); ++i)
        put(own3(i, 2), own3(i, 1), -1.0, own_.corner(i, r, s));
    if (own_.corners() == 3) put(count_, count_ + 1, 1.0, own_.bubble(r, s));
    return b;
}

Strip Plate::shear(const Jacobian& inverse, double r, double s) const
{
    return inverse.lazyProduct(own_.corners() == 4 ? ofFour(r, s) : ofThree(r, s));
}

Strip Plate::sampled(double r, double s) const
{
    const Jacobian j = own_.jacobian(r, s);
    Strip g = Strip::Zero(2, count_ + 2);
    for (std::size_t i = 0; i < own_.corners(); ++i) {
        const Shape n = own_.corner(i, r, s);
        g.col(own3(i, 0)) += Two(n.r, n.s);
        g.col(own3(i, 2)) += n.value * j.col(0);
        g.col(own3(i, 1)) -= n.value * j.col(1);
    }
    if (own_.corners() == 3) g.rightCols<2>() = own_.bubble(r, s).value * j;
    return g;
}

Strip Plate::ofFour(double r, double s) const
{
    Strip g(2, count_ + 2);
    g.row(0) = (1 - s) / 2 * sampled(0, -1).row(0) + (1 + s) / 2 * sampled(0, 1).row(0);
    g.row(1) = (1 - r) / 2 * sampled(-1, 0).row(1) + (1 + r) / 2 * sampled(1, 0).row(1);
    return g;
}

Strip Plate::ofThree(double r, double s) const
{
    constexpr double a = 1.0 / 6.0, b = 2.0 / 3.0, c = 1.0 / 3.0;
    const double d = std::min(a, 0.25 * own_.thickness(c, c) / std::sqrt(own_.jacobian(c, c).determinant() / 2.0));
    const Strip first = sampled(a, b), second = sampled(b, a), third = sampled(a, a),
                fourth = sampled(c + d, c - 2 * d), fifth = sampled(c - 2 * d, c + d), sixth = sampled(c + d, c + d);
    const Eigen::RowVectorXd even = (third.row(0) + third.row(1)) / 3.0,
                             twist = sixth.row(0) - fourth.row(0) - sixth.row(1) + fifth.row(1);
    Strip g(2, count_ + 2);
    g.row(0) = 2.0 / 3.0 * (second.row(0) - second.row(1) / 2.0) + even + (3 * s - 1) / 3.0 * twist;
    g.row(1) = 2.0 / 3.0 * (first.row(1) - first.row(0) / 2.0) + even + (1 - 3 * r) / 3.0 * twist;
    return g;
}

PlateStiffness::PlateStiffness(const ShellElement& element)
{
    const Interpolation own(element);
    const Plate plate(element);
    const Eigen::Index count = element.unknowns() / 2;
    const Eigen::Matrix3d flexure = element.elasticity.bending / 12.0;
    bending.setZero(count + 2, count + 2);
    shear.setZero(count + 2, count + 2);
    for (const auto& [r, s, weight] : own.coarse()) {
        const Jacobian j = own.jacobian(r, s), inverse = j.inverse();
        const double da = weight * j.determinant(), t = own.thickness(r, s);
        addProduct<3>(bending, plate.curvature(inverse, r, s), flexure, t * t * t * da);
        addProduct<2>(shear, plate.shear(inverse, r, s), element.elasticity.shear, shearCorrection * t * da);
    }
}

Square PlateStiffness::both(const ShellElement& element) const
{
    const Square k = bending + shear;
    if (element.corner.size() == 3) return condensed(k);
    return k.topLeftCorner(element.unknowns() / 2, element.unknowns() / 2);
}

CoupledStiffness::CoupledStiffness(const ShellElement& element)
{
    const Eigen::Index half = element.unknowns() / 2, all = 2 * half;
    const PlateStiffness plate(element);
    const Square face = MembraneStiffness(element).both(), out = plate.bending + plate.shear,
                 across = couplingStiffness(element);
    whole.setZero(all + 2, all + 2);
    whole.topLeftCorner(half, half) = face.topLeftCorner(half, half);
    whole.block(half, half, half, half) = out.topLeftCorner(half, half);
    whole.block(0, half, half, half) = across.topLeftCorner(half, half);
    if (element.corner.size() == 4) {
        whole.block(0, all, half, 2) = face.topRightCorner(half, 2);
        whole.block(half, all, half, 2) = across.bottomLeftCorner(2, half).transpose();
        whole.bottomRightCorner<2, 2>() = face.bottomRightCorner<2, 2>();
    } else {
        whole.block(half, all, half, 2) = out.topRightCorner(half, 2);
        whole.block(0, all, half, 2) = across.topRightCorner(half, 2);
        whole.bottomRightCorner<2, 2>() = out.bottomRightCorner<2, 2>();
    }
    whole = Eigen::MatrixXd(whole.selfadjointView<Eigen::Upper>());
    inner = -whole.bottomRightCorner<2, 2>().ldlt().solve(whole.bottomLeftCorner(2, all));
}

Eigen::MatrixXd CoupledStiffness::condensed() const
{
    const Eigen::Index all = whole.cols() - 2, half = all / 2;
    const Eigen::MatrixXd less = whole.topLeftCorner(all, all) + whole.topRightCorner(all, 2) * inner;
    const auto place = [half](Eigen::Index own) {
        const auto which = static_cast<std::size_t>(own % 3);
        return 6 * (own % half / 3) + (own < half ? inFace[which] : outOfFace[which]);
    };
    Eigen::MatrixXd k(all, all);
    for (Eigen::Index a = 0; a < all; ++a)
        for (Eigen::Index b = 0; b < all; ++b)
            k(place(a), place(b)) = (less(a, b) + less(b, a)) / 2.0;
    return k;
}

} // namespace undisona::shell_work
