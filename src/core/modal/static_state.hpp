#pragma once
#include "core/base/finding.hpp"
#include "core/modal/contacts.hpp"
#include "core/system/load_stiffness.hpp"

namespace undisona {

/// Whether a state draws something tight.
bool drawsTight(const Structure&, Eigen::Index state);

/// A state that draws something tight: a wire carries what pushes across it by its pull alone, so the equations have
/// the stiffness of the state itself.
struct TightState {
    System system;
    Eigen::VectorXd motion; ///< K u = forces
    std::vector<ContactState> contacts{};
    int passes = 0; ///< through the contacts, in the last round
};
/// From the pull of what is drawn tight by itself on, until what members carry along themselves changes no more (second
/// order theory). Findings where it has no place of rest, or buckles.
Result<TightState> tightState(const Structure&, const FrameMesh&, const System&, const StaticLoads&, Eigen::Index state,
                              Progress&);

/// The equations of a structure on a mesh, with what the state adds that its modes are asked about. What is wrong with
/// that state stands among MotionMap::problems.
System systemOf(const Structure&, const FrameMesh&, Progress&);

/// How many times a state can act before motions appear that release energy.
struct Buckling {
    Eigen::VectorXd factors; ///< of the loads as they are, ascending; then below nothing, of them turned round
    Eigen::MatrixXd shapes;  ///< unknowns x factors, the largest entry one
    double known = 0.0;      ///< no others of either sign lie nearer to nothing than this
};

/// Of K phi = -factor K_state phi, by block Lanczos on K^-1 K_state in the inner product of K. Those that have
/// converged, `count` of either sign at most; none where nothing presses. For a held structure.
Buckling bucklingOf(const System&, const RestingPlace&, const SparseSymmetric& stateStiffness, Eigen::Index count);

/// The same of a state whose own stiffness the equations have, so that nothing but what presses stands out: of
/// K phi = theta (K + K_state) phi, factor = theta / (theta - 1). Of the loads as they are alone, and beyond the state.
Buckling bucklingBeyond(const System& plain, const System& withState, const RestingPlace& ofThat, Eigen::Index count);

} // namespace undisona
