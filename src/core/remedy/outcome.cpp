#include "core/remedy/outcome.hpp"

#include "core/assess/clash.hpp"

#include <fmt/format.h>

namespace undisona {

std::string orderWords(const Excitation& excitation, double order)
{
    return excitation.turns ? fmt::format("{} × {:g}", excitation.name, order) : excitation.name;
}

Judge::Judge(const RemedyCase& of, const ModifiedModes& in, const std::vector<Excitation>& excitations)
    : case_(of), in_(in), excitations_(excitations),
      drive_(in.basis().transpose() * of.system.baseLoads(of.solution.participation.reference))
{
    for (const auto& excitation : excitations)
        for (const int point : excitation.points)
            if (!atPoint_.contains(point)) atPoint_[point] = in.motionOf(point);
    const Eigen::MatrixXd nothing = Eigen::MatrixXd::Zero(in.size(), in.size());
    before_ = metBy(in.with(nothing, nothing));
}

std::size_t Judge::origin(const ModifiedModes::Changed& changed, Eigen::Index mode) const
{
    Eigen::Index most = 0;
    changed.shapes.col(mode).head(in_.modes()).cwiseAbs().maxCoeff(&most);
    return static_cast<std::size_t>(most);
}

/// As clashesOf has them (clash.hpp), of modes in the basis' coordinates.
std::vector<double> Judge::strengths(const ModifiedModes::Changed& changed, const Excitation& excitation) const
{
    std::vector<double> list(static_cast<std::size_t>(in_.modes()), 1.0);
    if (excitation.entry == Entry::unknown) return list;
    double most = 0.0;
    for (Eigen::Index mode = 0; mode < in_.modes(); ++mode) {
        double& strength = list[static_cast<std::size_t>(mode)] = 0.0;
        const auto shape = changed.shapes.col(mode);
        for (int axis = 0; axis < 3; ++axis) {
            if (!excitation.along[static_cast<std::size_t>(axis)]) continue;
            if (excitation.entry == Entry::base) {
                const double movable = case_.solution.participation.movable[axis];
                if (movable > 0.0) strength = std::max(strength, std::pow(drive_.col(axis).dot(shape), 2) / movable);
                continue;
            }
            const int row = axis + (excitation.entry == Entry::moment ? 3 : 0);
            if (changed.hertz[mode] > 0.0)
                for (const int point : excitation.points)
                    strength = std::max(strength, std::pow(atPoint_.at(point).row(row).dot(shape), 2));
        }
        most = std::max(most, strength);
    }
    if (excitation.entry != Entry::base && most > 0.0)
        for (double& strength : list)
            strength /= most;
    return list;
}

std::vector<Judge::Met> Judge::metBy(const ModifiedModes::Changed& changed) const
{
    std::vector<Met> met;
    for (std::size_t at = 0; at < excitations_.size(); ++at) {
        const auto& excitation = excitations_[at];
        const auto strong = strengths(changed, excitation);
        for (const double order : excitation.orders)
            for (Eigen::Index mode = 0; mode < std::min(in_.modes(), changed.hertz.size()); ++mode) {
                const double f = changed.hertz[mode];
                if (!(f > 0.0) || strong[static_cast<std::size_t>(mode)] < weakStrength) continue;
                const double apart = std::abs(separation(f, order * excitation.low, order * excitation.high));
                if (isClash(apart, excitation.margin))
                    met.push_back({{at, order, origin(changed, mode)}, f, std::max(excitation.margin, 1e-6) - apart});
            }
    }
    return met;
}

Outcome Judge::of(const Added& added) const
{
    Outcome outcome;
    const auto changed = in_.with(added.stiffness, added.mass);
    if (changed.hertz.size() == 0) return outcome;
    outcome.stands = true;
    for (Eigen::Index at = 0; at < in_.modes(); ++at)
        outcome.hertz.push_back(changed.hertz[at]);

    // Those that were to move are the ones that have most of their shapes.
    const auto& moved = case_.moved;
    std::vector<std::pair<double, Eigen::Index>> shares;
    for (Eigen::Index at = 0; at < changed.hertz.size(); ++at) {
        double share = 0.0;
        for (const std::size_t mode : moved)
            share += std::pow(changed.shapes(static_cast<Eigen::Index>(mode), at), 2);
        shares.emplace_back(share, at);
    }
    std::stable_sort(shares.begin(), shares.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<double> now;
    for (std::size_t at = 0; at < moved.size() && at < shares.size(); ++at)
        now.push_back(changed.hertz[shares[at].second]);
    std::sort(now.begin(), now.end());

    const auto met = metBy(changed);
    const auto isMoved = [&](std::size_t mode) { return std::find(moved.begin(), moved.end(), mode) != moved.end(); };
    const RemedyOrder& order = case_.order;
    if (order.way == RemedyWay::clear) {
        const Met* deepest = nullptr;
        for (const Met& one : met) {
            if (order.mode != 0 && !isMoved(one.meeting.mode)) continue;
            outcome.missing += one.deep;
            if (!deepest || one.deep > deepest->deep) deepest = &one;
        }
        outcome.farthest = deepest ? deepest->meeting.mode : moved.front();
        outcome.after = deepest ? deepest->hertz : now.front();
    } else {
        const bool above = order.way == RemedyWay::above;
        outcome.farthest = above ? moved.front() : moved.back();
        outcome.after = above ? now.front() : now.back();
        outcome.missing = std::max(0.0, (above ? 1.0 : -1.0) * (order.hertz - outcome.after) / order.hertz);
    }
    outcome.reaches = outcome.missing == 0.0;
    for (const Met& one : met) {
        const bool before =
            std::any_of(before_.begin(), before_.end(), [&](const Met& other) { return other.meeting == one.meeting; });
        if (before || (order.way == RemedyWay::clear && (order.mode == 0 || isMoved(one.meeting.mode)))) continue;
        const auto& mode = case_.solution.modes[one.meeting.mode];
        outcome.sideEffects.push_back(
            {mode.number, mode.frequency, one.hertz,
             fmt::format("mode {} comes into {}, at {:.4g} Hz", mode.number,
                         orderWords(excitations_[one.meeting.excitation], one.meeting.order), one.hertz)});
    }
    return outcome;
}

} // namespace undisona
