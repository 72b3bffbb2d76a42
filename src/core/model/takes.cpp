#include "core/model/takes.hpp"

#include "core/model/states.hpp"

#include <algorithm>
#include <array>
#include <ctime>
#include <set>

namespace undisona {

namespace {

const Take* takeNamed(const Document& document, const std::string& id)
{
    const auto found =
        std::find_if(document.takes.begin(), document.takes.end(), [&](const Take& take) { return take.id == id; });
    return found == document.takes.end() ? nullptr : &*found;
}

} // namespace

std::string keepTake(Document& document, const std::string& name, Model model, const std::string& from)
{
    std::set<std::string> ids;
    for (const auto& take : document.takes)
        ids.insert(take.id);
    std::size_t number = document.takes.size() + 1;
    while (ids.contains("t" + std::to_string(number)))
        ++number;
    Take take;
    take.id = "t" + std::to_string(number);
    take.name = name;
    take.from = ids.contains(from) ? from : std::string();
    take.kept = utcNow();
    take.model = std::move(model);
    document.takes.push_back(std::move(take));
    return document.takes.back().id;
}

void removeTake(Document& document, const std::string& id)
{
    const Take* gone = takeNamed(document, id);
    if (!gone) return;
    const std::string above = gone->from;
    for (auto& take : document.takes)
        if (take.from == id) take.from = above;
    if (document.from == id) document.from = above;
    std::erase_if(document.takes, [&](const Take& take) { return take.id == id; });
}

std::vector<TakeInTree> treeOf(const Document& document)
{
    std::vector<TakeInTree> tree;
    const auto below = [&](const auto& again, const std::string& from, int depth) -> void {
        const Take* above = from.empty() ? nullptr : takeNamed(document, from);
        for (const auto& take : document.takes) {
            if (take.from != from) continue;
            tree.push_back({&take, depth, above});
            again(again, take.id, depth + 1);
        }
        if (document.from == from) tree.push_back({nullptr, depth, above});
    };
    below(below, {}, 0);
    return tree;
}

std::vector<NamedModel> modelsOf(const Document& document)
{
    std::vector<NamedModel> all{{"now", document.model}};
    for (auto& state : statesOf(document.model))
        all.push_back({state.name, std::move(state.model)});
    for (const auto& take : document.takes)
        all.push_back({take.name, take.model});
    return all;
}

std::string utcNow()
{
    const std::time_t now = std::time(nullptr);
    std::tm parts{};
    gmtime_r(&now, &parts);
    std::array<char, 32> text{};
    return {text.data(), std::strftime(text.data(), text.size(), "%Y-%m-%dT%H:%M:%SZ", &parts)};
}

std::string localTime(const std::string& utc)
{
    std::tm parts{};
    const char* end = strptime(utc.c_str(), "%Y-%m-%dT%H:%M:%SZ", &parts);
    if (!end || *end) return utc;
    const std::time_t then = timegm(&parts);
    localtime_r(&then, &parts);
    std::array<char, 32> text{};
    return {text.data(), std::strftime(text.data(), text.size(), "%Y-%m-%d %H:%M", &parts)};
}

} // namespace undisona
