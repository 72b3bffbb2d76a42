#include "core/numerics/eight_wide.hpp"

#include <algorithm>

// The innermost loops once for processors with lanes registers and once for any.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__SANITIZE_ADDRESS__)
#define UNDISONA_WIDE __attribute__((target_clones("avx512f", "arch=haswell", "default")))
#else
#define UNDISONA_WIDE
#endif

namespace undisona {

namespace {

constexpr std::int64_t tile = 256; // rows whose sums stay near the processor

/// Eight rows on, asks for the same rows of the eight columns that come next, one column a row: a tile's share of a
/// column is too short for the processor to see the pattern by itself.
[[gnu::always_inline]] inline void fetchAhead(const double* next, std::int64_t ld, std::int64_t row, std::int64_t begin)
{
    const std::int64_t which = (row - begin) & 7;
    __builtin_prefetch(next + which * ld + row - which);
}

} // namespace

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
            const auto* from = reinterpret_cast<const Eight*>(x + lanes * j);
            const Eight x0 = from[0], x1 = from[1], x2 = from[2], x3 = from[3], x4 = from[4], x5 = from[5],
                        x6 = from[6], x7 = from[7];
            for (std::int64_t i = begin; i < end; ++i) {
                fetchAhead(l0 + 8 * ld, ld, i, begin);
                *reinterpret_cast<Eight*>(w + lanes * i) -= ((l0[i] * x0 + l1[i] * x1) + (l2[i] * x2 + l3[i] * x3)) +
                                                            ((l4[i] * x4 + l5[i] * x5) + (l6[i] * x6 + l7[i] * x7));
            }
        }
        for (; j + 4 <= columns; j += 4) {
            const double *l0 = l + j * ld, *l1 = l0 + ld, *l2 = l1 + ld, *l3 = l2 + ld;
            const auto* from = reinterpret_cast<const Eight*>(x + lanes * j);
            const Eight x0 = from[0], x1 = from[1], x2 = from[2], x3 = from[3];
            for (std::int64_t i = begin; i < end; ++i)
                *reinterpret_cast<Eight*>(w + lanes * i) -= l0[i] * x0 + l1[i] * x1 + (l2[i] * x2 + l3[i] * x3);
        }
        for (; j < columns; ++j) {
            const double* own = l + j * ld;
            const Eight xj = *reinterpret_cast<const Eight*>(x + lanes * j);
            for (std::int64_t i = begin; i < end; ++i)
                *reinterpret_cast<Eight*>(w + lanes * i) -= own[i] * xj;
        }
    }
}

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
                const Eight wi = *reinterpret_cast<const Eight*>(w + lanes * i);
                s0 += l0[i] * wi;
                s1 += l1[i] * wi;
                s2 += l2[i] * wi;
                s3 += l3[i] * wi;
                s4 += l4[i] * wi;
                s5 += l5[i] * wi;
                s6 += l6[i] * wi;
                s7 += l7[i] * wi;
            }
            auto* to = reinterpret_cast<Eight*>(x + lanes * j);
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
                const Eight wi = *reinterpret_cast<const Eight*>(w + lanes * i);
                s0 += l0[i] * wi;
                s1 += l1[i] * wi;
                s2 += l2[i] * wi;
                s3 += l3[i] * wi;
            }
            auto* to = reinterpret_cast<Eight*>(x + lanes * j);
            to[0] -= s0;
            to[1] -= s1;
            to[2] -= s2;
            to[3] -= s3;
        }
        for (; j < last; ++j) {
            const double* own = l + j * ld;
            Eight s{};
            for (std::int64_t i = begin; i < end; ++i)
                s += own[i] * *reinterpret_cast<const Eight*>(w + lanes * i);
            *reinterpret_cast<Eight*>(x + lanes * j) -= s;
        }
    }
}

UNDISONA_WIDE
void addLowerColumns(const std::int64_t* start, const std::int64_t* row, const double* value, std::int64_t begin,
                     std::int64_t end, const double* from, double* to)
{
    const auto rowOf = [](double* all, std::int64_t at) { return reinterpret_cast<Eight*>(all + lanes * at); };
    for (std::int64_t column = begin; column < end; ++column) {
        const Eight own = *reinterpret_cast<const Eight*>(from + lanes * column);
        Eight gathered = value[start[column]] * own;
        for (std::int64_t at = start[column] + 1; at < start[column + 1]; ++at) {
            *rowOf(to, row[at] - begin) += value[at] * own;
            gathered += value[at] * *reinterpret_cast<const Eight*>(from + lanes * row[at]);
        }
        *rowOf(to, column - begin) += gathered;
    }
}

} // namespace undisona
