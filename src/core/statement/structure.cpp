#include "core/statement/structure.hpp"

#include "core/patterns/frame_builder.hpp"
#include "core/statement/expanded.hpp"
#include "core/statement/read_groups.hpp"

namespace undisona {

namespace {

/// To the directions in which mass acts; elements have them from how the structure is discretised.
void limitAddedMass(Structure& structure)
{
    const Mask3& acts = structure.discretised.acts;
    const Eigen::Vector3d acting(acts[0], acts[1], acts[2]);
    for (auto& mass : structure.pointMasses)
        for (std::size_t axis = 0; axis < 3; ++axis)
            mass.acts[axis] = mass.acts[axis] && acts[axis];
    for (auto& attachment : structure.attachments)
        if (attachment.effect == Attachment::Effect::mass)
            attachment.tensor = Eigen::Matrix3d(acting.asDiagonal() * attachment.tensor * acting.asDiagonal());
}

} // namespace

StructureAndFindings buildStructure(const Model& stated)
{
    StructureAndFindings built;
    auto [model, leftOut, findings] = expanded(stated);
    built.findings = std::move(findings);
    Structure& structure = built.structure;
    structure.leftOut = std::move(leftOut);
    structure.frame = buildFrame(model, built.findings);
    structure.members.resize(structure.frame.members.size());
    structure.sheets.resize(structure.frame.sheets.size());
    structure.solids.resize(structure.frame.solids.size());
    if (structure.frame.empty())
        built.findings.push_back(
            errorAt({}, "there is nothing to solve yet", "Begin with a sentence in the group Shape."));
    for (const auto read : {readMaterials, readJoints, readSupports, readMasses})
        read(model, structure, built.findings);
    readExcitations(model, structure, built.findings);
    readAsk(model, structure, built.findings);
    readSizes(model, structure, built.findings);
    limitAddedMass(structure);
    return built;
}

} // namespace undisona
