#pragma once
#include "core/units/display.hpp"

namespace undisona {

/// What moves a little, in a unit of its size: "0.7 mm" where lengths are in m, in inches where they are in feet; other
/// kinds in the document's units.
std::string amplitudeText(double si, QuantityKind, const DisplayUnits&, int digits = 3);

} // namespace undisona
