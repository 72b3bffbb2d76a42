#include "core/numerics/signed_factor.hpp"

#include "core/base/progress.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/numerics/supernodal_solve.hpp"
#include "core/numerics/workers.hpp"

#include <atomic>
#include <cstring>
#include <map>
#include <numeric>

extern "C" void dpotrf_(const char* uplo, const int* n, double* a, const int* lda, int* info);

namespace undisona {

namespace {

constexpr std::int64_t panelWidth = 128; // columns of a supernode that are eliminated together

/// C = factor C - B J B' on the lower triangle, C n x n, B n x k, J the signs of B's columns, k > 0.
void subtractProduct(double factor, double* c, std::int64_t ldc, const double* b, std::int64_t ldb, std::int64_t n,
                     std::int64_t k, const signed char* sign)
{
    if (n == 0) return;
    const int rows = static_cast<int>(n), columns = static_cast<int>(k), ofC = static_cast<int>(ldc),
              ofB = static_cast<int>(ldb);
    const double one = 1.0, minus = -1.0, two = 2.0;
    dsyrk_("L", "N", &rows, &columns, &minus, b, &ofB, &factor, c, &ofC);
    const int single = 1;
    for (std::int64_t j = 0; j < k; ++j) // negative ones are few
        if (sign[j] < 0) dsyrk_("L", "N", &rows, &single, &two, b + j * ldb, &ofB, &one, c, &ofC);
}

/// The signed factor of a small dense lower triangle, in place. False at a pivot that is zero or no number.
bool factoriseSmall(double* a, std::int64_t lda, std::int64_t n, signed char* sign, std::int64_t& failed)
{
    for (std::int64_t j = 0; j < n; ++j) {
        const double pivot = a[j * lda + j];
        failed = j;
        if (pivot == 0.0 || !std::isfinite(pivot)) return false;
        sign[j] = pivot > 0.0 ? 1 : -1;
        const double root = std::sqrt(std::abs(pivot));
        a[j * lda + j] = root;
        for (std::int64_t i = j + 1; i < n; ++i)
            a[j * lda + i] /= sign[j] * root;
        for (std::int64_t k = j + 1; k < n; ++k) {
            const double factor = sign[j] * a[j * lda + k];
            for (std::int64_t i = k; i < n; ++i)
                a[k * lda + i] -= a[j * lda + i] * factor;
        }
    }
    return true;
}

} // namespace

/// One factorisation: the fronts on their way from the leaves to the root.
class FrontalRun {
public:
    FrontalRun(SignedFactor& factor, const SparseSum& matrix, const SignedFactor::Options& options)
        : own_(factor), analysis_(*factor.analysis_), matrix_(matrix), options_(options),
          threads_(options.threads > 0 ? options.threads : threadsFor(matrix.size())),
          plan_(analysis_, threads_,
                [](double columns, double rows) {
                    const double below = rows - columns;
                    return columns * (columns * columns / 3.0 + columns * below + below * below) + 200.0 * rows;
                }),
          inverse_(analysis_.permutation.size()), updates_(static_cast<std::size_t>(analysis_.supernodes())),
          hand_(updates_.size(), -1)
    {
        for (std::size_t at = 0; at < inverse_.size(); ++at)
            inverse_[static_cast<std::size_t>(analysis_.permutation[at])] = static_cast<std::int64_t>(at);
        children_.resize(updates_.size());
        for (std::size_t k = 0; k < updates_.size(); ++k)
            if (plan_.parent[k] >= 0)
                children_[static_cast<std::size_t>(plan_.parent[k])].push_back(static_cast<std::int64_t>(k));
        if (threads_ == 1) { // the whole is one subtree
            plan_.subtrees = {std::move(plan_.top)};
            plan_.top.clear();
        }
        for (std::size_t hand = 0; hand < plan_.subtrees.size(); ++hand)
            for (const auto k : plan_.subtrees[hand])
                hand_[static_cast<std::size_t>(k)] = static_cast<int>(hand);
        listMoved();
    }

