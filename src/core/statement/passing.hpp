#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// Shares of a member's length, ascending, at which it goes through some of the frame's faces between its ends.
std::vector<double> passesThrough(const Frame&, int member, const std::vector<int>& faces);

/// A member that goes through a part which it neither meets at a point nor is joined to.
struct Passing {
    int member, part; ///< the part as Frame::partName counts them
    Eigen::Vector3d place;
};
/// Every such pair, the first place of each.
std::vector<Passing> membersPassing(const Structure&);

} // namespace undisona
