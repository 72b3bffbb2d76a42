#pragma once
// What every family of solids is made from: its rules and polynomials. For the files of this folder alone.
#include "core/elements/solid.hpp"

#include <array>
#include <cmath>

namespace undisona::solids {

using Three = Eigen::Vector3d;

struct Place {
    Three at; ///< brick -1...1 each; tetrahedron and wedge: shares of the second, third (and fourth) corner
    double weight;
};

/// Gauss's points on -1...1.
inline std::vector<std::array<double, 2>> line(int n)
{
    if (n == 2) return {{-std::sqrt(1.0 / 3.0), 1.0}, {std::sqrt(1.0 / 3.0), 1.0}};
    return {{-std::sqrt(0.6), 5.0 / 9.0}, {0.0, 8.0 / 9.0}, {std::sqrt(0.6), 5.0 / 9.0}};
}

inline std::vector<Place> cubeRule(int n)
{
    std::vector<Place> places;
    for (const auto& [x, wx] : line(n))
        for (const auto& [y, wy] : line(n))
            for (const auto& [z, wz] : line(n))
                places.push_back({{x, y, z}, wx * wy * wz});
    return places;
}

/// Radon's seven points on the triangle times three along the axis, exact to the fifth degree.
inline std::vector<Place> prismRule()
{
    std::vector<Place> flat{{{1.0 / 3.0, 1.0 / 3.0, 0.0}, 9.0 / 80.0}};
    for (const double sign : {-1.0, 1.0}) {
        const double root = sign * std::sqrt(15.0), a = (6.0 + root) / 21.0, b = 1.0 - 2.0 * a,
                     weight = (155.0 + root) / 2400.0;
        flat.push_back({{a, a, 0.0}, weight});
        flat.push_back({{a, b, 0.0}, weight});
        flat.push_back({{b, a, 0.0}, weight});
    }
    std::vector<Place> places;
    for (const auto& [at, weight] : flat)
        for (const auto& [z, wz] : line(3))
            places.push_back({{at.x(), at.y(), z}, weight * wz});
    return places;
}

/// Four points, exact to the second degree; or Walkington's fourteen (2000), to the fifth. Weights add up to 1/6.
inline std::vector<Place> tetrahedronRule(bool fine)
{
    std::vector<Place> places;
    const auto vertexLike = [&](double a, double weight) {
        const double b = 1.0 - 3.0 * a;
        for (const Three& at : {Three(a, a, a), Three(b, a, a), Three(a, b, a), Three(a, a, b)})
            places.push_back({at, weight / 6.0});
    };
    if (!fine) {
        vertexLike((5.0 - std::sqrt(5.0)) / 20.0, 0.25);
        return places;
    }
    vertexLike(0.31088591926330060980, 0.11268792571801585080);
    vertexLike(0.092735250310891226402, 0.073493043116361949544);
    const double a = 0.045503704125649649492, b = 0.5 - a, weight = 0.042546020777081466438 / 6.0;
    for (const Three& at :
         {Three(a, a, b), Three(a, b, a), Three(b, a, a), Three(a, b, b), Three(b, a, b), Three(b, b, a)})
        places.push_back({at, weight});
    return places;
}

/// Values and derivatives by the three parameters, by node.
template <int nodes>
struct Shapes {
    Eigen::Matrix<double, nodes, 1> value;
    Eigen::Matrix<double, nodes, 3> slope;
};

constexpr std::array<std::array<double, 3>, 8> cubeCorner{
    {{-1, -1, -1}, {1, -1, -1}, {1, 1, -1}, {-1, 1, -1}, {-1, -1, 1}, {1, -1, 1}, {1, 1, 1}, {-1, 1, 1}}};
constexpr std::array<std::array<int, 2>, 12> cubeSide{
    {{0, 1}, {1, 2}, {2, 3}, {3, 0}, {4, 5}, {5, 6}, {6, 7}, {7, 4}, {0, 4}, {1, 5}, {2, 6}, {3, 7}}};
constexpr std::array<std::array<int, 2>, 6> tetrahedronSide{{{0, 1}, {1, 2}, {2, 0}, {0, 3}, {1, 3}, {2, 3}}};

inline Shapes<8> brick8(const Three& p)
{
    Shapes<8> s;
    for (int i = 0; i < 8; ++i) {
        const auto& c = cubeCorner[static_cast<std::size_t>(i)];
        const Three f(1 + c[0] * p.x(), 1 + c[1] * p.y(), 1 + c[2] * p.z());
        s.value[i] = f.prod() / 8.0;
        s.slope.row(i) << c[0] * f.y() * f.z() / 8.0, c[1] * f.x() * f.z() / 8.0, c[2] * f.x() * f.y() / 8.0;
    }
    return s;
}

inline Shapes<20> brick20(const Three& p)
{
    Shapes<20> s;
    for (int i = 0; i < 8; ++i) {
        const auto& c = cubeCorner[static_cast<std::size_t>(i)];
        const Three f(1 + c[0] * p.x(), 1 + c[1] * p.y(), 1 + c[2] * p.z());
        const double sum = c[0] * p.x() + c[1] * p.y() + c[2] * p.z() - 2.0;
        s.value[i] = f.prod() * sum / 8.0;
        s.slope.row(i) << c[0] * f.y() * f.z() * (sum + f.x()) / 8.0, c[1] * f.x() * f.z() * (sum + f.y()) / 8.0,
            c[2] * f.x() * f.y() * (sum + f.z()) / 8.0;
    }
    for (int side = 0; side < 12; ++side) {
        const auto &a = cubeCorner[static_cast<std::size_t>(cubeSide[static_cast<std::size_t>(side)][0])],
                   &b = cubeCorner[static_cast<std::size_t>(cubeSide[static_cast<std::size_t>(side)][1])];
        Three f, d; // a parabola along the side, linear across it
        for (int axis = 0; axis < 3; ++axis) {
            const auto k = static_cast<std::size_t>(axis);
            const bool along = a[k] != b[k];
            f[axis] = along ? 1.0 - p[axis] * p[axis] : 1.0 + a[k] * p[axis];
            d[axis] = along ? -2.0 * p[axis] : a[k];
        }
        s.value[8 + side] = f.prod() / 4.0;
        s.slope.row(8 + side) << d.x() * f.y() * f.z() / 4.0, f.x() * d.y() * f.z() / 4.0, f.x() * f.y() * d.z() / 4.0;
    }
    return s;
}

inline Shapes<10> tetrahedron10(const Three& p)
{
    Shapes<10> s;
    const Eigen::Vector4d l(1.0 - p.sum(), p.x(), p.y(), p.z());
    Eigen::Matrix<double, 4, 3> d;
    d << -1, -1, -1, 1, 0, 0, 0, 1, 0, 0, 0, 1;
    for (int i = 0; i < 4; ++i) {
        s.value[i] = l[i] * (2.0 * l[i] - 1.0);
        s.slope.row(i) = (4.0 * l[i] - 1.0) * d.row(i);
    }
    for (int k = 0; k < 6; ++k) {
        const auto [i, j] = tetrahedronSide[static_cast<std::size_t>(k)];
        s.value[4 + k] = 4.0 * l[i] * l[j];
        s.slope.row(4 + k) = 4.0 * (l[i] * d.row(j) + l[j] * d.row(i));
    }
    return s;
}

struct Prism {
    Three l;
    Eigen::Matrix<double, 3, 2> d;
    explicit Prism(const Three& p) : l(1.0 - p.x() - p.y(), p.x(), p.y()) { d << -1, -1, 1, 0, 0, 1; }
};

inline Shapes<6> wedge6(const Three& p)
{
    Shapes<6> s;
    const Prism own(p);
    for (int i = 0; i < 3; ++i)
        for (int top = 0; top < 2; ++top) {
            const double sign = top ? 1.0 : -1.0, h = (1.0 + sign * p.z()) / 2.0;
            s.value[i + 3 * top] = own.l[i] * h;
            s.slope.row(i + 3 * top) << own.d(i, 0) * h, own.d(i, 1) * h, own.l[i] * sign / 2.0;
        }
    return s;
}

inline Shapes<15> wedge15(const Three& p)
{
    Shapes<15> s;
    const Prism own(p);
    const double z = p.z(), bubble = 1.0 - z * z;
    for (int i = 0; i < 3; ++i) {
        const double l = own.l[i];
        for (int top = 0; top < 2; ++top) {
            const double sign = top ? 1.0 : -1.0, h = 1.0 + sign * z;
            const double byL = ((4.0 * l - 1.0) * h - bubble) / 2.0;
            s.value[i + 3 * top] = l * ((2.0 * l - 1.0) * h - bubble) / 2.0;
            s.slope.row(i + 3 * top) << own.d(i, 0) * byL, own.d(i, 1) * byL,
                l * ((2.0 * l - 1.0) * sign + 2.0 * z) / 2.0;
            const int j = (i + 1) % 3;
            const double both = own.l[i] * own.l[j];
            s.value[6 + i + 3 * top] = 2.0 * both * h;
            s.slope.row(6 + i + 3 * top) << 2.0 * h * (own.d(i, 0) * own.l[j] + own.l[i] * own.d(j, 0)),
                2.0 * h * (own.d(i, 1) * own.l[j] + own.l[i] * own.d(j, 1)), 2.0 * both * sign;
        }
        s.value[12 + i] = l * bubble;
        s.slope.row(12 + i) << own.d(i, 0) * bubble, own.d(i, 1) * bubble, -2.0 * z * l;
    }
    return s;
}

/// A family: its polynomials, its rules, the terms of its projected pressure.
template <SolidKind>
struct Family;
template <>
struct Family<SolidKind::tetrahedron10> {
    static constexpr int nodes = 10, pressures = 1, shears = 0;
    static Shapes<nodes> at(const Three& p) { return tetrahedron10(p); }
    static std::vector<Place> rule(bool fine) { return tetrahedronRule(fine); }
    static Three middle() { return Three::Constant(0.25); }
};
template <>
struct Family<SolidKind::brick8> {
    static constexpr int nodes = 8, pressures = 0, shears = 0;
    static Shapes<nodes> at(const Three& p) { return brick8(p); }
    static std::vector<Place> rule(bool fine) { return cubeRule(fine ? 3 : 2); }
    static Three middle() { return Three::Zero(); }
};
template <>
struct Family<SolidKind::brick20> {
    static constexpr int nodes = 20, pressures = 4, shears = 8;
    static Eigen::Matrix<double, 8, 1> shearTerms(const Three& p)
    {
        Eigen::Matrix<double, 8, 1> terms;
        terms << 1.0, p.x(), p.y(), p.z(), p.x() * p.y(), p.y() * p.z(), p.z() * p.x(), p.x() * p.y() * p.z();
        return terms;
    }
    static Shapes<nodes> at(const Three& p) { return brick20(p); }
    static std::vector<Place> rule(bool) { return cubeRule(3); }
    static Three middle() { return Three::Zero(); }
};
template <>
struct Family<SolidKind::wedge6> {
    static constexpr int nodes = 6, pressures = 0, shears = 0;
    static Shapes<nodes> at(const Three& p) { return wedge6(p); }
    static std::vector<Place> rule(bool) { return prismRule(); }
    static Three middle() { return {1.0 / 3.0, 1.0 / 3.0, 0.0}; }
};
template <>
struct Family<SolidKind::wedge15> {
    static constexpr int nodes = 15, pressures = 4, shears = 6;
    static Eigen::Matrix<double, 6, 1> shearTerms(const Three& p)
    {
        Eigen::Matrix<double, 6, 1> terms;
        terms << 1.0, p.x(), p.y(), p.z(), p.z() * p.x(), p.z() * p.y();
        return terms;
    }
    static Shapes<nodes> at(const Three& p) { return wedge15(p); }
    static std::vector<Place> rule(bool) { return prismRule(); }
    static Three middle() { return {1.0 / 3.0, 1.0 / 3.0, 0.0}; }
};

/// Calls with the family's type.
template <class Work>
auto ofFamily(SolidKind kind, const Work& work)
{
    switch (kind) {
    case SolidKind::brick8:
        return work(Family<SolidKind::brick8>());
    case SolidKind::brick20:
        return work(Family<SolidKind::brick20>());
    case SolidKind::wedge6:
        return work(Family<SolidKind::wedge6>());
    case SolidKind::wedge15:
        return work(Family<SolidKind::wedge15>());
    case SolidKind::tetrahedron10:
        break;
    }
    return work(Family<SolidKind::tetrahedron10>());
}

template <int nodes>
Eigen::Matrix<double, nodes, 3> placesOf(const SolidElement& element)
{
    Eigen::Matrix<double, nodes, 3> places;
    for (int i = 0; i < nodes; ++i)
        places.row(i) = element.node[static_cast<std::size_t>(i)].transpose();
    return places;
}

using Elasticity = Eigen::Matrix<double, 6, 6>;

inline double shearOf(const SolidElement& element)
{
    return element.modulus / (2.0 * (1.0 + element.poisson));
}

inline double bulkOf(const SolidElement& element)
{
    return element.modulus / (3.0 * (1.0 - 2.0 * element.poisson));
}

/// The part of the bulk modulus that is never projected, that of Poisson's ratio 0.3: without it the conformal motions
/// of second order, whose strains are all dilatation with no mean, would cost nothing.
inline double plainBulkOf(const SolidElement& element)
{
    return std::min(bulkOf(element), shearOf(element) * 2.0 * 1.3 / (3.0 * 0.4));
}

/// Of xx yy zz xy yz zx, with this bulk modulus.
inline Elasticity elasticityOf(const SolidElement& element, double bulk)
{
    if (element.grained) return *element.grained;
    const double shear = shearOf(element);
    Elasticity d = Elasticity::Zero();
    d.topLeftCorner<3, 3>().setConstant(bulk - 2.0 / 3.0 * shear);
    d.diagonal().head<3>().array() += 2.0 * shear;
    d.diagonal().tail<3>().setConstant(shear);
    return d;
}

/// Whether a middle of a side lies off its straight line, so that a finer rule is wanted.
template <class F>
bool isCurved(F, const SolidElement& element)
{
    if constexpr (F::nodes == 10) {
        for (std::size_t k = 0; k < 6; ++k) {
            const Three &a = element.node[tetrahedronSide[k][0]], &b = element.node[tetrahedronSide[k][1]];
            if ((element.node[4 + k] - (a + b) / 2.0).norm() > 1e-6 * (b - a).norm()) return true;
        }
    }
    return false;
}

/// Rows of B for the derivatives (nodes x 3, by x y z) of the polynomials.
template <int nodes>
Eigen::Matrix<double, 6, 3 * nodes> strainRows(const Eigen::Matrix<double, nodes, 3>& by)
{
    Eigen::Matrix<double, 6, 3 * nodes> b = Eigen::Matrix<double, 6, 3 * nodes>::Zero();
    for (int i = 0; i < nodes; ++i) {
        const double x = by(i, 0), y = by(i, 1), z = by(i, 2);
        b(0, 3 * i) = x;
        b(1, 3 * i + 1) = y;
        b(2, 3 * i + 2) = z;
        b(3, 3 * i) = y;
        b(3, 3 * i + 1) = x;
        b(4, 3 * i + 1) = z;
        b(4, 3 * i + 2) = y;
        b(5, 3 * i) = z;
        b(5, 3 * i + 2) = x;
    }
    return b;
}

/// How strains in parameters become strains in global axes, with the derivatives `inverse` of parameters by x, y, z at
/// the middle.
inline Elasticity strainTurn(const Eigen::Matrix3d& inverse)
{
    constexpr int pair[6][2] = {{0, 0}, {1, 1}, {2, 2}, {0, 1}, {1, 2}, {2, 0}};
    Elasticity t;
    for (int i = 0; i < 6; ++i)
        for (int j = 0; j < 6; ++j) {
            const int a = pair[i][0], b = pair[i][1], c = pair[j][0], d = pair[j][1];
            const double both = inverse(c, a) * inverse(d, b) + (c == d ? 0.0 : inverse(d, a) * inverse(c, b));
            t(i, j) = both * (i < 3 && j >= 3 ? 0.5 : 1.0) * (i >= 3 && j < 3 ? 2.0 : 1.0);
        }
    return t;
}

/// The element's own axes: the turn in the motion from parameters to places at its middle, which no numbering of the
/// nodes changes.
inline Eigen::Matrix3d ownAxes(const Eigen::Matrix3d& atMiddle)
{
    const Eigen::JacobiSVD<Eigen::Matrix3d> parts(atMiddle.transpose(), Eigen::ComputeFullU | Eigen::ComputeFullV);
    return parts.matrixU() * parts.matrixV().transpose();
}

} // namespace undisona::solids
