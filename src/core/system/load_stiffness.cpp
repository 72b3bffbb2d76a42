#include "core/system/load_stiffness.hpp"

#include "core/elements/stress_stiffness.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/numerics/workers.hpp"
#include "core/system/combination.hpp"
#include "core/system/own_motions.hpp"
#include "core/system/pressure_stiffness.hpp"
#include "core/system/spread.hpp"
#include "core/system/sum_parts.hpp"

namespace undisona {

namespace {

/// What spread and point masses that spin take off.
void addSpunMasses(const Structure& structure, const FrameMesh& mesh, const System& system, const Eigen::Matrix3d& spin,
                   std::vector<Part>& parts)
{
    const auto put = [&](Part part) {
        if (!part.unknowns.empty()) parts.push_back(std::move(part));
    };
    for (Attachment attached : structure.attachments) {
        if (attached.effect != Attachment::Effect::mass) continue;
        attached.tensor = -attached.perExtent() * spin;
        const auto [of, owner] = ownerOf(structure, attached);
        eachPiece(structure, mesh, attached, [&, of = of, owner = owner](const SpreadPiece& piece) {
            const OwnMotions own = ownMotions(system, piece);
            put({PartKind::tension, attached.sentence, of, owner, own.unknowns,
                 own.toOwn.transpose() * piece.matrix * own.toOwn});
        });
    }
    for (const auto& mass : structure.pointMasses) {
        Combination centre(3);
        centre.add(0, system.motions.nodes[static_cast<std::size_t>(mass.point)], carry(mass.centre).topRows<3>());
        put(partOf(PartKind::tension, mass.sentence, OwnerKind::point, mass.point, centre, -mass.mass * spin, {}));
    }
}

/// What the rotation of a node costs, as a part.
void addArm(const System& system, int node, const Eigen::Matrix3d& stiffness, Part part, std::vector<Part>& parts)
{
    const NodeMotion& motion = system.motions.nodes[static_cast<std::size_t>(node)];
    if (stiffness.isZero(0.0) || motion.unknowns.empty()) return;
    const Eigen::MatrixXd turns = motion.basis.bottomRows<3>();
    part.unknowns = motion.unknowns;
    part.stiffness = turns.transpose() * stiffness * turns;
    parts.push_back(std::move(part));
}

/// What a member pulls at that is fixed beside its nodes.
void addArms(const Structure& structure, const FrameMesh& mesh, const System& system, std::size_t at,
             const std::array<Vector6, 2>& forces, std::vector<Part>& parts)
{
    const MeshElement& element = mesh.elements[at];
    for (std::size_t end = 0; end < 2; ++end) {
        const Eigen::Vector3d onNode = (end == 0 ? 1.0 : -1.0) * (system.elements[at].axes * forces[end].head<3>());
        addArm(system, element.nodes[end], armStiffness(element.arms[end], onNode),
               {PartKind::tension, structure.frame.members[static_cast<std::size_t>(element.member)].sentence,
                OwnerKind::member, element.member},
               parts);
    }
}

/// Its matrix is made again when it is wanted where its nodes shift freely, which is the usual case.
Part solidTension(const Structure& structure, const FrameMesh& mesh, const System& system, std::size_t at,
                  const Prestress& state)
{
    const MeshSolid& solid = mesh.solids[at];
    const SolidElement& element = system.solids[at];
    const Eigen::MatrixXd k = stateStiffness(element, state, at);
    const std::string& sentence = structure.frame.solids[static_cast<std::size_t>(solid.solid)].sentence;
    Part part{PartKind::tension, sentence, OwnerKind::solid, solid.solid, {}, k};
    bool plain = true;
    for (std::size_t node = 0; node < solid.count(); ++node) {
        const NodeMotion& motion = system.motions.nodes[static_cast<std::size_t>(solid.nodes[node])];
        plain = plain && motion.basis.cols() == 3 && motion.basis.topRows<3>().isIdentity(0.0);
        part.unknowns.insert(part.unknowns.end(), motion.unknowns.begin(), motion.unknowns.end());
    }
    if (!plain) {
        Combination shifts(element.unknowns());
        for (std::size_t node = 0; node < solid.count(); ++node)
            shifts.add(3 * Eigen::Index(node), system.motions.nodes[static_cast<std::size_t>(solid.nodes[node])],
                       Matrix6::Identity().topRows<3>());
        return partOf(PartKind::tension, sentence, OwnerKind::solid, solid.solid, shifts, k, {});
    }
    part.tensioned = static_cast<int>(at);
    return part;
}

} // namespace

Eigen::MatrixXd stateStiffness(const SolidElement& element, const Prestress& state, std::size_t solid)
{
    Eigen::MatrixXd added = stressStiffness(element, state.solids[solid]);
    if (state.spin.isZero(0.0)) return added;
    SolidElement spun = element;
    spun.acts = state.spin;
    return added - consistentMass(spun);
}

Vector12 endForces(const System& system, const StaticLoads& loads, std::size_t element, Eigen::Index state,
                   const Eigen::VectorXd& u)
{
    const ElementEquations& own = system.elements[element];
    Vector12 forces = Vector12::Zero();
    if (!own.unknowns.empty()) {
        const Vector12 motion = own.toOwn * u(own.unknowns);
        forces = stiffness(own.element) * motion;
        if (system.state) { // what pulls turns with the member
            forces += stressStiffness(own.element, system.state->members[element]) * motion;
        }
    }
    if (loads.onElement[element].size() > 0) forces -= loads.onElement[element].col(state);
    return forces;
}

Prestress prestressOf(const Structure& structure, const FrameMesh& mesh, const System& system, const StaticLoads& loads,
                      Eigen::Index state, const Eigen::VectorXd& u)
{
    Prestress forces;
    const auto& factors = structure.staticStates[static_cast<std::size_t>(state)].factors;
    for (std::size_t at = 0; at < structure.loads.size(); ++at)
        if (structure.loads[at].kind == Load::Kind::spin) forces.spin += factors[at] * spinTensor(structure.loads[at]);
    for (const auto& mass : structure.pointMasses) {
        const Eigen::Vector3d centre = structure.frame.points[static_cast<std::size_t>(mass.point)].place + mass.centre;
        Eigen::Vector3d& pull = forces.masses.emplace_back(Eigen::Vector3d::Zero());
        for (std::size_t at = 0; at < structure.loads.size(); ++at) {
            const Load& load = structure.loads[at];
            if (load.kind == Load::Kind::weight) pull += factors[at] * mass.mass * load.vector;
            if (load.kind == Load::Kind::spin)
                pull += factors[at] * mass.mass * (spinTensor(load) * (centre - load.place));
        }
    }
    for (std::size_t at = 0; at < system.elements.size(); ++at) {
        const Vector12 ends = endForces(system, loads, at, state, u);
        forces.members.push_back({-ends.head<6>(), ends.tail<6>()});
    }
    const Eigen::MatrixXd motion = u; // once, not for each piece
    useBlasThreads(1);                // its threads would spin beside ours
    forces.shells.resize(system.shells.size());
    Workers(threadsForPieces(system.shells.size())).forEach(system.shells.size(), [&](std::size_t at) {
        const ShellEquations& own = system.shells[at];
        const Eigen::Index sheet = mesh.shells[at].sheet;
        forces.shells[at] = membraneForces(own.element, system.ownMotion(mesh.shells[at], own, motion),
                                           loads.sheetStrain(sheet, state), loads.sheetBend(sheet, state));
    });
    forces.solids.resize(system.solids.size());
    Workers(threadsForPieces(system.solids.size())).forEach(system.solids.size(), [&](std::size_t at) {
        const SolidElement& element = system.solids[at];
        const auto places = finePlaces(element).parameters;
        const Eigen::VectorXd strains = strainsAt(element, system.ownMotion(mesh.solids[at], motion), places);
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

Prestress Prestress::pullsAlone() const
{
    Prestress pulls = *this;
    for (auto& ends : pulls.members)
        for (Vector6& end : ends)
            end.tail<5>().setZero();
    pulls.masses.clear();
    return pulls;
}

std::vector<Part> tensionParts(const Structure& structure, const FrameMesh& mesh, const System& system,
                               const Prestress& state)
{
    std::vector<Part> parts;
    const bool spins = !state.spin.isZero(0.0);
    for (std::size_t at = 0; at < state.members.size(); ++at) {
        const ElementEquations& own = system.elements[at];
        const bool isLoaded = !state.members[at][0].isZero(0.0) || !state.members[at][1].isZero(0.0);
        if (isLoaded) addArms(structure, mesh, system, at, state.members[at], parts);
        if (own.unknowns.empty() || (!isLoaded && !spins)) continue;
        Matrix12 added = stressStiffness(own.element, state.members[at]);
        if (spins) {
            MemberElement spun = own.element;
            spun.acts = own.axes.transpose() * state.spin * own.axes;
            added -= consistentMass(spun);
        }
        const int member = mesh.elements[at].member;
        parts.push_back({PartKind::tension, structure.frame.members[static_cast<std::size_t>(member)].sentence,
                         OwnerKind::member, member, own.unknowns, own.toOwn.transpose() * added * own.toOwn});
    }
    std::vector<Part> pieces(state.shells.size() + state.solids.size());
    Workers(threadsForPieces(pieces.size())).forEach(pieces.size(), [&](std::size_t which) {
        const bool ofSheet = which < state.shells.size();
        const std::size_t at = ofSheet ? which : which - state.shells.size();
        Part& part = pieces[which];
        if (ofSheet) {
            const int sheet = mesh.shells[at].sheet;
            const ShellEquations& own = system.shells[at];
            if (!spins &&
                (state.shells[at].isZero(0.0) || system.motions.isOneBody(own.nodes, own.element.corner.size())))
                return;
            Eigen::MatrixXd added = stressStiffness(own.element, state.shells[at]);
            if (spins) {
                ShellElement spun = own.element;
                spun.acts = own.axes.transpose() * state.spin * own.axes;
                added -= consistentMass(spun);
            }
            const OwnMotions motions = ownMotions(system.motions, own);
            part = {PartKind::tension, structure.frame.sheets[static_cast<std::size_t>(sheet)].sentence,
                    OwnerKind::sheet,  sheet,
                    motions.unknowns,  carried(added, motions, own.element.corner.size())};
            return;
        }
        const MeshSolid& solid = mesh.solids[at];
        if (!spins && (state.solids[at].isZero(0.0) || system.motions.isOneBody(solid.nodes, solid.count()))) return;
        part = solidTension(structure, mesh, system, at, state);
    });
    for (auto& part : pieces)
        if (!part.unknowns.empty()) parts.push_back(std::move(part));
    if (!state.pressing.empty())
        for (auto& part : pressureParts(structure, mesh, system, state.pressing))
            parts.push_back(std::move(part));
    if (spins) addSpunMasses(structure, mesh, system, state.spin, parts);
    for (std::size_t at = 0; at < state.masses.size(); ++at) {
        const PointMass& mass = structure.pointMasses[at];
        addArm(system, mass.point, armStiffness(mass.centre, state.masses[at]),
               {PartKind::tension, mass.sentence, OwnerKind::point, mass.point}, parts);
    }
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
