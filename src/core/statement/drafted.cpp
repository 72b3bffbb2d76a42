#include "core/statement/drafted.hpp"

#include "core/statement/read_groups.hpp"

namespace undisona {

Structure drafted(const Structure& structure, const Sentence& sentence, Findings& findings)
{
    Structure draft;
    draft.frame = structure.frame;
    draft.members = structure.members;
    draft.sheets = structure.sheets;
    draft.solids = structure.solids;
    draft.ownMaterials = structure.ownMaterials;
    const Model alone(std::vector<Sentence>{sentence});
    for (const auto read : {readJoints, readSupports, readMasses})
        read(alone, draft, findings);
    return draft;
}

} // namespace undisona
