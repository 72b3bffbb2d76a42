#include "core/io/tolerance_table.hpp"

#include "core/base/number_text.hpp"
#include "core/io/csv_text.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

std::string likely(double share)
{
    if (share > 0.0 && share < 0.005) return "below 1 %";
    if (share < 1.0 && share > 0.995) return "above 99 %";
    return fmt::format("{:.0f} %", 100.0 * share);
}

std::string hertzOr(double value, const char* otherwise)
{
    return std::isnan(value) ? otherwise : fmt::format("{:.5g}", value);
}

std::string rangeText(double low, double high)
{
    return std::isnan(low) || std::isnan(high) ? "." : fmt::format("{:.5g} to {:.5g}", low, high);
}

} // namespace

std::pair<int, double> mostCausedBy(const FrequencyRange& range)
{
    int most = -1;
    double width = 0.0;
    for (std::size_t word = 0; word < range.atLow.size(); ++word) {
        const double own = std::max({0.0, range.atLow[word], range.atHigh[word]}) -
                           std::min({0.0, range.atLow[word], range.atHigh[word]});
        if (own <= width) continue;
        width = own;
        most = static_cast<int>(word);
    }
    return {most, width};
}

std::string likelihoodWords(double share)
{
    if (share == 1.0) return "certain";
    return share == 0.0 ? "not to be expected" : likely(share) + " likely";
}

std::string chanceWords(const ClashChance& chance)
{
    const std::string order = chance.order == 1.0 ? "" : " x " + shortest(chance.order);
    const std::string at = chance.low == chance.high
                               ? fmt::format("{} Hz", rounded(chance.low, 4))
                               : fmt::format("{} to {} Hz", rounded(chance.low, 4), rounded(chance.high, 4));
    std::string text = fmt::format("{}{} at {} against mode {}: a clash is {}", chance.excitation, order, at,
                                   chance.mode, likelihoodWords(chance.likelihood));
    if (!std::isnan(chance.drawn)) text += fmt::format("; of the runs drawn, {} clash", likely(chance.drawn));
    return text;
}

std::string toleranceTable(const ToleratedModes& found)
{
    std::string out;
    for (std::size_t word = 0; word < found.words.size(); ++word) {
        const auto& said = found.words[word].said;
        out += fmt::format("{:>4}  {}, {}\n", fmt::format("({})", word + 1), said.name, said.text);
    }
    out += fmt::format("{:>4} {:>10} {:>22} {:>22} {:>22} {:>22}  {}\n", "mode", "Hz", "nine of ten", "at its worst",
                       "worst, solved", "drawn", "most by");
    for (const auto& mode : found.modes) {
        const auto [word, width] = mostCausedBy(mode);
        out += fmt::format("{:>4} {:>10} {:>22} {:>22} {:>22} {:>22}  {}\n", mode.mode, hertzOr(mode.hertz, "."),
                           rangeText(mode.usualLow, mode.usualHigh), rangeText(mode.low, mode.high),
                           rangeText(mode.solvedLow, mode.solvedHigh), rangeText(mode.sampledLow, mode.sampledHigh),
                           word < 0 ? "." : fmt::format("({}), {:.3g} Hz", word + 1, width));
    }
    for (const auto& chance : found.clashes)
        out += chanceWords(chance) + "\n";
    if (found.samples > 0)
        out += fmt::format("single effects added up miss the {} runs drawn by {:.2g} % at most\n", found.samples,
                           100.0 * found.missed);
    return out;
}

std::string toleranceCsv(const ToleratedModes& found)
{
    std::string out = "mode,hz,usual_low_hz,usual_high_hz,low_hz,high_hz,solved_low_hz,solved_high_hz,sampled_low_hz,"
                      "sampled_high_hz";
    for (const auto& word : found.words)
        out += "," + csvText(word.said.name + " at its low end, Hz") + "," +
               csvText(word.said.name + " at its high end, Hz");
    out += "\r\n";
    const auto number = [](double value) { return std::isnan(value) ? std::string() : shortest(value); };
    for (const auto& mode : found.modes) {
        out += fmt::format("{}", mode.mode);
        for (const double value : {mode.hertz, mode.usualLow, mode.usualHigh, mode.low, mode.high, mode.solvedLow,
                                   mode.solvedHigh, mode.sampledLow, mode.sampledHigh})
            out += "," + number(value);
        for (std::size_t word = 0; word < mode.atLow.size(); ++word)
            out += "," + number(mode.atLow[word]) + "," + number(mode.atHigh[word]);
        out += "\r\n";
    }
    return out;
}

} // namespace undisona
