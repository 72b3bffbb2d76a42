#include "core/io/hand_table.hpp"

#include "core/base/number_text.hpp"
#include "core/io/csv_text.hpp"

#include <fmt/format.h>

namespace undisona {

std::string handHertz(const HandComparison& check)
{
    return check.high > check.low * 1.0001 ? fmt::format("{} to {} Hz", rounded(check.low, 4), rounded(check.high, 4))
                                           : rounded(check.high, 4) + " Hz";
}

std::string handVerdict(const HandComparison& check)
{
    const std::string off = std::abs(check.off) < 5e-4 ? "agrees" : fmt::format("{:+.1f} %", 100.0 * check.off);
    return check.why.empty() ? off : off + ": " + check.why;
}

std::string handTable(const HandReading& reading)
{
    std::string out;
    for (const auto& check : reading.checks)
        out += fmt::format("mode {:>3}, {} Hz computed; {} by hand: {}{}\n          {}\n          {}\n", check.mode,
                           rounded(check.computed, 5), handHertz(check), check.flagged ? "LOOK, " : "",
                           handVerdict(check), check.of, check.by);
    return out.empty() ? "no estimate by hand fits this model\n" : out;
}

std::string handCsv(const HandReading& reading)
{
    std::string out = "mode,computed_hz,by_hand_low_hz,by_hand_high_hz,off,flagged,of,by,why\r\n";
    for (const auto& check : reading.checks)
        out += fmt::format("{},{},{},{},{},{},{},{},{}\r\n", check.mode, shortest(check.computed), shortest(check.low),
                           shortest(check.high), shortest(check.off), check.flagged, csvText(check.of),
                           csvText(check.by), csvText(check.why));
    return out;
}

} // namespace undisona
