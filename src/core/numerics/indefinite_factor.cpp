#include "core/numerics/indefinite_factor.hpp"

#include "core/numerics/blas_threads.hpp"

#include <dmumps_c.h>

#include <mutex>

namespace undisona {

namespace {

std::mutex oneAtATime; // MUMPS keeps state of its own between calls

} // namespace

/// One matrix in the hands of MUMPS.
struct MumpsMatrix {
    MumpsMatrix() = default;
    MumpsMatrix(const MumpsMatrix&) = delete;
    MumpsMatrix& operator=(const MumpsMatrix&) = delete;

    DMUMPS_STRUC_C mumps{};
    std::vector<MUMPS_INT> rows, columns;
    std::vector<double> values;

    /// Analyses and factorises; false when it fails.
    bool make(const SparseSymmetric& matrix, bool keepFactors)
    {
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
        mumps.comm_fortran = -987654; // the library's own name for its communicator
        mumps.par = 1;
        mumps.sym = 2;
        call(-1);
        begun = true;
        for (int stream = 1; stream <= 3; ++stream)
            control(stream) = -1;
        control(4) = 0;
        control(14) = 60; // room for pivots that move
        control(31) = keepFactors ? 0 : 1;
        mumps.n = static_cast<MUMPS_INT>(matrix.size);
        mumps.nnz = static_cast<MUMPS_INT8>(values.size());
        mumps.irn = rows.data();
        mumps.jcn = columns.data();
        mumps.a = values.data();
        call(4);
        return mumps.infog[0] >= 0;
    }

    ~MumpsMatrix()
    {
        const std::lock_guard lock(oneAtATime);
        if (begun) call(-2);
    }

    MUMPS_INT& control(int number) { return mumps.icntl[number - 1]; }
    void call(int job)
    {
        mumps.job = job;
        dmumps_c(&mumps);
    }
    std::int64_t negative() const { return mumps.infog[11]; }
    bool begun = false;
};

struct IndefiniteFactor::Parts : MumpsMatrix {};

IndefiniteFactor::IndefiniteFactor(std::unique_ptr<Parts> parts, std::int64_t negative)
    : parts_(std::move(parts)), negative_(negative)
{
}
IndefiniteFactor::~IndefiniteFactor() = default;

std::unique_ptr<IndefiniteFactor> IndefiniteFactor::factorise(const SparseSymmetric& matrix)
{
    auto parts = std::make_unique<Parts>();
    if (matrix.size == 0) return std::unique_ptr<IndefiniteFactor>(new IndefiniteFactor(std::move(parts), 0));
    if (!parts->make(matrix, true)) return nullptr;
    const std::int64_t negative = parts->negative();
    return std::unique_ptr<IndefiniteFactor>(new IndefiniteFactor(std::move(parts), negative));
}

Eigen::MatrixXd IndefiniteFactor::solve(const Eigen::MatrixXd& right) const
{
    Eigen::MatrixXd solution = right;
    if (right.size() == 0) return solution;
    const std::lock_guard lock(oneAtATime);
    parts_->mumps.rhs = solution.data();
    parts_->mumps.nrhs = static_cast<MUMPS_INT>(right.cols());
    parts_->mumps.lrhs = static_cast<MUMPS_INT>(right.rows());
    parts_->call(3);
    parts_->mumps.rhs = nullptr;
    return solution;
}

std::optional<std::int64_t> negativeEigenvalues(const SparseSymmetric& matrix)
{
    if (matrix.size == 0) return 0;
    MumpsMatrix mumps;
    if (!mumps.make(matrix, false)) return std::nullopt;
    return mumps.negative();
}

} // namespace undisona
