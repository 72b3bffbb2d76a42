#include "core/elements/shell.hpp"

#include "core/elements/laminate.hpp"
#include "core/elements/membrane.hpp"
#include "core/elements/plane_shapes.hpp"

#include <array>
#include <cmath>

namespace undisona {

namespace {

using namespace plane;
using Two = Eigen::Vector2d;
using Jacobian = Eigen::Matrix2d; ///< rows: derivatives of x, y by the first, by the second parameter

constexpr double shearCorrection = 5.0 / 6.0;

/// What one kind of element is made from, at any place.
class Interpolation {
public:
    explicit Interpolation(const ShellElement& element) : element_(element), corners_(element.corner.size()) {}

    std::vector<Place> fine() const { return corners_ == 4 ? squareRule(3) : triangleRule(); }
    std::vector<Place> coarse() const { return corners_ == 4 ? squareRule(2) : triangleRule(); }

    Shape corner(std::size_t i, double r, double s) const { return cornerShape(corners_, i, r, s); }
    /// 1 in the middle of the edge from corner i on, 0 on the others.
    Shape edge(std::size_t i, double r, double s) const { return edgeShape(corners_, i, r, s); }
    /// 1 in the middle, 0 all around.
    Shape bubble(double r, double s) const
    {
        if (corners_ == 4) return {(1 - r * r) * (1 - s * s), -2 * r * (1 - s * s), -2 * s * (1 - r * r)};
        return {27 * r * s * (1 - r - s), 27 * s * (1 - 2 * r - s), 27 * r * (1 - r - 2 * s)};
    }
    Jacobian jacobian(double r, double s) const
    {
        Jacobian j = Jacobian::Zero();
        for (std::size_t i = 0; i < corners_; ++i) {
            const Shape n = corner(i, r, s);
            j.row(0) += n.r * element_.corner[i].transpose();
            j.row(1) += n.s * element_.corner[i].transpose();
        }
        return j;
    }
    double thickness(double r, double s) const
    {
        double t = 0.0;
        for (std::size_t i = 0; i < corners_; ++i)
            t += corner(i, r, s).value * element_.thickness[i];
        return t;
    }
    /// An edge times its outward normal.
    Two outward(std::size_t i) const
    {
        const Two along = element_.corner[(i + 1) % corners_] - element_.corner[i];
        return {along.y(), -along.x()};
    }
    std::size_t corners() const { return corners_; }

private:
    const ShellElement& element_;
    std::size_t corners_;
};

Eigen::Index at(std::size_t corner, int which)
{
    return 6 * static_cast<Eigen::Index>(corner) + which;
}

// What lies in the face (ux uy rz) and what does not (uz rx ry) know nothing of each other: each has three unknowns a
// corner of its own, and two inside at the end.
constexpr std::array<int, 3> inFace{0, 1, 5}, outOfFace{2, 3, 4};
Eigen::Index own3(std::size_t corner, int which)
{
    return 3 * static_cast<Eigen::Index>(corner) + which;
}
using Square = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::ColMajor, 14, 14>;
using Strip = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::ColMajor, 4, 14>;

/// Both halves among the six unknowns of each corner.
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

/// The rows of one half.
Eigen::MatrixXd halfOf(const Eigen::MatrixXd& motions, const std::array<int, 3>& which)
{
    Eigen::MatrixXd half(motions.rows() / 2, motions.cols());
    for (Eigen::Index row = 0; row < half.rows(); ++row)
        half.row(row) = motions.row(6 * (row / 3) + which[static_cast<std::size_t>(row % 3)]);
    return half;
}

/// Derivatives by x and y.
Two gradient(const Jacobian& inverse, const Shape& shape)
{
    return inverse * Two(shape.r, shape.s);
}

/// The two displacements in the plane and their gradients (u,x u,y v,x v,y) by the unknowns and the bubble's two.
struct Membrane {
    Strip displacement, slopes;

