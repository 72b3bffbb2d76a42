#include "core/numerics/signed_factor.hpp"

#include "core/base/progress.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/numerics/supernodal_solve.hpp"
#include "core/numerics/workers.hpp"

#include <atomic>
#include <cstring>

extern "C" void dpotrf_(const char* uplo, const int* n, double* a, const int* lda, int* info);

namespace undisona {

namespace {

constexpr std::int64_t panel = 128; // columns of a supernode that are eliminated together

/// C -= B J B' on the lower triangle, C n x n, B n x k, J the signs of B's columns.
void subtractProduct(double* c, std::int64_t ldc, const double* b, std::int64_t ldb, std::int64_t n, std::int64_t k,
                     const signed char* sign)
{
    if (n == 0 || k == 0) return;
    const int rows = static_cast<int>(n), columns = static_cast<int>(k), ofC = static_cast<int>(ldc),
              ofB = static_cast<int>(ldb);
    const double one = 1.0, minus = -1.0, two = 2.0;
    dsyrk_("L", "N", &rows, &columns, &minus, b, &ofB, &one, c, &ofC);
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
    FrontalRun(SignedFactor& factor, const SparseSymmetric& matrix, const SignedFactor::Options& options)
        : own_(factor), analysis_(*factor.analysis_), matrix_(matrix), options_(options),
          threads_(options.threads > 0 ? options.threads : threadsFor(matrix.size)),
          plan_(analysis_, threads_,
                [](double columns, double rows) {
                    const double below = rows - columns;
                    return columns * (columns * columns / 3.0 + columns * below + below * below) + 200.0 * rows;
                }),
          inverse_(analysis_.permutation.size()), updates_(static_cast<std::size_t>(analysis_.supernodes()))
    {
        for (std::size_t at = 0; at < inverse_.size(); ++at)
            inverse_[static_cast<std::size_t>(analysis_.permutation[at])] = static_cast<std::int64_t>(at);
        children_.resize(updates_.size());
        for (std::size_t k = 0; k < updates_.size(); ++k)
            if (plan_.parent[k] >= 0)
                children_[static_cast<std::size_t>(plan_.parent[k])].push_back(static_cast<std::int64_t>(k));
        listEntries();
    }

    bool run()
    {
        if (threads_ > 1) {
            useBlasThreads(1);
            Workers workers(threads_);
            workers.run([&](int hand) { eliminate(plan_.subtrees[static_cast<std::size_t>(hand)]); });
        }
        useBlasThreads(threads_);
        if (!failed_) eliminate(plan_.top);
        useBlasThreads(1); // its threads would spin beside ours
        return !failed_;
    }
    std::int64_t failedAt() const { return failedAt_; }

private:
    /// The entries of the matrix by column of the factor: a lower triangle again, in its order.
    void listEntries()
    {
        const auto size = static_cast<std::size_t>(matrix_.size);
        start_.assign(size + 1, 0);
        const auto each = [&](const auto& take) {
            for (std::size_t column = 0; column < size; ++column)
                for (auto at = matrix_.columnStart[column]; at < matrix_.columnStart[column + 1]; ++at) {
                    const auto i = inverse_[static_cast<std::size_t>(matrix_.row[static_cast<std::size_t>(at)])],
                               j = inverse_[column];
                    take(static_cast<std::size_t>(std::min(i, j)), std::max(i, j), at);
                }
        };
        each([&](std::size_t column, std::int64_t, std::int64_t) { ++start_[column + 1]; });
        for (std::size_t column = 0; column < size; ++column)
            start_[column + 1] += start_[column];
        entries_.resize(matrix_.row.size());
        std::vector<std::int64_t> next(start_.begin(), start_.end() - 1);
        each([&](std::size_t column, std::int64_t row, std::int64_t at) {
            entries_[static_cast<std::size_t>(next[column]++)] = {row, at};
        });
    }

    void eliminate(const std::vector<std::int64_t>& list)
    {
        try {
            std::vector<std::int64_t> place(static_cast<std::size_t>(matrix_.size));
            for (const auto k : list) {
                if (failed_) return;
                if (options_.progress && options_.progress->stopped()) {
                    failed_ = true;
                    return;
                }
                eliminate(k, place);
            }
        } catch (const std::bad_alloc&) {
            failed_ = true;
        }
    }

    /// One front: gather, eliminate its columns, leave the rest for the parent. `place` is room for where a row of
    /// the factor stands in the front.
    void eliminate(std::int64_t k, std::vector<std::int64_t>& place)
    {
        const Supernode node(analysis_, nullptr, k);
        const auto count = node.columns * node.rows;
        std::unique_ptr<double[]> scratch;
        double* l = nullptr;
        if (own_.value_) {
            l = own_.value_.get() + analysis_.valueStart[static_cast<std::size_t>(k)];
        } else {
            scratch.reset(new double[static_cast<std::size_t>(count)]);
            l = scratch.get();
        }
        std::memset(l, 0, static_cast<std::size_t>(count) * sizeof(double));
        for (std::int64_t i = 0; i < node.columns; ++i)
            place[static_cast<std::size_t>(node.first + i)] = i;
        for (std::int64_t i = 0; i < node.below; ++i)
            place[static_cast<std::size_t>(node.row[i])] = node.columns + i;
        for (std::int64_t j = 0; j < node.columns; ++j) {
            const auto column = static_cast<std::size_t>(node.first + j);
            for (auto at = start_[column]; at < start_[column + 1]; ++at) {
                const auto& entry = entries_[static_cast<std::size_t>(at)];
                l[j * node.rows + place[static_cast<std::size_t>(entry.row)]] +=
                    matrix_.value[static_cast<std::size_t>(entry.at)];
            }
        }
        auto& update = updates_[static_cast<std::size_t>(k)];
        const std::int64_t below = node.below;
        if (below > 0) update.reset(new double[static_cast<std::size_t>(below * below)]());
        for (const auto child : children_[static_cast<std::size_t>(k)]) {
            auto& from = updates_[static_cast<std::size_t>(child)];
            const Supernode lower(analysis_, nullptr, child);
            const std::int64_t n = lower.below;
            for (std::int64_t j = 0; j < n; ++j) {
                const auto column = place[static_cast<std::size_t>(lower.row[j])];
                const double* source = from.get() + j * n;
                if (column < node.columns) {
                    double* to = l + column * node.rows;
                    for (std::int64_t i = j; i < n; ++i)
                        to[place[static_cast<std::size_t>(lower.row[i])]] += source[i];
                } else {
                    double* to = update.get() + (column - node.columns) * below - node.columns;
                    for (std::int64_t i = j; i < n; ++i)
                        to[place[static_cast<std::size_t>(lower.row[i])]] += source[i];
                }
            }
            from.reset();
        }
        signed char* sign = own_.sign_.data() + node.first;
        if (!eliminateColumns(l, node, sign)) return;
        subtractProduct(update.get(), below, l + node.columns, node.rows, below, node.columns, sign);
        note(l, node);
    }

    bool eliminateColumns(double* l, const Supernode& node, signed char* sign)
    {
        std::array<double, panel * panel> copy;
        const int ld = static_cast<int>(node.rows);
        for (std::int64_t begin = 0; begin < node.columns; begin += panel) {
            if (options_.progress && options_.progress->stopped()) { // a large front takes a while
                failed_ = true;
                return false;
            }
            const std::int64_t wide = std::min(panel, node.columns - begin), rest = node.rows - begin - wide;
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
        subtractProduct(c, node.rows, b, node.rows, left, wide, sign + begin);
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
        double smallest = std::numeric_limits<double>::infinity(), largest = 0.0;
        for (std::int64_t j = 0; j < node.columns; ++j) {
            smallest = std::min(smallest, l[j * node.rows + j]);
            largest = std::max(largest, l[j * node.rows + j]);
        }
        Eigen::VectorXd sums = Eigen::VectorXd::Zero(node.rows);
        for (std::int64_t j = 0; j < node.columns; ++j)
            for (std::int64_t i = j; i < node.rows; ++i)
                sums[i] += l[j * node.rows + i] * l[j * node.rows + i];
        const std::lock_guard lock(mutex_);
        own_.squares_.segment(node.first, node.columns) += sums.head(node.columns);
        for (std::int64_t i = 0; i < node.below; ++i)
            own_.squares_[node.row[i]] += sums[node.columns + i];
        smallest_ = std::min(smallest_, smallest);
        largest_ = std::max(largest_, largest);
        own_.reciprocalCondition_ = largest_ > 0.0 ? std::pow(smallest_ / largest_, 2) : 0.0;
    }

    struct Entry {
        std::int64_t row, at;
    };
    SignedFactor& own_;
    const Analysis& analysis_;
    const SparseSymmetric& matrix_;
    const SignedFactor::Options& options_;
    int threads_;
    TreePlan plan_;
    std::vector<std::int64_t> inverse_, start_;
    std::vector<Entry> entries_;
    std::vector<std::unique_ptr<double[]>> updates_; ///< what a supernode leaves for its parent, below x below
    std::vector<std::vector<std::int64_t>> children_;
    std::atomic<bool> failed_ = false;
    std::int64_t failedAt_ = -1;
    std::mutex mutex_;
    double smallest_ = std::numeric_limits<double>::infinity(), largest_ = 0.0;
};

SignedFactor::~SignedFactor() = default;

std::unique_ptr<SignedFactor> SignedFactor::factorise(std::shared_ptr<const Analysis> analysis,
                                                      const SparseSymmetric& matrix, const Options& options,
                                                      std::int64_t* failedAt)
{
    if (failedAt) *failedAt = -1;
    if (!analysis) return nullptr;
    std::unique_ptr<SignedFactor> factor(new SignedFactor);
    factor->analysis_ = std::move(analysis);
    factor->sign_.assign(static_cast<std::size_t>(matrix.size), 1);
    factor->squares_ = Eigen::VectorXd::Zero(matrix.size);
    if (matrix.size == 0) return factor;
    if (options.keepFactor)
        factor->value_.reset(new (std::nothrow) double[static_cast<std::size_t>(factor->analysis_->entries())]);
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
            options.threads > 0 ? options.threads : threadsFor(matrix.size));
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
