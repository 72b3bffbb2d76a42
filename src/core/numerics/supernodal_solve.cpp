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

constexpr std::int64_t tile = 256; // rows whose sums stay near the processor
constexpr std::int64_t panel = 32; // columns of a triangle solved before the rest of it is told

/// Eight rows on, asks for the same rows of the eight columns that come next, one column a row: a tile's share of a
/// column is too short for the processor to see the pattern by itself.
[[gnu::always_inline]] inline void fetchAhead(const double* next, std::int64_t ld, std::int64_t row, std::int64_t begin)
{
    const std::int64_t which = (row - begin) & 7;
    __builtin_prefetch(next + which * ld + row - which);
}

/// w[i] -= sum over j of l(i, j) x[j], rows first ... last-1; each w and x is eight numbers.
UNDISONA_WIDE
void spread(const double* l, std::int64_t ld, std::int64_t first, std::int64_t last, std::int64_t columns,
            const double* x, double* w)
{
    for (std::int64_t begin = first; begin < last; begin += tile) {
        const std::int64_t end = std::min(last, begin + tile);
        std::int64_t j = 0;
        for (; j + 8 <= columns; j += 8) {
            const double *l0 = l + j * ld, *l1 = l0 + ld, *l2 = l1 + ld, *l3 = l2 + ld, *l4 = l3 + ld, *l5 = l4 + ld,
                         *l6 = l5 + ld, *l7 = l6 + ld;
            const auto* from = reinterpret_cast<const Eight*>(x + wide * j);
            const Eight x0 = from[0], x1 = from[1], x2 = from[2], x3 = from[3], x4 = from[4], x5 = from[5],
                        x6 = from[6], x7 = from[7];
            for (std::int64_t i = begin; i < end; ++i) {
                fetchAhead(l0 + 8 * ld, ld, i, begin);
                *reinterpret_cast<Eight*>(w + wide * i) -= ((l0[i] * x0 + l1[i] * x1) + (l2[i] * x2 + l3[i] * x3)) +
                                                           ((l4[i] * x4 + l5[i] * x5) + (l6[i] * x6 + l7[i] * x7));
            }
        }
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
        for (; j + 8 <= last; j += 8) {
            const double *l0 = l + j * ld, *l1 = l0 + ld, *l2 = l1 + ld, *l3 = l2 + ld, *l4 = l3 + ld, *l5 = l4 + ld,
                         *l6 = l5 + ld, *l7 = l6 + ld;
            Eight s0{}, s1{}, s2{}, s3{}, s4{}, s5{}, s6{}, s7{};
            for (std::int64_t i = begin; i < end; ++i) {
                fetchAhead(l0 + 8 * ld, ld, i, begin);
                const Eight wi = *reinterpret_cast<const Eight*>(w + wide * i);
                s0 += l0[i] * wi;
                s1 += l1[i] * wi;
                s2 += l2[i] * wi;
                s3 += l3[i] * wi;
                s4 += l4[i] * wi;
                s5 += l5[i] * wi;
                s6 += l6[i] * wi;
                s7 += l7[i] * wi;
            }
            auto* to = reinterpret_cast<Eight*>(x + wide * j);
            to[0] -= s0;
            to[1] -= s1;
            to[2] -= s2;
            to[3] -= s3;
            to[4] -= s4;
            to[5] -= s5;
            to[6] -= s6;
            to[7] -= s7;
        }
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

/// Below so many entries a supernode is not worth splitting.
constexpr std::int64_t worthSplitting = 60000;

} // namespace

SupernodalSolve::SupernodalSolve(const Analysis& analysis, const double* value, const signed char* sign, int threads)
    : analysis_(analysis), value_(value), sign_(sign),
      plan_(analysis, threads, [](double columns, double rows) { return columns * rows; })
{
    workers_ = std::make_unique<Workers>(static_cast<int>(plan_.subtrees.size()));
}

SupernodalSolve::~SupernodalSolve() = default;

void SupernodalSolve::forward(std::int64_t k, Block& block, bool split) const
{
    const auto [first, columns, rows, below, row, l] = Supernode(analysis_, value_, k);
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
    const auto [first, columns, rows, below, row, l] = Supernode(analysis_, value_, k);
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
    const auto n = static_cast<std::size_t>(analysis_.size);
    const int hands = workers_->count();
    // Each thread but the first gathers what it adds to rows of the top in a block of its own.
    std::vector<Block> blocks(static_cast<std::size_t>(hands), Block(wide * n));
    for (Eigen::Index begin = 0; begin < right.cols(); begin += wide) {
        const Eigen::Index columns = std::min<Eigen::Index>(wide, right.cols() - begin);
        Block& main = blocks[0];
        for (std::size_t i = 0; i < n; ++i) {
            for (Eigen::Index c = 0; c < columns; ++c)
                main[wide * i + static_cast<std::size_t>(c)] = right(analysis_.permutation[i], begin + c);
            for (Eigen::Index c = columns; c < wide; ++c)
                main[wide * i + static_cast<std::size_t>(c)] = 0.0;
        }
        if (hands > 1)
            workers_->run([&](int hand) {
                Block& own = blocks[static_cast<std::size_t>(hand)];
                if (hand > 0) std::fill(own.begin(), own.end(), 0.0);
                for (const auto k : plan_.subtrees[static_cast<std::size_t>(hand)]) {
                    if (hand > 0) {
                        const auto first =
                                       static_cast<std::size_t>(wide * analysis_.super[static_cast<std::size_t>(k)]),
                                   last = static_cast<std::size_t>(wide *
                                                                   analysis_.super[static_cast<std::size_t>(k) + 1]);
                        for (auto at = first; at < last; ++at)
                            own[at] += main[at]; // columns of this thread alone
                    }
                    forward(k, own, false);
                }
            });
        for (const auto k : plan_.top) {
            const auto first = static_cast<std::size_t>(wide * analysis_.super[static_cast<std::size_t>(k)]),
                       last = static_cast<std::size_t>(wide * analysis_.super[static_cast<std::size_t>(k) + 1]);
            for (int hand = 1; hand < hands; ++hand)
                for (auto at = first; at < last; ++at)
                    main[at] += blocks[static_cast<std::size_t>(hand)][at];
            forward(k, main, true);
        }
        if (hands > 1)
            for (int hand = 1; hand < hands; ++hand)
                for (const auto k : plan_.subtrees[static_cast<std::size_t>(hand)])
                    std::copy(blocks[static_cast<std::size_t>(hand)].begin() +
                                  wide * analysis_.super[static_cast<std::size_t>(k)],
                              blocks[static_cast<std::size_t>(hand)].begin() +
                                  wide * analysis_.super[static_cast<std::size_t>(k) + 1],
                              main.begin() + wide * analysis_.super[static_cast<std::size_t>(k)]);
        if (sign_)
            for (std::size_t i = 0; i < n; ++i)
                if (sign_[i] < 0)
                    for (std::size_t c = 0; c < wide; ++c)
                        main[wide * i + c] *= -1.0;
        for (std::size_t at = plan_.top.size(); at-- > 0;)
            backward(plan_.top[at], main, true);
        if (hands > 1)
            workers_->run([&](int hand) {
                const auto& list = plan_.subtrees[static_cast<std::size_t>(hand)];
                for (std::size_t at = list.size(); at-- > 0;)
                    backward(list[at], main, false);
            });
        for (std::size_t i = 0; i < n; ++i)
            for (Eigen::Index c = 0; c < columns; ++c)
                solution(analysis_.permutation[i], begin + c) = main[wide * i + static_cast<std::size_t>(c)];
    }
    return solution;
}

} // namespace undisona