    Membrane(const Interpolation& own, const Jacobian& inverse, double r, double s)
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
};

/// xx, yy, xy by u,x u,y v,x v,y.
Eigen::Matrix<double, 3, 4> strainsOfSlopes()
{
    Eigen::Matrix<double, 3, 4> strains;
    strains << 1, 0, 0, 0, 0, 0, 0, 1, 0, 1, 1, 0;
    return strains;
}

/// Adds factor b' d b.
template <int rows>
void addProduct(Square& sum, const Strip& b, const Eigen::Matrix<double, rows, rows>& d, double factor)
{
    const Strip db = factor * d.lazyProduct(b);
    sum += b.transpose().lazyProduct(db);
}

/// How the last two unknowns, which no neighbour shares, follow from the others.
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

/// Membrane and drilling, with the bubble's two.
struct MembraneStiffness {
    Square stretching;
    Eigen::RowVectorXd spin; ///< its square is the drilling stiffness
    Square both() const { return stretching + spin.transpose().lazyProduct(spin); }

    explicit MembraneStiffness(const ShellElement& element);
};

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

/// Plate: w, and the turns as bx = ry, by = -rx; the bubble's two at the end, for three corners.
class Plate {
public:
    explicit Plate(const ShellElement& element) : own_(element), count_(element.unknowns() / 2) {}

    /// Curvatures bx,x by,y bx,y + by,x.
    Strip curvature(const Jacobian& inverse, double r, double s) const
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

    /// Transverse shears xz, yz from those sampled where they are right.
    Strip shear(const Jacobian& inverse, double r, double s) const
    {
        return inverse.lazyProduct(own_.corners() == 4 ? ofFour(r, s) : ofThree(r, s));
    }

private:
    /// w,r + b . x,r and the same by s.
    Strip sampled(double r, double s) const
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
    /// Dvorkin and Bathe 1984: each along its own edges, linear between them.
    Strip ofFour(double r, double s) const
    {
        Strip g(2, count_ + 2);
        g.row(0) = (1 - s) / 2 * sampled(0, -1).row(0) + (1 + s) / 2 * sampled(0, 1).row(0);
        g.row(1) = (1 - r) / 2 * sampled(-1, 0).row(1) + (1 + r) / 2 * sampled(1, 0).row(1);
        return g;
    }
    /// Lee, Lee and Bathe 2014, with their tying points. How far the last three lie from the middle gives the twist of
    /// the turns its stiffness: as they have it next to none; here that of bending, about, so that it is no mechanism
    /// of the element and locks it no more than their choice does.
    Strip ofThree(double r, double s) const
    {
        constexpr double a = 1.0 / 6.0, b = 2.0 / 3.0, c = 1.0 / 3.0;
        const double d = std::min(a, 0.25 * own_.thickness(c, c) / std::sqrt(own_.jacobian(c, c).determinant() / 2.0));
        const Strip first = sampled(a, b), second = sampled(b, a), third = sampled(a, a),
                    fourth = sampled(c + d, c - 2 * d), fifth = sampled(c - 2 * d, c + d),
                    sixth = sampled(c + d, c + d);
        const Eigen::RowVectorXd even = (third.row(0) + third.row(1)) / 3.0,
                                 twist = sixth.row(0) - fourth.row(0) - sixth.row(1) + fifth.row(1);
        Strip g(2, count_ + 2);
        g.row(0) = 2.0 / 3.0 * (second.row(0) - second.row(1) / 2.0) + even + (3 * s - 1) / 3.0 * twist;
        g.row(1) = 2.0 / 3.0 * (first.row(1) - first.row(0) / 2.0) + even + (1 - 3 * r) / 3.0 * twist;
        return g;
    }

    Interpolation own_;
    Eigen::Index count_;
};

/// Bending and transverse shear with the inner two unknowns.
struct PlateStiffness {
    Square bending, shear;

    explicit PlateStiffness(const ShellElement& element)
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
    Square both(const ShellElement& element) const
    {
        const Square k = bending + shear;
        if (element.corner.size() == 3) return condensed(k);
        return k.topLeftCorner(element.unknowns() / 2, element.unknowns() / 2);
    }
};

/// Stretching by bending, with the inner two of each: in the face by out of the face.
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

/// An element whose stretching and bending are coupled, by the unknowns in its face, those out of it, and two inside.
struct CoupledStiffness {
    Eigen::MatrixXd whole;
    Eigen::Matrix<double, 2, Eigen::Dynamic> inner; ///< by the others

