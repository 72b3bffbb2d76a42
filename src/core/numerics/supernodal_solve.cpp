#include "core/numerics/supernodal_solve.hpp"

#include "core/numerics/workers.hpp"

#include <algorithm>
#include <array>
#include <cstring>

// The innermost loops once for processors with wide registers and once for any.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__SANITIZE_ADDRESS__)
#define UNDISONA_WIDE __attribute__((target_clones("avx512f", "arch=haswell", "default")))
#else
#define UNDISONA_WIDE
#endif

namespace undisona {

namespace {

constexpr int wide = 8;
using Eight = double __attribute__((vector_size(64), aligned(8)));

constexpr std::int64_t tile = 96;  // rows whose sums stay near the processor
constexpr std::int64_t panel = 32; // columns of a triangle solved before the rest of it is told

/// w[i] -= sum over j of l(i, j) x[j], rows first ... last-1; each w and x is eight numbers.
UNDISONA_WIDE
void spread(const double* l, std::int64_t ld, std::int64_t first, std::int64_t last, std::int64_t columns,
            const double* x, double* w)
{
    for (std::int64_t begin = first; begin < last; begin += tile) {
        const std::int64_t end = std::min(last, begin + tile);
        std::int64_t j = 0;
        for (; j + 4 <= columns; j += 4) {
            const double *l0 = l + j * ld, *l1 = l0 + ld, *l2 = l1 + ld, *l3 = l2 + ld;
            const auto* from = reinterpret_cast<const Eight*>(x + wide * j);
            const Eight x0 = from[0], x1 = from[1], x2 = from[2], x3 = from[3];
            for (std::int64_t i = begin; i < end; ++i)
                *reinterpret_cast<Eight*>(w + wide * i) -= l0[i] * x0 + l1[i] * x1 + (l2[i] * x2 + l3[i] * x3);
        }
        for (; j < columns; ++j) {
            const double* own = l + j * ld;
            const Eight xj = *reinterpret_cast<const Eight*>(x + wide * j);
            for (std::int64_t i = begin; i < end; ++i)
                *reinterpret_cast<Eight*>(w + wide * i) -= own[i] * xj;
        }
    }
}

/// x[j] -= sum over i of l(i, j) w[i], columns first ... last-1.
UNDISONA_WIDE
void collect(const double* l, std::int64_t ld, std::int64_t rows, std::int64_t first, std::int64_t last,
             const double* w, double* x)
{
    for (std::int64_t begin = 0; begin < rows; begin += tile) {
        const std::int64_t end = std::min(rows, begin + tile);
        std::int64_t j = first;
        for (; j + 4 <= last; j += 4) {
            const double *l0 = l + j * ld, *l1 = l0 + ld, *l2 = l1 + ld, *l3 = l2 + ld;
            Eight s0{}, s1{}, s2{}, s3{};
            for (std::int64_t i = begin; i < end; ++i) {
                const Eight wi = *reinterpret_cast<const Eight*>(w + wide * i);
                s0 += l0[i] * wi;
                s1 += l1[i] * wi;
                s2 += l2[i] * wi;
                s3 += l3[i] * wi;
            }
            auto* to = reinterpret_cast<Eight*>(x + wide * j);
            to[0] -= s0;
            to[1] -= s1;
            to[2] -= s2;
            to[3] -= s3;
        }
        for (; j < last; ++j) {
            const double* own = l + j * ld;
            Eight s{};
            for (std::int64_t i = begin; i < end; ++i)
                s += own[i] * *reinterpret_cast<const Eight*>(w + wide * i);
            *reinterpret_cast<Eight*>(x + wide * j) -= s;
        }
    }
}

/// x L' = x for the lower triangle at the head of a supernode; x is 8 x columns.
void solveDown(const double* l, std::int64_t ld, std::int64_t columns, double* x)
{
    for (std::int64_t begin = 0; begin < columns; begin += panel) {
        const std::int64_t end = std::min(columns, begin + panel);
        for (std::int64_t j = begin; j < end; ++j) {
            auto& own = *reinterpret_cast<Eight*>(x + wide * j);
            own *= 1.0 / l[j * ld + j];
            spread(l + j * ld, ld, j + 1, end, 1, x + wide * j, x);
        }
        spread(l + begin * ld, ld, end, columns, end - begin, x + wide * begin, x);
    }
}

/// x L = x.
void solveUp(const double* l, std::int64_t ld, std::int64_t columns, double* x)
{
    for (std::int64_t begin = (columns - 1) / panel * panel; begin >= 0; begin -= panel) {
        const std::int64_t end = std::min(columns, begin + panel);
        collect(l + end, ld, columns - end, begin, end, x + wide * end, x);
        for (std::int64_t j = end; j-- > begin;) {
            collect(l + j + 1, ld, end - j - 1, j, j + 1, x + wide * (j + 1), x);
            *reinterpret_cast<Eight*>(x + wide * j) *= 1.0 / l[j * ld + j];
        }
    }
}

struct Supernode {
    std::int64_t first, columns, rows, below; ///< its first column; below: rows that are not its own columns
    const std::int64_t* row;                  ///< of those below
    const double* l;
};

Supernode supernodeOf(const SupernodalFactor& factor, std::int64_t k)
{
    const std::int64_t first = factor.super[k], columns = factor.super[k + 1] - first,
                       rows = factor.rowStart[k + 1] - factor.rowStart[k];
    return {first,
            columns,
            rows,
            rows - columns,
            factor.row + factor.rowStart[k] + columns,
            factor.value + factor.valueStart[k]};
}

/// Below so many entries a supernode is not worth splitting.
constexpr std::int64_t worthSplitting = 60000;

} // namespace

SupernodalSolve::SupernodalSolve(const SupernodalFactor& factor, int threads) : factor_(factor)
{
    plan(threads);
    workers_ = std::make_unique<Workers>(static_cast<int>(subtrees_.size()));
}

SupernodalSolve::~SupernodalSolve() = default;

void SupernodalSolve::plan(int threads)
{
    const auto count = static_cast<std::size_t>(factor_.supernodes);
    std::vector<std::int64_t> owner(static_cast<std::size_t>(factor_.size)), parent(count, -1);
    std::vector<double> weight(count, 0.0); // entries of the factor in the subtree
    for (std::size_t k = 0; k < count; ++k)
        for (auto column = factor_.super[k]; column < factor_.super[k + 1]; ++column)
            owner[static_cast<std::size_t>(column)] = static_cast<std::int64_t>(k);
    for (std::size_t k = 0; k < count; ++k) {
        const auto columns = factor_.super[k + 1] - factor_.super[k],
                   rows = factor_.rowStart[k + 1] - factor_.rowStart[k];
        weight[k] += double(columns) * double(rows);
        if (rows > columns) {
            parent[k] = owner[static_cast<std::size_t>(factor_.row[factor_.rowStart[k] + columns])];
            weight[static_cast<std::size_t>(parent[k])] += weight[k]; // a parent comes after all of its children
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
    isTop_.assign(count, threads > 1 ? 0 : 1);
    const auto lighter = [&](std::int64_t a, std::int64_t b) {
        return weight[static_cast<std::size_t>(a)] < weight[static_cast<std::size_t>(b)];
    };
    while (threads > 1 && !roots.empty()) {
        const auto heaviest = std::max_element(roots.begin(), roots.end(), lighter);
        if (weight[static_cast<std::size_t>(*heaviest)] < 0.15 * total) break;
        const auto root = static_cast<std::size_t>(*heaviest);
        roots.erase(heaviest);
        isTop_[root] = 1;
        roots.insert(roots.end(), children[root].begin(), children[root].end());
    }
    subtrees_.assign(static_cast<std::size_t>(std::max(1, threads)), {});
    std::vector<int> thread(count, -1);
    if (threads > 1) {
        std::sort(roots.begin(), roots.end(), [&](std::int64_t a, std::int64_t b) { return lighter(b, a); });
        std::vector<double> load(subtrees_.size(), 0.0);
        for (const auto root : roots) { // the heaviest first, each to the least loaded
            const auto least = std::min_element(load.begin(), load.end()) - load.begin();
            load[static_cast<std::size_t>(least)] += weight[static_cast<std::size_t>(root)];
            thread[static_cast<std::size_t>(root)] = static_cast<int>(least);
        }
    }
    for (std::size_t k = count; k-- > 0;) // children follow their root
        if (!isTop_[k] && thread[k] < 0) thread[k] = thread[static_cast<std::size_t>(parent[k])];
    for (std::size_t k = 0; k < count; ++k) {
        if (isTop_[k])
            top_.push_back(static_cast<std::int64_t>(k));
        else
            subtrees_[static_cast<std::size_t>(thread[k])].push_back(static_cast<std::int64_t>(k));
    }
}

void SupernodalSolve::forward(std::int64_t k, Block& block, bool split) const
{
    const auto [first, columns, rows, below, row, l] = supernodeOf(factor_, k);
    double* x = block.data() + wide * first;
    solveDown(l, rows, columns, x);
    if (below == 0) return;
    thread_local Block room;
    room.assign(static_cast<std::size_t>(wide * below), 0.0);
    double* w = room.data();
    if (split && below * columns > worthSplitting) {
        const int hands = workers_->count();
        workers_->run([&](int hand) {
            spread(l + columns, rows, below * hand / hands, below * (hand + 1) / hands, columns, x, w);
        });
    } else {
        spread(l + columns, rows, 0, below, columns, x, w);
    }
    for (std::int64_t i = 0; i < below; ++i) {
        double* to = block.data() + wide * row[i];
        for (int lane = 0; lane < wide; ++lane)
            to[lane] += w[wide * i + lane];
    }
}

void SupernodalSolve::backward(std::int64_t k, Block& block, bool split) const
{
    const auto [first, columns, rows, below, row, l] = supernodeOf(factor_, k);
    double* x = block.data() + wide * first;
    if (below > 0) {
        thread_local Block room;
        room.resize(static_cast<std::size_t>(wide * below));
        double* w = room.data();
        for (std::int64_t i = 0; i < below; ++i)
            std::memcpy(w + wide * i, block.data() + wide * row[i], wide * sizeof(double));
        if (split && below * columns > worthSplitting) {
            const int hands = workers_->count();
            workers_->run([&](int hand) {
                collect(l + columns, rows, below, columns * hand / hands, columns * (hand + 1) / hands, w, x);
            });
        } else {
            collect(l + columns, rows, below, 0, columns, w, x);
        }
    }
    solveUp(l, rows, columns, x);
}

Eigen::MatrixXd SupernodalSolve::solve(const Eigen::MatrixXd& right) const
{
    Eigen::MatrixXd solution(right.rows(), right.cols());
    const auto n = static_cast<std::size_t>(factor_.size);
    const int hands = workers_->count();
    // Each thread but the first gathers what it adds to rows of the top in a block of its own.
    std::vector<Block> blocks(static_cast<std::size_t>(hands), Block(wide * n));
    for (Eigen::Index begin = 0; begin < right.cols(); begin += wide) {
        const Eigen::Index columns = std::min<Eigen::Index>(wide, right.cols() - begin);
        Block& main = blocks[0];
        for (std::size_t i = 0; i < n; ++i) {
            for (Eigen::Index c = 0; c < columns; ++c)
                main[wide * i + static_cast<std::size_t>(c)] = right(factor_.permutation[i], begin + c);
            for (Eigen::Index c = columns; c < wide; ++c)
                main[wide * i + static_cast<std::size_t>(c)] = 0.0;
        }
        if (hands > 1)
            workers_->run([&](int hand) {
                Block& own = blocks[static_cast<std::size_t>(hand)];
                if (hand > 0) std::fill(own.begin(), own.end(), 0.0);
                for (const auto k : subtrees_[static_cast<std::size_t>(hand)]) {
                    if (hand > 0) {
                        const auto first = static_cast<std::size_t>(wide * factor_.super[k]),
                                   last = static_cast<std::size_t>(wide * factor_.super[k + 1]);
                        for (auto at = first; at < last; ++at)
                            own[at] += main[at]; // columns of this thread alone
                    }
                    forward(k, own, false);
                }
            });
        for (const auto k : top_) {
            const auto first = static_cast<std::size_t>(wide * factor_.super[k]),
                       last = static_cast<std::size_t>(wide * factor_.super[k + 1]);
            for (int hand = 1; hand < hands; ++hand)
                for (auto at = first; at < last; ++at)
                    main[at] += blocks[static_cast<std::size_t>(hand)][at];
            forward(k, main, true);
        }
        if (hands > 1)
            for (int hand = 1; hand < hands; ++hand)
                for (const auto k : subtrees_[static_cast<std::size_t>(hand)])
                    std::copy(blocks[static_cast<std::size_t>(hand)].begin() + wide * factor_.super[k],
                              blocks[static_cast<std::size_t>(hand)].begin() + wide * factor_.super[k + 1],
                              main.begin() + wide * factor_.super[k]);
        for (std::size_t at = top_.size(); at-- > 0;)
            backward(top_[at], main, true);
        if (hands > 1)
            workers_->run([&](int hand) {
                const auto& list = subtrees_[static_cast<std::size_t>(hand)];
                for (std::size_t at = list.size(); at-- > 0;)
                    backward(list[at], main, false);
            });
        for (std::size_t i = 0; i < n; ++i)
            for (Eigen::Index c = 0; c < columns; ++c)
                solution(factor_.permutation[i], begin + c) = main[wide * i + static_cast<std::size_t>(c)];
    }
    return solution;
}

} // namespace undisona
