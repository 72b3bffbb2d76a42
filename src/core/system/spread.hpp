#pragma once
#include "core/system/assemble.hpp"

#include <functional>

namespace undisona {

/// What an attachment comes to on one piece of the mesh: a matrix in that piece's own motions.
struct SpreadPiece {
    int element = -1;         ///< of a member: its twelve own motions
    int shell = -1;           ///< of sheet: the six of each corner in its own axes
    std::vector<int> nodes{}; ///< of either; else their shifts along x, y, z are the own motions
    Eigen::MatrixXd matrix{}; ///< mass or stiffness, lumped where the ask has the mass so
    double amount = 0.0;      ///< kg or N/m in all
    Eigen::Vector3d moment = Eigen::Vector3d::Zero(); ///< amount times the middle of what it stands on, m
    std::vector<double> ofNode{};                     ///< what of the amount stands at each node
};

/// The pieces of an attachment, one after the other. Of members and sheets without a material there are none.
void eachPiece(const Structure&, const FrameMesh&, const Attachment&, const std::function<void(const SpreadPiece&)>&);

} // namespace undisona
