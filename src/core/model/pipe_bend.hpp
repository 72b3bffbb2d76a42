#pragma once
#include "core/model/section.hpp"

namespace undisona {

/// How many times more flexible in bending a bend of pipe is than straight pipe of its section, because its section
/// turns oval: von Karman, Ueber die Formaenderung duennwandiger Rohre, 1911, with as many terms of the ovalling as
/// matter, thin-walled, without pressure and far from flanges. 1 for what is no tube.
/// @param bendRadius m, of the centre line, more than half the diameter
/// @param poisson 0.3 for metals; what it is changes little
double bendFlexibility(const Section& tube, double bendRadius, double poisson = 0.3);

/// Wall times bend radius over the square of the tube's mean radius: below about 1 a bend is much softer.
double bendCharacteristic(const Section& tube, double bendRadius);

} // namespace undisona
