#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// Two parts with lines or faces in common.
struct Touching {
    int first, second; ///< as Frame::partName counts them
    int edges, faces;  ///< that both have
    bool joined;       ///< unless the model says that they are not
};
/// Every pair, in the order of the parts.
std::vector<Touching> touchingParts(const Structure&);

} // namespace undisona
