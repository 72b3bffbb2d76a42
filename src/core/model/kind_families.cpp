#include "core/model/kind_families.hpp"

#include <algorithm>
#include <stdexcept>

namespace undisona {

const std::vector<KindFamily>& kindFamilies()
{
    static const std::vector<KindFamily> families{
        {"Points and members", {"point", "points", "members", "run", "arc", "circle", "ring", "pipe"}},
        {"Frames ready made", {"frame", "lattice-mast"}},
        {"Sheet",
         {"plate", "plate-through", "disc", "sheet-box", "folded-sheet", "rib", "cylinder-shell", "cone-shell", "dome",
          "elbow", "taper"}},
        {"Holes and openings", {"holes", "hole-grid", "hole-circle", "opening", "opening-through"}},
        {"Bodies", {"solid-box", "solid-cylinder", "solid-sphere", "extrusion", "revolution"}},
        {"Bodies out of bodies", {"solid-cut", "solid-union", "solid-common"}},
        {"Copies and moves", {"copies", "copies-around", "mirror", "moved", "turned", "laid-against"}},
        {"From files", {"imported", "mesh-part", "point-at-node", "assembly", "assembly-row", "assembly-around"}},
        {"Simpler than drawn", {"small-left-out", "mid-face"}},
        {"What things are made of",
         {"material", "own-material", "orthotropic", "grain", "layers", "strength", "softening", "material-mass"}},
        {"Sections", {"section", "given-section"}},
        {"Rigid, or as a mean", {"rigid", "join", "mean", "centre", "offset"}},
        {"Elastic", {"spring", "mount", "layer", "bolt", "one-sided"}},
        {"Looser than it looks", {"release", "rods", "membranes", "apart"}},
        {"Supports", {"hold", "rests-on", "ground-spring", "bed"}},
        {"Mass at points", {"mass", "carried", "weight"}},
        {"Mass spread out", {"mass-spread", "loads", "contents", "lining", "coating"}},
        {"The book of masses", {"one-body", "weighed"}},
        {"What pushes and pulls", {"own-weight", "force", "moment", "pressure", "shift"}},
        {"What is tight, warm or spins", {"pretension", "warming", "spin"}},
        {"States of them", {"combined-state", "bears-as-said"}},
        {"What shakes", {"running-speed", "speed-range", "fixed-frequency", "frequency-band"}},
        {"Which modes",
         {"lowest", "up-to", "band", "nearest", "every-mode", "mass-share", "ritz-vectors", "residual-vectors"}},
        {"How exactly",
         {"refine", "fineness", "size-at", "sheet-mesh", "solid-elements", "mass-matrix", "accuracy", "proof"}},
        {"Of what, and called what",
         {"about-state", "state", "leave-out", "mass-acts", "reference-point", "hand-check", "call-mode"}}};
    return families;
}

const KindFamily& familyOf(const SentenceKind& kind)
{
    for (const auto& family : kindFamilies())
        if (std::find(family.keys.begin(), family.keys.end(), kind.key) != family.keys.end()) return family;
    throw std::logic_error("no family has the kind " + kind.key); // a test looks at each
}

} // namespace undisona
