#include "core/modal/piece_errors.hpp"

#include "core/modal/error_energies.hpp"
#include "core/numerics/blas_threads.hpp"

#include <limits>
#include <optional>

namespace undisona {

namespace {
/// Parts of both signs cancel to a sum whose own error is about so much of all of them.
constexpr double offEitherWay = 0.2;
constexpr double bytesPerPiece = 1500.0, mostBytes = 1.2e9; // of one mode; of all that are worked on at once
} // namespace

PieceErrors pieceErrors(const Structure& structure, const FrameMesh& mesh, const System& system,
                        const Eigen::MatrixXd& shapes, const Eigen::VectorXd& lambda, Progress& progress)
{
    const Eigen::Index modes = shapes.cols();
    PieceErrors errors;
    errors.shells.setConstant(Eigen::Index(mesh.shells.size()), modes, std::numeric_limits<double>::quiet_NaN());
    errors.solids.setConstant(Eigen::Index(mesh.solids.size()), modes, std::numeric_limits<double>::quiet_NaN());
    errors.either.setZero(modes);
    errors.blind.setZero(modes);
    errors.inSolids.setZero(modes);
    errors.thin.setZero(modes);
    if (mesh.shells.empty() && mesh.solids.empty()) return errors;
    useBlasThreads(1); // its threads would spin beside ours
    Workers workers(threadsForPieces(mesh.shells.size() + mesh.solids.size()));
    std::optional<SheetErrors> sheets;
    std::optional<SolidErrors> solids;
    if (!mesh.shells.empty()) sheets.emplace(structure, mesh, system, workers);
    if (!mesh.solids.empty()) solids.emplace(structure, mesh, system, workers);
    const auto most = std::max<Eigen::Index>(
        1, Eigen::Index(mostBytes / bytesPerPiece / double(mesh.shells.size() + mesh.solids.size())));
    // Motions at rest strain nothing.
    const Eigen::Index still =
        std::find_if(lambda.begin(), lambda.end(), [](double own) { return own > 0.0; }) - lambda.begin();
    errors.shells.leftCols(still).setZero();
    errors.solids.leftCols(still).setZero();
    for (Eigen::Index first = still; first < modes && !progress.stopped(); first += most) {
        const Eigen::Index count = std::min(most, modes - first);
        const Eigen::MatrixXd some = shapes.middleCols(first, count);
        const Eigen::VectorXd own = lambda.segment(first, count);
        // f by half of lambda, an energy by half of the work.
        const Eigen::RowVectorXd share = (own.array() > 0.0).select(own.array().inverse(), 0.0).transpose();
        const auto take = [&](const ErrorEnergies& energies, Eigen::MatrixXd& into) {
            into.middleCols(first, count) = energies.signedSum * share.asDiagonal();
            errors.either.segment(first, count) +=
                offEitherWay * (energies.gross.array() * share.array()).matrix().transpose();
            errors.blind.segment(first, count) += 2.0 * (energies.blind.array() * share.array()).matrix().transpose();
        };
        if (sheets) take(sheets->of(some, own), errors.shells);
        if (solids) {
            const ErrorEnergies energies = solids->of(some, own);
            take(energies, errors.solids);
            errors.inSolids.segment(first, count) = 2.0 * (energies.stored.array() * share.array()).transpose();
            errors.thin.segment(first, count) = 2.0 * (energies.thin.array() * share.array()).transpose();
        }
        progress.fraction(double(first + count) / double(modes));
    }
    return errors;
}

} // namespace undisona
