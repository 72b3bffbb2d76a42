#include "core/modal/estimate_ahead.hpp"

#include "core/modal/first_mesh.hpp"
#include "core/pencil/bordered.hpp"
#include "core/statement/stoppable.hpp"
#include "core/system/assemble.hpp"

namespace undisona {

std::int64_t unknownsAbout(const Structure& structure)
{
    auto nodes = static_cast<std::int64_t>(structure.frame.points.size());
    for (const long split : proposeSplits(structure, statedFrequency(structure.ask)))
        nodes += split - 1;
    if (structure.frame.faces)
        nodes += static_cast<std::int64_t>(
            sheetElements(structure, proposeSizes(structure, statedFrequency(structure.ask))));
    return 6 * nodes;
}

std::optional<RunEstimate> estimateAhead(const Model& model, Progress& progress, KeptRuns& kept)
{
    const auto built = buildStructure(model, progress);
    if (hasError(built.findings)) return std::nullopt;
    const Structure& structure = built.structure;
    if (unknownsAbout(structure) > 6'000'000) return std::nullopt; // refused when it is asked to run
    const MeshPlan plan = plainPlan(structure);
    const System system = assemble(structure, meshOf(structure, plan.splits, plan.sizes), progress);
    if (system.size() == 0) return std::nullopt;
    progress.stage("estimate");
    const SparseSymmetric together = sum(system.stiffness, 0.0, system.mass);
    const auto run = kept.of(keyOf(together, &system.apart));
    if (!run->analysis) run->analysis = Analysis::of(together);
    if (!run->analysis) return std::nullopt;
    return estimateOf(*run->analysis, static_cast<std::int64_t>(together.row.size() + system.mass.row.size()),
                      structure.ask.count);
}

} // namespace undisona
