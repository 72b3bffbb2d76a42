#pragma once
#include "core/modal/mesh_error.hpp"

namespace undisona {

/// How far the modes that a refinement is about are from its goal.
struct RefinementState {
    double worst = 0.0;          ///< largest relative error of a frequency, without its sign
    Eigen::Index mode = -1;      ///< which has it
    long judged = 0, untold = 0; ///< modes that count, and those among them without an estimate
};
RefinementState refinementState(const Ask&, const Extraction&, const MeshErrors&);

/// Sizes with which the modes of an ask should come within its goal: every piece should bring as much to the error as
/// any other (Zienkiewicz and Zhu, A simple error estimator and adaptive procedure, 1987). A part takes the size that
/// most of its pieces want; where they want less, places of their own say so.
MeshSizes refinedSizes(const Structure&, const FrameMesh&, const Extraction&, const MeshErrors&);

} // namespace undisona