    bool run()
    {
        Workers workers(threads_);
        useBlasThreads(1);
        workers.run([&](int hand) { eliminate(plan_.subtrees[static_cast<std::size_t>(hand)]); });
        if (!failed_ && !plan_.top.empty() && makeTop()) {
            useBlasThreads(threads_);
            place_.resize(static_cast<std::size_t>(matrix_.size()));
            for (const auto& list : plan_.subtrees)
                for (const auto k : list)
                    if (auto& update = updates_[static_cast<std::size_t>(k)]; update.own) {
                        const std::int64_t n = below(k);
                        passUp(k, workers, [&](std::int64_t j) { return update.data + j * n - j * (j - 1) / 2; });
                        update = {};
                    }
            eliminateTop(workers);
        }
        useBlasThreads(1); // its threads would spin beside ours
        return !failed_;
    }
    std::int64_t failedAt() const { return failedAt_; }

private:
    /// The entries that stand in other columns of the matrix than of the factor, by the latter.
    void listMoved()
    {
        const auto size = static_cast<std::size_t>(matrix_.size());
        start_.assign(size + 1, 0);
        const auto each = [&](const auto& take) {
            for (std::size_t column = 0; column < size; ++column)
                matrix_.each(static_cast<std::int64_t>(column), [&](std::int64_t row, double value) {
                    const auto i = inverse_[static_cast<std::size_t>(row)], j = inverse_[column];
                    if (i < j) take(static_cast<std::size_t>(i), j, value);
                });
        };
        each([&](std::size_t column, std::int64_t, double) { ++start_[column + 1]; });
        std::partial_sum(start_.begin(), start_.end(), start_.begin());
        moved_.resize(static_cast<std::size_t>(start_.back()));
        std::vector<std::int64_t> next(start_.begin(), start_.end() - 1);
        each([&](std::size_t column, std::int64_t row, double value) {
            moved_[static_cast<std::size_t>(next[column]++)] = {static_cast<std::int32_t>(row), value};
        });
    }

    /// Where the columns of the top stand while only the count is wanted.
    bool makeTop()
    {
        for (const auto k : plan_.top) {
            if (own_.value_) break;
            const Supernode node(analysis_, nullptr, k);
            auto& panel = top_[k] = ZeroedArray(static_cast<std::size_t>(node.columns * node.rows));
            if (!panel) failed_ = true;
        }
        return !failed_;
    }
    double* panelOf(std::int64_t k) const
    {
        return own_.value_ ? own_.value_.get() + analysis_.valueStart[static_cast<std::size_t>(k)] : top_.at(k).get();
    }

    /// Adds what a supernode leaves to the columns of its ancestors, all of them in the top. `columnOf` is where its
    /// column j begins, at the diagonal. Each column of the top is added to by one thread, so that the sum's order does
    /// not depend on the machine's load.
    template <class ColumnOf>
    void passUp(std::int64_t k, Workers& workers, const ColumnOf& columnOf)
    {
        const Supernode node(analysis_, nullptr, k);
        for (std::int64_t begin = 0; begin < node.below;) {
            const auto above =
                std::upper_bound(analysis_.super.begin(), analysis_.super.end(), node.row[begin]) - analysis_.super.begin() - 1;
            const Supernode ancestor(analysis_, nullptr, above);
            std::int64_t end = begin;
            while (end < node.below && node.row[end] < ancestor.first + ancestor.columns)
                ++end;
            findPlaces(ancestor, place_);
            double* panel = panelOf(above);
            workers.run([&](int hand) {
                for (std::int64_t j = begin + hand; j < end; j += threads_) {
                    double* to = panel + (node.row[j] - ancestor.first) * ancestor.rows;
                    const double* source = columnOf(j);
                    for (std::int64_t i = j; i < node.below; ++i)
                        to[place_[static_cast<std::size_t>(node.row[i])]] += source[i - j];
                }
            });
            begin = end;
        }
    }

