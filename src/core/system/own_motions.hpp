#pragma once
#include "core/system/spread.hpp"

namespace undisona {

/// The unknowns that move a piece, and its own motions by them.
struct OwnMotions {
    std::vector<int> unknowns;
    Eigen::MatrixXd toOwn; ///< own motions x unknowns
    std::vector<int> held;
    Eigen::MatrixXd heldToOwn;
};
/// Of a piece of sheet: six of each corner in its own axes.
OwnMotions ownMotions(const MotionMap&, const ShellEquations&);

/// Of a piece on which something is spread.
OwnMotions ownMotions(const System&, const SpreadPiece&);
/// What has something that is spread; of a face, the solid that has it.
std::pair<OwnerKind, int> ownerOf(const Structure&, const Attachment&);

/// toOwn' matrix toOwn of a piece of sheet; by blocks of a corner each where corners move freely of each other, which
/// is the usual case.
Eigen::MatrixXd carried(const Eigen::MatrixXd& matrix, const OwnMotions&, std::size_t corners);

} // namespace undisona
