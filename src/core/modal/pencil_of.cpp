#include "core/modal/pencil_of.hpp"

#include "core/modal/massless_motions.hpp"
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
    if (const auto loose = looseWithoutMass(system)) return freeWithoutMass(pencil.motionOf(*loose));
    RigidModes rigid = rigidModes(system);
    if (rigid.massless) return freeWithoutMass(pencil.motionOf(*rigid.massless));
    pencil.free = std::move(rigid.motions);
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