    /// Where a row of the factor stands in a supernode.
    static void findPlaces(const Supernode& node, std::vector<std::int64_t>& place)
    {
        for (std::int64_t i = 0; i < node.columns; ++i)
            place[static_cast<std::size_t>(node.first + i)] = i;
        for (std::int64_t i = 0; i < node.below; ++i)
            place[static_cast<std::size_t>(node.row[i])] = node.columns + i;
    }

    static std::size_t packed(std::int64_t n) { return static_cast<std::size_t>(n * (n + 1) / 2); }
    std::int64_t below(std::int64_t k) const
    {
        const auto at = static_cast<std::size_t>(k);
        return analysis_.rowStart[at + 1] - analysis_.rowStart[at] - (analysis_.super[at + 1] - analysis_.super[at]);
    }
    /// Whether what a supernode leaves is taken up by the same thread, the last left first.
    bool stacked(std::int64_t k) const
    {
        const auto own = hand_[static_cast<std::size_t>(k)];
        const auto parent = plan_.parent[static_cast<std::size_t>(k)];
        return own >= 0 && parent >= 0 && hand_[static_cast<std::size_t>(parent)] == own;
    }

    /// What a thread works with: the square that a front leaves, and those that wait for their parents, packed.
    struct Room {
        ZeroedArray square, stack, panel;
        std::size_t used = 0; ///< of the stack
        std::vector<std::int64_t> place;
    };
    bool makeRoom(Room& room, const std::vector<std::int64_t>& list) const
    {
        std::size_t largest = 0, widest = 0, waiting = 0, most = 0;
        for (const auto k : list) {
            const auto n = below(k);
            largest = std::max(largest, static_cast<std::size_t>(n * n));
            const Supernode node(analysis_, nullptr, k);
            widest = std::max(widest, static_cast<std::size_t>(node.columns * node.rows));
            for (const auto child : children_[static_cast<std::size_t>(k)])
                if (stacked(child)) waiting -= packed(below(child));
            if (stacked(k)) waiting += packed(n);
            most = std::max(most, waiting);
        }
        room.square = ZeroedArray(largest);
        room.stack = ZeroedArray(most);
        if (!own_.value_) room.panel = ZeroedArray(widest);
        room.place.resize(static_cast<std::size_t>(matrix_.size()));
        return (room.square || largest == 0) && (room.stack || most == 0) && (own_.value_ || room.panel || widest == 0);
    }

    bool stopped()
    {
        if (options_.progress && options_.progress->stopped()) failed_ = true;
        return failed_;
    }

    void eliminate(const std::vector<std::int64_t>& list)
    {
        try {
            Room room;
            if (!makeRoom(room, list)) failed_ = true;
            for (const auto k : list) {
                if (stopped()) return;
                eliminate(k, room);
            }
        } catch (const std::bad_alloc&) {
            failed_ = true;
        }
    }

    /// The supernodes that all threads work at together; their children have passed on what they left.
    void eliminateTop(Workers& workers)
    {
        for (const auto k : plan_.top) {
            if (stopped()) return;
            const Supernode node(analysis_, nullptr, k);
            double* l = panelOf(k);
            findPlaces(node, place_);
            addEntries(node, place_, l);
            signed char* sign = own_.sign_.data() + node.first;
            if (!eliminateColumns(l, node, sign)) return;
            note(l, node);
            if (node.below == 0) continue;
            const ZeroedArray square(static_cast<std::size_t>(node.below * node.below));
            if (!square) {
                failed_ = true;
                return;
            }
            subtractProduct(0.0, square.get(), node.below, l + node.columns, node.rows, node.below, node.columns, sign);
            top_.erase(k);
            passUp(k, workers, [&](std::int64_t j) { return square.get() + j * node.below + j; });
        }
    }

