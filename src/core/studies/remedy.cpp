#include "core/studies/remedy.hpp"

#include "core/modal/pass.hpp"

namespace undisona {

namespace {

Result<Remedy> found(const Model& model, const RemedyQuestion& question, const StudyRun& with)
{
    const auto solved = modesFor(model, question.own, with);
    if (!solved) return solved.findings();
    const Solution& solution = **solved;
    if (with.progress.stopped() || solution.stopped) return warningAt({}, "the search for remedies was stopped");
    const Pass equations = equationsOf(*solution.structure, planOf(solution.mesh), with.progress);
    if (equations.system->size() != solution.shapes.rows()) throw ArchiveError("the modes are of another model");
    auto remedy = remediesFor(model, solution, *equations.system, question.order, with.progress, &with.kept);
    return answered(std::move(remedy), with);
}

} // namespace

const RemedyStudy& remedyStudy()
{
    static const RemedyStudy study{
        "remedy",
        "what moves a mode out of the way",
        {Touch::shape, Touch::mesh, Touch::stiffness, Touch::mass, Touch::ask, Touch::reading},
        found};
    return study;
}

} // namespace undisona
