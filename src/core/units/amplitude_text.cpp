#include "core/units/amplitude_text.hpp"

namespace undisona {

std::string amplitudeText(double si, QuantityKind kind, const DisplayUnits& units, int digits)
{
    const bool moves = kind == QuantityKind::length || kind == QuantityKind::velocity;
    const std::string& name = units.name();
    if (moves && name.starts_with("m ")) return DisplayUnits("mm kg N").text(si, kind, digits);
    if (moves && name.starts_with("ft ")) return DisplayUnits("in lb lbf").text(si, kind, digits);
    return units.text(si, kind, digits);
}

} // namespace undisona
