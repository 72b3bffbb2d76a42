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
    std::int64_t shown = -1; ///< modes that the answer holds; the count may lie a few higher. -1: as many as found
    double lastHz = 0.0;     ///< the last of them, where fewer are shown than found
    double cutHz = 0.0;      ///< up to here was asked, but the most that may be found came before; 0: no

    bool countedHigher() const { return proven && shown >= 0 && shown < found; }
};

/// "10 of 10 modes below 31.9 Hz found", "7 of 7 modes between 20.0 and 60.0 Hz found, 12 lower"; of what is shown, in
/// one and the same sentence wherever it stands.
std::string wordsOf(const CountCheck&, int digits = 4);
/// "between 20.0 and 60.0 Hz", "below 31.9 Hz", "up to 24.1 Hz": where what is shown was counted.
std::string placeOf(const CountCheck&, int digits = 4);

} // namespace undisona
