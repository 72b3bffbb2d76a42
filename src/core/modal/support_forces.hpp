#pragma once
#include "core/mesh/frame_mesh.hpp"
#include "core/system/load_stiffness.hpp"

namespace undisona {

/// What one support carries, or springs, or a bed to ground.
struct CarriedLoad {
    std::string sentence;
    std::string point;                               ///< that it holds; empty where it holds something else, as a whole
    Eigen::Vector3d force = Eigen::Vector3d::Zero(); ///< on the structure, N
    Eigen::Vector3d moment = Eigen::Vector3d::Zero(); ///< on the structure, about the place, N m
    Eigen::Vector3d place = Eigen::Vector3d::Zero();  ///< the mean of what it holds, m
};

/// What supports carry of a structure at rest does the work of what is left of K u - f in the equations of the same
/// structure without them: so no kind of element has to tell its forces. Where several supports hold one rigid body
/// their shares are open, and the least are taken. What it is made from must outlive it.
class SupportForces {
public:
    SupportForces(const Structure&, const FrameMesh&, const System&, Progress&);

    /// The structure without what holds it rigidly.
    const System& free() const { return free_; }
    /// With what a state adds to its stiffness.
    void give(const Prestress& state) { stiffenBy(free_, structure_, mesh_, state); }
    /// For a motion and for the forces on the free structure that make it, the largest first; what is nothing beside
    /// such a force (N) and moment (N m) is left out.
    std::vector<CarriedLoad> carried(const Eigen::VectorXd& u, const Eigen::VectorXd& forces, double force,
                                     double moment) const;

private:
    const Structure& structure_;
    const FrameMesh& mesh_;
    const System& system_;
    System free_;
};

} // namespace undisona