    void addEntries(const Supernode& node, const std::vector<std::int64_t>& place, double* l) const
    {
        for (std::int64_t j = 0; j < node.columns; ++j) {
            const auto column = static_cast<std::size_t>(node.first + j);
            double* to = l + j * node.rows;
            matrix_.each(analysis_.permutation[column], [&](std::int64_t row, double value) {
                const auto i = inverse_[static_cast<std::size_t>(row)];
                if (i >= node.first + j) to[place[static_cast<std::size_t>(i)]] += value;
            });
            for (auto at = start_[column]; at < start_[column + 1]; ++at) {
                const auto& entry = moved_[static_cast<std::size_t>(at)];
                to[place[static_cast<std::size_t>(entry.row)]] += entry.value;
            }
        }
    }

    /// One front: gather its columns, eliminate them, leave the rest for the parent.
    void eliminate(std::int64_t k, Room& room)
    {
        const Supernode node(analysis_, nullptr, k);
        double* l = room.panel.get();
        if (own_.value_)
            l = panelOf(k);
        else
            std::memset(l, 0, static_cast<std::size_t>(node.columns * node.rows) * sizeof(double));
        auto& place = room.place;
        findPlaces(node, place);
        addEntries(node, place, l);
        const auto& children = children_[static_cast<std::size_t>(k)];
        for (const auto child : children)
            gather(child, place, 0, node.columns, [&](std::int64_t column) { return l + column * node.rows; });
        signed char* sign = own_.sign_.data() + node.first;
        if (!eliminateColumns(l, node, sign)) return;
        note(l, node);
        if (node.below > 0) {
            double* square = room.square.get();
            subtractProduct(0.0, square, node.below, l + node.columns, node.rows, node.below, node.columns, sign);
            for (const auto child : children)
                gather(child, place, node.columns, node.rows, [&](std::int64_t column) {
                    return square + (column - node.columns) * node.below - node.columns;
                });
        }
        for (const auto child : children) {
            room.used -= packed(below(child));
            updates_[static_cast<std::size_t>(child)] = {};
        }
        if (node.below > 0) leave(k, node.below, room);
    }

    /// Adds what a child has left in the front's columns from `first` to `last`.
    template <class ColumnOf>
    void gather(std::int64_t child, const std::vector<std::int64_t>& place, std::int64_t first, std::int64_t last,
                const ColumnOf& columnOf) const
    {
        const Supernode lower(analysis_, nullptr, child);
        const std::int64_t n = lower.below;
        const double* source = updates_[static_cast<std::size_t>(child)].data;
        for (std::int64_t j = 0; j < n; source += n - j, ++j) {
            const auto column = place[static_cast<std::size_t>(lower.row[j])];
            if (column < first || column >= last) continue;
            double* to = columnOf(column);
            for (std::int64_t i = j; i < n; ++i)
                to[place[static_cast<std::size_t>(lower.row[i])]] += source[i - j];
        }
    }

    /// Puts the square's lower triangle aside for the parent.
    void leave(std::int64_t k, std::int64_t n, Room& room)
    {
        auto& update = updates_[static_cast<std::size_t>(k)];
        if (stacked(k)) {
            update.data = room.stack.get() + room.used;
            room.used += packed(n);
        } else { // for the shared top
            update.own = ZeroedArray(packed(n));
            update.data = update.own.get();
            if (!update.data) throw std::bad_alloc();
        }
        double* to = update.data;
        for (std::int64_t j = 0; j < n; to += n - j, ++j)
            std::copy_n(room.square.get() + j * n + j, n - j, to);
    }

