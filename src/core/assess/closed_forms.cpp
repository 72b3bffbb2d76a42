#include "core/assess/closed_forms.hpp"

#include <cmath>
#include <functional>
#include <numbers>

namespace undisona {

namespace {

constexpr double pi = std::numbers::pi;

/// The root between two values of different sign.
double bisected(double low, double high, const std::function<double(double)>& f)
{
    const bool rises = f(high) > 0.0;
    for (int pass = 0; pass < 60; ++pass) {
        const double middle = (low + high) / 2.0;
        ((f(middle) > 0.0) == rises ? high : low) = middle;
    }
    return (low + high) / 2.0;
}

/// Of a clamped beam function in one direction (Warburton 1954, table 1).
struct Clamped {
    double g, h;

    explicit Clamped(int waves)
    {
        g = waves == 1 ? 1.506 : waves + 0.5;
        h = waves == 1 ? 1.248 : g * g * (1.0 - 2.0 / (g * pi));
    }
};

} // namespace

double beamRoot(BeamEnd one, BeamEnd other, int n)
{
    const auto isBoth = [&](BeamEnd a, BeamEnd b) { return (one == a && other == b) || (one == b && other == a); };
    if (isBoth(BeamEnd::pinned, BeamEnd::pinned)) return n * pi;
    if (isBoth(BeamEnd::clamped, BeamEnd::free))
        return bisected((n - 0.5) * pi - 0.5, (n - 0.5) * pi + 0.5,
                        [](double x) { return std::cos(x) + 1.0 / std::cosh(x); });
    if (one == BeamEnd::pinned || other == BeamEnd::pinned)
        return bisected((n + 0.25) * pi - 0.3, (n + 0.25) * pi + 0.3,
                        [](double x) { return std::sin(x) - std::tanh(x) * std::cos(x); });
    return bisected((n + 0.5) * pi - 0.5, (n + 0.5) * pi + 0.5,
                    [](double x) { return std::cos(x) - 1.0 / std::cosh(x); });
}

double beamFrequency(double root, double length, double stiffness, double massPerLength)
{
    return root * root / (2.0 * pi * length * length) * std::sqrt(stiffness / massPerLength);
}

double plateFrequency(bool clamped, double a, double b, int m, int n, double stiffness, double massPerArea)
{
    const double speed = std::sqrt(stiffness / massPerArea), ratio = a / b;
    if (!clamped) return pi / 2.0 * speed * (m * m / (a * a) + n * n / (b * b));
    const Clamped x(m), y(n);
    const double sum = std::pow(x.g, 4) + std::pow(y.g * ratio, 4) + 2.0 * ratio * ratio * x.h * y.h;
    return pi / (2.0 * a * a) * speed * std::sqrt(sum);
}

} // namespace undisona
