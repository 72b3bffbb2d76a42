#pragma once
#include "core/modal/modal_stress.hpp"
#include "core/modal/support_forces.hpp"

namespace undisona {

/// What bears on one side alone, in a state.
struct RestContact {
    std::string point, sentence;                      ///< or what it pushes all over
    std::string against{};                            ///< the point that is pushed back; nothing: the ground
    Eigen::Vector3d pushes = Eigen::Vector3d::Zero(); ///< unit
    bool bears = false;
    double force = 0.0;  ///< with which it pushes, N
    double gap = 0.0;    ///< that is left, m
    bool stated = false; ///< whatever the loads: then it may pull, or lie in what it does not bear on
    Eigen::Vector3d sideways = Eigen::Vector3d::Zero(); ///< with which friction holds the point, N
    bool slides = false;                                ///< all that friction holds is not enough
    long places = 1, bearing = 0;                       ///< pieces of what it pushes all over, and those that bear
};

/// A static state: where the structure comes to rest under its loads, with small deflections from the shape that is
/// drawn.
struct RestState {
    std::string name;
    Eigen::Vector3d force = Eigen::Vector3d::Zero();  ///< of all loads from outside, N
    Eigen::Vector3d moment = Eigen::Vector3d::Zero(); ///< about the origin, N m
    std::vector<CarriedLoad> carried;                 ///< by supports, the largest first
    std::vector<RestContact> contacts; ///< supports that only push; those that bear stand in `carried` too
    int passes = 0;                    ///< how often they were looked through until they settled
    double unbalanced = 0.0;           ///< what is carried beside the loads, as a share of them: rounding
    double moves = 0.0;                ///< the largest displacement, m
    Eigen::Vector3d moved = Eigen::Vector3d::Zero(), at = Eigen::Vector3d::Zero(); ///< it, and where, m
    std::string where;                                                             ///< a point or a part there
    std::vector<PartStress> parts; ///< the most stressed first; Pa, N, N m
    std::vector<double> buckles;   ///< by which factors of the state; see Buckling
    double bucklesKnown = 0.0;     ///< to which no others are nearer; 0: none was looked for
};

/// Every static state of a structure on one mesh.
struct Rest {
    std::vector<RestState> states;
    Eigen::MatrixXd motions;   ///< unknowns x states
    Eigen::MatrixXd buckled;   ///< unknowns x factors, state after state; the largest entry one
    StressReading fields;      ///< for colours: without what stands in `states`
    Eigen::MatrixXf endForces; ///< what members carry: N, V1, V2, T, M1, M2 at both ends of each element x states
    Eigen::VectorXf endShares; ///< where on their members those ends lie, 0...1, two an element
    std::int64_t unknowns = 0;
};

/// Solves K u = f for all of them by one factor, and by one more for each state whose warmth makes parts softer.
/// `factors`: how many buckling factors are wanted of each, 0: none; of a
/// structure that is not held none is found. Findings where nothing is loaded, nothing holds what is pushed.
Result<Rest> restOf(const Structure&, const FrameMesh&, long factors, Progress&);

} // namespace undisona
