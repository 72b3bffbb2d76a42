#include "core/studies/rest.hpp"

#include "core/modal/first_mesh.hpp"
#include "core/statement/stoppable.hpp"

namespace undisona {

namespace {

/// Several elements to each half wave that a member may buckle in, where nothing is stated of it, more where it is
/// drawn tight and bends at its ends alone; and sheet finer than its waves want, whose buckling factors are twice as
/// far off as frequencies.
MeshPlan planFor(const Structure& structure, const std::optional<MeshPlan>& own)
{
    constexpr long least = 8, tight = 16, ofMany = 4;
    constexpr std::size_t some = 300, many = 5000; // members, which are parts of longer things
    MeshPlan plan = own ? *own : plainPlan(structure);
    constexpr double finer = 0.6, mostSheet = 8000; // elements, as they are first proposed
    if (!own && structure.frame.faces && sheetElements(structure, plan.sizes) < mostSheet)
        for (std::size_t sheet = 0; sheet < structure.sheets.size(); ++sheet)
            plan.sizes.ofPart[sheet] *= finer;
    if (plan.splits.size() != structure.members.size() || plan.splits.size() > many) return plan;
    std::set<int> drawnTight;
    for (const auto& load : structure.loads)
        if (load.kind == Load::Kind::pretension) drawnTight.insert(load.at);
    for (std::size_t at = 0; at < plan.splits.size(); ++at)
        if (structure.frame.members[at].elements <= 0 && structure.discretised.elements <= 0)
            plan.splits[at] = std::max(plan.splits[at], drawnTight.contains(static_cast<int>(at)) ? tight
                                                        : plan.splits.size() > some               ? ofMany
                                                                                                  : least);
    return plan;
}

Result<RestAnswer> atRest(const Model& model, const RestOrder& order, const StudyRun& with)
{
    auto built = buildStructure(model, with.progress);
    if (hasError(built.findings)) return built.findings;
    const AtRest held(built.structure);
    const Structure& structure = held.structure();
    RestAnswer answer{planFor(structure, order.plan)};
    if (answer.plan.splits.size() != structure.members.size() ||
        answer.plan.sizes.ofPart.size() != structure.sheets.size() + structure.solids.size())
        throw ArchiveError("the mesh is of another model");
    with.progress.stage("mesh");
    const FrameMesh mesh = meshOf(structure, answer.plan.splits, answer.plan.sizes, &with.progress);
    if (hasError(mesh.problems)) return mesh.problems;
    auto rest = restOf(structure, mesh, order.factors, with.progress);
    if (!rest) return rest.findings();
    answer.plan = planOf(mesh);
    answer.places = placesKey(mesh);
    answer.found = std::move(*rest);
    return answer;
}

} // namespace

const RestStudy& restStudy()
{
    static const RestStudy study{"rest",
                                 "the static states that loads make: reactions, displacements, stresses, buckling",
                                 {Touch::shape, Touch::mesh, Touch::stiffness, Touch::mass, Touch::load},
                                 atRest};
    return study;
}

Result<std::shared_ptr<const Solution>> restAsShapes(const Model& model, const RestAnswer& answer, bool buckled)
{
    ModesAnswer modes{answer.plan, answer.places};
    Solution& shapes = modes.found;
    shapes.shapes = buckled ? answer.found.buckled : answer.found.motions;
    for (const auto& state : answer.found.states)
        for (std::size_t at = 0; at < (buckled ? state.buckles.size() : 1); ++at) {
            Mode& mode = shapes.modes.emplace_back();
            mode.number = mode.group = static_cast<int>(shapes.modes.size());
            mode.name = state.name;
        }
    const auto count = static_cast<Eigen::Index>(shapes.modes.size());
    shapes.participation.factor = shapes.participation.effective = Eigen::MatrixXd::Zero(count, 6);
    return solutionOf(model, Result<ModesAnswer>(std::move(modes)), true);
}

} // namespace undisona
