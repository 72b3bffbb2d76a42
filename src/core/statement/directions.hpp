#pragma once
#include <array>

namespace undisona {

/// Which of x, y, z are meant.
using Mask3 = std::array<bool, 3>;

} // namespace undisona
