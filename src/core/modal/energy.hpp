#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

Energies energiesOf(const Structure&, const FrameMesh&, const System&, const Extraction&);

/// What ten per cent do: the relative change of the frequency when a part becomes stiffer or heavier by a
/// tenth, to first order (Rayleigh quotient): 5 % of its strain share, -5 % of its kinetic share.
inline double tenPercentStiffer(double strainShare)
{
    return 0.05 * strainShare;
}
inline double tenPercentHeavier(double kineticShare)
{
    return -0.05 * kineticShare;
}

} // namespace undisona
