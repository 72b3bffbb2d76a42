#include "core/modal/first_mesh.hpp"

#include "core/mesh/given_mesh.hpp"
#include "core/modal/coarser_mesh.hpp"
#include "core/modal/refine_mesh.hpp"
#include "core/pencil/hertz.hpp"

namespace undisona {

namespace {

constexpr double promised = 0.005;  // of a frequency
constexpr double mostMore = 8000.0; // pieces that it may take beside what the waves want

/// Whether the user has said how fine everything is.
bool allStated(const Structure& structure)
{
    const auto& frame = structure.frame;
    return (structure.discretised.elements > 0 ||
            std::all_of(frame.members.begin(), frame.members.end(),
                        [](const FrameMember& member) { return member.elements > 0; })) &&
           std::all_of(frame.sheets.begin(), frame.sheets.end(), [](const Sheet& sheet) { return sheet.size > 0.0; }) &&
           std::all_of(frame.solids.begin(), frame.solids.end(),
                       [](const Solid& solid) { return solid.spent || solid.size > 0.0; });
}

} // namespace

MeshPlan plainPlan(const Structure& structure)
{
    constexpr double still = 1e-6; // Hz: sizes that no wave asks for, but what a body needs at least
    const double stated = statedFrequency(structure.ask);
    return {proposeSplits(structure, stated),
            proposeSizes(structure, stated > 0.0 || structure.solids.empty() ? stated : still)};
}

MeshPlan coarsePlan(const Structure& structure)
{
    MeshPlan plan = plainPlan(structure);
    if (statedFrequency(structure.ask) > 0.0) return scaled(std::move(plan), coarser);
    // Two elements a member already bend by themselves, so that the guess is not far too high.
    if (plan.splits.size() < 5000)
        for (auto& split : plan.splits)
            split = std::max(split, 2L);
    for (std::size_t solid = 0; solid < structure.solids.size(); ++solid)
        plan.sizes.ofPart[structure.sheets.size() + solid] *= coarser;
    if (!structure.solids.empty()) plan.sizes.ofStated = coarser;
    return plan;
}

bool governedByDetails(const Structure& structure, const FrameMesh& mesh, const MeshSizes& sizes, std::size_t veryMany)
{
    constexpr double hardly = 1.5; // times as many, or as few
    if (mesh.solids.size() < veryMany || !mesh.shells.empty() ||
        std::any_of(mesh.solids.begin(), mesh.solids.end(),
                    [](const MeshSolid& piece) { return piece.kind != SolidKind::tetrahedron10; }))
        return false;
    const double times = piecesOn(structure, mesh, sizes) / double(mesh.solids.size());
    return times < hardly && times > 1.0 / hardly;
}

FirstGuess firstGuess(const Structure& structure, Progress& progress, const RunListener& listener, KeptRuns* kept,
                      std::size_t veryMany)
{
    const double stated = statedFrequency(structure.ask);
    FirstGuess guess{stated, {proposeSplits(structure, stated), proposeSizes(structure, stated)}};
    if (structure.ask.until == Ask::Until::all) return guess; // all of the mesh as it is
    if (allStated(structure)) return guess;
    const auto until = structure.ask.until;
    const bool byCount = until == Ask::Until::count;
    // As the coarser mesh that the modes are judged by, too.
    const bool serves = (byCount || until == Ask::Until::frequency || until == Ask::Until::band) &&
                        !structure.solids.empty() && partWithOneMesh(structure).empty();
    if (stated > 0.0 && !serves) return guess;
    Pass equations = equationsOf(structure, coarsePlan(structure), progress);
    const bool whole = serves && governedByDetails(structure, equations.mesh, guess.plan.sizes, veryMany);
    const Ask ask = serves && !whole ? askOfCoarser(structure.ask) : structure.ask;
    auto pass = runPass(structure, ask, std::move(equations), progress, whole ? listener : RunListener{}, kept, whole);
    if (!pass || pass->extraction.lambda.size() == 0) return guess;
    const Eigen::Index found = pass->extraction.lambda.size();
    const Eigen::Index last =
        byCount ? std::min<Eigen::Index>(found, pass->extraction.rigid + structure.ask.count) : found;
    const double hertz = toHertz(pass->extraction.lambda[last - 1]);
    if (stated == 0.0 && hertz > 0.0) {
        // In steps of a fifth, so that a mass moved a little leaves the mesh, and with it the stiffness, as it is.
        guess.frequency = std::exp2(std::ceil(4.0 * std::log2(hertz)) / 4.0);
        guess.plan = {proposeSplits(structure, guess.frequency), proposeSizes(structure, guess.frequency)};
    }
    if (!serves) return guess;
    guess.whole = whole && governedByDetails(structure, pass->mesh, guess.plan.sizes, veryMany);
    if (guess.whole) {
        guess.plan = planOf(pass->mesh);
    } else {
        const RefinementAim goal{promised, stated > 0.0 ? stated : hertz, guess.plan.sizes, mostTimesForDetail,
                                 mostMore};
        progress.stage("mesh");
        const MeshErrors errors = meshErrors(structure, pass->mesh, *pass->system, pass->extraction, progress);
        if (errors.pieces.size() > 0)
            guess.plan.sizes = refinedSizes(structure, pass->mesh, pass->extraction, errors, goal);
    }
    guess.pass = std::move(*pass);
    return guess;
}

} // namespace undisona