    bool eliminateColumns(double* l, const Supernode& node, signed char* sign)
    {
        std::array<double, panelWidth * panelWidth> copy;
        const int ld = static_cast<int>(node.rows);
        for (std::int64_t begin = 0; begin < node.columns; begin += panelWidth) {
            if (options_.progress && options_.progress->stopped()) { // a large front takes a while
                failed_ = true;
                return false;
            }
            const std::int64_t wide = std::min(panelWidth, node.columns - begin), rest = node.rows - begin - wide;
            double* corner = l + begin * node.rows + begin;
            for (std::int64_t j = 0; j < wide; ++j)
                std::copy(corner + j * node.rows + j, corner + j * node.rows + wide, copy.data() + j * wide + j);
            const int n = static_cast<int>(wide);
            int info = 0;
            dpotrf_("L", &n, corner, &ld, &info);
            std::fill(sign + begin, sign + begin + wide, static_cast<signed char>(1));
            if (info != 0) {
                std::int64_t failed = info - 1;
                for (std::int64_t j = 0; j < wide; ++j)
                    std::copy(copy.data() + j * wide + j, copy.data() + j * wide + wide, corner + j * node.rows + j);
                if (options_.definite || !factoriseSmall(corner, node.rows, wide, sign + begin, failed)) {
                    failedAt_ = analysis_.permutation[static_cast<std::size_t>(node.first + begin + failed)];
                    failed_ = true;
                    return false;
                }
            }
            for (std::int64_t j = 0; j < wide; ++j)
                if (!std::isfinite(corner[j * node.rows + j])) { // the library lets what is no number pass
                    failedAt_ = analysis_.permutation[static_cast<std::size_t>(node.first + begin + j)];
                    failed_ = true;
                    return false;
                }
            if (rest == 0) continue;
            const int rows = static_cast<int>(rest);
            const double one = 1.0;
            dtrsm_("R", "L", "T", "N", &rows, &n, &one, corner, &ld, corner + wide, &ld);
            for (std::int64_t j = 0; j < wide; ++j)
                if (sign[begin + j] < 0)
                    for (std::int64_t i = 0; i < rest; ++i)
                        corner[j * node.rows + wide + i] *= -1.0;
            updateRest(l, node, begin, wide, sign);
        }
        return true;
    }

    /// The later columns of the supernode after a panel: their own triangle, then the rows below it.
    static void updateRest(double* l, const Supernode& node, std::int64_t begin, std::int64_t wide,
                           const signed char* sign)
    {
        const std::int64_t left = node.columns - begin - wide;
        if (left == 0) return;
        const double* b = l + begin * node.rows + begin + wide; // the panel below its corner
        double* c = l + (begin + wide) * node.rows + begin + wide;
        subtractProduct(1.0, c, node.rows, b, node.rows, left, wide, sign + begin);
        if (node.below == 0) return;
        std::vector<double> signedPart(static_cast<std::size_t>(left * wide));
        for (std::int64_t j = 0; j < wide; ++j)
            for (std::int64_t i = 0; i < left; ++i)
                signedPart[static_cast<std::size_t>(j * left + i)] = sign[begin + j] * b[j * node.rows + i];
        const int rows = static_cast<int>(node.below), columns = static_cast<int>(left), inner = static_cast<int>(wide),
                  ld = static_cast<int>(node.rows);
        const double one = 1.0, minus = -1.0;
        dgemm_("N", "T", &rows, &columns, &inner, &minus, b + left, &ld, signedPart.data(), &columns, &one, c + left,
               &ld);
    }

    void note(const double* l, const Supernode& node)
    {
        // Rows of the top are shared between subtrees: each thread sums in its own list.
        double least = std::numeric_limits<double>::infinity(), most = 0.0;
        for (std::int64_t j = 0; j < node.columns; ++j) {
            least = std::min(least, l[j * node.rows + j]);
            most = std::max(most, l[j * node.rows + j]);
        }
        Eigen::VectorXd sums = Eigen::VectorXd::Zero(node.rows);
        for (std::int64_t j = 0; j < node.columns; ++j)
            for (std::int64_t i = j; i < node.rows; ++i)
                sums[i] += l[j * node.rows + i] * l[j * node.rows + i];
        const std::lock_guard lock(mutex_);
        own_.squares_.segment(node.first, node.columns) += sums.head(node.columns);
        for (std::int64_t i = 0; i < node.below; ++i)
            own_.squares_[node.row[i]] += sums[node.columns + i];
        smallest_ = std::min(smallest_, least);
        largest_ = std::max(largest_, most);
        own_.reciprocalCondition_ = largest_ > 0.0 ? std::pow(smallest_ / largest_, 2) : 0.0;
    }

