#include "core/modal/sheet_energy.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/numerics/workers.hpp"

namespace undisona {

std::vector<double> sheetEnergyPerArea(const Structure& structure, const FrameMesh& mesh, const System& system,
                                       const Eigen::Ref<const Eigen::VectorXd>& q)
{
    const std::size_t count = mesh.shells.size();
    std::vector<double> energy(count, 0.0);
    Workers workers(threadsFor(system.size()));
    workers.run([&](int hand) {
        const auto hands = static_cast<std::size_t>(workers.count()), own = static_cast<std::size_t>(hand);
        for (std::size_t at = count * own / hands; at < count * (own + 1) / hands; ++at) {
            const ShellEquations equations = shellOf(structure, mesh, mesh.shells[at]);
            const auto [r, s] = middleOf(equations.element);
            double thickness = 0.0;
            for (const double corner : equations.element.thickness)
                thickness += corner / double(equations.element.thickness.size());
            energy[at] = energyPerArea(equations.element,
                                       strainsAt(equations.element, system.ownMotion(mesh.shells[at], equations, q), r, s),
                                       thickness)[0];
        }
    });
    return energy;
}

} // namespace undisona
