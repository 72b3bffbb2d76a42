#include "core/studies/by_hand.hpp"

namespace undisona {

namespace {

Result<HandReading> readByHand(const Model& model, const HandQuestion& question, const StudyRun& with)
{
    const auto solved = modesFor(model, question.own, with);
    if (!solved) return solved.findings();
    auto reading = byHand(**solved, DisplayUnits(question.order.units), with.progress);
    if (with.progress.stopped()) return warningAt({}, "the run was stopped");
    return reading;
}

} // namespace

const HandStudy& handStudy()
{
    static const HandStudy study{"by-hand", "estimates by hand beside the modes", modesNeed(), readByHand};
    return study;
}

} // namespace undisona
