#include "core/studies/sweep.hpp"

namespace undisona {

namespace {

Result<WordSweep> swept(const Model& model, const SweepOrder& order, const StudyRun& with)
{
    WordSweep none;
    none.word = order.word;
    auto found = sweep(model, order, with.progress, &with.kept, [&](const WordSweep& soFar) {
        if (with.partly) with.partly(answerOnTheWay, SweepStudy::bytesOf(Result<WordSweep>(soFar)));
    });
    return answered(std::move(found), with, std::move(none));
}

} // namespace

const SweepStudy& sweepStudy()
{
    static const SweepStudy study{"sweep", "frequencies over one word of the model", modesNeed(), swept};
    return study;
}

} // namespace undisona
