#pragma once
#include <algorithm>
#include <cmath>
#include <numbers>

namespace undisona {

/// The frequency, Hz, of an eigenvalue, (rad/s)2; 0 for one that rounding has left below zero.
inline double toHertz(double lambda)
{
    return std::sqrt(std::max(0.0, lambda)) / (2.0 * std::numbers::pi);
}

/// The same with a sign: below zero where the motion releases energy and has no frequency.
inline double signedHertz(double lambda)
{
    return std::copysign(std::sqrt(std::abs(lambda)) / (2.0 * std::numbers::pi), lambda);
}

/// The eigenvalue, (rad/s)2, of a frequency, Hz.
inline double toLambda(double hertz)
{
    return std::pow(2.0 * std::numbers::pi * hertz, 2);
}

/// Whether two eigenvalues, the lower one first, belong to one group: frequencies within 1e-6, so that any mixture of
/// their modes is as good.
inline bool sameGroup(double lower, double upper)
{
    constexpr double sameFrequency = 1e-6;
    return upper - lower <= std::abs(lower) * (std::pow(1.0 + sameFrequency, 2) - 1.0);
}

} // namespace undisona
