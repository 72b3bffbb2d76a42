#include "core/units/size_text.hpp"

#include "core/base/number_text.hpp"

namespace undisona {

std::string sizeText(double metres, const DisplayUnits& units)
{
    const bool inMetres = units.unit(QuantityKind::length) == "m";
    const double value = inMetres ? 1000.0 * metres : units.value(metres, QuantityKind::length);
    return shortest(std::strtod(fmt::format("{:.4g}", value).c_str(), nullptr)) + " " +
           (inMetres ? "mm" : units.unit(QuantityKind::length));
}

} // namespace undisona
