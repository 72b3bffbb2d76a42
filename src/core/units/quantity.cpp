#include "core/units/quantity.hpp"

#include "core/base/number_text.hpp"
#include "core/units/tolerance.hpp"
#include "core/units/unit.hpp"

#include <cmath>
#include <numbers>

#include <fmt/format.h>

namespace undisona {

namespace {

bool isDigit(char letter)
{
    return letter >= '0' && letter <= '9';
}

/// Length in bytes of a space that may group digits at the head of the text; 0 if there is none.
std::size_t groupingSpace(std::string_view text)
{
    for (const std::string_view space : {" ", "\u2009", "\u202f", "\u00a0"})
        if (text.starts_with(space)) return space.size();
    return 0;
}

/// The leading part of the text that is digits, signs, points, commas, grouping spaces or an exponent.
std::string takeDigits(std::string_view& text)
{
    std::string digits;
    if (!text.empty() && (text[0] == '-' || text[0] == '+')) {
        digits += text[0];
        text.remove_prefix(1);
    } else if (text.starts_with("−")) {
        digits += '-';
        text.remove_prefix(std::string_view("−").size());
    }
    while (!text.empty()) {
        if (isDigit(text[0]) || text[0] == '.' || text[0] == ',') {
            digits += text[0];
            text.remove_prefix(1);
            continue;
        }
        const auto space = groupingSpace(text);
        const auto rest = text.substr(space);
        const bool groups = space > 0 && !digits.empty() && isDigit(digits.back()) && rest.size() >= 3 &&
                            isDigit(rest[0]) && isDigit(rest[1]) && isDigit(rest[2]) &&
                            (rest.size() == 3 || !isDigit(rest[3]));
        if (!groups) break;
        text.remove_prefix(space);
    }
    if (!text.empty() && (text[0] == 'e' || text[0] == 'E') && !digits.empty()) {
        std::size_t at = 1;
        if (at < text.size() && (text[at] == '-' || text[at] == '+')) ++at;
        if (at < text.size() && isDigit(text[at])) {
            while (at < text.size() && isDigit(text[at]))
                ++at;
            digits += text.substr(0, at);
            text.remove_prefix(at);
        }
    }
    return digits;
}

std::string without(std::string text, char unwanted)
{
    std::erase(text, unwanted);
    return text;
}

std::string tidy(const std::string& digits)
{
    const auto value = readPlainNumber(digits);
    return value ? shortest(*value) : digits;
}

/// Turns commas into what they mean, or says that two readings are possible.
std::variant<std::string, QuantityProblem> settleCommas(const std::string& digits, const std::string& unit,
                                                        NumberStyle style)
{
    const auto commas = std::count(digits.begin(), digits.end(), ',');
    const auto points = std::count(digits.begin(), digits.end(), '.');
    if (style == NumberStyle::file) {
        if (commas > 0)
            return QuantityProblem{fmt::format("\"{}\" holds a comma; files use the point for decimals and no "
                                               "grouping",
                                               digits),
                                   {}};
        return digits;
    }
    if (commas + points == 0) return digits;
    if (commas > 0 && points > 0) { // the later mark is the decimal one
        const bool commaIsDecimal = digits.rfind(',') > digits.rfind('.');
        std::string plain = without(digits, commaIsDecimal ? '.' : ',');
        if (commaIsDecimal) plain[plain.find(',')] = '.';
        return plain;
    }
    const char mark = commas > 0 ? ',' : '.';
    if (commas + points > 1) return without(digits, mark); // 1,250,000
    const auto at = digits.find(mark);
    const auto after = digits.size() - at - 1;
    const std::string before = digits.substr(0, at);
    const std::string whole = before.starts_with('-') || before.starts_with('+') ? before.substr(1) : before;
    const bool allDigits = std::all_of(digits.begin() + static_cast<long>(at) + 1, digits.end(), isDigit);
    std::string decimal = digits;
    decimal[at] = '.';
    if (after == 3 && allDigits && !whole.empty() && whole.size() <= 3 && whole[0] != '0') {
        const std::string joined = unit.empty() ? "" : " " + unit;
        const std::string grouped = without(digits, mark);
        return QuantityProblem{
            fmt::format("\"{}\" can be read as {} or as {}: which one?", digits, grouped, tidy(decimal)),
            {tidy(decimal) + joined, tidy(grouped) + joined}};
    }
    return decimal;
}

struct WeightLike {
    QuantityKind asked;
    Dimension given;
    const char* unit;
};

/// Kinds of mass that people often state as a weight.
constexpr WeightLike weights[] = {
    {QuantityKind::mass, {1, 1, -2}, "kg"},
    {QuantityKind::massPerLength, {0, 1, -2}, "kg/m"},
    {QuantityKind::massPerArea, {-1, 1, -2}, "kg/m2"},
    {QuantityKind::density, {-2, 1, -2}, "kg/m3"},
};

QuantityProblem wrongDimension(const NumberAndUnit& given, const Unit& unit, QuantityKind kind)
{
    const std::string typed = shortest(given.value) + (given.unit.empty() ? "" : " " + given.unit);
    if (given.unit.empty())
        return {fmt::format("{} is needed here; {} has no unit", describe(kind), typed),
                {typed + " " + siUnitOf(kind)}};
    for (const auto& weight : weights) {
        if (weight.asked != kind || !(weight.given == unit.dimension)) continue;
        const double kilograms = given.value * unit.factor / standardGravity;
        const std::string grouped = rounded(kilograms, 4);
        return {fmt::format("{} is needed here; {} is {}. As a weight it is {} {}: use that?", describe(kind), typed,
                            kind == QuantityKind::mass ? "a force" : "a weight of that", grouped, weight.unit),
                {fmt::format("{} {}", shortest(std::stod(fmt::format("{:.7g}", kilograms))), weight.unit)}};
    }
    return {fmt::format("{} is needed here; {} is {}", describe(kind), typed, describe(unit.dimension)), {}};
}

/// Its own, of "+- 0.4 mm"; a per cent is none.
std::string unitOfTolerance(std::string_view tolerance)
{
    if (const auto dots = tolerance.find(".."); dots != std::string_view::npos) tolerance.remove_prefix(dots + 2);
    while (!tolerance.empty() && !isDigit(tolerance.front()) && tolerance.front() != '.')
        tolerance.remove_prefix(1); // its sign
    takeDigits(tolerance);
    const std::string unit(trimmed(tolerance));
    return unit == "%" ? std::string() : unit;
}

} // namespace

std::variant<NumberAndUnit, QuantityProblem> readNumberAndUnit(std::string_view text, NumberStyle style)
{
    const auto split = splitTolerance(text);
    text = split.value;
    if (text.empty()) return QuantityProblem{"a number with its unit is needed here", {}};
    const std::string whole(text);
    const std::string digits = takeDigits(text);
    std::string unit(trimmed(text));
    if (unit.empty() && !split.tolerance.empty()) unit = unitOfTolerance(split.tolerance);
    if (digits.empty() || std::none_of(digits.begin(), digits.end(), isDigit))
        return QuantityProblem{fmt::format("\"{}\" does not begin with a number", whole), {}};
    auto settled = settleCommas(digits, unit, style);
    if (auto* problem = std::get_if<QuantityProblem>(&settled)) return *problem;
    const auto value = readPlainNumber(std::get<std::string>(settled));
    if (!value) return QuantityProblem{fmt::format("\"{}\" is not a number", digits), {}};
    if (!std::isfinite(*value)) return QuantityProblem{fmt::format("\"{}\" is too large a number", digits), {}};
    return NumberAndUnit{*value, unit};
}

std::variant<Quantity, QuantityProblem> readQuantity(std::string_view text, QuantityKind kind, NumberStyle style)
{
    if (!splitTolerance(text).tolerance.empty())
        return QuantityProblem{fmt::format("no tolerance can stand here; \"{}\" has one", trimmed(text)),
                               {std::string(splitTolerance(text).value)}};
    auto parts = readNumberAndUnit(text, style);
    if (auto* problem = std::get_if<QuantityProblem>(&parts)) {
        for (auto& suggestion : problem->suggestions)
            if (kind == QuantityKind::number || suggestion.find(' ') != std::string::npos)
                continue;
            else
                suggestion += siUnitOf(kind).empty() ? "" : " " + siUnitOf(kind);
        return *problem;
    }
    const auto& given = std::get<NumberAndUnit>(parts);
    const auto unit = readUnit(given.unit);
    if (!unit) {
        QuantityProblem problem{fmt::format("\"{}\" is not a unit known here", given.unit), {}};
        if (const auto similar = similarUnit(given.unit)) {
            problem.what += fmt::format("; did you mean {}?", *similar);
            problem.suggestions.push_back(shortest(given.value) + " " + *similar);
        }
        return problem;
    }
    const Dimension asked = dimensionOf(kind);
    const double offset = kind == QuantityKind::warming ? 0.0 : unit->offset; // 20 °C warmer is 20 K warmer
    Quantity quantity{given.value * unit->factor + offset, kind, std::string(trimmed(text))};
    if (style == NumberStyle::typed && quantity.text.find_first_of(",.") != std::string::npos)
        quantity.text = shortest(given.value) + (given.unit.empty() ? "" : " " + given.unit);
    constexpr double largest = 1e30; // of anything that is built, with room to spare; its square still is a number
    if (!(std::abs(quantity.si) <= largest))
        return QuantityProblem{"that is more than anything that is built; check the exponent", {}};
    if (quantity.si != 0.0 && std::abs(quantity.si) < 1.0 / largest)
        return QuantityProblem{"that is less than anything that is built; check the exponent, or write 0", {}};
    if (given.unit.empty() && given.value == 0.0) return quantity;
    if (kind == QuantityKind::share && given.unit.empty() && given.value > 1.0)
        return QuantityProblem{
            fmt::format("a share is needed here; {} is more than all of it. In per cent?", shortest(given.value)),
            {shortest(given.value) + " %"}};
    if (unit->dimension == asked) return quantity;
    if (kind == QuantityKind::frequency && unit->dimension == Dimension{0, 0, -1, 0, 1}) {
        quantity.si /= 2.0 * std::numbers::pi;
        return quantity;
    }
    Dimension withoutAngle = unit->dimension, askedWithoutAngle = asked;
    withoutAngle.angle = askedWithoutAngle.angle = 0;
    const bool turning = kind == QuantityKind::turningStiffness || kind == QuantityKind::turningStiffnessPerLength;
    if (turning && withoutAngle == askedWithoutAngle) return quantity;
    return wrongDimension(given, *unit, kind);
}

namespace {

/// "a stiffness, in all or per length, per area or per volume".
std::string describe(const std::vector<QuantityKind>& kinds)
{
    std::string all = undisona::describe(kinds.front());
    const std::size_t lead = all.size();
    const auto isPer = [lead, per = all + " per "](const std::string& one) { return one.substr(0, lead + 5) == per; };
    if (isPer(undisona::describe(kinds.back()))) all += ", in all";
    for (std::size_t at = 1; at < kinds.size(); ++at) {
        const std::string one = undisona::describe(kinds[at]);
        const bool per = isPer(one);
        all += ((per && at == 1) || at + 1 == kinds.size() ? " or " : ", ") + (per ? one.substr(lead + 1) : one);
    }
    return all;
}

} // namespace

std::variant<Quantity, QuantityProblem> readQuantity(std::string_view text, const std::vector<QuantityKind>& kinds,
                                                     NumberStyle style)
{
    const auto asFirst = readQuantity(text, kinds.front(), style);
    if (kinds.size() == 1 || std::holds_alternative<Quantity>(asFirst)) return asFirst;
    const auto parts = readNumberAndUnit(text, style);
    const auto* given = std::get_if<NumberAndUnit>(&parts);
    const auto unit = given ? readUnit(given->unit) : std::nullopt;
    if (!unit) return asFirst; // no number, or no unit
    for (const QuantityKind kind : kinds)
        if (unit->dimension == dimensionOf(kind)) return readQuantity(text, kind, style);
    for (const QuantityKind kind : kinds) // N m for N m/rad
        if (auto read = readQuantity(text, kind, style); std::holds_alternative<Quantity>(read)) return read;
    const std::string all = describe(kinds);
    if (given->unit.empty()) {
        QuantityProblem without{fmt::format("{} is needed here; {} has no unit", all, shortest(given->value)), {}};
        for (const QuantityKind kind : kinds)
            without.suggestions.push_back(shortest(given->value) + " " + siUnitOf(kind));
        return without;
    }
    for (const QuantityKind kind : kinds) // a weight for a mass
        if (auto problem = wrongDimension(*given, *unit, kind); !problem.suggestions.empty()) return problem;
    return QuantityProblem{fmt::format("{} is needed here; {} {} is {}", all, shortest(given->value), given->unit,
                                       describe(unit->dimension)),
                           {}};
}

Quantity quantityIn(double si, QuantityKind kind, std::string_view unitText)
{
    const auto unit = readUnit(unitText);
    const double factor = unit ? unit->factor : 1.0;
    double value = si / factor;
    // Twelve digits hide the rounding of the conversion itself: 0.0254 m is 1 in, not 0.9999999999999999 in.
    const double neat = std::stod(fmt::format("{:.12g}", value));
    if (std::abs(neat * factor - si) <= 4e-15 * std::abs(si)) value = neat;
    std::string text = shortest(value);
    if (!unitText.empty()) text += " " + std::string(unitText);
    return {si, kind, text};
}

} // namespace undisona
