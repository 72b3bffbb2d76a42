#include "core/base/number_text.hpp"
#include "core/io/export.hpp"

#include <fmt/format.h>

namespace undisona {

std::string settlingTable(const Solution& solution, const Settling& settling)
{
    std::string out = fmt::format("{:>8}", "unknowns");
    for (const auto& round : settling.rounds)
        out += fmt::format(" {:>11}", round.unknowns);
    out += fmt::format(" {:>20} {:>9} {:>15}\n{:>8}", "settles at", "off %", "estimated %", "mode");
    for (std::size_t round = 0; round < settling.rounds.size(); ++round)
        out += fmt::format(" {:>11}", "Hz");
    out += "\n";
    for (std::size_t mode = 0; mode < solution.modes.size(); ++mode) {
        out += fmt::format("{:>8}", solution.modes[mode].number);
        for (const auto& round : settling.rounds)
            out +=
                fmt::format(" {:>11}", std::isnan(round.hertz[mode]) ? "." : fmt::format("{:.6g}", round.hertz[mode]));
        const auto& settled = settling.settled[mode];
        if (settled) {
            out += fmt::format(" {:>20} {:>9}", fmt::format("{:.6g} ± {:.1g}", settled->hertz, settled->either),
                               settled->order == 0.0 ? "." : rounded(100.0 * settled->off(solution.modes[mode]), 2));
        } else {
            out += fmt::format(" {:>20} {:>9}", ".", ".");
        }
        out += fmt::format(" {:>15}\n", solution.modes[mode].lambda > 0.0 ? meshErrorText(solution.modes[mode]) : ".");
    }
    return out;
}

std::string settlingCsv(const Solution& solution, const Settling& settling)
{
    std::string out = "mode,unknowns,frequency_hz,mesh_error,settles_at_hz,settles_either_hz,order\r\n";
    const auto known = [](double value) { return std::isnan(value) ? std::string() : shortest(value); };
    for (std::size_t mode = 0; mode < solution.modes.size(); ++mode)
        for (const auto& round : settling.rounds) {
            const auto& settled = settling.settled[mode];
            out += fmt::format("{},{},{},{},{},{},{}\r\n", solution.modes[mode].number, round.unknowns,
                               known(round.hertz[mode]), known(round.meshError[mode]),
                               settled ? shortest(settled->hertz) : "", settled ? shortest(settled->either) : "",
                               settled ? shortest(settled->order) : "");
        }
    return out;
}

} // namespace undisona
