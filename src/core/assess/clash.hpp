#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

enum class Verdict { clash, close, clear };

/// One order of one excitation against one mode.
struct ClashPair {
    std::size_t excitation = 0; ///< index
    double order = 1.0;
    double low = 0.0, high = 0.0;  ///< Hz, of order times speed
    int mode = 0;                  ///< number
    double frequency = 0.0;        ///< of the mode, Hz
    double separation = 0.0;       ///< (f_mode - f_excitation) / f_excitation, to the nearer edge of a band; 0 inside
    double criticalSpeedRpm = 0.0; ///< 60 f / order for something that turns, else 0
    double strength = 1.0;         ///< how strongly it drives the mode, 0...1
    bool weak = false;             ///< strength below 1 % and the way in is known
    Verdict verdict = Verdict::clear;
    std::string why; ///< in words
};

/// Critical speeds within or near a speed range and the windows free of them.
struct SpeedWindows {
    std::size_t excitation = 0;
    std::vector<std::array<double, 2>> freeRpm; ///< inside the running range, margins kept
};

struct ClashReading {
    std::vector<ClashPair>
        pairs; ///< every pair that is not clear, and for each order the nearest mode below and above; worst first
    std::vector<SpeedWindows> windows;

    /// Whether a mode is near an excitation that drives it.
    bool meets(const Mode& mode) const
    {
        return std::any_of(pairs.begin(), pairs.end(), [&](const ClashPair& pair) {
            return pair.mode == mode.number && pair.verdict != Verdict::clear && !pair.weak;
        });
    }
};

/// Clash: |s| below the margin. Close: the mode's error bar reaches the margin, or |s| below 1.5 margins.
ClashReading clashesOf(const Solution&, const std::vector<Excitation>&, const ModeNames& = {});

/// (f_mode - f_excitation) / f_excitation to the nearer edge of a band (Hz); 0 inside.
double separation(double mode, double low, double high);

/// Whether so far (separation) is too near for a margin. In a band it is, also without one.
bool isClash(double separation, double margin);

/// Below it a mode that is driven in a known way meets an excitation in vain.
inline constexpr double weakStrength = 0.01;

/// How strongly an excitation drives a mode: through the base, its effective-mass fraction along the named
/// directions; as a force or moment, (d . phi(p))^2 relative to the largest among the modes; unknown, 1.
double strengthOf(const Solution&, const Excitation&, std::size_t mode);

const char* wordOf(Verdict);

} // namespace undisona
