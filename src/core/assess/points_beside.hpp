#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// Points that are used, so often each, and lie off a part by less than the part is thick: meant to be on it, and joined
/// to nothing there. With the place on the part where each would lie, and changes of the model that join them.
Findings pointsBesideParts(const Structure&, const Model&, std::vector<int> used);

/// The same beside the line of a member, by less than its section reaches, where nothing joins the two in any way.
Findings pointsBesideMembers(const Structure&, const std::vector<int>& used);

} // namespace undisona
