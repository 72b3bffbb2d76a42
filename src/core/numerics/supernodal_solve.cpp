#include "core/numerics/supernodal_solve.hpp"

#include "core/numerics/eight_wide.hpp"
#include "core/numerics/workers.hpp"

#include <algorithm>
#include <array>
#include <cstring>

namespace undisona {

namespace {

constexpr std::int64_t solvedAtOnce = 32; // columns of a triangle solved before the rest of it is told

/// x L' = x for the lower triangle at the head of a supernode; x is 8 x columns.
void solveDown(const double* l, std::int64_t ld, std::int64_t columns, double* x)
{
    for (std::int64_t begin = 0; begin < columns; begin += solvedAtOnce) {
        const std::int64_t end = std::min(columns, begin + solvedAtOnce);
        for (std::int64_t j = begin; j < end; ++j) {
            auto& own = *reinterpret_cast<Eight*>(x + lanes * j);
            own *= 1.0 / l[j * ld + j];
            spread(l + j * ld, ld, j + 1, end, 1, x + lanes * j, x);
        }
        spread(l + begin * ld, ld, end, columns, end - begin, x + lanes * begin, x);
    }
}

/// x L = x.
void solveUp(const double* l, std::int64_t ld, std::int64_t columns, double* x)
{
    for (std::int64_t begin = (columns - 1) / solvedAtOnce * solvedAtOnce; begin >= 0; begin -= solvedAtOnce) {
        const std::int64_t end = std::min(columns, begin + solvedAtOnce);
        collect(l + end, ld, columns - end, begin, end, x + lanes * end, x);
        for (std::int64_t j = end; j-- > begin;) {
            collect(l + j + 1, ld, end - j - 1, j, j + 1, x + lanes * (j + 1), x);
            *reinterpret_cast<Eight*>(x + lanes * j) *= 1.0 / l[j * ld + j];
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

void SupernodalSolve::forward(std::int64_t k, double* block, bool split) const
{
    const auto [first, columns, rows, below, row, l] = Supernode(analysis_, value_, k);
    double* x = block + lanes * first;
    solveDown(l, rows, columns, x);
    if (below == 0) return;
    thread_local std::vector<double> room;
    room.assign(static_cast<std::size_t>(lanes * below), 0.0);
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
        double* to = block + lanes * row[i];
        for (int lane = 0; lane < lanes; ++lane)
            to[lane] += w[lanes * i + lane];
    }
}

void SupernodalSolve::backward(std::int64_t k, double* block, bool split) const
{
    const auto [first, columns, rows, below, row, l] = Supernode(analysis_, value_, k);
    double* x = block + lanes * first;
    if (below > 0) {
        thread_local std::vector<double> room;
        room.resize(static_cast<std::size_t>(lanes * below));
        double* w = room.data();
        for (std::int64_t i = 0; i < below; ++i)
            std::memcpy(w + lanes * i, block + lanes * row[i], lanes * sizeof(double));
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
    std::vector<std::unique_ptr<double[]>> blocks(static_cast<std::size_t>(hands));
    for (auto& block : blocks)
        block = std::make_unique_for_overwrite<double[]>(lanes * n);
    double* main = blocks[0].get();
    const auto rowsOf = [&](int hand) {
        const auto at = static_cast<std::size_t>(hand), of = static_cast<std::size_t>(hands);
        return std::pair(n * at / of, n * (at + 1) / of);
    };
    const auto columnsOf = [&](std::int64_t k) {
        const auto at = static_cast<std::size_t>(k);
        return std::pair(lanes * analysis_.super[at], lanes * analysis_.super[at + 1]);
    };
    for (Eigen::Index begin = 0; begin < right.cols(); begin += lanes) {
        const Eigen::Index columns = std::min<Eigen::Index>(lanes, right.cols() - begin);
        workers_->run([&](int hand) {
            const auto [from, to] = rowsOf(hand);
            for (std::size_t i = from; i < to; ++i) {
                for (Eigen::Index c = 0; c < columns; ++c)
                    main[lanes * i + static_cast<std::size_t>(c)] = right(analysis_.permutation[i], begin + c);
                for (Eigen::Index c = columns; c < lanes; ++c)
                    main[lanes * i + static_cast<std::size_t>(c)] = 0.0;
            }
        });
        if (hands > 1)
            workers_->run([&](int hand) {
                double* own = blocks[static_cast<std::size_t>(hand)].get();
                if (hand > 0) std::fill(own, own + lanes * n, 0.0);
                for (const auto k : plan_.subtrees[static_cast<std::size_t>(hand)]) {
                    const auto [first, last] = columnsOf(k);
                    for (auto at = first; at < last && hand > 0; ++at)
                        own[at] += main[at]; // columns of this thread alone
                    forward(k, own, false);
                }
            });
        for (const auto k : plan_.top) {
            const auto [first, last] = columnsOf(k);
            for (int hand = 1; hand < hands; ++hand)
                for (auto at = first; at < last; ++at)
                    main[at] += blocks[static_cast<std::size_t>(hand)][static_cast<std::size_t>(at)];
            forward(k, main, true);
        }
        if (hands > 1)
            workers_->run([&](int hand) {
                const double* own = blocks[static_cast<std::size_t>(hand)].get();
                for (const auto k : plan_.subtrees[static_cast<std::size_t>(hand)])
                    if (const auto [first, last] = columnsOf(k); hand > 0)
                        std::copy(own + first, own + last, main + first);
            });
        if (sign_)
            for (std::size_t i = 0; i < n; ++i)
                if (sign_[i] < 0)
                    for (std::size_t c = 0; c < lanes; ++c)
                        main[lanes * i + c] *= -1.0;
        for (std::size_t at = plan_.top.size(); at-- > 0;)
            backward(plan_.top[at], main, true);
        if (hands > 1)
            workers_->run([&](int hand) {
                const auto& list = plan_.subtrees[static_cast<std::size_t>(hand)];
                for (std::size_t at = list.size(); at-- > 0;)
                    backward(list[at], main, false);
            });
        workers_->run([&](int hand) {
            const auto [from, to] = rowsOf(hand);
            for (std::size_t i = from; i < to; ++i)
                for (Eigen::Index c = 0; c < columns; ++c)
                    solution(analysis_.permutation[i], begin + c) = main[lanes * i + static_cast<std::size_t>(c)];
        });
    }
    return solution;
}

} // namespace undisona
