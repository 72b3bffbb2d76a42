#include "core/statement/structure.hpp"

#include "core/patterns/frame_builder.hpp"
#include "core/statement/expanded.hpp"
#include "core/statement/read_groups.hpp"

namespace undisona {

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
    return built;
}

} // namespace undisona
