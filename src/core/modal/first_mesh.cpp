#include "core/modal/first_mesh.hpp"

#include "core/modal/coarser_mesh.hpp"
#include "core/modal/hertz.hpp"

namespace undisona {

namespace {

/// Whether the user has said how fine everything is.
bool allStated(const Structure& structure)
{
    const auto& frame = structure.frame;
    return (structure.ask.elements > 0 || std::all_of(frame.members.begin(), frame.members.end(),
                                                      [](const FrameMember& member) { return member.elements > 0; })) &&
           std::all_of(frame.sheets.begin(), frame.sheets.end(), [](const Sheet& sheet) { return sheet.size > 0.0; }) &&
           std::all_of(frame.solids.begin(), frame.solids.end(),
                       [](const Solid& solid) { return solid.spent || solid.size > 0.0; });
}

} // namespace

MeshPlan coarsePlan(const Structure& structure)
{
    // Two elements a member already bend by themselves, so that the guess is not far too high.
    constexpr double still = 1e-6; // Hz: sizes that no wave asks for, but what a body needs at least
    MeshPlan plan{proposeSplits(structure, 0.0), proposeSizes(structure, structure.solids.empty() ? 0.0 : still)};
    if (plan.splits.size() < 5000)
        for (auto& split : plan.splits)
            split = std::max(split, 2L);
    for (std::size_t solid = 0; solid < structure.solids.size(); ++solid)
        plan.sizes.ofPart[structure.sheets.size() + solid] *= coarser;
    if (!structure.solids.empty()) plan.sizes.ofStated = coarser;
    return plan;
}

FirstGuess firstGuess(const Structure& structure, Progress& progress, KeptRuns* kept)
{
    if (const double stated = statedFrequency(structure.ask); stated > 0.0) return {stated};
    if (structure.ask.until == Ask::Until::all) return {}; // all of the mesh as it is
    if (allStated(structure)) return {};
    const bool byCount = structure.ask.until == Ask::Until::count;
    const bool serves = byCount && !structure.solids.empty(); // as the coarser mesh that the modes are judged by, too
    const long asked = structure.ask.count;
    const Ask ask = serves ? askOfCoarser(structure.ask, asked) : structure.ask;
    auto pass = runPass(structure, ask, coarsePlan(structure), progress, {}, kept, false);
    FirstGuess guess;
    if (!pass || pass->extraction.lambda.size() == 0) return guess;
    const Eigen::Index last =
        std::min<Eigen::Index>(pass->extraction.lambda.size(), byCount ? pass->extraction.rigid + asked
                                                                       : pass->extraction.lambda.size());
    // In steps of a fifth, so that a mass moved a little leaves the mesh, and with it the stiffness, as it is.
    if (const double hertz = toHertz(pass->extraction.lambda[last - 1]); hertz > 0.0)
        guess.frequency = std::exp2(std::ceil(4.0 * std::log2(hertz)) / 4.0);
    if (serves) guess.pass = std::move(*pass);
    return guess;
}

} // namespace undisona
