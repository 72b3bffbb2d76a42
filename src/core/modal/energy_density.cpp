#include "core/modal/energy_density.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/numerics/workers.hpp"

namespace undisona {

EnergyDensity energyDensity(const Structure& structure, const FrameMesh& mesh, const System& system,
                            const Eigen::VectorXd& q)
{
    EnergyDensity density{std::vector<double>(mesh.shells.size()), std::vector<double>(mesh.solids.size())};
    const Eigen::MatrixXd motion = q; // once, not for each piece
    useBlasThreads(1);                // its threads would spin beside ours
    Workers workers(threadsForPieces(mesh.shells.size() + mesh.solids.size()));
    workers.forEach(mesh.shells.size(), [&](std::size_t at) {
        const ShellEquations equations = shellOf(structure, mesh, mesh.shells[at]);
        double thickness = 0.0;
        for (const double corner : equations.element.thickness)
            thickness += corner / double(equations.element.thickness.size());
        density.shells[at] =
            energyPerArea(equations.element,
                          strainsAt(equations.element, {}, system.ownMotion(mesh.shells[at], equations, motion),
                                    {middleOf(equations.element)})[0],
                          thickness)[0] /
            thickness;
    });
    workers.forEach(mesh.solids.size(), [&](std::size_t at) {
        const SolidElement element = solidOf(structure, mesh, mesh.solids[at]);
        density.solids[at] = energyPerVolume(
            element, strainsAt(element, system.ownMotion(mesh.solids[at], motion), {middleOf(element.kind)}))[0];
    });
    return density;
}

} // namespace undisona
