#include "core/elements/solid_family.hpp"

#include <cmath>

namespace undisona::solids {

std::vector<std::array<double, 2>> line(int n)
{
    if (n == 2) return {{-std::sqrt(1.0 / 3.0), 1.0}, {std::sqrt(1.0 / 3.0), 1.0}};
    return {{-std::sqrt(0.6), 5.0 / 9.0}, {0.0, 8.0 / 9.0}, {std::sqrt(0.6), 5.0 / 9.0}};
}

std::vector<Place> cubeRule(int n)
{
    std::vector<Place> places;
    for (const auto& [x, wx] : line(n))
        for (const auto& [y, wy] : line(n))
            for (const auto& [z, wz] : line(n))
                places.push_back({{x, y, z}, wx * wy * wz});
    return places;
}

std::vector<Place> tetrahedronRule(bool fine)
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

namespace {

struct Prism {
    Three l;
    Eigen::Matrix<double, 3, 2> d;
    explicit Prism(const Three& p) : l(1.0 - p.x() - p.y(), p.x(), p.y()) { d << -1, -1, 1, 0, 0, 1; }
};

} // namespace

Shapes brick8(const Three& p)
{
    Shapes s(8);
    for (int i = 0; i < 8; ++i) {
        const auto& c = cubeCorner[static_cast<std::size_t>(i)];
        const Three f(1 + c[0] * p.x(), 1 + c[1] * p.y(), 1 + c[2] * p.z());
        s.value[i] = f.prod() / 8.0;
        s.slope.row(i) << c[0] * f.y() * f.z() / 8.0, c[1] * f.x() * f.z() / 8.0, c[2] * f.x() * f.y() / 8.0;
    }
    return s;
}

Shapes wedge6(const Three& p)
{
    Shapes s(6);
    const Prism own(p);
    for (int i = 0; i < 3; ++i)
        for (int top = 0; top < 2; ++top) {
            const double sign = top ? 1.0 : -1.0, h = (1.0 + sign * p.z()) / 2.0;
            s.value[i + 3 * top] = own.l[i] * h;
            s.slope.row(i + 3 * top) << own.d(i, 0) * h, own.d(i, 1) * h, own.l[i] * sign / 2.0;
        }
    return s;
}

namespace {

/// Radon's seven points on the triangle times three along the axis, exact to the fifth degree.
std::vector<Place> prismRule()
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

constexpr std::array<std::array<int, 2>, 12> cubeSide{
    {{0, 1}, {1, 2}, {2, 3}, {3, 0}, {4, 5}, {5, 6}, {6, 7}, {7, 4}, {0, 4}, {1, 5}, {2, 6}, {3, 7}}};
constexpr std::array<std::array<int, 2>, 6> tetrahedronSide{{{0, 1}, {1, 2}, {2, 0}, {0, 3}, {1, 3}, {2, 3}}};

Shapes brick20(const Three& p)
{
    Shapes s(20);
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

Shapes tetrahedron10(const Three& p)
{
    Shapes s(10);
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

Shapes wedge15(const Three& p)
{
    Shapes s(15);
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

ShearTerms ofCube(const Three& p)
{
    ShearTerms terms(8);
    terms << 1.0, p.x(), p.y(), p.z(), p.x() * p.y(), p.y() * p.z(), p.z() * p.x(), p.x() * p.y() * p.z();
    return terms;
}

ShearTerms ofPrism(const Three& p)
{
    ShearTerms terms(6);
    terms << 1.0, p.x(), p.y(), p.z(), p.z() * p.x(), p.z() * p.y();
    return terms;
}

} // namespace

const Family& familyOf(SolidKind kind)
{
    static const Three ofPrismMiddle(1.0 / 3.0, 1.0 / 3.0, 0.0);
    static const Family tetrahedron{10, 4, 1, tetrahedron10, tetrahedronRule, Three::Constant(0.25)};
    static const Family linearBrick{8, 8, 0, brick8, [](bool fine) { return cubeRule(fine ? 3 : 2); }, Three::Zero()};
    static const Family brick{20, 8, 4, brick20, [](bool) { return cubeRule(3); }, Three::Zero(), ofCube};
    static const Family linearWedge{6, 6, 0, wedge6, [](bool) { return prismRule(); }, ofPrismMiddle};
    static const Family wedge{15, 6, 4, wedge15, [](bool) { return prismRule(); }, ofPrismMiddle, ofPrism};
    switch (kind) {
    case SolidKind::brick8:
        return linearBrick;
    case SolidKind::brick20:
        return brick;
    case SolidKind::wedge6:
        return linearWedge;
    case SolidKind::wedge15:
        return wedge;
    case SolidKind::tetrahedron10:
        break;
    }
    return tetrahedron;
}

bool isCurved(const SolidElement& element)
{
    if (element.kind != SolidKind::tetrahedron10) return false;
    for (std::size_t k = 0; k < 6; ++k) {
        const Three &a = element.node[tetrahedronSide[k][0]], &b = element.node[tetrahedronSide[k][1]];
        if ((element.node[4 + k] - (a + b) / 2.0).norm() > 1e-6 * (b - a).norm()) return true;
    }
    return false;
}

StrainRows strainRows(const ByNode<3>& by)
{
    StrainRows b = StrainRows::Zero(6, 3 * by.rows());
    for (Eigen::Index i = 0; i < by.rows(); ++i) {
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

Elasticity strainTurn(const Eigen::Matrix3d& inverse)
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

Eigen::Matrix3d ownAxes(const Eigen::Matrix3d& atMiddle)
{
    const Eigen::JacobiSVD<Eigen::Matrix3d> parts(atMiddle.transpose(), Eigen::ComputeFullU | Eigen::ComputeFullV);
    return parts.matrixU() * parts.matrixV().transpose();
}

} // namespace undisona::solids
