#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// Points, rims and faces that look like held ones and are not held: one forgotten foot, one bolt's hole. `meeting` has
/// by point how many members meet there.
void findForgottenSupports(const Structure&, const Model&, const std::vector<int>& meeting, Findings&);

} // namespace undisona
