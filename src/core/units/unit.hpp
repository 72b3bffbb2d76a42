#pragma once
#include "core/units/dimension.hpp"

#include <optional>
#include <string>
#include <string_view>

namespace undisona {

/// A unit of measure: value in SI = value * factor + offset (the offset is for degrees Celsius alone).
struct Unit {
    Dimension dimension;
    double factor = 1.0;
    double offset = 0.0;
};

/// Reads products and quotients of unit symbols with powers: "kN/mm", "kg m2", "kg/m³", "N m/rad", "1/min".
/// One quotient sign; everything after it divides. SI prefixes from n to G where the symbol takes them.
/// The empty text is the unit of a plain number. Nothing for an unknown symbol.
std::optional<Unit> readUnit(std::string_view text);

/// The nearest known symbol to a misspelt one ("Kg" -> "kg"), or nothing.
std::optional<std::string> similarUnit(std::string_view symbol);

constexpr double standardGravity = 9.80665; ///< m/s2, exact by definition (3rd CGPM, 1901)

} // namespace undisona
