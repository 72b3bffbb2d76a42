#include "core/numerics/elimination_order.hpp"

#include "core/numerics/cholmod_view.hpp"
#include "core/numerics/level_dissection.hpp"

#include <algorithm>
#include <numeric>

namespace undisona {

namespace {

/// Of a pattern, or of the lower triangle of one.
Graph graphOf(const SparseSymmetric& pattern)
{
    Graph graph;
    const auto size = static_cast<std::size_t>(pattern.size);
    graph.start.assign(size + 1, 0);
    const auto each = [&](const auto& take) { // by columns, so that what a vertex gets comes in order
        for (std::size_t column = 0; column < size; ++column)
            for (auto at = pattern.columnStart[column]; at < pattern.columnStart[column + 1]; ++at) {
                const auto row = static_cast<std::size_t>(pattern.row[static_cast<std::size_t>(at)]);
                if (row != column) take(row, column);
                take(column, row);
            }
    };
    each([&](std::size_t of, std::size_t) { ++graph.start[of + 1]; });
    std::partial_sum(graph.start.begin(), graph.start.end(), graph.start.begin());
    graph.neighbour.resize(static_cast<std::size_t>(graph.start.back()));
    std::vector<std::int64_t> next(graph.start.begin(), graph.start.end() - 1);
    each([&](std::size_t of, std::size_t other) {
        graph.neighbour[static_cast<std::size_t>(next[of]++)] = static_cast<std::int32_t>(other);
    });
    return graph;
}

/// The first vertex that has the same neighbours, itself if there is none before.
std::vector<std::int32_t> firstsAlike(const Graph& graph)
{
    std::vector<std::uint64_t> sum(static_cast<std::size_t>(graph.size()), 0); // differs where the neighbours do
    for (std::int32_t at = 0; at < graph.size(); ++at)
        for (const auto* other = graph.begin(at); other != graph.end(at); ++other)
            sum[static_cast<std::size_t>(at)] += (static_cast<std::uint64_t>(*other) + 1) * 0x9E3779B97F4A7C15ULL ^
                       (static_cast<std::uint64_t>(*other) << 32);
    std::vector<std::int32_t> first(sum.size());
    for (std::int32_t at = 0; at < graph.size(); ++at) {
        auto& own = first[static_cast<std::size_t>(at)];
        own = at;
        for (const auto* other = graph.begin(at); *other < at && own == at; ++other)
            if (first[static_cast<std::size_t>(*other)] == *other &&
                sum[static_cast<std::size_t>(*other)] == sum[static_cast<std::size_t>(at)] &&
                std::equal(graph.begin(*other), graph.end(*other), graph.begin(at), graph.end(at)))
                own = *other;
    }
    return first;
}

/// The graph of groups as a lower triangle, each group by the number of its first vertex among the firsts.
SparseSymmetric quotient(const Graph& graph, const std::vector<std::int32_t>& first)
{
    std::vector<std::int32_t> number(first.size(), -1);
    SparseSymmetric groups;
    for (std::size_t at = 0; at < first.size(); ++at)
        if (first[at] == static_cast<std::int32_t>(at)) number[at] = static_cast<std::int32_t>(groups.size++);
    groups.columnStart = {0};
    for (std::size_t at = 0; at < first.size(); ++at) {
        if (number[at] < 0) continue;
        const auto vertex = static_cast<std::int32_t>(at);
        for (const auto* other = graph.begin(vertex); other != graph.end(vertex); ++other)
            if (number[static_cast<std::size_t>(*other)] >= number[at])
                groups.row.push_back(number[static_cast<std::size_t>(*other)]);
        groups.columnStart.push_back(static_cast<std::int64_t>(groups.row.size()));
    }
    return groups;
}

std::optional<std::vector<std::int64_t>> dissected(const SparseSymmetric& pattern)
{
    cholmod_common common{};
    startSupernodal(common);
    cholmod_sparse view = viewOf(pattern);
    view.xtype = CHOLMOD_PATTERN;
    std::vector<std::int64_t> order(static_cast<std::size_t>(pattern.size));
    const bool good = cholmod_l_metis(&view, nullptr, 0, 0, order.data(), &common) != 0;
    cholmod_l_finish(&common);
    if (!good) return std::nullopt;
    return order;
}

} // namespace

std::optional<std::vector<std::int64_t>> eliminationOrder(const SparseSymmetric& pattern)
{
    if (pattern.size == 0) return std::vector<std::int64_t>{};
    const Graph graph = graphOf(pattern);
    const auto first = firstsAlike(graph);
    const SparseSymmetric groups = quotient(graph, first);
    constexpr double narrow = 96.0; // unknowns: the nodes of a frame four by four, as of a tower
    auto order = levelDissection(graphOf(groups), narrow * double(groups.size) / double(pattern.size));
    if (!order) order = dissected(groups);
    if (!order) return std::nullopt;
    std::vector<std::vector<std::int64_t>> members;
    std::vector<std::size_t> group(first.size());
    for (std::size_t at = 0; at < first.size(); ++at) {
        const auto leader = static_cast<std::size_t>(first[at]);
        if (leader == at) {
            group[at] = members.size();
            members.emplace_back();
        }
        members[group[leader]].push_back(static_cast<std::int64_t>(at));
    }
    std::vector<std::int64_t> all;
    all.reserve(first.size());
    for (const auto which : *order)
        all.insert(all.end(), members[static_cast<std::size_t>(which)].begin(),
                   members[static_cast<std::size_t>(which)].end());
    return all;
}

} // namespace undisona
