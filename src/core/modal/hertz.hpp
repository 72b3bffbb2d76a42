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

/// The eigenvalue, (rad/s)2, of a frequency, Hz.
inline double toLambda(double hertz)
{
    return std::pow(2.0 * std::numbers::pi * hertz, 2);
}

} // namespace undisona
