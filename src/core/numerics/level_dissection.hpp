#pragma once
#include <cstdint>
#include <optional>
#include <vector>

namespace undisona {

/// Neighbours of each vertex, ascending, itself among them.
struct Graph {
    std::vector<std::int64_t> start; ///< vertices + 1 entries
    std::vector<std::int32_t> neighbour;

    std::int32_t size() const { return static_cast<std::int32_t>(start.size()) - 1; }
    const std::int32_t* begin(std::int32_t of) const { return neighbour.data() + start[static_cast<std::size_t>(of)]; }
    const std::int32_t* end(std::int32_t of) const { return neighbour.data() + start[static_cast<std::size_t>(of) + 1]; }
};

/// Nested dissection of long and narrow graphs (masts, bridges, pipe runs): from one end the vertices fall into levels
/// that only touch their neighbours, and the narrowest level near the middle cuts the graph in two (George and Liu,
/// Computer Solution of Large Sparse Positive Definite Systems, 1981, ch. 8). Nothing for a graph whose levels hold
/// more than `narrow` vertices on average: there a general dissection finds better cuts.
std::optional<std::vector<std::int64_t>> levelDissection(const Graph&, double narrow);

} // namespace undisona
