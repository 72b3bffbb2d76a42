#include "core/studies/stress.hpp"

namespace undisona {

namespace {

Result<StressReading> stressed(const Model& model, const StressQuestion& question, const StudyRun& with)
{
    const auto solved = modesFor(model, question.own, with);
    if (!solved) return solved.findings();
    auto reading = stressReading(**solved, with.progress);
    if (with.progress.stopped()) return warningAt({}, "the run was stopped");
    return reading;
}

} // namespace

const StressStudy& stressStudy()
{
    static const StressStudy study{"stress", "stresses of every mode", modesNeed(), stressed};
    return study;
}

} // namespace undisona
