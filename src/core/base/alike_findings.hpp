#pragma once
#include "core/base/finding.hpp"

namespace undisona {

/// The first few of many names: "a, b, c, d and 23 more".
std::string someOf(const std::vector<std::string>& names);

/// Findings that say the same of several sentences or places as one, where the first of them stood, with the places.
Findings alikeAsOne(const Findings&);

} // namespace undisona
