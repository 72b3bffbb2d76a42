#pragma once
#include "core/remedy/word_sweep.hpp"

namespace undisona {

/// A row a value, a column a line; below where lines meet.
std::string sweepTable(const WordSweep&);
/// The same with a line of names first, without what is below; Hz, the word in SI.
std::string sweepCsv(const WordSweep&);
/// "modes 3 and 4 cross at 9.2 mm, 31.4 Hz", "... veer apart at 9.2 mm, 31.4 Hz, by 0.4 Hz".
std::string meetingWords(const WordSweep&, const SweepMeeting&);

} // namespace undisona
