#pragma once
#include "core/modal/mesh_error.hpp"

#include <limits>

namespace undisona {

/// How far the modes that a refinement is about are from its goal.
struct RefinementState {
    double worst = 0.0;          ///< largest relative error of a frequency, without its sign
    Eigen::Index mode = -1;      ///< which has it
    long judged = 0, untold = 0; ///< modes that count, and those among them without an estimate
};
RefinementState refinementState(const Ask&, const Extraction&, const MeshErrors&);

/// What a finer mesh is for.
struct RefinementAim {
    double within;      ///< relative error of a frequency
    double below = 0.0; ///< Hz; above it modes do not count; 0: all of them do
    MeshSizes atMost{}; ///< by whose sizes no part's are exceeded; empty: those of the mesh
    /// Of the pieces that these alone would make, about, the most there may be: so many times as many, and so many
    /// more. The goal gives way to either.
    double mostTimes = std::numeric_limits<double>::infinity(), mostMore = mostTimes;
};

/// Sizes with which modes should come within a goal: every piece should bring as much to the error as
/// any other (Zienkiewicz and Zhu, A simple error estimator and adaptive procedure, 1987). A part takes the size that
/// most of its pieces want; where they want less, places of their own say so.
MeshSizes refinedSizes(const Structure&, const FrameMesh&, const Extraction&, const MeshErrors&, const RefinementAim&);

/// About how many pieces of bodies there would be on other sizes, by those that there are: where details made them
/// smaller than their part's size, they stay until that is smaller still.
double piecesOn(const Structure&, const FrameMesh&, const MeshSizes&);

} // namespace undisona
