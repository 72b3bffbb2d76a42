#include "core/modal/judged.hpp"

#include "core/mesh/given_mesh.hpp"
#include "core/modal/coarser_mesh.hpp"

namespace undisona {

namespace {

/// How many times as large a coarser mesh's elements of bodies are; nothing where bodies differ in it, or it is so few
/// or so many times that little is to be learnt from it.
std::optional<double> timesAsLarge(const Structure& structure, const MeshSizes& coarse, const MeshSizes& own)
{
    constexpr double least = 1.8, most = 3.0, alike = 1.2;
    double low = 1e300, high = 0.0;
    for (std::size_t solid = 0; solid < structure.solids.size(); ++solid) {
        if (structure.frame.solids[solid].spent) continue;
        const std::size_t part = structure.sheets.size() + solid;
        const double times = coarse.ofPart[part] / own.ofPart[part];
        low = std::min(low, times);
        high = std::max(high, times);
    }
    if (low < least || high > most || high > alike * low) return std::nullopt;
    return std::sqrt(low * high);
}

} // namespace

MeshErrors judged(const Structure& structure, const Pass& pass, Progress& progress, const FirstGuess& guess)
{
    const Ask& ask = structure.ask;
    if (ask.meshErrors) progress.stage("mesh error");
    MeshErrors errors = meshErrors(structure, pass.mesh, *pass.system, pass.extraction, progress, ask.meshErrors);
    if (!ask.meshErrors || progress.stopped() || pass.mesh.solids.empty() ||
        pass.extraction.lambda.size() == pass.extraction.rigid || ask.until == Ask::Until::all ||
        ask.until == Ask::Until::ritz || !partWithOneMesh(structure).empty())
        return errors;
    const auto set = [&](const Pass& beside, double times) {
        judgeByCoarser(errors, {structure, pass.mesh, *pass.system, pass.extraction.shapes, pass.groups},
                       pass.extraction.lambda,
                       {structure, beside.mesh, *beside.system, beside.extraction.shapes, beside.groups},
                       beside.extraction.lambda, times);
    };
    if (guess.pass && !guess.whole)
        if (const auto times = timesAsLarge(structure, guess.pass->mesh.sizes, pass.mesh.sizes)) {
            set(*guess.pass, *times);
            return errors;
        }
    const MeshPlan plan = scaled(planOf(pass.mesh), coarser);
    if (governedByDetails(structure, pass.mesh, plan.sizes)) return errors; // it would be no coarser
    Progress* inner = nullptr;
    Progress within([&](const std::string&, double) { // its stages are all one to who waits
        if (progress.stopped()) inner->stop();
    });
    inner = &within;
    const auto beside = runPass(structure, askOfCoarser(ask, pass.extraction), plan, within, {}, nullptr, false);
    if (beside) set(*beside, coarser);
    return errors;
}

} // namespace undisona
