#pragma once
#include "core/numerics/sparse.hpp"
#include "core/numerics/workers.hpp"

#include <memory>

namespace undisona {

/// A x for blocks of columns, the columns of A shared out among threads; for a matrix that is used many times.
class SymmetricProduct {
public:
    /// As many threads as the size asks for. The matrix must outlive this.
    explicit SymmetricProduct(const SparseSymmetric&);
    Eigen::MatrixXd operator()(const Eigen::MatrixXd& x) const;

private:
    const SparseSymmetric& matrix_;
    std::vector<std::int64_t> share_; ///< first column of each thread, and the end
    std::shared_ptr<Workers> workers_;
};

} // namespace undisona
