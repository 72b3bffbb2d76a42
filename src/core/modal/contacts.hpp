#pragma once
#include "core/modal/resting_place.hpp"
#include "core/modal/support_forces.hpp"

namespace undisona {

/// How a place of one of Structure::contacts is in a state (contact_places.hpp): its point, or a piece of what it
/// pushes all over.
struct ContactState {
    bool bears = false;
    double force = 0.0;                                 ///< with which it pushes, N
    double gap = 0.0;                                   ///< that is left, m; 0 where it bears
    Eigen::Vector3d sideways = Eigen::Vector3d::Zero(); ///< what friction holds its point with, N
    bool slides = false;                                ///< all that friction holds is not enough
};

/// States in which supports bear or do not, as their loads have it.
struct RestingStates {
    Eigen::MatrixXd motions;                           ///< unknowns x states
    std::vector<std::vector<ContactState>> contacts{}; ///< by state; of each place
    std::vector<int> passes{};                         ///< by state: how often the supports were looked through
};

/// Where forces bring a structure to rest whose contacts push where they bear, and hold sideways by friction until they
/// slide (Coulomb), for loads that come on at once. The equations are those without any contact. All is condensed onto
/// the contacts, so that one factor serves however often they open and close. Findings where one opens and closes for
/// ever, nothing holds what is pushed, or nothing that bears is pressed.
Result<RestingStates> restingStates(const Structure&, const FrameMesh&, const System&, const Eigen::MatrixXd& forces,
                                    const std::vector<std::string>& names, Progress&);

/// The forces of contacts on the unknowns of equations of the same nodes, which may have others.
Eigen::VectorXd contactForces(const Structure&, const FrameMesh&, const System&, const std::vector<ContactState>&);

/// All places of a contact together.
struct BearingPlaces {
    long places = 0, bearing = 0;
    double force = 0.0;                                 ///< N
    double gap = 0.0, leastGap = 0.0;                   ///< the largest and the least that is left, m
    Eigen::Vector3d sideways = Eigen::Vector3d::Zero(); ///< N
    Eigen::Vector3d moment = Eigen::Vector3d::Zero();   ///< of all forces about `at`, N m
    Eigen::Vector3d at = Eigen::Vector3d::Zero();       ///< the middle of what it pushes, m
    bool slides = false;                                ///< all that bears
};
std::vector<BearingPlaces> bearingPlaces(const Structure&, const FrameMesh&, const System&,
                                         const std::vector<ContactState>&);
/// What supports of those that bear carry; beside Structure::contacts.
std::vector<CarriedLoad> carriedByContacts(const Structure&, const std::vector<BearingPlaces>&);

/// Which contacts bear in modes that are about no state: those without a gap.
std::vector<bool> bearUnasked(const Structure&);
/// The same of their places.
std::vector<ContactState> contactsUnasked(const Structure&, const FrameMesh&, const System&);

/// Adds the stiffness of those that bear, and their grip where they do not slide; states beyond those of the
/// structure's own contacts are left out. What nothing makes give way is as good as rigid: 1e5 times as stiff as what
/// it pushes.
void addContacts(System&, const Structure&, const FrameMesh&, const std::vector<ContactState>&);

} // namespace undisona
