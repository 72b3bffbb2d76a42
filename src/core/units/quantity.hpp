#pragma once
#include "core/base/finding.hpp"
#include "core/units/dimension.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace undisona {

/// A number with its unit as somebody typed it, and the same in SI.
struct Quantity {
    double si = 0.0;
    QuantityKind kind = QuantityKind::number;
    std::string text;

    bool operator==(const Quantity&) const = default;
};

/// Who wrote the text. Files use the decimal point and no grouping by comma; a person at the keyboard may
/// use a decimal comma or grouped digits, and is asked where both readings are possible.
enum class NumberStyle { file, typed };

/// Why a text is no such quantity, and what the person may have meant.
struct QuantityProblem {
    std::string what;
    std::vector<std::string> suggestions; ///< complete texts that would be accepted, best first
};

/// A quantity of the kind asked for, or the problem. Accepts any unit of the fitting dimension.
/// A zero needs no unit, a share needs no per cent sign if below 1 ("0.9"), nor does a plain number.
/// Angles may be left out of a turning stiffness (N m). Frequencies in rad/s are divided by 2 pi.
std::variant<Quantity, QuantityProblem> readQuantity(std::string_view text, QuantityKind kind, NumberStyle style);
/// The same for a word that may mean one of several kinds, told apart by the unit; the first one where it has none.
std::variant<Quantity, QuantityProblem> readQuantity(std::string_view text, const std::vector<QuantityKind>& kinds,
                                                     NumberStyle style);

/// Splits the number off its unit and reads it by the style's rules.
struct NumberAndUnit {
    double value = 0.0;
    std::string unit;
};
std::variant<NumberAndUnit, QuantityProblem> readNumberAndUnit(std::string_view text, NumberStyle style);

/// For a quantity made by the program: shortest digits in the given unit, "85 kg".
Quantity quantityIn(double si, QuantityKind kind, std::string_view unit);

} // namespace undisona
