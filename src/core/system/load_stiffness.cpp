#include "core/system/load_stiffness.hpp"

#include "core/elements/stress_stiffness.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/numerics/workers.hpp"
#include "core/system/combination.hpp"
#include "core/system/own_motions.hpp"
#include "core/system/sum_parts.hpp"

namespace undisona {

namespace {

/// Its matrix is made again when it is wanted where its nodes shift freely, which is the usual case.
Part solidTension(const Structure& structure, const FrameMesh& mesh, const System& system, std::size_t at,
                  const Eigen::Matrix<double, 6, Eigen::Dynamic>& stresses)
{
    const MeshSolid& solid = mesh.solids[at];
    const SolidElement& element = system.solids[at];
    const Eigen::MatrixXd k = stressStiffness(element, stresses);
    const std::string& sentence = structure.frame.solids[static_cast<std::size_t>(solid.solid)].sentence;
    Part part{PartKind::tension, sentence, OwnerKind::solid, solid.solid, {}, k};
    Combination shifts(element.unknowns());
    bool plain = true;
    for (std::size_t node = 0; node < solid.count(); ++node) {
        const NodeMotion& motion = system.motions.nodes[static_cast<std::size_t>(solid.nodes[node])];
        plain = plain && motion.basis.cols() == 3 && motion.basis.topRows<3>().isIdentity(0.0);
        part.unknowns.insert(part.unknowns.end(), motion.unknowns.begin(), motion.unknowns.end());
        shifts.add(3 * Eigen::Index(node), motion, Matrix6::Identity().topRows<3>());
    }
    if (!plain) return partOf(PartKind::tension, sentence, OwnerKind::solid, solid.solid, shifts, k, {});
    part.tensioned = static_cast<int>(at);
    return part;
}

} // namespace

Vector12 endForces(const System& system, const StaticLoads& loads, std::size_t element, Eigen::Index state,
                   const Eigen::VectorXd& u)
{
    const ElementEquations& own = system.elements[element];
    Vector12 forces = Vector12::Zero();
    if (!own.unknowns.empty()) {
        const Vector12 motion = own.toOwn * u(own.unknowns);
        forces = stiffness(own.element) * motion;
        if (system.state) { // what pulls turns with the member
            const auto [from, to] = system.state->members[element];
            forces += stressStiffness(own.element, from, to) * motion;
        }
    }
    if (loads.onElement[element].size() > 0) forces -= loads.onElement[element].col(state);
    return forces;
}

Prestress prestressOf(const FrameMesh& mesh, const System& system, const StaticLoads& loads, Eigen::Index state,
                      const Eigen::VectorXd& u)
{
    Prestress forces;
    for (std::size_t at = 0; at < system.elements.size(); ++at) {
        const Vector12 ends = endForces(system, loads, at, state, u);
        forces.members.push_back({-ends[0], ends[6]});
    }
    useBlasThreads(1); // its threads would spin beside ours
    forces.shells.resize(system.shells.size());
    Workers(threadsForPieces(system.shells.size())).forEach(system.shells.size(), [&](std::size_t at) {
        const ShellEquations& own = system.shells[at];
        const Eigen::Index sheet = mesh.shells[at].sheet;
        const ShellPlaces places = finePlaces(own.element);
        const auto strains =
            strainsAt(own.element, insideOf(own.element), system.ownMotion(mesh.shells[at], own, u), places.parameters);
        const double evenly = loads.sheetStrain(sheet, state), across = loads.sheetBend(sheet, state);
        forces.shells[at].resize(3, Eigen::Index(strains.size()));
        for (std::size_t place = 0; place < strains.size(); ++place) {
            const double t = places.thickness[place];
            ShellStrains elastic = strains[place];
            elastic.membrane.topRows<2>().array() -= evenly;
            elastic.curvature.topRows<2>().array() -= across / t;
            forces.shells[at].col(Eigen::Index(place)) = forcesOf(own.element, elastic, t).membrane;
        }
    });
    forces.solids.resize(system.solids.size());
    Workers(threadsForPieces(system.solids.size())).forEach(system.solids.size(), [&](std::size_t at) {
        const SolidElement& element = system.solids[at];
        const auto places = finePlaces(element).parameters;
        const Eigen::VectorXd strains = strainsAt(element, system.ownMotion(mesh.solids[at], u), places);
        const Eigen::Matrix<double, 6, 6> elasticity = elasticityOf(element);
        const double warmed = loads.solidStrain(mesh.solids[at].solid, state);
        forces.solids[at].resize(6, Eigen::Index(places.size()));
        for (Eigen::Index place = 0; place < forces.solids[at].cols(); ++place) {
            Vector6 elastic = strains.segment<6>(6 * place);
            elastic.head<3>().array() -= warmed;
            forces.solids[at].col(place) = elasticity * elastic;
        }
    });
    return forces;
}

std::vector<Part> tensionParts(const Structure& structure, const FrameMesh& mesh, const System& system,
                               const Prestress& state)
{
    std::vector<Part> parts;
    for (std::size_t at = 0; at < state.members.size(); ++at) {
        const auto [from, to] = state.members[at];
        const ElementEquations& own = system.elements[at];
        if (own.unknowns.empty() || (from == 0.0 && to == 0.0)) continue;
        const int member = mesh.elements[at].member;
        parts.push_back({PartKind::tension, structure.frame.members[static_cast<std::size_t>(member)].sentence,
                         OwnerKind::member, member, own.unknowns,
                         own.toOwn.transpose() * stressStiffness(own.element, from, to) * own.toOwn});
    }
    std::vector<Part> pieces(state.shells.size() + state.solids.size());
    Workers(threadsForPieces(pieces.size())).forEach(pieces.size(), [&](std::size_t which) {
        const bool ofSheet = which < state.shells.size();
        const std::size_t at = ofSheet ? which : which - state.shells.size();
        Part& part = pieces[which];
        if (ofSheet) {
            const int sheet = mesh.shells[at].sheet;
            const ShellEquations& own = system.shells[at];
            if (state.shells[at].isZero(0.0) || system.motions.isOneBody(own.nodes, own.element.corner.size())) return;
            const OwnMotions motions = ownMotions(system.motions, own);
            part = {PartKind::tension,
                    structure.frame.sheets[static_cast<std::size_t>(sheet)].sentence,
                    OwnerKind::sheet,
                    sheet,
                    motions.unknowns,
                    carried(stressStiffness(own.element, state.shells[at]), motions, own.element.corner.size())};
            return;
        }
        const MeshSolid& solid = mesh.solids[at];
        if (state.solids[at].isZero(0.0) || system.motions.isOneBody(solid.nodes, solid.count())) return;
        part = solidTension(structure, mesh, system, at, state.solids[at]);
    });
    for (auto& part : pieces)
        if (!part.unknowns.empty()) parts.push_back(std::move(part));
    return parts;
}

SparseSymmetric sumOf(const System& system, const std::vector<Part>& tension)
{
    return sumParts(system.size(), tension, {}).first;
}

void stiffenBy(System& system, const Structure& structure, const FrameMesh& mesh, Prestress state)
{
    auto parts = tensionParts(structure, mesh, system, state);
    system.stiffness = sum(system.stiffness, 1.0, sumOf(system, parts));
    for (auto& part : parts) {
        if (part.tensioned >= 0) part.stiffness = Eigen::MatrixXd();
        system.parts.push_back(std::move(part));
    }
    system.state = std::make_shared<const Prestress>(std::move(state));
}

} // namespace undisona
