#pragma once
#include "core/assess/by_hand.hpp"
#include "core/studies/modes.hpp"

namespace undisona {

struct HandOrder {
    std::string units; ///< in which the figures are said; empty: m kg N
};
inline auto fields(HandOrder& of)
{
    return named("units", of.units);
}
inline auto fields(HandComparison& of)
{
    return named("mode of by low high computed off why flagged", of.mode, of.of, of.by, of.low, of.high, of.computed,
                 of.off, of.why, of.flagged);
}
inline auto fields(HandReading& of)
{
    return named("checks findings", of.checks, of.findings);
}

using HandQuestion = AboutModes<HandOrder>;
/// Estimates by hand beside the modes.
using HandStudy = StudyOf<HandQuestion, HandReading>;
const HandStudy& handStudy();

} // namespace undisona
