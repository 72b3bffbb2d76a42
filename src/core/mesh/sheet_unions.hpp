#pragma once
#include "core/mesh/frame_mesh.hpp"

#include <algorithm>
#include <map>
#include <numeric>
#include <set>

namespace undisona {

/// Which parts that meet in a place move together there: joined ones, and those that a third one joins. Parts are
/// sheets and solids as Frame::partName counts them.
class Unions {
public:
    explicit Unions(const std::vector<PartPair>& apart)
    {
        for (const auto& [one, other] : apart)
            apart_.insert({std::min(one, other), std::max(one, other)});
    }
    bool empty() const { return apart_.empty(); }

    bool apart(int one, int other) const { return apart_.contains({std::min(one, other), std::max(one, other)}); }

    /// By part, in their order, the number of its union.
    std::vector<int> of(const std::vector<int>& parts) const
    {
        std::vector<int> number(parts.size());
        std::iota(number.begin(), number.end(), 0);
        for (std::size_t i = 0; i < parts.size(); ++i)
            for (std::size_t k = i + 1; k < parts.size(); ++k) {
                if (apart(parts[i], parts[k])) continue;
                const int from = std::max(number[i], number[k]), to = std::min(number[i], number[k]);
                std::replace(number.begin(), number.end(), from, to);
            }
        return number;
    }

private:
    std::set<std::pair<int, int>> apart_;
};

/// By a node and a part: the node that this part has in its place, as it is not joined to the first one there.
using NodeCopies = std::map<std::pair<int, int>, int>;

/// The node that a part has there in place of the first one; `otherwise` where it has none of its own.
inline int copyOf(const NodeCopies& copies, int node, int part, int otherwise)
{
    const auto copy = copies.find({node, part});
    return copy == copies.end() ? otherwise : copy->second;
}
/// Every node that a part has in the place of one, put at the list's end.
inline void addCopies(const NodeCopies& copies, int node, std::vector<int>& list)
{
    for (auto copy = copies.lower_bound({node, 0}); copy != copies.end() && copy->first.first == node; ++copy)
        list.push_back(copy->second);
}

/// Adds copies to the mesh where parts that meet are not joined. `met` has the parts at each node, and `own` the mesh's
/// node for it.
NodeCopies copiesFor(const Unions&, std::vector<std::vector<int>> met, const std::vector<int>& own, FrameMesh&);

} // namespace undisona
