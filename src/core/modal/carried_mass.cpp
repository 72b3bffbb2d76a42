#include "core/modal/carried_mass.hpp"

#include "core/base/number_text.hpp"

#include <fmt/format.h>

#include <numeric>

namespace undisona {

namespace {

std::string percent(double share)
{
    return rounded(100.0 * share, 2) + " %";
}

/// Momentum that goes one way along an axis, and the other, of a mode of unit modal mass.
struct Momentum {
    double forth = 0.0, back = 0.0; ///< sqrt(kg)

    double both() const { return forth + back; }
};

Momentum momentumAlong(int axis, const MassPoints& points, const Motions& motion)
{
    Momentum sums;
    for (std::size_t at = 0; at < points.mass.size(); ++at) {
        const double own = points.mass[at] * motion[at][axis];
        (own > 0.0 ? sums.forth : sums.back) += std::abs(own);
    }
    return sums;
}

/// In a line, with the figure that shows it.
std::string whyNone(const Mode& mode, const Participation& participation, const MassPoints& points,
                    const Motions& motion, const MovingPart& moving)
{
    const auto row = static_cast<Eigen::Index>(mode.number) - 1;
    std::array<Momentum, 3> along;
    int main = 0, about = 0;
    for (int axis = 0; axis < 3; ++axis) {
        along[static_cast<std::size_t>(axis)] = momentumAlong(axis, points, motion);
        if (along[static_cast<std::size_t>(axis)].both() > along[static_cast<std::size_t>(main)].both()) main = axis;
        if (participation.ofTotal(row, axis + 3) > participation.ofTotal(row, about + 3)) about = axis;
    }
    const Momentum& most = along[static_cast<std::size_t>(main)];
    // What it would carry if all of it moved the same way.
    const double atMost = most.both() * most.both() / std::max(points.total, 1e-300);
    const bool light = atMost < 0.01;
    if (light && !moving.isWhole())
        return fmt::format("{} is light: {} of the mass", moving.words, percent(moving.ofMass));
    if (const double turning = participation.ofTotal(row, about + 3); turning > 0.05)
        return fmt::format("it turns about {}: one side moves against the other, with {} of the inertia about {}",
                           "xyz"[about], percent(turning), "xyz"[about]);
    if (light)
        return fmt::format("sections turn in place, next to nothing shifts: {} at most if all moved one way",
                           percent(atMost));
    return fmt::format("what moves along {} moves against itself: {} of the momentum one way, {} the other",
                       "xyz"[main], percent(std::max(most.forth, most.back) / most.both()),
                       percent(std::min(most.forth, most.back) / most.both()));
}

} // namespace

void readCarried(Mode& mode, const Participation& participation, const MassPoints& points, const Motions& motion,
                 const MovingPart& moving)
{
    constexpr double small = 1.0 / 3.0, carries = 0.05, none = 0.005;
    const auto row = static_cast<Eigen::Index>(mode.number) - 1;
    double most = 0.0;
    for (int axis = 0; axis < 3; ++axis)
        most = std::max(most, participation.ofTotal(row, axis));
    mode.local = !moving.isWhole() && !moving.mostly && moving.ofMass < small && most < carries;
    if (most < none) mode.noMass = whyNone(mode, participation, points, motion, moving);
}

void markThatMatter(const Participation& participation, std::vector<Mode>& modes)
{
    constexpr double most = 0.9, least = 0.05;
    for (int direction = 0; direction < 6; ++direction) {
        std::vector<Eigen::Index> order(modes.size());
        std::iota(order.begin(), order.end(), Eigen::Index{0});
        std::stable_sort(order.begin(), order.end(), [&](auto a, auto b) {
            return participation.effective(a, direction) > participation.effective(b, direction);
        });
        const double all = participation.effective.col(direction).sum();
        double sum = 0.0;
        for (const Eigen::Index at : order) {
            if (sum >= most * all || participation.ofTotal(at, direction) < least) break;
            sum += participation.effective(at, direction);
            modes[static_cast<std::size_t>(at)].matters[static_cast<std::size_t>(direction)] = true;
        }
    }
}

} // namespace undisona
