#pragma once
#include "core/remedy/tolerated_modes.hpp"
#include "core/studies/remedy.hpp"

namespace undisona {

inline auto fields(ToleranceOrder& of)
{
    return named("corners samples seed", of.corners, of.samples, of.seed);
}
inline auto fields(Tolerance& of)
{
    return named("low high", of.low, of.high);
}
inline auto fields(ToleratedWord& of)
{
    return named("said range trouble", of.said, of.range, of.trouble);
}
inline auto fields(FrequencyRange& of)
{
    return named("mode hertz atLow atHigh low high usualLow usualHigh solvedLow solvedHigh sampledLow sampledHigh "
                 "sampled",
                 of.mode, of.hertz, of.atLow, of.atHigh, of.low, of.high, of.usualLow, of.usualHigh, of.solvedLow,
                 of.solvedHigh, of.sampledLow, of.sampledHigh, of.sampled);
}
inline auto fields(ClashChance& of)
{
    return named("excitation sentence order low high mode now likelihood drawn", of.excitation, of.sentence, of.order,
                 of.low, of.high, of.mode, of.now, of.likelihood, of.drawn);
}
inline auto fields(ToleratedModes& of)
{
    return named("words modes clashes samples missed findings", of.words, of.modes, of.clashes, of.samples, of.missed,
                 of.findings);
}

using ToleranceQuestion = AboutModes<ToleranceOrder>;
/// How far frequencies go within what is not known exactly. On the way (StudyRun::partly): the answer so far.
using ToleranceStudy = StudyOf<ToleranceQuestion, ToleratedModes>;
const ToleranceStudy& toleranceStudy();

} // namespace undisona
