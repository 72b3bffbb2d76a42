#pragma once
#include <algorithm>
#include <numeric>
#include <vector>

namespace undisona {

/// Things by number, of which more and more turn out to belong together (union-find: Galler and Fischer 1964, with paths
/// halved).
class JoinedSets {
public:
    explicit JoinedSets(std::size_t count) : leader_(count) { std::iota(leader_.begin(), leader_.end(), 0); }

    /// The lowest of those that a thing belongs to.
    int of(int thing)
    {
        while (up(thing) != thing)
            thing = up(thing) = up(up(thing));
        return thing;
    }
    void join(int one, int other)
    {
        const auto [low, high] = std::minmax({of(one), of(other)});
        up(high) = low;
    }

private:
    int& up(int thing) { return leader_[static_cast<std::size_t>(thing)]; }
    std::vector<int> leader_;
};

} // namespace undisona