    struct Entry {
        std::int32_t row; ///< in the factor
        double value;
    } __attribute__((packed));
    SignedFactor& own_;
    const Analysis& analysis_;
    const SparseSum& matrix_;
    const SignedFactor::Options& options_;
    int threads_;
    TreePlan plan_;
    std::vector<std::int64_t> inverse_, start_;
    std::vector<Entry> moved_;
    struct Update {
        double* data = nullptr; ///< lower triangle, column by column
        ZeroedArray own;        ///< where it does not lie on a thread's stack
    };
    std::vector<Update> updates_; ///< what a supernode of a subtree leaves for its parent
    std::map<std::int64_t, ZeroedArray> top_; ///< columns of the top's supernodes, where the factor is not kept
    std::vector<std::int64_t> place_;         ///< for the top: where a row stands in the supernode at hand
    std::vector<int> hand_;       ///< the thread of a supernode; -1 for the top
    std::vector<std::vector<std::int64_t>> children_;
    std::atomic<bool> failed_ = false;
    std::int64_t failedAt_ = -1;
    std::mutex mutex_;
    double smallest_ = std::numeric_limits<double>::infinity(), largest_ = 0.0;
};

SignedFactor::~SignedFactor() = default;

std::unique_ptr<SignedFactor> SignedFactor::factorise(std::shared_ptr<const Analysis> analysis, const SparseSum& matrix,
                                                      const Options& options, std::int64_t* failedAt)
{
    if (failedAt) *failedAt = -1;
    if (!analysis) return nullptr;
    std::unique_ptr<SignedFactor> factor(new SignedFactor);
    factor->analysis_ = std::move(analysis);
    factor->sign_.assign(static_cast<std::size_t>(matrix.size()), 1);
    factor->squares_ = Eigen::VectorXd::Zero(matrix.size());
    if (matrix.size() == 0) return factor;
    if (options.keepFactor)
        factor->value_ = ZeroedArray(static_cast<std::size_t>(factor->analysis_->entries()));
    if (options.keepFactor && !factor->value_) return nullptr;
    FrontalRun run(*factor, matrix, options);
    if (!run.run()) {
        if (failedAt) *failedAt = run.failedAt();
        return nullptr;
    }
    factor->negative_ = std::count(factor->sign_.begin(), factor->sign_.end(), static_cast<signed char>(-1));
    if (options.keepFactor)
        factor->solve_ = std::make_unique<SupernodalSolve>(
            *factor->analysis_, factor->value_.get(), factor->negative_ > 0 ? factor->sign_.data() : nullptr,
            options.threads > 0 ? options.threads : threadsFor(matrix.size()));
    return factor;
}

std::unique_ptr<SignedFactor> SignedFactor::definite(const SparseSymmetric& matrix, std::int64_t* failedAt, int threads)
{
    chooseBlasThreads(matrix.size);
    return factorise(Analysis::of(matrix), matrix, {.definite = true, .threads = threads}, failedAt);
}

Eigen::MatrixXd SignedFactor::solve(const Eigen::MatrixXd& right) const
{
    if (right.size() == 0) return right;
    return solve_->solve(right);
}

double SignedFactor::growth(const Eigen::VectorXd& scale) const
{
    double most = 0.0;
    for (Eigen::Index at = 0; at < squares_.size(); ++at)
        most = std::max(most, squares_[at] / scale[analysis_->permutation[static_cast<std::size_t>(at)]]);
    return most;
}

double SignedFactor::megabytes() const
{
    return value_ ? 8.0 * double(analysis_->entries()) / (1024.0 * 1024.0) : 0.0;
}

} // namespace undisona
