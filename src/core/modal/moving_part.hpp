#pragma once
#include "core/modal/moved_mass.hpp"
#include "core/modal/solution.hpp"

namespace undisona {

/// What of a structure moves in a mode while the rest is still, or as good as still.
struct MovingPart {
    std::string words;          ///< "Stays", "Case.back and Case.lid"; empty where it is most of the structure
    bool mostly = false;        ///< other parts have a share that shows
    bool betweenJoints = false; ///< members, while their joints rest
    std::vector<int> members;   ///< the liveliest first; or
    std::vector<int> parts;     ///< sheets and solids, as Frame::partName counts them, the liveliest first
    double ofMass = 1.0;        ///< of the structure

    bool isWhole() const { return words.empty(); }
};

/// By the shares of the kinetic energy: the fewest members, or sheets and solids, that together have nearly all of it,
/// where these are a small part of what there is; else the members of a structure that swing, or twist, while what they
/// are joined at rests.
MovingPart movingPart(const Structure&, const MassPoints&, const Energies&, const Motions&, Eigen::Index mode,
                      bool twists);

/// Members by their shares of the kinetic energy, with what is spread along them, the largest first.
std::vector<std::pair<double, int>> kineticOfMembers(const Energies&, Eigen::Index mode);

} // namespace undisona
