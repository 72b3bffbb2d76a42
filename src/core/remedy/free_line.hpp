#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// Whether a strut may run straight between two nodes: it neither lies along a member nor comes nearer to another's
/// axis than the member is thick, and goes through no sheet and no body. What ends where it ends is not in its way.
class FreeLine {
public:
    explicit FreeLine(const Solution&);
    bool between(int from, int to) const;

private:
    bool passesMembers(int from, int to) const;
    bool passesSurfaces(int from, int to) const;
    const Solution& solution_;
    std::vector<std::array<int, 3>> triangles_; ///< of sheets and of solids' outer faces
};

} // namespace undisona
