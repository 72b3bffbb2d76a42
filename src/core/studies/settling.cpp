#include "core/studies/settling.hpp"

namespace undisona {

namespace {

Result<Settling> settled(const Model& model, const SettlingOrder& options, const StudyRun& with)
{
    const auto own = options.own ? solutionOf(model, *options.own) : solve(model, with.progress, {.kept = &with.kept});
    if (!own) return own.findings();
    return settle(model, **own, with.progress, [&](const Settling& soFar) {
        if (with.partly) with.partly(answerOnTheWay, SettlingStudy::bytesOf(Result<Settling>(soFar)));
    });
}

} // namespace

const SettlingStudy& settlingStudy()
{
    static const SettlingStudy study{"settling", "what the frequencies settle at as the mesh gets finer", modesNeed(),
                                     settled};
    return study;
}

} // namespace undisona
