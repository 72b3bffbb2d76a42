#include "core/studies/cost.hpp"

#include "core/base/memory.hpp"
#include "core/modal/estimate_ahead.hpp"

namespace undisona {

namespace {

Result<CostAnswer> told(const Model& model, const NoOptions&, const StudyRun& with)
{
    const auto estimate = estimateAhead(model, with.progress, with.kept);
    if (with.progress.stopped()) return warningAt({}, "stopped before the cost was known");
    if (!estimate) return CostAnswer{};
    const auto refused = tooLarge(*estimate, availableMegabytes());
    return CostAnswer{estimate->unknowns,        estimate->factorMegabytes,
                      estimate->frontMegabytes,  estimate->basisMegabytes,
                      estimate->matrixMegabytes, estimate->seconds,
                      wordsOf(*estimate),        refused ? Findings{*refused} : Findings{}};
}

} // namespace

const CostStudy& costStudy()
{
    static const CostStudy study{"cost", "what a run for the modes would cost, before it is made", modesNeed(), told};
    return study;
}

} // namespace undisona
