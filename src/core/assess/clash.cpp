#include "core/assess/clash.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// (d . phi(p))^2 summed over the points, the largest over the named directions.
double pointDrive(const Solution& solution, const Excitation& excitation, std::size_t mode)
{
    const int offset = excitation.entry == Entry::moment ? 3 : 0;
    double drive = 0.0;
    for (const int point : excitation.points) {
        const Vector6 motion = solution.motion(point, mode);
        for (int axis = 0; axis < 3; ++axis)
            if (excitation.along[static_cast<std::size_t>(axis)])
                drive = std::max(drive, motion[offset + axis] * motion[offset + axis]);
    }
    return drive;
}

/// Strengths of all modes; the largest point drive is looked up once.
std::vector<double> strengths(const Solution& solution, const Excitation& excitation)
{
    std::vector<double> list(solution.modes.size(), 1.0);
    if (excitation.entry == Entry::unknown) return list;
    double most = 0.0;
    for (std::size_t mode = 0; mode < list.size(); ++mode) {
        if (excitation.entry == Entry::base) {
            list[mode] = 0.0;
            for (int axis = 0; axis < 3; ++axis)
                if (excitation.along[static_cast<std::size_t>(axis)])
                    list[mode] =
                        std::max(list[mode], solution.participation.ofMovable(static_cast<Eigen::Index>(mode), axis));
            continue;
        }
        list[mode] =
            solution.modes[mode].rigid || solution.modes[mode].mechanism ? 0.0 : pointDrive(solution, excitation, mode);
        most = std::max(most, list[mode]);
    }
    if (excitation.entry != Entry::base)
        for (double& value : list)
            value = most > 0.0 ? value / most : 0.0;
    return list;
}

std::string reason(const ClashPair& pair, const Excitation& excitation, const std::string& mode)
{
    std::string where = pair.separation == 0.0 ? (pair.low == pair.high ? "exactly on it" : "inside its range")
                                               : fmt::format("{:.1f} % {} it", 100.0 * std::abs(pair.separation),
                                                             pair.separation < 0 ? "below" : "above");
    std::string text = fmt::format("mode {} ({}) is {}", pair.mode, mode, where);
    if (pair.verdict == Verdict::clash)
        text += fmt::format("; {:.0f} % is to be kept clear", 100.0 * excitation.margin);
    if (pair.verdict == Verdict::close && std::abs(pair.separation) >= 1.5 * excitation.margin)
        text += "; its mesh error reaches the margin";
    if (pair.weak)
        text += excitation.entry == Entry::base
                    ? fmt::format("; weak, since it carries {:.1f} % of the mass in those directions",
                                  100.0 * pair.strength)
                    : fmt::format("; weak, since it hardly moves where the excitation enters ({:.1f} %)",
                                  100.0 * pair.strength);
    else if (excitation.entry == Entry::unknown && pair.verdict != Verdict::clear)
        text += "; the way in is not known, so it may be driven fully";
    return text;
}

SpeedWindows windowsOf(const Solution& solution, std::size_t index, const Excitation& excitation,
                       const std::vector<double>& drive)
{
    std::vector<std::array<double, 2>> taken;
    for (std::size_t mode = 0; mode < solution.modes.size(); ++mode) {
        const double f = solution.modes[mode].frequency;
        if (f <= 0.0 || (excitation.entry != Entry::unknown && drive[mode] < weakStrength)) continue;
        for (const double order : excitation.orders) // clash where |f / (order n) - 1| < margin
            taken.push_back({f / order / (1.0 + excitation.margin),
                             excitation.margin < 1.0 ? f / order / (1.0 - excitation.margin) : 1e300});
    }
    std::sort(taken.begin(), taken.end());
    SpeedWindows windows{index, {}};
    double at = excitation.low;
    for (const auto& [from, to] : taken) {
        if (from > at && at < excitation.high)
            windows.freeRpm.push_back({60.0 * at, 60.0 * std::min(from, excitation.high)});
        at = std::max(at, to);
    }
    if (at < excitation.high) windows.freeRpm.push_back({60.0 * at, 60.0 * excitation.high});
    return windows;
}

} // namespace

const char* wordOf(Verdict verdict)
{
    return verdict == Verdict::clash ? "clash" : verdict == Verdict::close ? "close" : "clear";
}

double separation(double mode, double low, double high)
{
    if (mode >= low && mode <= high) return 0.0;
    return mode < low ? (mode - low) / low : (mode - high) / high;
}

bool isClash(double separation, double margin)
{
    return std::abs(separation) < margin || separation == 0.0;
}

double strengthOf(const Solution& solution, const Excitation& excitation, std::size_t mode)
{
    return strengths(solution, excitation)[mode];
}

ClashReading clashesOf(const Solution& solution, const std::vector<Excitation>& excitations, const ModeNames& names)
{
    if (solution.ritz) return {}; // no modes, no verdicts
    ClashReading reading;
    for (std::size_t index = 0; index < excitations.size(); ++index) {
        const auto& excitation = excitations[index];
        const auto drive = strengths(solution, excitation);
        for (const double order : excitation.orders) {
            const double low = order * excitation.low, high = order * excitation.high;
            std::ptrdiff_t below = -1, above = -1;
            for (std::size_t mode = 0; mode < solution.modes.size(); ++mode) {
                const double f = solution.modes[mode].frequency;
                if (f <= 0.0) continue;
                if (f < low) below = static_cast<std::ptrdiff_t>(mode);
                if (f > high && above < 0) above = static_cast<std::ptrdiff_t>(mode);
            }
            for (std::size_t at = 0; at < solution.modes.size(); ++at) {
                const Mode& mode = solution.modes[at];
                if (mode.frequency <= 0.0) continue;
                ClashPair pair{index,
                               order,
                               low,
                               high,
                               mode.number,
                               mode.frequency,
                               separation(mode.frequency, low, high),
                               0.0,
                               drive[at],
                               false,
                               Verdict::clear,
                               {}};
                const double distance = std::abs(pair.separation);
                // The error bar: the exact frequency lies between its ends.
                const double reach = std::min({distance, std::abs(separation(mode.lowEnd(), low, high)),
                                               std::abs(separation(mode.highEnd(), low, high))});
                const bool crosses = mode.lowEnd() <= high && mode.highEnd() >= low;
                if (isClash(pair.separation, excitation.margin))
                    pair.verdict = Verdict::clash;
                else if (distance < 1.5 * excitation.margin || reach <= excitation.margin || crosses)
                    pair.verdict = Verdict::close;
                const bool neighbour =
                    static_cast<std::ptrdiff_t>(at) == below || static_cast<std::ptrdiff_t>(at) == above;
                if (pair.verdict == Verdict::clear && !neighbour) continue;
                if (excitation.turns) pair.criticalSpeedRpm = 60.0 * mode.frequency / order;
                pair.weak = excitation.entry != Entry::unknown && pair.strength < weakStrength;
                pair.why = reason(pair, excitation, mode.calledBy(names));
                reading.pairs.push_back(std::move(pair));
            }
        }
        if (excitation.turns && excitation.high > excitation.low)
            reading.windows.push_back(windowsOf(solution, index, excitation, drive));
    }
    std::stable_sort(reading.pairs.begin(), reading.pairs.end(), [](const ClashPair& a, const ClashPair& b) {
        if (a.weak != b.weak) return !a.weak;
        if (a.verdict != b.verdict) return a.verdict < b.verdict;
        return std::abs(a.separation) < std::abs(b.separation);
    });
    return reading;
}

} // namespace undisona
