#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

Participation participationOf(const System&, const Eigen::MatrixXd& shapes, const MassSummary&,
                              const Eigen::Vector3d& reference);

/// Group number by mode: neighbours within 1e-6 relative frequency share one; all rigid motions are one group.
std::vector<int> groupsOf(const Extraction&);

/// Turns the shapes within each elastic group until the first has the largest participation in x, the next in
/// y, then z, rx, ry, rz; and gives every shape the sign that makes its largest translation positive.
void settleShapes(Extraction&, const std::vector<int>& groups, const System&, const FrameMesh&,
                  const Eigen::Vector3d& reference);

} // namespace undisona
