#include "core/io/remedy_table.hpp"

#include "core/base/number_text.hpp"
#include "core/io/csv_text.hpp"

#include <fmt/ranges.h>

namespace undisona {

namespace {

std::string effectsOf(const Proposal& proposal)
{
    std::vector<std::string> words;
    for (const auto& effect : proposal.sideEffects)
        words.push_back(effect.words);
    return fmt::format("{}", fmt::join(words, "; "));
}

} // namespace

std::string remedyTable(const Remedy& remedy, const DisplayUnits& units, bool words)
{
    std::string out = remedy.goal + "\n";
    if (words) {
        out += fmt::format("{:>12} {:>12}  {}\n", "Hz per 1 %", "now", "word");
        for (const auto& word : remedy.words)
            out += fmt::format("{:>12} {:>12}  {}{}\n", rounded(word.percent, 4), word.said.text, word.said.name,
                               word.remeshed ? " (from two runs)" : "");
        return out;
    }
    out += fmt::format("{:>3} {:<8} {:>5} {:>9} {:>9} {:>11}  {}\n", "", "does it", "mode", "from Hz", "to Hz", "adds",
                       "change");
    int number = 0;
    for (const auto& one : remedy.proposals) {
        out += fmt::format("{:>3} {:<8} {:>5} {:>9} {:>9} {:>11}  {}\n", ++number,
                           !one.reaches              ? "no"
                           : one.sideEffects.empty() ? "yes"
                                                     : "but",
                           one.mode, rounded(one.before, 4), rounded(one.after, 4),
                           units.text(one.adds, QuantityKind::mass, 3), one.change.words);
        if (!one.sideEffects.empty()) out += fmt::format("{:>54}  {}\n", "", effectsOf(one));
    }
    return out;
}

std::string remedyCsv(const Remedy& remedy, bool words)
{
    if (words) {
        std::string out = "word,now,value_si,hz_per_si,hz_per_percent,from_two_runs\r\n";
        for (const auto& word : remedy.words)
            out += fmt::format("{},{},{},{},{},{}\r\n", csvText(word.said.name), csvText(word.said.text),
                               shortest(word.said.value), shortest(word.slope), shortest(word.percent),
                               word.remeshed ? 1 : 0);
        return out;
    }
    std::string out = "number,kind,reaches,mode,from_hz,to_hz,adds_kg,place,amount,change,side_effects\r\n";
    int number = 0;
    for (const auto& one : remedy.proposals)
        out += fmt::format("{},{},{},{},{},{},{},{},{},{},{}\r\n", ++number, one.kind, one.reaches ? 1 : 0, one.mode,
                           shortest(one.before), shortest(one.after), shortest(one.adds), csvText(one.place),
                           csvText(one.amount), csvText(one.change.words), csvText(effectsOf(one)));
    return out;
}

} // namespace undisona
