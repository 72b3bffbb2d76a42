#pragma once
#include "core/statement/structure.hpp"
#include "core/units/display.hpp"

namespace undisona {

/// What members, sheets and bodies are told apart by.
enum class ToldBy { material, section, thickness, part, subAssembly };

/// The kinds of them, and which is whose.
struct ToldApart {
    struct Kind {
        std::string name; ///< "construction steel", "tube 60.3x4 mm", "6 mm", "legs of Mast"
        int count = 0;    ///< of members, sheets and bodies
    };
    std::vector<Kind> kinds;    ///< thicknesses from thin to thick, what else by how many, the most first
    std::vector<int> ofMembers; ///< by member; -1: it has none, as sheet has no section
    std::vector<int> ofParts;   ///< by sheet and body, as Frame::partName counts them
};
ToldApart toldApart(const Structure&, ToldBy, const DisplayUnits&);

} // namespace undisona
