#include "core/studies/tolerances.hpp"

namespace undisona {

namespace {

Result<ToleratedModes> tolerated(const Model& model, const ToleranceQuestion& question, const StudyRun& with)
{
    const auto solved = modesFor(model, question.own, with);
    if (!solved) return solved.findings();
    if (with.progress.stopped() || (*solved)->stopped) return warningAt({}, "the run was stopped");
    auto found =
        toleratedModes(model, *solved, question.order, with.progress, &with.kept, [&](const ToleratedModes& soFar) {
            if (with.partly) with.partly(answerOnTheWay, ToleranceStudy::bytesOf(Result<ToleratedModes>(soFar)));
        });
    return answered(std::move(found), with);
}

} // namespace

const ToleranceStudy& toleranceStudy()
{
    static const ToleranceStudy study{
        "tolerances",
        "frequencies within what is not known exactly",
        {Touch::shape, Touch::mesh, Touch::stiffness, Touch::mass, Touch::ask, Touch::reading},
        tolerated};
    return study;
}

} // namespace undisona
