#include "core/statement/structure.hpp"

#include "core/model/unread.hpp"
#include "core/patterns/frame_builder.hpp"
#include "core/statement/left_out.hpp"
#include "core/statement/read_groups.hpp"

namespace undisona {

StructureAndFindings buildStructure(const Model& stated)
{
    StructureAndFindings built;
    built.findings = unreadWords(stated);
    const Model model = built.findings.empty() ? stated : withoutUnread(stated);
    Structure& structure = built.structure;
    structure.frame = buildFrame(model, built.findings);
    structure.members.resize(structure.frame.members.size());
    structure.sheets.resize(structure.frame.sheets.size());
    structure.solids.resize(structure.frame.solids.size());
    if (structure.frame.empty())
        built.findings.push_back(
            errorAt({}, "there is nothing to solve yet", "Begin with a sentence in the group Shape."));
    structure.leftOut = leftOut(model, built.findings);
    for (const auto read : {readMaterials, readJoints, readSupports, readMasses})
        read(model, structure, built.findings);
    readExcitations(model, structure, built.findings);
    readAsk(model, structure, built.findings);
    readSizes(model, structure, built.findings);
    return built;
}

} // namespace undisona
