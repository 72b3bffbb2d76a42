#pragma once
#include "core/remedy/word_sweep.hpp"
#include "core/studies/remedy.hpp"

namespace undisona {

inline auto fields(SweepOrder& of)
{
    return named("word from to steps", of.word, of.from, of.to, of.steps);
}
inline auto fields(SweepStep& of)
{
    return named("value hertz trouble", of.value, of.hertz, of.trouble);
}
inline auto fields(SweepMeeting& of)
{
    return named("one other value hertz gap veers", of.one, of.other, of.value, of.hertz, of.gap, of.veers);
}
inline auto fields(WordSweep& of)
{
    return named("word modes steps meetings findings", of.word, of.modes, of.steps, of.meetings, of.findings);
}

/// Frequencies over one word. On the way (StudyRun::partly), after each run: the answer so far.
using SweepStudy = StudyOf<SweepOrder, WordSweep>;
const SweepStudy& sweepStudy();

} // namespace undisona
