#include "core/studies/sweep.hpp"

namespace undisona {

namespace {

Result<WordSweep> swept(const Model& model, const SweepOrder& order, const StudyRun& with)
{
    auto found = sweep(model, order, with.progress, &with.kept, [&](const WordSweep& soFar) {
        if (with.partly) with.partly(answerOnTheWay, SweepStudy::bytesOf(Result<WordSweep>(soFar)));
    });
    if (found || with.progress.stopped()) return found;
    WordSweep none; // an order that makes no sense is answered, so that the answer stays with the question
    none.word = order.word;
    none.findings = found.findings();
    return none;
}

} // namespace

const SweepStudy& sweepStudy()
{
    static const SweepStudy study{"sweep", "frequencies over one word of the model", modesNeed(), swept};
    return study;
}

} // namespace undisona
