#pragma once
#include "core/statement/directions.hpp"

#include <string>
#include <vector>

namespace undisona {

enum class Entry { unknown, base, force, moment };

/// A source of vibration; frequencies in Hz.
struct Excitation {
    std::string name, sentence;
    bool turns = false;           ///< has orders of a speed
    double low = 0.0, high = 0.0; ///< equal for one speed or frequency
    std::vector<double> orders{1.0};
    double margin = 0.0;
    Entry entry = Entry::unknown;
    std::vector<int> points;
    Mask3 along{true, true, true};
};

} // namespace undisona
