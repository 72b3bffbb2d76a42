#pragma once
#include "core/base/progress.hpp"
#include "core/modal/support_forces.hpp"

namespace undisona {

/// How stiff a structure is at one of its points, what is applied there alone: force over what moves along it.
struct PointStiffness {
    std::string point;
    Eigen::Vector3d along = Eigen::Vector3d::Zero(); ///< of forces along x y z, N/m; 0 where it does not move
    Eigen::Vector3d about = Eigen::Vector3d::Zero(); ///< of moments about x y z, N m/rad; 0 where it does not turn
};

/// A structure at rest under its own weight, with small deflections from the shape that is drawn.
struct SelfWeight {
    double weight = 0.0;              ///< N, along -z, of all that acts there, what is held too
    double mass = 0.0;                ///< kg, that has it
    std::vector<CarriedLoad> carried; ///< the largest first
    double unbalanced = 0.0;          ///< what is carried beside the weight, as a share of it: rounding
    double sinks = 0.0;               ///< the largest displacement, m
    Eigen::Vector3d moved = Eigen::Vector3d::Zero(), at = Eigen::Vector3d::Zero(); ///< it, and where, m
    std::string where;                                                             ///< a point or a member there
    std::int64_t unknowns = 0;
    std::vector<PointStiffness> stiffness; ///< of the points asked for
};

/// Solves K u = -g b_z on the mesh, b_z as of a moving base. Findings where nothing holds it or
/// something is loose. `points` are asked how stiff it is there, by unit loads and the same factor; a name that is none
/// is a finding.
Result<SelfWeight> selfWeightOf(const Structure&, const MeshPlan&, const std::vector<std::string>& points, Progress&);

} // namespace undisona
