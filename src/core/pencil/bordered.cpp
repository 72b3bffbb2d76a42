#include "core/pencil/bordered.hpp"

namespace undisona {

BorderedSolve solveBy(const Pencil& pencil, const ShiftedFactor& factor)
{
    return BorderedSolve(pencil.apart, [&factor](const Eigen::MatrixXd& x) { return factor.solve(x); });
}

std::int64_t negativeOf(const Pencil& pencil, const ShiftedFactor& factor)
{
    return pencil.hasApart() ? solveBy(pencil, factor).negative(factor.negative()) : factor.negative();
}

} // namespace undisona
