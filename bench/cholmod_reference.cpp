#include "bench/cholmod_reference.hpp"

#include "core/numerics/cholmod_view.hpp"

#include <cstring>
#include <stdexcept>

namespace undisona {

struct CholmodReference::Parts {
    cholmod_common common{};
    cholmod_factor* factor = nullptr;
    Parts() { startSupernodal(common); }
    ~Parts()
    {
        cholmod_l_free_factor(&factor, &common);
        cholmod_l_finish(&common);
    }
};

CholmodReference::CholmodReference(const SparseSymmetric& matrix) : parts_(std::make_unique<Parts>())
{
    auto& common = parts_->common;
    cholmod_sparse view = viewOf(matrix);
    parts_->factor = cholmod_l_analyze(&view, &common);
    cholmod_l_factorize(&view, parts_->factor, &common);
    if (common.status != CHOLMOD_OK) throw std::runtime_error("the reference cannot be factorised");
}

CholmodReference::~CholmodReference() = default;

Eigen::MatrixXd CholmodReference::solve(const Eigen::MatrixXd& right) const
{
    cholmod_dense view{};
    view.nrow = static_cast<std::size_t>(right.rows());
    view.ncol = static_cast<std::size_t>(right.cols());
    view.nzmax = view.nrow * view.ncol;
    view.d = view.nrow;
    view.x = const_cast<double*>(right.data());
    view.xtype = CHOLMOD_REAL;
    view.dtype = CHOLMOD_DOUBLE;
    cholmod_dense* result = cholmod_l_solve(CHOLMOD_A, parts_->factor, &view, &parts_->common);
    Eigen::MatrixXd solution = Eigen::Map<Eigen::MatrixXd>(static_cast<double*>(result->x), right.rows(), right.cols());
    cholmod_l_free_dense(&result, &parts_->common);
    return solution;
}

} // namespace undisona
