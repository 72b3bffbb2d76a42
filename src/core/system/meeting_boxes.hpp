#pragma once
#include <Eigen/Dense>

#include <functional>
#include <vector>

namespace undisona {

/// Calls `take` with every box of the first list and every one of the second that have something in common.
void eachMeeting(const std::vector<Eigen::AlignedBox3d>& ones, const std::vector<Eigen::AlignedBox3d>& others,
                 const std::function<void(int one, int other)>& take);

} // namespace undisona
