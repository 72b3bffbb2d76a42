#include "core/pencil/bordered.hpp"

#include "core/pencil/kept_runs.hpp"

namespace undisona {

BorderedSolve solveBy(const Pencil& pencil, const ShiftedFactor& factor)
{
    return BorderedSolve(pencil.apart, [&factor](const Eigen::MatrixXd& x) { return factor.solve(x); });
}

std::int64_t negativeOf(const Pencil& pencil, const ShiftedFactor& factor)
{
    return pencil.hasApart() ? solveBy(pencil, factor).negative(factor.negative()) : factor.negative();
}

std::uint64_t keyOf(const SparseSymmetric& together, const LowRank* apart)
{
    return keyOf(together) ^ (apart && !apart->empty() ? apart->key() : 0);
}

} // namespace undisona
