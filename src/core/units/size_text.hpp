#pragma once
#include "core/units/display.hpp"

namespace undisona {

/// A thickness or another small size without needless zeros: "6 mm", also where lengths are in m; "0.1181 in".
std::string sizeText(double metres, const DisplayUnits&);

} // namespace undisona
