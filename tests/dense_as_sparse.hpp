#pragma once
#include "core/numerics/sparse.hpp"

#include <numeric>

namespace undisona {

/// A symmetric dense matrix as a sparse one.
inline SparseSymmetric sparse(const Eigen::MatrixXd& dense)
{
    SparseAssembler assembler(dense.rows());
    std::vector<int> all(static_cast<std::size_t>(dense.rows()));
    std::iota(all.begin(), all.end(), 0);
    assembler.add(all, dense);
    return assembler.finish();
}

} // namespace undisona
