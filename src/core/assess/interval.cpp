#include "core/assess/interval.hpp"

#include <fmt/format.h>

#include <array>
#include <cmath>

namespace undisona {

std::string intervalWords(double ratio)
{
    static constexpr std::array<const char*, 12> names{"unison",      "minor second", "major second",  "minor third",
                                                       "major third", "fourth",       "tritone",       "fifth",
                                                       "minor sixth", "major sixth",  "minor seventh", "major seventh"};
    const double semitones = 12.0 * std::log2(ratio);
    const long whole = std::lround(std::abs(semitones));
    const long cents = std::lround(100.0 * (std::abs(semitones) - double(whole)));
    const long octaves = whole / 12, rest = whole % 12;
    std::string words;
    if (octaves > 0) words = octaves == 1 ? "octave" : fmt::format("{} octaves", octaves);
    if (rest > 0 || octaves == 0)
        words += (words.empty() ? "" : " and a ") + std::string(names[static_cast<std::size_t>(rest)]);
    if (semitones < -0.005) words += " lower";
    if (cents != 0)
        words +=
            fmt::format(", {}{} {}", cents > 0 ? "+" : "−", std::abs(cents), std::abs(cents) == 1 ? "cent" : "cents");
    return words;
}

} // namespace undisona
