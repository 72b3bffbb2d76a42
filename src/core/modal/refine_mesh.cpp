#include "core/modal/refine_mesh.hpp"

#include "core/mesh/inner_edges.hpp"
#include "core/pencil/hertz.hpp"

#include <functional>

namespace undisona {

namespace {

constexpr double aim = 0.6;           // of the goal, so that one round more is seldom needed for the last bit
constexpr double mostAtOnce = 0.4;    // smallest factor of a size in one round
constexpr double mostAtInner = 0.15;  // the same beside inner edges, where elements follow a stress without bound
constexpr double contentPieces = 0.7; // so many of a part's pieces are content with its size
constexpr double innerPower = 0.8;    // of the error there, h^(2 x 0.6) at a right angle (Williams 1952)

bool counts(double below, double lambda)
{
    return lambda > 0.0 && (below <= 0.0 || toHertz(lambda) <= below);
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
    double power;              ///< by which its error falls with its size, a half for each order
    bool swept;                ///< bricks take one size throughout
    double least = mostAtOnce; ///< factor of its size in one round
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

/// The pieces, those beside inner edges by what is steep there.
std::vector<Piece> piecesOf(const Structure& structure, const FrameMesh& mesh)
{
    const std::set<int> inner = nodesOfInnerEdges(mesh);
    std::vector<Piece> pieces;
    for (std::size_t at = 0; at < mesh.shells.size() + mesh.solids.size(); ++at) {
        pieces.push_back(pieceAt(structure, mesh, at));
        if (at < mesh.shells.size() || pieces.back().swept) continue;
        const MeshSolid& solid = mesh.solids[at - mesh.shells.size()];
        if (std::none_of(solid.nodes.begin(), solid.nodes.begin() + long(cornersOf(solid.kind)),
                         [&](int node) { return inner.contains(node); }))
            continue;
        pieces.back().power = innerPower;
        pieces.back().least = mostAtInner;
    }
    return pieces;
}

/// What the pieces come to on sizes that are larger than each piece's next one by a factor.
class Prediction {
public:
    Prediction(const RefinementAim& goal, const Extraction& extraction, const MeshErrors& errors,
               const std::vector<Piece>& pieces, const std::vector<double>& next, std::size_t shells)
        : goal_(goal), extraction_(extraction), errors_(errors), pieces_(pieces), next_(next), shells_(shells)
    {
    }

    /// Whether the modes still come to the aim.
    bool reaches(double larger) const
    {
        for (Eigen::Index mode = 0; mode < extraction_.lambda.size(); ++mode) {
            if (!counts(goal_.below, extraction_.lambda[mode]) || std::isnan(errors_.total[mode])) continue;
            double now = 0.0, then = 0.0;
            for (std::size_t at = 0; at < pieces_.size(); ++at) {
                const double own = std::abs(double(errors_.pieces(Eigen::Index(at), mode)));
                now += own;
                then += own * std::pow(ratio(at, larger), 1.0 / pieces_[at].power);
            }
            // Parts of both signs cancel as they do now.
            if (now > 0.0 && std::abs(errors_.total[mode]) * then / now > aim * goal_.within) return false;
        }
        return true;
    }
    /// About how many pieces there will be.
    double count(double larger) const
    {
        double sum = 0.0;
        for (std::size_t at = 0; at < pieces_.size(); ++at)
            sum += std::pow(ratio(at, larger), at < shells_ ? -2.0 : -3.0);
        return sum;
    }

private:
    double ratio(std::size_t at, double larger) const { return std::min(1.0, larger * next_[at]); }

    const RefinementAim& goal_;
    const Extraction& extraction_;
    const MeshErrors& errors_;
    const std::vector<Piece>& pieces_;
    const std::vector<double>& next_; ///< of each piece's next size to the one it has
    std::size_t shells_;              ///< the first so many pieces are of sheet
};

/// The largest factor, of a range, for which something still holds that holds up to some factor.
double lastFor(double low, double high, const std::function<bool(double)>& holds)
{
    if (!holds(low)) return low;
    for (int step = 0; step < 12; ++step)
        (holds((low + high) / 2.0) ? low : high) = (low + high) / 2.0;
    return low;
}

} // namespace

RefinementState refinementState(const Ask& ask, const Extraction& extraction, const MeshErrors& errors)
{
    RefinementState state;
    for (Eigen::Index mode = 0; mode < extraction.lambda.size(); ++mode) {
        if (!counts(ask.refine->below, extraction.lambda[mode])) continue;
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
                       const MeshErrors& errors, const RefinementAim& goal)
{
    const MeshSizes& before = mesh.sizes;
    MeshSizes sizes = goal.atMost.ofPart.empty() ? before : goal.atMost;
    const auto count = static_cast<std::size_t>(errors.pieces.rows());
    const std::vector<Piece> pieces = piecesOf(structure, mesh);
    std::vector<double> factor(count, 1.0);
    for (Eigen::Index mode = 0; mode < extraction.lambda.size(); ++mode) {
        if (!counts(goal.below, extraction.lambda[mode]) || !(std::abs(errors.total[mode]) > goal.within)) continue;
        const double permitted = aim * goal.within / double(count);
        for (std::size_t at = 0; at < count; ++at)
            if (const double own = std::abs(double(errors.pieces(Eigen::Index(at), mode))); own > permitted)
                factor[at] =
                    std::min(factor[at], std::max(pieces[at].least, std::pow(permitted / own, pieces[at].power)));
    }
    std::vector<std::vector<double>> wanted(before.ofPart.size());
    for (std::size_t at = 0; at < count; ++at)
        wanted[pieces[at].part].push_back(factor[at] * pieces[at].size);
    const std::vector<double> most = sizes.ofPart; // of each part
    for (std::size_t part = 0; part < wanted.size(); ++part) {
        if (wanted[part].empty()) continue;
        const auto which = wanted[part].begin() + long((1.0 - contentPieces) * double(wanted[part].size() - 1));
        std::nth_element(wanted[part].begin(), which, wanted[part].end());
        sizes.ofPart[part] = std::min(most[part], std::max(*which, mostAtOnce * before.ofPart[part]));
    }
    const auto isPlace = [&](std::size_t at) {
        return !pieces[at].swept && factor[at] < 1.0 &&
               factor[at] * pieces[at].size < 0.8 * sizes.ofPart[pieces[at].part];
    };
    std::vector<double> next(count), alone(count); // with places, and with the largest sizes alone
    for (std::size_t at = 0; at < count; ++at) {
        const std::size_t part = pieces[at].part;
        // What is smaller than its part's size stays as it is until that is smaller still.
        const double now = std::min(before.ofPart[part], pieces[at].size);
        alone[at] = std::min(1.0, most[part] / now);
        next[at] = std::min(alone[at], sizes.ofPart[part] / now);
        if (isPlace(at)) next[at] = std::min(next[at], factor[at]);
    }
    const Prediction with(goal, extraction, errors, pieces, next, mesh.shells.size()),
        without(goal, extraction, errors, pieces, alone, mesh.shells.size());
    // Pieces that serve several modes, and parts of one size, take more off than each mode needs.
    double larger = lastFor(1.0, 1.0 / mostAtOnce, [&](double by) { return with.reaches(by); });
    const double base = without.count(1.0);
    if (const double permitted = std::min(goal.mostTimes * base, goal.mostMore + base); with.count(larger) > permitted)
        larger = lastFor(larger, 1.0 / mostAtInner, [&](double by) { return with.count(by) > permitted; });
    for (std::size_t at = 0; at < count; ++at)
        if (const double size = larger * factor[at] * pieces[at].size; isPlace(at) && size < pieces[at].size)
            sizes.places.push_back({pieces[at].middle, size});
    for (std::size_t part = 0; part < most.size(); ++part)
        sizes.ofPart[part] = std::min(most[part], larger * sizes.ofPart[part]);
    return sizes;
}

double piecesOn(const Structure& structure, const FrameMesh& mesh, const MeshSizes& sizes)
{
    constexpr double governed = 0.6; // of its part's size at least has a piece that no detail made smaller
    double sum = 0.0;
    for (std::size_t at = mesh.shells.size(); at < mesh.shells.size() + mesh.solids.size(); ++at) {
        const Piece piece = pieceAt(structure, mesh, at);
        const double before = mesh.sizes.ofPart[piece.part], next = sizes.ofPart[piece.part];
        const double ratio = piece.size > governed * before ? next / before : std::min(1.0, next / piece.size);
        sum += std::pow(ratio, -3.0);
    }
    return sum;
}

} // namespace undisona
