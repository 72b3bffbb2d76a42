#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// How much of its stiffness a material keeps where it is so much warmer (K) than as its figures are stated: linear
/// between what is said of it, as at the last of that beyond.
double keptStiffness(const Material&, double warmer);

/// A material so much warmer: all its moduli by what it keeps; of a stack each layer by its own.
Material warmedBy(const Material&, double warmer);

/// By how much members, sheets, solids are warmer in a static state, K; -1: as they were put together.
struct Warmth {
    std::vector<double> members, sheets, solids;
};
Warmth warmthIn(const Structure&, Eigen::Index state);

/// Whether anything keeps another stiffness in a static state.
bool softens(const Structure&, Eigen::Index state);

/// By how much parts are warmer in any static state than what is said of their material goes, K; the most of each, by
/// its name.
std::map<std::string, double> warmerThanStated(const Structure&);

/// Makes each part as stiff as it is in a static state, whichever it was made for before.
void warm(Structure&, Eigen::Index state);

} // namespace undisona
