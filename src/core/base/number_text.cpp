#include "core/base/number_text.hpp"

#include <charconv>
#include <cmath>

#include <fmt/format.h>

namespace undisona {

std::string shortest(double value)
{
    if (value == 0.0) return "0";
    char buffer[40];
    const auto end = std::to_chars(buffer, buffer + sizeof buffer, value).ptr;
    return {buffer, end};
}

std::string rounded(double value, int digits)
{
    if (!std::isfinite(value)) return "-";
    if (value == 0.0) return "0";
    const double size = std::abs(value);
    if (size < 1e-4 || size >= 1e7) return fmt::format("{:.{}e}", value, digits - 1);
    const int magnitude = static_cast<int>(std::floor(std::log10(size) + 1e-12));
    const int decimals = std::max(0, digits - 1 - magnitude);
    std::string text = fmt::format("{:.{}f}", value, decimals);
    const auto point = text.find('.');
    const auto whole = point == std::string::npos ? text.size() : point;
    const std::size_t first = text[0] == '-' ? 1 : 0;
    if (whole - first < 4) return text;
    for (std::size_t at = whole; at > first + 3;) {
        at -= 3;
        text.insert(at, "\u2009");
    }
    return text;
}

std::optional<double> readPlainNumber(std::string_view text)
{
    text = trimmed(text);
    if (!text.empty() && text.front() == '+') text.remove_prefix(1);
    double value = 0.0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc{} || end != text.data() + text.size() || text.empty()) return std::nullopt;
    return value;
}

std::string_view trimmed(std::string_view text)
{
    const auto first = text.find_first_not_of(" \t\r\n");
    if (first == std::string_view::npos) return {};
    return text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1);
}

std::vector<std::string> splitAt(std::string_view text, std::string_view separators)
{
    std::vector<std::string> parts;
    while (true) {
        const auto first = text.find_first_not_of(separators);
        if (first == std::string_view::npos) return parts;
        text.remove_prefix(first);
        const auto end = std::min(text.find_first_of(separators), text.size());
        parts.emplace_back(text.substr(0, end));
        text.remove_prefix(end);
    }
}

std::string lowered(std::string_view text)
{
    std::string low(text);
    for (char& letter : low)
        if (letter >= 'A' && letter <= 'Z') letter = static_cast<char>(letter - 'A' + 'a');
    return low;
}

} // namespace undisona
