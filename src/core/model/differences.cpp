#include "core/model/differences.hpp"

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

std::vector<std::string> differences(const Document& inFile, const Document& here)
{
    std::vector<std::string> lines;
    const auto say = [&](const std::string& there, const std::string& own) {
        if (there == own) return;
        lines.push_back(own.empty()     ? "only in the file: " + there
                        : there.empty() ? "only here: " + own
                                        : "in the file: " + there + "; here: " + own);
    };
    say(inFile.name, here.name);
    say(inFile.units, here.units);
    match(
        inFile.model.sentences(), here.model.sentences(), [](const SentencePtr& sentence) { return sentence->id; },
        [&](const SentencePtr* there, const SentencePtr* own) {
            if (there && own && **there == **own) return;
            const std::string words = there ? shown(**there) : "", now = own ? shown(**own) : "";
            if (words == now && !words.empty())
                lines.push_back("said in another way: " + now); // units, or what no words show
            else
                say(words, now);
        });
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
