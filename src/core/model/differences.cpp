#include "core/model/differences.hpp"

#include "core/model/called.hpp"
#include "core/model/grammar.hpp"
#include "core/units/tolerance.hpp"

#include <fmt/format.h>

#include <functional>

namespace undisona {

namespace {

std::string shown(const Sentence& sentence)
{
    return wordsOf(sentence) + (sentence.on ? "" : " (off)");
}

/// Things on both sides with an id each; `told` says one that differs.
template <class Thing, class IdOf, class Told>
void match(const std::vector<Thing>& there, const std::vector<Thing>& here, const IdOf& idOf, const Told& told)
{
    const auto find = [&](const std::vector<Thing>& list, const std::string& id) -> const Thing* {
        const auto at = std::find_if(list.begin(), list.end(), [&](const Thing& thing) { return idOf(thing) == id; });
        return at == list.end() ? nullptr : &*at;
    };
    for (const auto& thing : there)
        told(&thing, find(here, idOf(thing)));
    for (const auto& thing : here)
        if (!find(there, idOf(thing))) told(nullptr, &thing);
}

} // namespace

namespace {

/// How lines begin that tell what one side alone has, and what both have in two ways.
struct Sides {
    const char *onlyThere, *onlyHere, *there, *here;
};

using Say = std::function<void(const std::string& there, const std::string& here)>;

Say sayer(const Sides& sides, std::vector<std::string>& lines)
{
    return [&lines, sides](const std::string& there, const std::string& own) {
        if (there == own) return;
        lines.push_back(own.empty()     ? sides.onlyThere + there
                        : there.empty() ? sides.onlyHere + own
                                        : sides.there + there + sides.here + own);
    };
}

/// A row's cells with commas.
std::string rowText(const Row& row)
{
    std::string all;
    for (const auto& cell : row)
        if (const std::string text = textOf(cell); !text.empty()) all += (all.empty() ? "" : ", ") + text;
    return all;
}

/// Two words of one field as they are told apart; of tables the rows that one side alone has.
std::pair<std::string, std::string> apart(const Value& there, const Value& here)
{
    const auto* was = std::get_if<Table>(&there);
    const auto* now = std::get_if<Table>(&here);
    if (!was || !now) return {textOf(there), textOf(here)};
    const auto only = [](const Table& one, const Table& other) {
        std::string rows;
        for (const auto& row : *one.rows)
            if (std::find(other.rows->begin(), other.rows->end(), row) == other.rows->end())
                rows += (rows.empty() ? "" : "; ") + rowText(row);
        return rows;
    };
    return {only(*was, *now), only(*now, *was)};
}

/// One sentence said in two ways: its name, then the words that differ. Empty where the whole says more: of another
/// kind or name, or where nearly all differs.
std::string wordsApart(const Sentence& there, const Sentence& here, const Sides& sides)
{
    constexpr std::size_t most = 4;
    std::string name = called(here);
    if (there.kind != here.kind) return {};
    if (name == wordsOf(here))
        name = here.kind->title; // it has neither name nor label
    else if (called(there) != name)
        return {};
    std::vector<std::string> words;
    for (const auto& field : here.kind->fields) {
        const bool had = there.has(field.key), has = here.has(field.key);
        if ((!had && !has) || (had && has && there.value(field.key) == here.value(field.key))) continue;
        const auto* was = had ? std::get_if<Quantity>(&there.value(field.key)) : nullptr;
        const auto* now = has ? std::get_if<Quantity>(&here.value(field.key)) : nullptr;
        if (was && now && was->si == now->si &&
            splitTolerance(was->text).tolerance == splitTolerance(now->text).tolerance)
            continue; // in another unit
        const auto [before, after] = had && has ? apart(there.value(field.key), here.value(field.key))
                                                : std::pair(had ? textOf(there.value(field.key)) : std::string(),
                                                            has ? textOf(here.value(field.key)) : std::string());
        if (before == after) continue;
        words.push_back(fmt::format("{} {}{}{}{}", field.label.substr(0, field.label.find(',')), sides.there,
                                    before.empty() ? "nothing" : before, sides.here,
                                    after.empty() ? "nothing" : after));
    }
    if (there.on != here.on)
        words.push_back(
            fmt::format("{}{}{}{}", sides.there, there.on ? "on" : "off", sides.here, here.on ? "on" : "off"));
    if (words.empty() || words.size() > most) return {};
    std::string all = name + ": ";
    for (std::size_t at = 0; at < words.size(); ++at)
        all += (at > 0 ? "; " : "") + words[at];
    return all;
}

void matchModels(const Model& was, const Model& here, const Say& say, const Sides& sides,
                 std::vector<std::string>& lines)
{
    match(
        was.sentences(), here.sentences(), [](const SentencePtr& sentence) { return sentence->id; },
        [&](const SentencePtr* there, const SentencePtr* own) {
            if (there && own && **there == **own) return;
            const std::string words = there ? shown(**there) : "", now = own ? shown(**own) : "";
            if (const std::string told = there && own ? wordsApart(**there, **own, sides) : ""; !told.empty())
                lines.push_back(told);
            else if (words == now && !words.empty())
                lines.push_back("said in another way: " + now); // units, or what no words show
            else
                say(words, now);
        });
}

} // namespace

std::vector<std::string> differences(const Model& was, const Model& now)
{
    std::vector<std::string> lines;
    const Sides sides{"gone: ", "new: ", "was ", ", now "};
    matchModels(was, now, sayer(sides, lines), sides, lines);
    return lines;
}

std::vector<std::string> differences(const Document& inFile, const Document& here)
{
    std::vector<std::string> lines;
    const Sides sides{"only in the file: ", "only here: ", "in the file ", ", here "};
    const Say say = sayer(sides, lines);
    say(inFile.name, here.name);
    say(inFile.units, here.units);
    matchModels(inFile.model, here.model, say, sides, lines);
    match(
        inFile.takes, here.takes, [](const Take& take) { return take.id; },
        [&](const Take* there, const Take* own) {
            if (there && own && *there == *own) return;
            if (there && own && there->model == own->model && there->name == own->name)
                lines.push_back("what is noted of the take " + own->name + " differs");
            else if (there && own)
                lines.push_back("the take " + own->name + " differs");
            else
                say(there ? "the take " + there->name : "", own ? "the take " + own->name : "");
        });
    return lines;
}

} // namespace undisona