    explicit CoupledStiffness(const ShellElement& element)
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
    /// Among the six unknowns of each corner.
    Eigen::MatrixXd condensed() const
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
};

/// What of the deflection an edge's ends add by their turns rx, ry: bent as an even shear along it has it.
template <class Put>
void linkDeflection(const Interpolation& own, std::size_t edge, const Put& put)
{
    const std::size_t next = (edge + 1) % own.corners();
    const Two bulge = own.outward(edge) / 8.0; // (dy, -dx): of rx and ry
    for (int which = 0; which < 2; ++which) {
        put(own3(next, 1 + which), -bulge[which]);
        put(own3(edge, 1 + which), bulge[which]);
    }
}

/// Transverse shears xz, yz of the deflection and the turns that the mass has.
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

} // namespace

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

ShellInside insideOf(const ShellElement& element)
{
    ShellInside inside;
    if (element.membrane) return inside;
    const Eigen::Index count = element.unknowns() / 2;
    const MembraneStiffness membrane(element);
    inside.spin = membrane.spin.head(count);
    const bool inFaceItself = element.corner.size() == 4;
    if (element.elasticity.couples()) {
        const auto inner = CoupledStiffness(element).inner;
        inside.inner = inFaceItself ? inner.leftCols(count) : inner.rightCols(count);
        inside.across = inFaceItself ? inner.rightCols(count) : inner.leftCols(count);
        return inside;
    }
    if (inFaceItself) {
        inside.inner = innerByOuter(membrane.both());
        inside.spin += membrane.spin.tail<2>() * inside.inner;
    } else {
        const PlateStiffness plate(element);
        inside.inner = innerByOuter(plate.bending + plate.shear);
    }
    return inside;
}

std::vector<ShellStrains> strainsAt(const ShellElement& element, const ShellInside& inside,
                                    const Eigen::MatrixXd& motions, const std::vector<Eigen::Vector2d>& places,
                                    StrainsOf which)
{
    if (element.membrane) return strainsOfMembrane(element, motions, places, which);
    const Interpolation own(element);
    const Eigen::Index count = element.unknowns() / 2;
    Eigen::MatrixXd face = Eigen::MatrixXd::Zero(count + 2, motions.cols()), out = face;
    face.topRows(count) = halfOf(motions, inFace);
    out.topRows(count) = halfOf(motions, outOfFace);
    if (which == StrainsOf::stiffness &&
        inside.inner.size() > 0) { // what the element has inside has no part in the mass
        Eigen::MatrixXd& half = element.corner.size() == 4 ? face : out;
        half.bottomRows<2>() = inside.inner * half.topRows(count);
        if (inside.across.size() > 0)
            half.bottomRows<2>() += inside.across * (element.corner.size() == 4 ? out : face).topRows(count);
    }
    const auto strains = strainsOfSlopes();
    const Plate plate(element);
    std::vector<ShellStrains> list;
    for (const auto& place : places) {
        const double r = place.x(), s = place.y();
        const Jacobian inverse = own.jacobian(r, s).inverse();
        const Strip shear =
            which == StrainsOf::stiffness ? plate.shear(inverse, r, s) : linkedShear(own, inverse, r, s);
        list.push_back({strains * (Membrane(own, inverse, r, s).slopes * face), plate.curvature(inverse, r, s) * out,
                        shear * out});
    }
    return list;
}

ShellStrains forcesOf(const ShellElement& element, const ShellStrains& strains, double t)
{
    const PlaneElasticity& own = element.elasticity;
    return {t * own.plane * strains.membrane + t * t * own.coupling * strains.curvature,
            t * t * t / 12.0 * own.bending * strains.curvature + t * t * own.coupling * strains.membrane,
            shearCorrection * t * element.elasticity.shear * strains.shear};
}

Eigen::RowVectorXd drillingEnergy(const ShellElement& element, const ShellInside& inside,
                                  const Eigen::MatrixXd& motions)
{
    if (element.membrane) return Eigen::RowVectorXd::Zero(motions.cols());
    return (inside.spin * halfOf(motions, inFace)).cwiseAbs2() / 2.0;
}

Eigen::Vector2d middleOf(const ShellElement& element)
{
    if (element.corner.size() == 4) return {0.0, 0.0};
    return {1.0 / 3.0, 1.0 / 3.0};
}

namespace {
ShellPlaces placesAt(const ShellElement& element, const std::vector<Place>& rule)
{
    const Interpolation own(element);
    ShellPlaces list;
    list.corners.resize(static_cast<Eigen::Index>(rule.size()), static_cast<Eigen::Index>(own.corners()));
    for (const auto& [r, s, weight] : rule) {
        const auto row = static_cast<Eigen::Index>(list.places.size());
        list.places.emplace_back(0.0, 0.0);
        for (std::size_t i = 0; i < own.corners(); ++i) {
            list.corners(row, static_cast<Eigen::Index>(i)) = own.corner(i, r, s).value;
            list.places.back() += own.corner(i, r, s).value * element.corner[i];
        }
        list.parameters.emplace_back(r, s);
        list.weights.push_back(weight * own.jacobian(r, s).determinant());
        list.thickness.push_back(own.thickness(r, s));
    }
    return list;
}
} // namespace

ShellPlaces middlePlace(const ShellElement& element)
{
    const Eigen::Vector2d middle = middleOf(element);
    return placesAt(element, {{middle.x(), middle.y(), element.corner.size() == 4 ? 4.0 : 0.5}});
}

ShellPlaces coarsePlaces(const ShellElement& element)
{
    if (element.corner.size() == 4) return placesAt(element, squareRule(2));
    constexpr double a = 1.0 / 6.0, b = 2.0 / 3.0;
    return placesAt(element, {{a, a, a}, {b, a, a}, {a, b, a}});
}

ShellPlaces finePlaces(const ShellElement& element)
{
    return placesAt(element, Interpolation(element).fine());
}

Eigen::RowVectorXd energyPerArea(const ShellElement& element, const ShellStrains& strains, double t)
{
    const auto work = [](const auto& d, const auto& e) {
        return Eigen::RowVectorXd((e.array() * (d * e).array()).colwise().sum());
    };
    const PlaneElasticity& own = element.elasticity;
    Eigen::RowVectorXd twice = t * work(own.plane, strains.membrane) +
                               t * t * t / 12.0 * work(own.bending, strains.curvature) +
                               shearCorrection * t * work(own.shear, strains.shear);
    if (own.couples())
        twice += 2.0 * t * t *
                 (strains.membrane.array() * (own.coupling * strains.curvature).array()).colwise().sum().matrix();
    return twice / 2.0;
}

namespace {

ShellEnergy coupledEnergy(const ShellElement& element, const PlateStiffness& plate, const Eigen::MatrixXd& face,
                          const Eigen::MatrixXd& out)
{
    const Eigen::Index half = face.rows();
    const CoupledStiffness coupled(element);
    Eigen::MatrixXd both(2 * half, face.cols());
    both << face, out;
    const Eigen::MatrixXd inner = coupled.inner * both;
    const bool inFaceItself = element.corner.size() == 4;
    Eigen::MatrixXd allFace = Eigen::MatrixXd::Zero(half + 2, face.cols()), allOut = allFace;
    allFace.topRows(half) = face;
    allOut.topRows(half) = out;
    (inFaceItself ? allFace : allOut).bottomRows<2>() = inner;
    const auto work = [](const Eigen::MatrixXd& one, const Square& k, const Eigen::MatrixXd& other) {
        return Eigen::RowVectorXd((one.array() * (k * other).array()).colwise().sum() / 2.0);
    };
    const Eigen::RowVectorXd shared = work(allFace, couplingStiffness(element), allOut);
    return {work(allFace, MembraneStiffness(element).both(), allFace) + shared,
            work(allOut, plate.bending, allOut) + shared, work(allOut, plate.shear, allOut)};
}

} // namespace

ShellEnergy strainEnergy(const ShellElement& element, const Eigen::MatrixXd& motions)
{
    if (element.membrane) {
        const Eigen::RowVectorXd own = (motions.array() * (stiffness(element) * motions).array()).colwise().sum() / 2.0;
        return {own, Eigen::RowVectorXd::Zero(own.size()), Eigen::RowVectorXd::Zero(own.size())};
    }
    const PlateStiffness plate(element);
    const Eigen::MatrixXd face = halfOf(motions, inFace), out = halfOf(motions, outOfFace);
    if (element.elasticity.couples()) return coupledEnergy(element, plate, face, out);
    Eigen::MatrixXd all = Eigen::MatrixXd::Zero(out.rows() + 2, out.cols());
    all.topRows(out.rows()) = out;
    if (element.corner.size() == 3) all.bottomRows<2>() = innerByOuter(plate.bending + plate.shear) * out;
    const auto half = [](const Square& k, const Eigen::MatrixXd& d) {
        return Eigen::RowVectorXd((d.array() * (k * d).array()).colwise().sum() / 2.0);
    };
    return {half(membraneStiffness(element), face), half(plate.bending, all), half(plate.shear, all)};
}

} // namespace undisona
