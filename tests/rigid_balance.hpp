#pragma once
#include "core/system/assemble.hpp"
#include "tests/said_model.hpp"

namespace undisona {

/// The greatest force of the equations on a motion of the whole as a rigid body, over the greatest that its terms have.
inline double forceOnRigidMotions(const System& system)
{
    double worst = 0.0;
    for (int direction = 0; direction < 6; ++direction) {
        Eigen::VectorXd motion(system.size());
        for (Eigen::Index at = 0; at < system.size(); ++at)
            motion[at] = system.motions.unknowns[static_cast<std::size_t>(at)].fromRigid[direction];
        SparseSymmetric magnitudes = system.stiffness;
        for (double& value : magnitudes.value)
            value = std::abs(value);
        Eigen::MatrixXd forces = system.stiffness * motion;
        system.apart.addProduct(motion, forces);
        system.apart.balance(forces);
        const Eigen::MatrixXd terms = magnitudes * motion.cwiseAbs();
        worst = std::max(worst, forces.cwiseAbs().maxCoeff() / terms.maxCoeff());
    }
    return worst;
}

/// That no motion of the whole as a rigid body costs a force, on the first mesh.
inline void balanced(const SaidModel& said, const char* what)
{
    const Structure structure = said.structure();
    Progress progress;
    const FrameMesh mesh = meshOf(structure, proposeSplits(structure, 0.0), proposeSizes(structure, 0.0));
    const System system = assemble(structure, mesh, progress);
    EXPECT_FALSE(hasError(system.motions.problems)) << what;
    EXPECT_LT(forceOnRigidMotions(system), 1e-11) << what;
}

} // namespace undisona
