#include "core/geometry/touching.hpp"

#include "core/geometry/joined_faces.hpp"

namespace undisona {

std::vector<Touching> touchingSheets(const Structure& structure)
{
    std::map<std::pair<int, int>, int> common;
    if (structure.frame.faces)
        for (const auto& edge : structure.frame.faces->edges) {
            std::set<int> sheets;
            for (const int face : edge.faces)
                if (const int sheet = structure.frame.faces->faces[static_cast<std::size_t>(face)].sheet; sheet >= 0)
                    sheets.insert(sheet);
            for (auto one = sheets.begin(); one != sheets.end(); ++one)
                for (auto other = std::next(one); other != sheets.end(); ++other)
                    ++common[{*one, *other}];
        }
    std::vector<Touching> pairs;
    for (const auto& [pair, edges] : common) {
        const auto [first, second] = pair;
        const bool apart = std::any_of(structure.apart.begin(), structure.apart.end(),
                                       [&, a = first, b = second](const SheetPair& said) {
                                           return (said[0] == a && said[1] == b) || (said[0] == b && said[1] == a);
                                       });
        pairs.push_back({first, second, edges, !apart});
    }
    return pairs;
}

} // namespace undisona
