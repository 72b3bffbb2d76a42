#include "core/base/alike_findings.hpp"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

namespace undisona {

std::string someOf(const std::vector<std::string>& names)
{
    constexpr std::size_t few = 4;
    std::string all;
    for (std::size_t at = 0; at < names.size() && at < few; ++at)
        all += (at == 0 ? "" : ", ") + names[at];
    if (names.size() > few) all += " and " + std::to_string(names.size() - few) + " more";
    return all;
}

Findings alikeAsOne(const Findings& findings)
{
    struct Alike {
        std::size_t at; ///< in what is returned
        std::vector<std::string> places;
        std::set<std::pair<std::string, std::string>> where{}; ///< sentence and place
        std::set<std::string> told{};                          ///< the places once more, to find them
    };
    Findings all;
    std::map<std::tuple<Severity, std::string, std::string, int>, Alike> known;
    for (const auto& finding : findings) {
        const auto [own, isNew] =
            known.try_emplace({finding.severity, finding.what, finding.remedy, finding.mode}, Alike{all.size(), {}});
        if (isNew) all.push_back(finding);
        if (!finding.place.empty() && own->second.told.insert(finding.place).second)
            own->second.places.push_back(finding.place);
        own->second.where.insert({finding.sentence, finding.place});
    }
    for (const auto& [key, alike] : known) {
        if (alike.where.size() == 1) continue;
        Finding& one = all[alike.at];
        if (!alike.places.empty())
            one.place = someOf(alike.places);
        else
            one.what += ", " + std::to_string(alike.where.size()) + " times";
    }
    return all;
}

} // namespace undisona
