#pragma once
#include "core/geometry/structure.hpp"

namespace undisona {

/// Two sheets with lines in common.
struct Touching {
    int first, second; ///< of frame.sheets
    int edges;         ///< that both have
    bool joined;       ///< unless the model says that they are not
};
/// Every pair, in the order of the sheets.
std::vector<Touching> touchingSheets(const Structure&);

} // namespace undisona
