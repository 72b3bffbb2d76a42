#include "core/modal/energy.hpp"

#include "core/elements/solid_work.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/numerics/workers.hpp"
#include "core/shapes/joined_faces.hpp"

namespace undisona {

namespace {

std::string ownerName(const Frame& frame, const Part& part)
{
    const auto owner = static_cast<std::size_t>(std::max(0, part.owner));
    switch (part.of) {
    case OwnerKind::member:
        return frame.members[owner].name;
    case OwnerKind::sheet:
        return frame.sheets[owner].name;
    case OwnerKind::solid:
        return frame.solids[owner].name;
    case OwnerKind::edge: {
        for (const int face : frame.faces->edges[owner].faces)
            if (const int sheet = frame.faces->faces[static_cast<std::size_t>(face)].sheet; sheet >= 0)
                return frame.sheets[static_cast<std::size_t>(sheet)].name;
        return "";
    }
    case OwnerKind::point:
        break;
    }
    return owner < frame.points.size() ? frame.points[owner].name : "";
}

/// What each part's stiffness and mass do in each mode, by the rows of the parts.
void addWork(const System& system, const Extraction& extraction, const std::vector<Eigen::Index>& rowOf, Energies& sums)
{
    const Eigen::Index rows = sums.strain.rows(), modes = sums.strain.cols();
    useBlasThreads(1); // its threads would spin beside ours
    Workers workers(threadsForPieces(system.parts.size()));
    std::vector<std::array<Eigen::MatrixXd, 2>> ofHand(static_cast<std::size_t>(workers.count()));
    workers.run([&](int hand) {
        const std::size_t own = static_cast<std::size_t>(hand), hands = ofHand.size(), count = system.parts.size();
        auto& [strain, kinetic] = ofHand[own];
        strain = kinetic = Eigen::MatrixXd::Zero(rows, modes);
        Eigen::MatrixXd room;
        for (std::size_t at = count * own / hands; at < count * (own + 1) / hands; ++at) {
            const Part& part = system.parts[at];
            const Eigen::MatrixXd q = extraction.shapes(part.unknowns, Eigen::all);
            if (part.kind == PartKind::sheet && part.piece >= 0) continue; // see addSheets
            if (part.piece >= 0) {
                const SolidElement& solid = system.solids[static_cast<std::size_t>(part.piece)];
                strain.row(rowOf[at]) += strainWork(solid, q);
                kinetic.row(rowOf[at]) += massWork(solid, q, system.lumped);
                continue;
            }
            const auto work = [&](const Eigen::MatrixXd& matrix) {
                return (q.array() * (matrix * q).array()).colwise().sum().matrix().eval();
            };
            if (part.isStiff()) strain.row(rowOf[at]) += work(system.stiffnessOf(part, room));
            if (part.isHeavy()) kinetic.row(rowOf[at]) += work(part.mass);
        }
    });
    for (const auto& [strain, kinetic] : ofHand) {
        for (Eigen::Index mode = 0; mode < modes; ++mode)
            if (extraction.lambda[mode] > 0.0) sums.strain.col(mode) += strain.col(mode) / extraction.lambda[mode];
        sums.kinetic += kinetic;
    }
}

/// What pieces of sheet do, by their strains: in their plane, and bending with shearing across it.
void addSheets(const System& system, const FrameMesh& mesh, const Extraction& extraction,
               const std::vector<Eigen::Index>& rowOfShell, Energies& sums)
{
    struct Sums {
        Eigen::MatrixXd membrane, bending, kinetic;
    };
    const Eigen::Index rows = sums.strain.rows(), modes = sums.strain.cols();
    Workers workers(threadsForPieces(system.shells.size()));
    std::vector<Sums> ofHand(static_cast<std::size_t>(workers.count()));
    workers.run([&](int hand) {
        const std::size_t own = static_cast<std::size_t>(hand), hands = ofHand.size(), count = system.shells.size();
        auto& [membrane, bending, kinetic] = ofHand[own];
        membrane = bending = kinetic = Eigen::MatrixXd::Zero(rows, modes);
        for (std::size_t at = count * own / hands; at < count * (own + 1) / hands; ++at) {
            const Eigen::Index row = rowOfShell[at];
            if (row < 0) continue; // held all round, or moved as one body
            const ShellEquations& shell = system.shells[at];
            const Eigen::MatrixXd motion = system.ownMotion(mesh.shells[at], shell, extraction.shapes);
            const ShellEnergy energy = strainEnergy(shell.element, motion);
            membrane.row(row) += energy.membrane;
            bending.row(row) += energy.bending + energy.shear;
            const Eigen::MatrixXd mass = system.lumped ? lumpedMass(shell.element) : consistentMass(shell.element);
            kinetic.row(row) += (motion.array() * (mass * motion).array()).colwise().sum().matrix();
        }
    });
    for (const auto& [membrane, bending, kinetic] : ofHand) {
        for (Eigen::Index mode = 0; mode < modes; ++mode) {
            if (!(extraction.lambda[mode] > 0.0)) continue;
            const double scale = 2.0 / extraction.lambda[mode];
            sums.axial.col(mode) += scale * membrane.col(mode);
            sums.bending.col(mode) += scale * bending.col(mode);
            sums.strain.col(mode) += scale * (membrane.col(mode) + bending.col(mode));
        }
        sums.kinetic += kinetic;
    }
}

} // namespace

Energies energiesOf(const Structure& structure, const FrameMesh& mesh, const System& system,
                    const Extraction& extraction)
{
    Energies energies;
    std::map<std::tuple<PartKind, std::string, OwnerKind, int>, Eigen::Index> rowOf;
    std::vector<Eigen::Index> partRow;
    for (const auto& part : system.parts) {
        const auto [place, isNew] = rowOf.emplace(std::tuple(part.kind, part.sentence, part.of, part.owner),
                                                  static_cast<Eigen::Index>(energies.rows.size()));
        if (isNew)
            energies.rows.push_back({part.kind, part.sentence, part.of, part.owner, ownerName(structure.frame, part)});
        partRow.push_back(place->second);
    }
    const auto rows = static_cast<Eigen::Index>(energies.rows.size()), modes = extraction.shapes.cols();
    for (auto* matrix : {&energies.strain, &energies.kinetic, &energies.axial, &energies.twisting, &energies.bending})
        matrix->setZero(rows, modes);

    addWork(system, extraction, partRow, energies);
    for (std::size_t at = 0; at < system.elements.size(); ++at) {
        const auto& element = system.elements[at];
        const int member = mesh.elements[at].member;
        const auto found =
            rowOf.find({PartKind::member, structure.frame.members[static_cast<std::size_t>(member)].sentence,
                        OwnerKind::member, member});
        if (found == rowOf.end()) continue; // held at both ends
        const Eigen::Index row = found->second;
        const Eigen::MatrixXd own = element.toOwn * extraction.shapes(element.unknowns, Eigen::all);
        for (Eigen::Index mode = 0; mode < modes; ++mode) {
            if (!(extraction.lambda[mode] > 0.0)) continue;
            const StrainEnergy energy = strainEnergy(element.element, own.col(mode));
            const double scale = 2.0 / extraction.lambda[mode];
            energies.axial(row, mode) += scale * energy.axial;
            energies.twisting(row, mode) += scale * energy.twisting;
            energies.bending(row, mode) +=
                scale * (energy.bending[0] + energy.bending[1] + energy.shear[0] + energy.shear[1]);
        }
    }
    std::vector<Eigen::Index> rowOfShell(system.shells.size(), -1);
    for (std::size_t at = 0; at < system.parts.size(); ++at)
        if (const Part& part = system.parts[at]; part.kind == PartKind::sheet && part.piece >= 0)
            rowOfShell[static_cast<std::size_t>(part.piece)] = partRow[at];
    addSheets(system, mesh, extraction, rowOfShell, energies);
    return energies;
}

} // namespace undisona
