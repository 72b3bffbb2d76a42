#pragma once
#include "core/units/quantity.hpp"

#include <optional>

namespace undisona {

// What is not known exactly is said after the quantity: "2.5 mm +- 0.1", "38 kg +- 10 %", "20 kN/mm 12..35". Without a
// unit the tolerance is in that of the value; a per cent is of the value, but of shares themselves.

/// The two parts of a text, each trimmed; the tolerance begins with its sign or is two numbers with ".." between them.
struct SplitTolerance {
    std::string_view value, tolerance; ///< the second is empty where none is said
};
SplitTolerance splitTolerance(std::string_view text);

/// The text with the unit after its value, before a tolerance.
std::string withUnit(std::string_view text, std::string_view unit);

/// Between which values, in SI.
struct Tolerance {
    double low = 0.0, high = 0.0;
};

/// A quantity that may carry a tolerance; its text is with it. Problems as of readQuantity, and of a tolerance that is
/// none: not a number, of another dimension, or a range that the value is not in.
std::variant<Quantity, QuantityProblem> readTolerated(std::string_view text, const std::vector<QuantityKind>& kinds,
                                                      NumberStyle style);

/// What a quantity's text says; nothing where it says none.
std::optional<Tolerance> toleranceOf(std::string_view text, QuantityKind kind);

} // namespace undisona
