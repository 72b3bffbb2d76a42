#include "core/modal/refine_mesh.hpp"

#include "core/modal/hertz.hpp"

namespace undisona {

namespace {

constexpr double aim = 0.6;        // of the goal, so that one round more is seldom needed for the last bit
constexpr double mostAtOnce = 0.4; // smallest factor of a size in one round
constexpr double mostPieces = 0.7; // so many of a part's pieces are content with its size

bool counts(const Ask& ask, double lambda)
{
    return lambda > 0.0 && (ask.refine->below <= 0.0 || toHertz(lambda) <= ask.refine->below);
}

Eigen::Vector3d middleOf(const FrameMesh& mesh, const int* nodes, std::size_t count)
{
    Eigen::Vector3d sum = Eigen::Vector3d::Zero();
    for (std::size_t at = 0; at < count; ++at)
        sum += mesh.nodes[static_cast<std::size_t>(nodes[at])].place / double(count);
    return sum;
}

/// A piece: the part it belongs to, its size now, its middle.
struct Piece {
    std::size_t part;
    double size;
    Eigen::Vector3d middle;
    double power; ///< by which its error falls with its size, a half for each order
    bool swept;   ///< bricks take one size throughout
};

Piece pieceAt(const Structure& structure, const FrameMesh& mesh, std::size_t at)
{
    if (at < mesh.shells.size()) {
        const MeshShell& shell = mesh.shells[at];
        const double area = mesh.area(shell) * (shell.corners() == 3 ? 4.0 / std::sqrt(3.0) : 1.0);
        return {static_cast<std::size_t>(shell.sheet), std::sqrt(area),
                middleOf(mesh, shell.nodes.data(), shell.corners()), 0.5, false};
    }
    const MeshSolid& solid = mesh.solids[at - mesh.shells.size()];
    const double volume = volumeOf(solidOf(structure, mesh, solid));
    const bool linear = solid.kind == SolidKind::brick8 || solid.kind == SolidKind::wedge6;
    const bool tetrahedron = solid.kind == SolidKind::tetrahedron10;
    return {structure.sheets.size() + static_cast<std::size_t>(solid.solid),
            std::cbrt(volume * (tetrahedron ? 6.0 * std::numbers::sqrt2 : 1.0)),
            middleOf(mesh, solid.nodes.data(), cornersOf(solid.kind)), linear ? 0.5 : 0.25, !tetrahedron};
}

/// By how much all sizes may be larger so that the modes still come to the aim: pieces that serve several modes, and
/// parts of one size, take more off than each mode needs. `ratio`: of each piece's next size to the one it has.
double noFinerThanNeeded(const Structure& structure, const Extraction& extraction, const MeshErrors& errors,
                         const std::vector<Piece>& pieces, const std::vector<double>& ratio)
{
    const auto reaches = [&](double larger) {
        for (Eigen::Index mode = 0; mode < extraction.lambda.size(); ++mode) {
            if (!counts(structure.ask, extraction.lambda[mode]) || std::isnan(errors.total[mode])) continue;
            double now = 0.0, then = 0.0;
            for (std::size_t at = 0; at < pieces.size(); ++at) {
                const double own = std::abs(double(errors.pieces(Eigen::Index(at), mode)));
                now += own;
                then += own * std::pow(std::min(1.0, larger * ratio[at]), 1.0 / pieces[at].power);
            }
            // Parts of both signs cancel as they do now.
            if (now > 0.0 && std::abs(errors.total[mode]) * then / now > aim * structure.ask.refine->within) return false;
        }
        return true;
    };
    double low = 1.0, high = 1.0 / mostAtOnce;
    if (!reaches(low)) return low;
    for (int step = 0; step < 12; ++step)
        (reaches((low + high) / 2.0) ? low : high) = (low + high) / 2.0;
    return low;
}

} // namespace

RefinementState refinementState(const Ask& ask, const Extraction& extraction, const MeshErrors& errors)
{
    RefinementState state;
    for (Eigen::Index mode = 0; mode < extraction.lambda.size(); ++mode) {
        if (!counts(ask, extraction.lambda[mode])) continue;
        ++state.judged;
        const double own = std::abs(errors.total[mode]);
        if (std::isnan(own))
            ++state.untold;
        else if (state.mode < 0 || own > state.worst) {
            state.worst = own;
            state.mode = mode;
        }
    }
    return state;
}

MeshSizes refinedSizes(const Structure& structure, const FrameMesh& mesh, const Extraction& extraction,
                       const MeshErrors& errors)
{
    MeshSizes sizes = mesh.sizes;
    const auto count = static_cast<std::size_t>(errors.pieces.rows());
    std::vector<double> factor(count, 1.0);
    std::vector<Piece> pieces;
    for (std::size_t at = 0; at < count; ++at)
        pieces.push_back(pieceAt(structure, mesh, at));
    for (Eigen::Index mode = 0; mode < extraction.lambda.size(); ++mode) {
        if (!counts(structure.ask, extraction.lambda[mode]) ||
            !(std::abs(errors.total[mode]) > structure.ask.refine->within))
            continue;
        const double permitted = aim * structure.ask.refine->within / double(count);
        for (std::size_t at = 0; at < count; ++at)
            if (const double own = std::abs(double(errors.pieces(Eigen::Index(at), mode))); own > permitted)
                factor[at] = std::min(factor[at], std::max(mostAtOnce, std::pow(permitted / own, pieces[at].power)));
    }
    const std::vector<double> before = sizes.ofPart;
    std::vector<std::vector<double>> wanted(sizes.ofPart.size());
    for (std::size_t at = 0; at < count; ++at)
        wanted[pieces[at].part].push_back(factor[at] * pieces[at].size);
    for (std::size_t part = 0; part < wanted.size(); ++part) {
        if (wanted[part].empty()) continue;
        const auto which = wanted[part].begin() + long((1.0 - mostPieces) * double(wanted[part].size() - 1));
        std::nth_element(wanted[part].begin(), which, wanted[part].end());
        sizes.ofPart[part] = std::clamp(*which, mostAtOnce * sizes.ofPart[part], sizes.ofPart[part]);
    }
    const auto isPlace = [&](std::size_t at) {
        return !pieces[at].swept && factor[at] < 1.0 &&
               factor[at] * pieces[at].size < 0.8 * sizes.ofPart[pieces[at].part];
    };
    std::vector<double> ratio(count);
    for (std::size_t at = 0; at < count; ++at) {
        ratio[at] = sizes.ofPart[pieces[at].part] / before[pieces[at].part];
        if (isPlace(at)) ratio[at] = std::min(ratio[at], factor[at]);
    }
    const double larger = noFinerThanNeeded(structure, extraction, errors, pieces, ratio);
    for (std::size_t at = 0; at < count; ++at)
        if (const double size = larger * factor[at] * pieces[at].size; isPlace(at) && size < pieces[at].size)
            sizes.places.push_back({pieces[at].middle, size});
    for (std::size_t part = 0; part < before.size(); ++part)
        sizes.ofPart[part] = std::min(before[part], larger * sizes.ofPart[part]);
    return sizes;
}

} // namespace undisona
