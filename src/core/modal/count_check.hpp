#pragma once
#include <cstdint>
#include <string>

namespace undisona {

/// Proof that no mode is missing: eigenvalues below a frequency, or between two, counted by inertia.
struct CountCheck {
    double aboveHz = 0.0; ///< 0: from the lowest
    double belowHz = 0.0;
    std::int64_t expected = -1; ///< -1: the count could not be made
    std::int64_t found = 0;
    std::int64_t before = 0; ///< modes below aboveHz, which were not asked for
    std::string method = "negative pivots of K - sigma M";
    bool proven = false;
};

/// "10 of 10 modes below 31.9 Hz found", "7 of 7 modes between 20.0 and 60.0 Hz found, 12 lower".
std::string wordsOf(const CountCheck&, int digits = 4);

} // namespace undisona
