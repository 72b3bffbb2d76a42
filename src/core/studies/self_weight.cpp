#include "core/studies/self_weight.hpp"

#include "core/modal/first_mesh.hpp"
#include "core/statement/stoppable.hpp"

namespace undisona {

namespace {

/// Gravity pulls at all mass, whichever way it acts in the modes.
Model actingEveryWay(Model model)
{
    for (const auto& sentence : model.activeIn(Group::ask))
        if (sentence->kind->key == "mass-acts") model = model.removed(sentence->id);
    return model;
}

/// Liquid slides along a pipe when it moves; at rest all of it hangs there.
void letContentsHang(Structure& structure)
{
    for (auto& attached : structure.attachments)
        if (attached.hangs) attached.tensor = attached.perExtent() * Eigen::Matrix3d::Identity();
}

Result<SelfWeight> atRest(const Model& model, const SelfWeightOrder& options, const StudyRun& with)
{
    auto built = buildStructure(actingEveryWay(model), with.progress);
    if (hasError(built.findings)) return built.findings;
    letContentsHang(built.structure);
    built.structure.loads.clear(); // nor what the states that they make say of supports
    built.structure.staticStates.clear();
    built.structure.aboutState = -1;
    const MeshPlan plan = options.plan ? *options.plan : plainPlan(built.structure);
    if (plan.splits.size() != built.structure.members.size() ||
        plan.sizes.ofPart.size() != built.structure.sheets.size() + built.structure.solids.size())
        throw ArchiveError("the mesh is of another model");
    return selfWeightOf(AtRest(built.structure).structure(), plan, options.points, with.progress);
}

} // namespace

const SelfWeightStudy& selfWeightStudy()
{
    static const SelfWeightStudy study{"self-weight",
                                       "what each support carries of the structure's weight, and how far it sinks",
                                       {Touch::shape, Touch::mesh, Touch::stiffness, Touch::mass},
                                       atRest};
    return study;
}

} // namespace undisona
