#include "core/numerics/analysis.hpp"

#include "core/numerics/cholmod_view.hpp"
#include "core/numerics/elimination_order.hpp"

#include <algorithm>
#include <numeric>

namespace undisona {

std::shared_ptr<const Analysis> Analysis::of(const SparseSymmetric& matrix)
{
    auto analysis = std::make_shared<Analysis>();
    analysis->size = matrix.size;
    if (matrix.size == 0) {
        analysis->super = analysis->rowStart = analysis->valueStart = {0};
        return analysis;
    }
    auto order = eliminationOrder(matrix);
    if (!order) return nullptr;
    cholmod_common common{};
    startSupernodal(common);
    common.method[0].ordering = CHOLMOD_GIVEN;
    cholmod_sparse view = viewOf(matrix);
    cholmod_factor* factor = cholmod_l_analyze_p(&view, order->data(), nullptr, 0, &common);
    const bool good = factor && common.status == CHOLMOD_OK && factor->is_super;
    if (good) {
        const auto list = [](const void* from, std::size_t count) {
            const auto* integers = static_cast<const std::int64_t*>(from);
            return std::vector<std::int64_t>(integers, integers + count);
        };
        analysis->permutation = list(factor->Perm, factor->n);
        analysis->super = list(factor->super, factor->nsuper + 1);
        analysis->rowStart = list(factor->pi, factor->nsuper + 1);
        analysis->valueStart = list(factor->px, factor->nsuper + 1);
        analysis->row = list(factor->s, factor->ssize);
        analysis->flops = common.fl;
    }
    if (factor) cholmod_l_free_factor(&factor, &common);
    cholmod_l_finish(&common);
    return good ? analysis : nullptr;
}

TreePlan::TreePlan(const Analysis& analysis, int threads, const std::function<double(double, double)>& cost)
{
    const auto count = static_cast<std::size_t>(analysis.supernodes());
    std::vector<std::int64_t> owner(static_cast<std::size_t>(analysis.size));
    std::vector<double> weight(count, 0.0); // of the subtree
    parent.assign(count, -1);
    for (std::size_t k = 0; k < count; ++k)
        for (auto column = analysis.super[k]; column < analysis.super[k + 1]; ++column)
            owner[static_cast<std::size_t>(column)] = static_cast<std::int64_t>(k);
    for (std::size_t k = 0; k < count; ++k) {
        const Supernode node(analysis, nullptr, static_cast<std::int64_t>(k));
        weight[k] += cost(double(node.columns), double(node.rows));
        if (node.below > 0) {
            parent[k] = owner[static_cast<std::size_t>(node.row[0])];
            weight[static_cast<std::size_t>(parent[k])] += weight[k];
        }
    }
    // Split the largest subtree at its root until there are a few a thread, none of them too large.
    std::vector<std::vector<std::int64_t>> children(count);
    std::vector<std::int64_t> roots;
    double total = 0.0;
    for (std::size_t k = 0; k < count; ++k) {
        if (parent[k] >= 0) {
            children[static_cast<std::size_t>(parent[k])].push_back(static_cast<std::int64_t>(k));
        } else {
            roots.push_back(static_cast<std::int64_t>(k));
            total += weight[k];
        }
    }
    std::vector<char> isTop(count, threads > 1 ? 0 : 1);
    const auto lighter = [&](std::int64_t a, std::int64_t b) {
        return weight[static_cast<std::size_t>(a)] < weight[static_cast<std::size_t>(b)];
    };
    while (threads > 1 && !roots.empty()) {
        const auto heaviest = std::max_element(roots.begin(), roots.end(), lighter);
        if (weight[static_cast<std::size_t>(*heaviest)] < 0.3 / threads * total) break;
        const auto root = static_cast<std::size_t>(*heaviest);
        roots.erase(heaviest);
        isTop[root] = 1;
        roots.insert(roots.end(), children[root].begin(), children[root].end());
    }
    subtrees.assign(static_cast<std::size_t>(std::max(1, threads)), {});
    std::vector<int> thread(count, -1);
    if (threads > 1) {
        std::sort(roots.begin(), roots.end(), [&](std::int64_t a, std::int64_t b) { return lighter(b, a); });
        std::vector<double> load(subtrees.size(), 0.0);
        for (const auto root : roots) { // the heaviest first, each to the least loaded
            const auto least = std::min_element(load.begin(), load.end()) - load.begin();
            load[static_cast<std::size_t>(least)] += weight[static_cast<std::size_t>(root)];
            thread[static_cast<std::size_t>(root)] = static_cast<int>(least);
        }
    }
    for (std::size_t k = count; k-- > 0;) // children follow their root
        if (!isTop[k] && thread[k] < 0) thread[k] = thread[static_cast<std::size_t>(parent[k])];
    for (std::size_t k = 0; k < count; ++k) {
        if (isTop[k])
            top.push_back(static_cast<std::int64_t>(k));
        else
            subtrees[static_cast<std::size_t>(thread[k])].push_back(static_cast<std::int64_t>(k));
    }
}

} // namespace undisona
