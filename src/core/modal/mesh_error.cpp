#include "core/modal/mesh_error.hpp"

#include "core/elements/stress_stiffness.hpp"
#include "core/modal/piece_errors.hpp"
#include "core/system/load_stiffness.hpp"

#include <limits>

namespace undisona {

namespace {

constexpr double mostBlind = 0.1; // of a mode's strain energy in pieces whose error cannot be told

/// How finely members wave in the modes about a static state, whose frequency does not tell it: the fourth power of
/// the wave number, curvature squared over displacement squared, 1/m4; members x modes each.
std::array<Eigen::MatrixXd, 2> wavesOfMembers(const Structure& structure, const FrameMesh& mesh, const System& system,
                                              const Eigen::MatrixXd& shapes)
{
    const auto members = static_cast<Eigen::Index>(structure.frame.members.size());
    std::array<Eigen::MatrixXd, 2> bent, moved;
    for (std::size_t along = 0; along < 2; ++along)
        bent[along] = moved[along] = Eigen::MatrixXd::Zero(members, shapes.cols());
    for (std::size_t at = 0; at < system.elements.size(); ++at) {
        const auto& element = system.elements[at];
        const Eigen::Index member = mesh.elements[at].member;
        const Eigen::MatrixXd own = element.toOwn * shapes(element.unknowns, Eigen::all);
        for (std::size_t along = 0; along < 2; ++along) {
            Eigen::Matrix3d across = Eigen::Matrix3d::Zero();
            across(Eigen::Index(along) + 1, Eigen::Index(along) + 1) = 1.0;
            const Matrix12 squares = alongLength(element.element, across);
            for (Eigen::Index mode = 0; mode < shapes.cols(); ++mode) {
                const StrainEnergy energy = strainEnergy(element.element, own.col(mode));
                bent[along](member, mode) += 2.0 * energy.bending[along] / element.element.bending[1 - along];
                moved[along](member, mode) += own.col(mode).dot(squares * own.col(mode));
            }
        }
    }
    for (std::size_t along = 0; along < 2; ++along)
        bent[along] = (moved[along].array() > 0.0).select(bent[along].array() / moved[along].array(), 0.0);
    return bent;
}

} // namespace

Eigen::MatrixXd memberErrors(const Structure& structure, const FrameMesh& mesh, const System& system,
                             const Extraction& extraction)
{
    const auto members = static_cast<Eigen::Index>(structure.frame.members.size());
    const Eigen::Index modes = extraction.shapes.cols();
    const auto added = addedPerLength(structure);
    const bool lumped = structure.discretised.lumped;
    Eigen::MatrixXd errors = Eigen::MatrixXd::Zero(members, modes);
    std::array<Eigen::MatrixXd, 2> waves;
    if (system.state) waves = wavesOfMembers(structure, mesh, system, extraction.shapes);
    for (std::size_t at = 0; at < system.elements.size(); ++at) {
        const auto& element = system.elements[at];
        const int member = mesh.elements[at].member;
        const double h = element.element.length;
        const double mass = element.element.massPerLength + added[static_cast<std::size_t>(member)];
        const double inertia = element.element.inertiaPerLength[0];
        const Eigen::MatrixXd own = element.toOwn * extraction.shapes(element.unknowns, Eigen::all);
        for (Eigen::Index mode = 0; mode < modes; ++mode) {
            const double lambda = extraction.lambda[mode];
            if (!(lambda > 0.0)) continue;
            const StrainEnergy energy = strainEnergy(element.element, own.col(mode));
            const double scale = 2.0 / lambda;
            double error = scale * energy.axial * lambda * mass / element.element.axial * h * h / 24.0;
            error += scale * energy.twisting * lambda * inertia / element.element.twisting * h * h / 24.0;
            double pulled = 0.0; // by what the state adds, in halves to either direction
            if (system.state) {
                const Matrix12 ofState = stressStiffness(element.element, system.state->members[at]);
                pulled = own.col(mode).dot(ofState * own.col(mode)) / 4.0;
            }
            for (std::size_t along = 0; along < 2; ++along) {
                const double b2 = system.state ? std::sqrt(waves[along](member, mode))
                                               : std::sqrt(lambda * mass / element.element.bending[1 - along]);
                const double bending = lumped ? b2 * h * h / 24.0 : b2 * b2 * h * h * h * h / 1440.0;
                error += scale * ((energy.bending[along] + std::abs(pulled)) * bending +
                                  energy.shear[along] * b2 * h * h / 24.0);
            }
            errors(member, mode) += lumped ? -error : error;
        }
    }
    return errors;
}

MeshErrors meshErrors(const Structure& structure, const FrameMesh& mesh, const System& system,
                      const Extraction& extraction, Progress& progress, bool ofPieces)
{
    MeshErrors errors;
    errors.members = memberErrors(structure, mesh, system, extraction);
    errors.total = errors.members.colwise().sum().transpose();
    errors.either.setZero(errors.total.size());
    errors.inSolids.setZero(errors.total.size());
    errors.thin.setZero(errors.total.size());
    if (mesh.shells.empty() && mesh.solids.empty()) return errors;
    if (!ofPieces) {
        errors.total.setConstant(std::numeric_limits<double>::quiet_NaN());
        return errors;
    }
    const PieceErrors pieces = pieceErrors(structure, mesh, system, extraction.shapes, extraction.lambda, progress);
    errors.pieces.resize(pieces.shells.rows() + pieces.solids.rows(), errors.total.size());
    errors.pieces << pieces.shells.cast<float>(), pieces.solids.cast<float>();
    errors.total += (pieces.shells.colwise().sum() + pieces.solids.colwise().sum()).transpose();
    errors.either = pieces.either;
    errors.inSolids = pieces.inSolids;
    errors.thin = pieces.thin;
    for (Eigen::Index mode = 0; mode < errors.total.size(); ++mode)
        if (pieces.blind[mode] > mostBlind) errors.total[mode] = std::numeric_limits<double>::quiet_NaN();
    return errors;
}

Splits refinedSplits(const Structure& structure, const FrameMesh& mesh, const Eigen::MatrixXd& errors, double limit)
{
    Splits splits;
    for (std::size_t at = 0; at < structure.members.size(); ++at) {
        long now = mesh.firstElement[at + 1] - mesh.firstElement[at];
        const bool stated = structure.frame.members[at].elements > 0 || structure.discretised.elements > 0;
        const double worst = errors.cols() > 0 ? errors.row(static_cast<Eigen::Index>(at)).cwiseAbs().maxCoeff() : 0.0;
        if (!stated && worst > limit) {
            const double power = structure.discretised.lumped ? 0.5 : 0.25;
            now = std::clamp(static_cast<long>(std::ceil(double(now) * std::pow(4.0 * worst / limit, power))), now + 1,
                             1000L);
        }
        splits.push_back(now);
    }
    return splits;
}

} // namespace undisona
