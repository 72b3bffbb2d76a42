#pragma once
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace undisona {

/// Shortest text that reads back as the same double, with a point whatever the locale; "0" for -0.
std::string shortest(double value);

/// `digits` significant digits, no exponent between 1e-4 and 1e7, digits grouped by thin spaces
/// from five digits on: 1284.3 -> "1 284" at 4 digits. "-" for a value that is not finite.
std::string rounded(double value, int digits = 4);

/// A plain number with a decimal point and an optional exponent; nothing else around it.
std::optional<double> readPlainNumber(std::string_view text);

std::string_view trimmed(std::string_view text);
std::vector<std::string> splitAt(std::string_view text, std::string_view separators);
std::string lowered(std::string_view text);

} // namespace undisona
