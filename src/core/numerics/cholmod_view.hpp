#pragma once
#include "core/numerics/sparse.hpp"

#include <suitesparse/cholmod.h>

namespace undisona {

/// METIS ordering, postordered, supernodal.
inline void startSupernodal(cholmod_common& common)
{
    cholmod_l_start(&common);
    common.print = 0;
    common.nmethods = 1;
    common.method[0].ordering = CHOLMOD_METIS;
    common.postorder = 1;
    common.supernodal = CHOLMOD_SUPERNODAL;
}

/// The matrix, a non-empty one, as CHOLMOD reads it; nothing is copied.
inline cholmod_sparse viewOf(const SparseSymmetric& matrix)
{
    cholmod_sparse view{};
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
    return view;
}

} // namespace undisona
