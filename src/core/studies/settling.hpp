#pragma once
#include "core/assess/settling.hpp"
#include "core/studies/modes.hpp"

namespace undisona {

inline auto fields(SettledFrequency& of)
{
    return named("hertz either order", of.hertz, of.either, of.order);
}
inline auto fields(Settling::Round& of)
{
    return named("factor unknowns hertz meshError", of.factor, of.unknowns, of.hertz, of.meshError);
}
inline auto fields(Settling& of)
{
    return named("rounds expectedOrder settled remarks", of.rounds, of.expectedOrder, of.settled, of.remarks);
}

/// What the frequencies settle at as the mesh gets finer.
struct SettlingOrder {
    std::optional<ModesAnswer> own{}; ///< a solution at hand, whose frequencies they are; else it is solved first
};
inline auto fields(SettlingOrder& of)
{
    return named("own", of.own);
}

/// On the way (StudyRun::partly), after each mesh: the answer so far.
using SettlingStudy = StudyOf<SettlingOrder, Settling>;
const SettlingStudy& settlingStudy();

} // namespace undisona
