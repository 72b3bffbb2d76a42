#include "core/numerics/cholesky.hpp"

#include "core/numerics/blas_threads.hpp"
#include "core/numerics/supernodal_solve.hpp"

#include <suitesparse/cholmod.h>

#include <cstring>

namespace undisona {

struct Cholesky::Parts {
    cholmod_common common{};
    cholmod_factor* factor = nullptr;
    std::int64_t size = 0;
    std::unique_ptr<SupernodalSolve> solve; ///< null where the factor has no supernodes

    Parts() { cholmod_l_start(&common); }
    ~Parts()
    {
        if (factor) cholmod_l_free_factor(&factor, &common);
        cholmod_l_finish(&common);
    }
    Parts(const Parts&) = delete;
    Parts& operator=(const Parts&) = delete;
};

Cholesky::Cholesky(std::unique_ptr<Parts> parts) : parts_(std::move(parts)) {}
Cholesky::~Cholesky() = default;

std::unique_ptr<Cholesky> Cholesky::factorise(const SparseSymmetric& matrix, std::int64_t* failedAt, int threads)
{
    auto parts = std::make_unique<Parts>();
    parts->size = matrix.size;
    if (matrix.size == 0) return std::unique_ptr<Cholesky>(new Cholesky(std::move(parts)));
    chooseBlasThreads(matrix.size);
    auto& common = parts->common;
    common.print = 0;
    common.nmethods = 1;
    common.method[0].ordering = CHOLMOD_METIS;
    common.postorder = 1;
    common.supernodal = CHOLMOD_SUPERNODAL;

    cholmod_sparse view{}; // CHOLMOD only reads it
    view.nrow = view.ncol = static_cast<std::size_t>(matrix.size);
    view.nzmax = matrix.row.size();
    view.p = const_cast<std::int64_t*>(matrix.columnStart.data());
    view.i = const_cast<std::int64_t*>(matrix.row.data());
    view.x = const_cast<double*>(matrix.value.data());
    view.stype = -1;
    view.itype = CHOLMOD_LONG;
    view.xtype = CHOLMOD_REAL;
    view.dtype = CHOLMOD_DOUBLE;
    view.sorted = 1;
    view.packed = 1;

    parts->factor = cholmod_l_analyze(&view, &common);
    if (!parts->factor) return nullptr;
    cholmod_l_factorize(&view, parts->factor, &common);
    if (common.status != CHOLMOD_OK || parts->factor->minor < view.nrow) {
        if (failedAt) {
            const auto minor = parts->factor->minor;
            *failedAt = minor < view.nrow ? static_cast<const std::int64_t*>(parts->factor->Perm)[minor] : -1;
        }
        return nullptr;
    }
    const cholmod_factor& own = *parts->factor;
    if (own.is_super && own.is_ll && own.xtype == CHOLMOD_REAL) {
        const auto integers = [](const void* list) { return static_cast<const std::int64_t*>(list); };
        const SupernodalFactor supernodes{matrix.size,
                                          static_cast<std::int64_t>(own.nsuper),
                                          integers(own.super),
                                          integers(own.pi),
                                          integers(own.px),
                                          integers(own.s),
                                          static_cast<const double*>(own.x),
                                          integers(own.Perm)};
        parts->solve = std::make_unique<SupernodalSolve>(supernodes, threads > 0 ? threads : threadsFor(matrix.size));
    }
    return std::unique_ptr<Cholesky>(new Cholesky(std::move(parts)));
}

Eigen::MatrixXd Cholesky::solve(const Eigen::MatrixXd& right) const
{
    Eigen::MatrixXd solution(right.rows(), right.cols());
    if (right.size() == 0) return solution;
    if (parts_->solve) return parts_->solve->solve(right);
    cholmod_dense view{};
    view.nrow = static_cast<std::size_t>(right.rows());
    view.ncol = static_cast<std::size_t>(right.cols());
    view.nzmax = view.nrow * view.ncol;
    view.d = view.nrow;
    view.x = const_cast<double*>(right.data());
    view.xtype = CHOLMOD_REAL;
    view.dtype = CHOLMOD_DOUBLE;
    cholmod_dense* result = cholmod_l_solve(CHOLMOD_A, parts_->factor, &view, &parts_->common);
    std::memcpy(solution.data(), result->x, view.nzmax * sizeof(double));
    cholmod_l_free_dense(&result, &parts_->common);
    return solution;
}

double Cholesky::reciprocalCondition() const
{
    return parts_->factor ? cholmod_l_rcond(parts_->factor, &parts_->common) : 1.0;
}

} // namespace undisona
