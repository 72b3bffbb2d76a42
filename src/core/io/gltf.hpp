#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// The structure as triangles, with the motion of each mode as a morph target and an animation of its own that turns
/// once a second: glTF 2.0, binary (Khronos Group, ISO/IEC 12113). The largest displacement is drawn as a twelfth of the
/// structure's span; rigid motions and mechanisms are left out; of more modes than `most` the lowest. Empty where there
/// is nothing to draw.
std::string modesGlb(const Solution&, std::size_t most = 24);

/// The same in one page of HTML that plays it without a network: turned by dragging, nearer by the wheel, any mode,
/// any amplitude.
std::string motionPage(const Solution&, const std::string& title, std::size_t most = 24);

} // namespace undisona
