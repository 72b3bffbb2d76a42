#include "core/numerics/inertia.hpp"

#include "core/numerics/blas_threads.hpp"

#include <dmumps_c.h>

#include <mutex>

namespace undisona {

namespace {

std::mutex oneAtATime; // MUMPS keeps state of its own between calls

MUMPS_INT& control(DMUMPS_STRUC_C& mumps, int number)
{
    return mumps.icntl[number - 1];
}

} // namespace

std::optional<std::int64_t> negativeEigenvalues(const SparseSymmetric& matrix)
{
    if (matrix.size == 0) return 0;
    std::vector<MUMPS_INT> rows, columns;
    std::vector<double> values;
    rows.reserve(matrix.row.size());
    columns.reserve(matrix.row.size());
    for (std::int64_t column = 0; column < matrix.size; ++column)
        for (auto at = matrix.columnStart[static_cast<std::size_t>(column)];
             at < matrix.columnStart[static_cast<std::size_t>(column) + 1]; ++at) {
            rows.push_back(static_cast<MUMPS_INT>(matrix.row[static_cast<std::size_t>(at)] + 1));
            columns.push_back(static_cast<MUMPS_INT>(column + 1));
        }
    values = matrix.value;

    const std::lock_guard lock(oneAtATime);
    chooseBlasThreads(matrix.size);
    DMUMPS_STRUC_C mumps{};
    mumps.comm_fortran = -987654; // the library's own name for its communicator
    mumps.par = 1;
    mumps.sym = 2;
    mumps.job = -1;
    dmumps_c(&mumps);
    for (int stream = 1; stream <= 3; ++stream)
        control(mumps, stream) = -1;
    control(mumps, 4) = 0;
    control(mumps, 14) = 60; // room for pivots that move
    control(mumps, 31) = 1;  // the factors are not needed
    mumps.n = static_cast<MUMPS_INT>(matrix.size);
    mumps.nnz = static_cast<MUMPS_INT8>(values.size());
    mumps.irn = rows.data();
    mumps.jcn = columns.data();
    mumps.a = values.data();
    mumps.job = 4;
    dmumps_c(&mumps);
    const bool good = mumps.infog[0] >= 0;
    const std::int64_t negative = mumps.infog[11];
    mumps.job = -2;
    dmumps_c(&mumps);
    if (!good) return std::nullopt;
    return negative;
}

} // namespace undisona
