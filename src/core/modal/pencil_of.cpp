#include "core/modal/pencil_of.hpp"

#include "core/modal/rigid_modes.hpp"
#include "core/modal/zero_energy.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// "y", or "(0.6, 0, 0.8)"
std::string axisWords(const Eigen::Vector3d& direction)
{
    for (int axis = 0; axis < 3; ++axis)
        if (std::abs(direction[axis]) > 1.0 - 1e-6) return std::string(1, "xyz"[axis]);
    return fmt::format("({:.2g}, {:.2g}, {:.2g})", direction.x(), direction.y(), direction.z());
}

/// "Post can turn about x"
std::string motionWords(const Unknown& unknown)
{
    return fmt::format("{} can {}{}", unknown.where, unknown.rotation ? "turn about " : "move along ",
                       axisWords(unknown.direction));
}

/// What is massless must be held by its own stiffness: the block of K between such unknowns, scaled to a unit diagonal,
/// tells where it is not. Nothing where it is, or where there are too many to look through.
std::optional<std::size_t> looseAmongMassless(const System& system)
{
    std::vector<int> massless, placeOf(static_cast<std::size_t>(system.size()), -1);
    for (int at = 0; at < static_cast<int>(system.size()); ++at)
        if (!(system.mass.diagonal(at) > 0.0)) {
            placeOf[static_cast<std::size_t>(at)] = static_cast<int>(massless.size());
            massless.push_back(at);
        }
    constexpr std::size_t most = 600;
    if (massless.empty() || massless.size() > most) return std::nullopt;
    const auto count = static_cast<Eigen::Index>(massless.size());
    Eigen::MatrixXd block = Eigen::MatrixXd::Zero(count, count);
    for (const int column : massless)
        for (auto entry = system.stiffness.columnStart[static_cast<std::size_t>(column)];
             entry < system.stiffness.columnStart[static_cast<std::size_t>(column) + 1]; ++entry)
            if (const int row =
                    placeOf[static_cast<std::size_t>(system.stiffness.row[static_cast<std::size_t>(entry)])];
                row >= 0) {
                const int own = placeOf[static_cast<std::size_t>(column)];
                block(row, own) = block(own, row) = system.stiffness.value[static_cast<std::size_t>(entry)];
            }
    const Eigen::VectorXd scale =
        block.diagonal().unaryExpr([](double entry) { return entry > 0.0 ? 1.0 / std::sqrt(entry) : 0.0; });
    for (Eigen::Index at = 0; at < count; ++at)
        if (scale[at] == 0.0) return static_cast<std::size_t>(massless[static_cast<std::size_t>(at)]);
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> eigen(
        Eigen::MatrixXd(scale.asDiagonal() * block * scale.asDiagonal()));
    if (eigen.eigenvalues()[0] > 1e-12) return std::nullopt;
    Eigen::Index at = 0;
    eigen.eigenvectors().col(0).cwiseAbs().maxCoeff(&at);
    return static_cast<std::size_t>(massless[static_cast<std::size_t>(at)]);
}

} // namespace

Pencil matricesOf(const System& system)
{
    Pencil pencil{system.stiffness, system.mass, &system.apart};
    pencil.strainsNothing = [&system](double lambda, const Eigen::Ref<const Eigen::VectorXd>& motion) {
        return strainsNothing(system, lambda, motion);
    };
    pencil.motionOf = [&system](std::int64_t at) {
        return motionWords(system.motions.unknowns[static_cast<std::size_t>(at)]);
    };
    return pencil;
}

Result<Pencil> pencilOf(const System& system)
{
    Pencil pencil = matricesOf(system);
    if (system.size() == 0)
        return errorAt({}, "nothing can move: every direction of every point is held",
                       "Free some of them, or add members.");
    if (const auto loose = looseAmongMassless(system))
        return freeWithoutMass(pencil.motionOf(static_cast<std::int64_t>(*loose)));
    pencil.free = rigidModes(system);
    if (pencil.free.cols() > mostRigidMotions)
        return errorAt({},
                       fmt::format("more than {} rigid motions: over {} bodies float freely, each by itself",
                                   mostRigidMotions, mostRigidMotions / 6),
                       "Hold them, or join what belongs together.");
    pencil.holding = [&system, free = pencil.free] { return determinateUnknowns(system, free); };
    pencil.freeIsKnown = true;
    return pencil;
}

} // namespace undisona
