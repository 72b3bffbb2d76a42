#include "core/model/differences.hpp"

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

void matchModels(const Model& was, const Model& here, const Say& say, std::vector<std::string>& lines)
{
    match(
        was.sentences(), here.sentences(), [](const SentencePtr& sentence) { return sentence->id; },
        [&](const SentencePtr* there, const SentencePtr* own) {
            if (there && own && **there == **own) return;
            const std::string words = there ? shown(**there) : "", now = own ? shown(**own) : "";
            if (words == now && !words.empty())
                lines.push_back("said in another way: " + now); // units, or what no words show
            else
                say(words, now);
        });
}

} // namespace

std::vector<std::string> differences(const Model& was, const Model& now)
{
    std::vector<std::string> lines;
    matchModels(was, now, sayer({"gone: ", "new: ", "was ", "; now "}, lines), lines);
    return lines;
}

std::vector<std::string> differences(const Document& inFile, const Document& here)
{
    std::vector<std::string> lines;
    const Say say = sayer({"only in the file: ", "only here: ", "in the file: ", "; here: "}, lines);
    say(inFile.name, here.name);
    say(inFile.units, here.units);
    matchModels(inFile.model, here.model, say, lines);
    match(
        inFile.takes, here.takes, [](const Take& take) { return take.id; },
        [&](const Take* there, const Take* own) {
            if (there && own && *there == *own) return;
            if (there && own)
                lines.push_back("the take " + own->name + " differs");
            else
                say(there ? "the take " + there->name : "", own ? "the take " + own->name : "");
        });
    return lines;
}

} // namespace undisona
