#include "core/units/unit.hpp"

#include "core/base/number_text.hpp"

#include <cctype>
#include <cmath>
#include <numbers>
#include <vector>

namespace undisona {

namespace {

struct Symbol {
    std::string_view name;
    Dimension dimension;
    double factor;
    bool takesPrefix;
};

constexpr double inch = 0.0254, pound = 0.45359237;
constexpr Dimension none{}, len{1}, mas{0, 1}, tim{0, 0, 1}, frc{1, 1, -2}, prs{-1, 1, -2}, ang{0, 0, 0, 0, 1},
    perTime{0, 0, -1};

// "g" is the gram and "g0" gravity; kgf and lbf are forces.
constexpr Symbol symbols[] = {
    {"m", len, 1.0, true},
    {"g", mas, 1e-3, true},
    {"t", mas, 1e3, false},
    {"s", tim, 1.0, true},
    {"Hz", perTime, 1.0, true},
    {"rad", ang, 1.0, true},
    {"N", frc, 1.0, true},
    {"Pa", prs, 1.0, true},
    {"bar", prs, 1e5, true},
    {"K", {0, 0, 0, 1}, 1.0, false},
    {"J", {2, 1, -2}, 1.0, true},
    {"l", {3}, 1e-3, true},
    {"in", len, inch, false},
    {"ft", len, 12 * inch, false},
    {"lb", mas, pound, false},
    {"lbm", mas, pound, false},
    {"lbf", frc, pound* standardGravity, false},
    {"kip", frc, 1000 * pound* standardGravity, false},
    {"kgf", frc, standardGravity, false},
    {"psi", prs, pound* standardGravity / (inch * inch), false},
    {"ksi", prs, 1000 * pound* standardGravity / (inch * inch), false},
    {"psf", prs, pound* standardGravity / (144 * inch * inch), false},
    {"ksf", prs, 1000 * pound* standardGravity / (144 * inch * inch), false},
    {"plf", {0, 1, -2}, pound* standardGravity / (12 * inch), false},
    {"klf", {0, 1, -2}, 1000 * pound* standardGravity / (12 * inch), false},
    {"rpm", perTime, 1.0 / 60.0, false},
    {"rev", none, 1.0, false},
    {"min", tim, 60.0, false},
    {"h", tim, 3600.0, false},
    {"deg", ang, std::numbers::pi / 180.0, false},
    {"°", ang, std::numbers::pi / 180.0, false},
    {"g0", {1, 0, -2}, standardGravity, false},
    {"%", none, 0.01, false},
    {"1", none, 1.0, false},
};

struct Prefix {
    std::string_view name;
    double factor;
};
constexpr Prefix prefixes[] = {{"n", 1e-9}, {"µ", 1e-6}, {"μ", 1e-6}, {"u", 1e-6}, {"m", 1e-3}, {"c", 1e-2},
                               {"d", 1e-1}, {"h", 1e2},  {"k", 1e3},  {"M", 1e6},  {"G", 1e9}};

const Symbol* symbolNamed(std::string_view name)
{
    for (const auto& symbol : symbols)
        if (symbol.name == name) return &symbol;
    return nullptr;
}

std::optional<Unit> readSymbol(std::string_view name)
{
    if (const auto* plain = symbolNamed(name)) return Unit{plain->dimension, plain->factor};
    for (const auto& prefix : prefixes) {
        if (!name.starts_with(prefix.name)) continue;
        const auto* symbol = symbolNamed(name.substr(prefix.name.size()));
        if (symbol && symbol->takesPrefix) return Unit{symbol->dimension, prefix.factor * symbol->factor};
    }
    return std::nullopt;
}

/// Splits "m3", "m^3", "m³" and "s-2" into the symbol and its power.
std::pair<std::string, int> splitPower(std::string_view token)
{
    constexpr std::pair<std::string_view, int> raised[] = {{"²", 2}, {"³", 3}, {"⁴", 4}, {"⁶", 6}};
    for (const auto& [mark, power] : raised)
        if (token.ends_with(mark)) return {std::string(token.substr(0, token.size() - mark.size())), power};
    if (symbolNamed(token)) return {std::string(token), 1}; // g0 and 1 end in a digit and have no power
    if (token.size() >= 2 && token.back() >= '1' && token.back() <= '9') {
        int power = token.back() - '0';
        auto stem = token.substr(0, token.size() - 1);
        if (stem.size() > 1 && stem.back() == '-') {
            power = -power;
            stem.remove_suffix(1);
        }
        if (stem.size() > 1 && stem.back() == '^') stem.remove_suffix(1);
        return {std::string(stem), power};
    }
    return {std::string(token), 1};
}

std::string withPlainSeparators(std::string_view text)
{
    std::string plain(text);
    for (const std::string_view dot : {"·", "*", "\u2009", "\u202f", "\u00a0"})
        for (auto at = plain.find(dot); at != std::string::npos; at = plain.find(dot))
            plain.replace(at, dot.size(), " ");
    return plain;
}

} // namespace

std::optional<Unit> readUnit(std::string_view text)
{
    const std::string plain = withPlainSeparators(trimmed(text));
    if (plain == "°C") return Unit{{0, 0, 0, 1}, 1.0, 273.15};
    Unit product;
    bool below = false;
    std::string token;
    const auto take = [&]() -> bool {
        if (token.empty()) return true;
        const auto [name, power] = splitPower(token);
        token.clear();
        const auto unit = readSymbol(name);
        if (!unit) return false;
        const int signedPower = below ? -power : power;
        product.dimension = product.dimension * unit->dimension.power(signedPower);
        product.factor *= std::pow(unit->factor, signedPower);
        return true;
    };
    for (std::size_t at = 0; at < plain.size(); ++at) {
        const char letter = plain[at];
        const bool joins =
            letter == '-' && at + 1 < plain.size() && std::isalpha(static_cast<unsigned char>(plain[at + 1]));
        if (letter == ' ' || letter == '(' || letter == ')' || joins) { // "kip-ft" is "kip ft"
            if (!take()) return std::nullopt;
        } else if (letter == '/') { // "kN/m/m" is "kN/m2"
            if (!take() || (below && at + 1 == plain.size())) return std::nullopt;
            below = true;
        } else {
            token += letter;
        }
    }
    if (!take()) return std::nullopt;
    return product;
}

std::optional<std::string> similarUnit(std::string_view symbol)
{
    const std::string low = lowered(symbol);
    for (const std::string_view known :
         {"mm",  "cm",  "m",    "in",    "ft",  "kg",   "g",    "t",     "lb",    "N",   "kN",  "MN",
          "lbf", "kip", "Pa",   "kPa",   "MPa", "GPa",  "bar",  "psi",   "ksi",   "Hz",  "kHz", "rpm",
          "deg", "rad", "kg/m", "kg/m3", "N/m", "kN/m", "N/mm", "kN/mm", "kg m2", "mm2", "m2"})
        if (lowered(known) == low) return std::string(known);
    constexpr std::pair<std::string_view, std::string_view> spelled[] = {
        {"meter", "m"}, {"metre", "m"},  {"metres", "m"},   {"inch", "in"},     {"\"", "in"},     {"'", "ft"},
        {"feet", "ft"}, {"lbs", "lb"},   {"tonne", "t"},    {"ton", "t"},       {"newton", "N"},  {"1/min", "rpm"},
        {"kilo", "kg"}, {"kilos", "kg"}, {"degree", "deg"}, {"degrees", "deg"}, {"percent", "%"}, {"kgs", "kg"}};
    for (const auto& [word, unit] : spelled)
        if (word == low) return std::string(unit);
    return std::nullopt;
}

} // namespace undisona
