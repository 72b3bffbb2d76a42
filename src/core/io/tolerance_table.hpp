#pragma once
#include "core/remedy/tolerated_modes.hpp"

namespace undisona {

/// A row a mode with its ranges and the word that causes most; below the clashes with their likelihood.
std::string toleranceTable(const ToleratedModes&);
/// A row a mode: its ranges, then by word what its two ends do; Hz.
std::string toleranceCsv(const ToleratedModes&);

/// Of a clash: "77 % likely", "not to be expected".
std::string likelihoodWords(double share);
/// "Motor x 2 at 33.3 to 48.3 Hz against mode 4: a clash is 23 % likely".
std::string chanceWords(const ClashChance&);
/// The word that moves the mode most, and by how much between its ends, Hz; -1 where none does.
std::pair<int, double> mostCausedBy(const FrequencyRange&);

} // namespace undisona
