#pragma once
#include "core/modal/solution.hpp"
#include "core/units/display.hpp"

namespace undisona {

/// An estimate that is made in minutes, beside the mode that it is of.
struct HandComparison {
    int mode = 0;
    std::string of;               ///< what was taken, with its figures: "s1, 2.55 m, pinned at both ends"
    std::string by;               ///< the formula and where it is from
    double low = 0.0, high = 0.0; ///< Hz; equal where it is one figure
    double computed = 0.0;        ///< Hz
    double off = 0.0;             ///< the computed one against the nearer end, a share; 0 in between
    std::string why;              ///< of a difference above 10 % what explains it, or that nothing does
    bool flagged = false;         ///< above 10 % and not explained, or what cannot be

    bool within() const { return computed >= low && computed <= high; }
};

struct HandReading {
    std::vector<HandComparison> checks;
    Findings findings; ///< why some could not be made
};

/// Of any model: the energies of its deflection under self weight along x, y and z (Rayleigh, The Theory of Sound,
/// 1894) and sqrt(g / delta); stiffness and moving mass at the place where a mode moves most; closed forms of members
/// and of rectangles of sheet that move by themselves, and of one straight uniform beam. Beside the computed modes; a
/// difference above 10 % is explained or flagged.
HandReading byHand(const Solution&, const DisplayUnits&, Progress&);

} // namespace undisona
