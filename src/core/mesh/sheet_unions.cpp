#include "core/mesh/sheet_unions.hpp"

#include <algorithm>

namespace undisona {

NodeCopies copiesFor(const Unions& unions, std::vector<std::vector<int>> met, const std::vector<int>& own,
                     FrameMesh& mesh)
{
    NodeCopies copies;
    for (std::size_t at = 0; at < met.size(); ++at) {
        std::sort(met[at].begin(), met[at].end());
        met[at].erase(std::unique(met[at].begin(), met[at].end()), met[at].end());
        const auto number = unions.of(met[at]);
        std::map<int, int> nodeOf{{0, own[at]}};
        for (std::size_t sheet = 0; sheet < met[at].size(); ++sheet) {
            if (number[sheet] == 0) continue;
            const auto [node, isNew] = nodeOf.emplace(number[sheet], static_cast<int>(mesh.nodes.size()));
            if (isNew) mesh.nodes.push_back({mesh.nodes[static_cast<std::size_t>(own[at])].place, -1});
            copies[{static_cast<int>(at), met[at][sheet]}] = node->second;
        }
    }
    return copies;
}

} // namespace undisona
