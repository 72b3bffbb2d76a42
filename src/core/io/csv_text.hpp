#pragma once
#include <string>

namespace undisona {

/// A cell of comma-separated text (RFC 4180), in quotes where it needs them.
inline std::string csvText(const std::string& text)
{
    // What begins like a formula would be run by a spreadsheet.
    const std::string plain =
        text.empty() || std::string("=+-@\t\r").find(text[0]) == std::string::npos ? text : "'" + text;
    if (plain.find_first_of(",\"\n") == std::string::npos) return plain;
    std::string quoted = "\"";
    for (const char letter : plain)
        quoted += letter == '"' ? std::string("\"\"") : std::string(1, letter);
    return quoted + "\"";
}

} // namespace undisona
