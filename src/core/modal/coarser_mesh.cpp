#include "core/modal/coarser_mesh.hpp"

#include "core/mesh/inner_edges.hpp"
#include "core/pencil/hertz.hpp"

namespace undisona {

namespace {

constexpr double smoothPower = 4.0, usualPower = 3.1;
constexpr double roughPower = 1.7, roughPowerInside = 1.1,
                 roughPowerOfBricks = 2.2; // whose strains see less of what is steep
constexpr double powerBesideInner = 2.1;   // beside an inner edge, on meshes that begin to follow it
constexpr double thinPower = 1.6;          // one element through a thickness on both meshes: its error stays
constexpr double halfEitherWay = 0.5, mostEitherWay = 0.75;
constexpr double leastTimes = 1.8; // as many elements
constexpr double mostlySolids = 0.5;

/// Scales what the pieces bring so that it adds up to a sum.
void shareOut(Eigen::Ref<Eigen::VectorXf> pieces, float sum)
{
    constexpr float mixed = 0.3f; // where both signs nearly cancel, their sizes are what is left to go by
    const float sizes = pieces.cwiseAbs().sum();
    if (!std::isfinite(sizes) || sizes <= 0.0f) return;
    if (std::abs(pieces.sum()) < mixed * sizes) pieces = pieces.cwiseAbs().eval();
    pieces *= sum / pieces.sum();
}

constexpr long besides = 4;
constexpr double lowerTo = 0.98, higherTo = 1.1; // as a coarser mesh is stiffer

/// Nothing beside the modes, and those without proof.
Ask modesAlone(Ask ask)
{
    ask.residual.reset();
    ask.refine.reset();
    ask.prove = false;
    ask.tolerance = std::max(ask.tolerance, 1e-6); // far below what a mesh is off
    ask.share = 0.0;
    ask.shareAlong = {};
    return ask;
}

} // namespace

Ask askOfCoarser(const Ask& ask, const Extraction& found)
{
    Ask coarse = modesAlone(ask);
    coarse.count = static_cast<long>(found.lambda.size() - found.rigid) + besides;
    coarse.until = Ask::Until::count;
    if (!ask.inside() || found.lambda.size() == 0) return coarse;
    coarse.until = Ask::Until::band;
    coarse.from = lowerTo * toHertz(found.lambda[0]);
    coarse.frequency = higherTo * toHertz(found.lambda[found.lambda.size() - 1]);
    return coarse;
}

Ask askOfCoarser(const Ask& ask)
{
    Ask coarse = modesAlone(ask);
    coarse.count += besides;
    coarse.from *= lowerTo;
    coarse.frequency *= higherTo;
    return coarse;
}

void judgeByCoarser(MeshErrors& errors, const ModesOnMesh& own, const Eigen::VectorXd& lambda,
                    const ModesOnMesh& onCoarser, const Eigen::VectorXd& lambdaOnCoarser, double times)
{
    const auto partOf = [times](double power) { return 1.0 / (std::pow(times, power) - 1.0); }; // of the difference
    if (onCoarser.mesh.solids.empty()) return;
    // A body that has few elements cannot have many fewer.
    if (double(own.mesh.solids.size()) < leastTimes * double(onCoarser.mesh.solids.size())) return;
    const bool bricks = std::any_of(own.mesh.solids.begin(), own.mesh.solids.end(),
                                    [](const MeshSolid& solid) { return solid.kind != SolidKind::tetrahedron10; });
    const bool inner = !nodesOfInnerEdges(own.mesh).empty();
    const double rough = bricks ? roughPowerOfBricks : inner ? roughPowerInside : roughPower;
    const auto partners = partnersOf(onCoarser, own);
    for (std::size_t at = 0; at < partners.size(); ++at) {
        if (partners[at].mode < 0) continue;
        const Eigen::Index mode = partners[at].mode;
        if (!(lambda[mode] > 0.0) || errors.inSolids[mode] < mostlySolids) continue;
        const double apart = std::sqrt(lambdaOnCoarser[Eigen::Index(at)] / lambda[mode]) - 1.0;
        double& total = errors.total[mode];
        const double pieces = double(errors.pieces.col(mode).sum()), members = errors.members.col(mode).sum();
        // Strains of bricks that say more than all that a coarser mesh is off are wrong; of tetrahedra, too careful.
        if (own.structure.discretised.lumped && !std::isnan(total)) continue; // whose error falls with the square
        if (std::abs(total) < (bricks ? std::abs(apart) : std::numeric_limits<double>::infinity())) {
            const auto [low, high] = std::minmax({partOf(smoothPower) * apart, partOf(rough) * apart});
            total = std::clamp(total, low, high);
        } else {
            const bool thin = errors.thin[mode] > mostlySolids;
            const bool beside = inner && !std::isnan(total);
            const double usual = partOf(thin ? thinPower : beside ? powerBesideInner : usualPower) * apart;
            // Strains of curved bricks say too much, if anything.
            total = !thin && std::abs(pieces + members) < std::abs(usual) ? pieces + members : usual;
            errors.either[mode] = (beside ? mostEitherWay : halfEitherWay) * std::abs(total);
        }
        shareOut(errors.pieces.col(mode), static_cast<float>(total - members));
    }
}

} // namespace undisona
