#include "core/model/target.hpp"

#include <vector>

namespace undisona {

std::string_view nounOf(Target target)
{
    constexpr std::array<std::string_view, 6> nouns{"point", "member", "edge", "sheet", "face", "solid"};
    return nouns[static_cast<std::size_t>(target)];
}

namespace {

std::string listed(Targets targets, std::string_view ending, std::string_view last)
{
    std::vector<std::string> nouns;
    for (const Target target : everyTarget)
        if (targets.has(target)) nouns.push_back(std::string(nounOf(target)) + std::string(ending));
    std::string all;
    for (std::size_t at = 0; at < nouns.size(); ++at) {
        if (at > 0) all += at + 1 == nouns.size() ? " " + std::string(last) + " " : ", ";
        all += nouns[at];
    }
    return all;
}

} // namespace

std::string oneOf(Targets targets)
{
    return listed(targets, "", "or");
}

std::string wordsOf(Targets targets, std::string_view last)
{
    return listed(targets, "s", last);
}

} // namespace undisona
