#include "core/io/sweep_table.hpp"

#include "core/base/number_text.hpp"
#include "core/io/csv_text.hpp"

#include <fmt/format.h>

namespace undisona {

std::string meetingWords(const WordSweep& sweep, const SweepMeeting& meeting)
{
    const auto number = [&](int line) { return sweep.modes[static_cast<std::size_t>(line)]; };
    const double value = readPlainNumber(fmt::format("{:.4g}", meeting.value)).value_or(meeting.value);
    const std::string at = fmt::format("at {}, {} Hz", textAnew(sweep.word, value), rounded(meeting.hertz, 4));
    return meeting.veers ? fmt::format("modes {} and {} veer apart {}, by {} Hz at the nearest", number(meeting.one),
                                       number(meeting.other), at, rounded(meeting.gap, 2))
                         : fmt::format("modes {} and {} cross {}", number(meeting.one), number(meeting.other), at);
}

std::string sweepTable(const WordSweep& sweep)
{
    std::string out = sweep.word.name + "\n" + fmt::format("{:>12}", "value");
    for (const int mode : sweep.modes)
        out += fmt::format(" {:>10}", fmt::format("mode {}", mode));
    out += "\n";
    for (const auto& step : sweep.steps) {
        out += fmt::format(
            "{:>12}", textAnew(sweep.word, readPlainNumber(fmt::format("{:.6g}", step.value)).value_or(step.value)));
        for (const double hertz : step.hertz)
            out += fmt::format(" {:>10}", std::isnan(hertz) ? "." : fmt::format("{:.6g}", hertz));
        out += step.trouble.empty() ? "\n" : "  " + step.trouble + "\n";
    }
    for (const auto& meeting : sweep.meetings)
        out += meetingWords(sweep, meeting) + "\n";
    return out;
}

std::string sweepCsv(const WordSweep& sweep)
{
    std::string out = "value,value_si";
    for (const int mode : sweep.modes)
        out += fmt::format(",mode_{}_hz", mode);
    out += "\r\n";
    for (const auto& step : sweep.steps) {
        out += csvText(textAnew(sweep.word, step.value)) + "," + shortest(step.value);
        for (const double hertz : step.hertz)
            out += "," + (std::isnan(hertz) ? std::string() : shortest(hertz));
        out += "\r\n";
    }
    return out;
}

} // namespace undisona
