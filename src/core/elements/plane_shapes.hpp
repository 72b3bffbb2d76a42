#pragma once
#include <array>
#include <cmath>
#include <cstddef>
#include <vector>

namespace undisona::plane {

// Polynomials and rules over triangles and quadrilaterals, by parameters r and s: -1...1 each of four corners, the
// parts of the second and the third of three.

struct Place {
    double r, s, weight;
};

/// Gauss's rule of two or three points on the line from -1 to 1: places and weights.
inline std::vector<std::array<double, 2>> lineRule(int n)
{
    const double a = std::sqrt(n == 2 ? 1.0 / 3.0 : 0.6);
    if (n == 2) return {{-a, 1.0}, {a, 1.0}};
    return {{-a, 5.0 / 9.0}, {0.0, 8.0 / 9.0}, {a, 5.0 / 9.0}};
}

/// The same of n x n points on the square.
inline std::vector<Place> squareRule(int n)
{
    const auto line = lineRule(n);
    std::vector<Place> places;
    for (const auto& [r, wr] : line)
        for (const auto& [s, ws] : line)
            places.push_back({r, s, wr * ws});
    return places;
}

/// Radon's seven points on the triangle, exact to the fifth degree; the weights add up to its area in r and s.
inline std::vector<Place> triangleRule()
{
    const double root = std::sqrt(15.0);
    std::vector<Place> places{{1.0 / 3.0, 1.0 / 3.0, 9.0 / 80.0}};
    for (const double sign : {-1.0, 1.0}) {
        const double a = (6.0 + sign * root) / 21.0, b = 1.0 - 2.0 * a, weight = (155.0 + sign * root) / 2400.0;
        places.push_back({a, a, weight});
        places.push_back({a, b, weight});
        places.push_back({b, a, weight});
    }
    return places;
}

/// A polynomial at one place: its value and its derivatives by r and s.
struct Shape {
    double value, r, s;
};

/// 1 at corner i of three or four, 0 at the others, linear between them.
inline Shape cornerShape(std::size_t corners, std::size_t i, double r, double s)
{
    if (corners == 3) {
        const std::array<Shape, 3> all{{{1.0 - r - s, -1.0, -1.0}, {r, 1.0, 0.0}, {s, 0.0, 1.0}}};
        return all[i];
    }
    const double a = i == 0 || i == 3 ? -1.0 : 1.0, b = i < 2 ? -1.0 : 1.0;
    return {(1 + a * r) * (1 + b * s) / 4, a * (1 + b * s) / 4, b * (1 + a * r) / 4};
}

/// 1 in the middle of the edge from corner i on, 0 on the others; quadratic along it.
inline Shape edgeShape(std::size_t corners, std::size_t i, double r, double s)
{
    if (corners == 4) {
        const double sign = i == 1 || i == 2 ? 1.0 : -1.0;
        if (i % 2 == 0) return {(1 - r * r) * (1 + sign * s) / 2, -r * (1 + sign * s), sign * (1 - r * r) / 2};
        return {(1 - s * s) * (1 + sign * r) / 2, sign * (1 - s * s) / 2, -s * (1 + sign * r)};
    }
    const Shape a = cornerShape(3, i, r, s), b = cornerShape(3, (i + 1) % 3, r, s);
    return {4 * a.value * b.value, 4 * (a.r * b.value + a.value * b.r), 4 * (a.s * b.value + a.value * b.s)};
}

} // namespace undisona::plane
