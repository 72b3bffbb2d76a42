#include "core/units/tolerance.hpp"

#include "core/base/number_text.hpp"

#include <cmath>

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr std::string_view signs[] = {"+-", "+/-", "±"};

std::string_view afterSign(std::string_view tolerance)
{
    for (const auto sign : signs)
        if (tolerance.starts_with(sign)) return trimmed(tolerance.substr(sign.size()));
    return {};
}

/// One end or one half of a tolerance.
struct Part {
    double si;
    NumberAndUnit typed;
};
std::variant<Part, QuantityProblem> partOf(std::string_view text, const std::string& unit, QuantityKind kind,
                                           NumberStyle style)
{
    auto read = readNumberAndUnit(text, style);
    if (auto* problem = std::get_if<QuantityProblem>(&read))
        return QuantityProblem{"the tolerance is not read: " + problem->what, {}};
    NumberAndUnit typed = std::get<NumberAndUnit>(read);
    auto quantity =
        readQuantity(withUnit(shortest(typed.value), typed.unit.empty() ? unit : typed.unit), kind, NumberStyle::file);
    if (auto* problem = std::get_if<QuantityProblem>(&quantity))
        return QuantityProblem{"the tolerance is not read: " + problem->what, {}};
    return Part{std::get<Quantity>(quantity).si, std::move(typed)};
}

struct ReadTolerance {
    Tolerance range;
    std::string text; ///< with the decimal point
};

std::variant<ReadTolerance, QuantityProblem> evenly(std::string_view half, double value, const std::string& unit,
                                                    QuantityKind kind, NumberStyle style)
{
    auto number = readNumberAndUnit(half, style);
    if (auto* problem = std::get_if<QuantityProblem>(&number))
        return QuantityProblem{"the tolerance is not read: " + problem->what, {}};
    const auto& typed = std::get<NumberAndUnit>(number);
    double by = 0.0;
    if (typed.unit == "%" && kind != QuantityKind::share) {
        by = typed.value / 100.0 * std::abs(value);
    } else {
        auto part = partOf(half, unit, kind, style), nothing = partOf("0", unit, kind, style);
        if (auto* problem = std::get_if<QuantityProblem>(&part)) return *problem;
        const auto* zero = std::get_if<Part>(&nothing); // of a unit that does not begin at nothing
        by = std::get<Part>(part).si - (zero ? zero->si : 0.0);
    }
    if (!(by > 0.0)) return QuantityProblem{fmt::format("a tolerance is more than zero; \"{}\" is not", half), {}};
    return ReadTolerance{{value - by, value + by}, "+- " + withUnit(shortest(typed.value), typed.unit)};
}

std::variant<ReadTolerance, QuantityProblem> fromTo(std::string_view text, double value, const std::string& unit,
                                                    QuantityKind kind, NumberStyle style)
{
    const auto dots = text.find("..");
    auto high = partOf(text.substr(dots + 2), unit, kind, style);
    if (auto* problem = std::get_if<QuantityProblem>(&high)) return *problem;
    const auto& last = std::get<Part>(high);
    auto low = partOf(text.substr(0, dots), last.typed.unit.empty() ? unit : last.typed.unit, kind, style);
    if (auto* problem = std::get_if<QuantityProblem>(&low)) return *problem;
    const auto& first = std::get<Part>(low);
    const double slack = 1e-12 * std::abs(value);
    if (!(first.si < last.si) || value < first.si - slack || value > last.si + slack)
        return QuantityProblem{
            fmt::format("the value lies between the two ends of its tolerance, the lower one first; in \"{}\" it "
                        "does not",
                        text),
            {}};
    return ReadTolerance{{first.si, last.si},
                         shortest(first.typed.value) + ".." + withUnit(shortest(last.typed.value), last.typed.unit)};
}

std::variant<ReadTolerance, QuantityProblem>
readTolerance(std::string_view tolerance, double value, const std::string& unit, QuantityKind kind, NumberStyle style)
{
    if (const auto half = afterSign(tolerance); !half.empty()) return evenly(half, value, unit, kind, style);
    if (tolerance.find("..") != std::string_view::npos) return fromTo(tolerance, value, unit, kind, style);
    return QuantityProblem{fmt::format("a tolerance follows the sign in \"{}\", such as +- 10 %", tolerance), {}};
}

} // namespace

SplitTolerance splitTolerance(std::string_view text)
{
    text = trimmed(text);
    for (const auto sign : signs)
        if (const auto at = text.find(sign); at != std::string_view::npos && at > 0)
            return {trimmed(text.substr(0, at)), text.substr(at)};
    const auto dots = text.find("..");
    if (dots == std::string_view::npos) return {text, {}};
    std::size_t from = dots; // where the first of the two numbers begins
    while (from > 0 && std::string_view("0123456789.,eE+-").find(text[from - 1]) != std::string_view::npos)
        --from;
    return {trimmed(text.substr(0, from)), trimmed(text.substr(from))};
}

std::string withUnit(std::string_view text, std::string_view unit)
{
    const auto split = splitTolerance(text);
    std::string whole(split.value);
    if (!unit.empty()) whole += " " + std::string(unit);
    if (!split.tolerance.empty()) whole += " " + std::string(split.tolerance);
    return whole;
}

std::variant<Quantity, QuantityProblem> readTolerated(std::string_view text, const std::vector<QuantityKind>& kinds,
                                                      NumberStyle style)
{
    const auto split = splitTolerance(text);
    if (split.tolerance.empty()) return readQuantity(text, kinds, style);
    if (split.value.empty())
        return QuantityProblem{
            fmt::format("the value itself comes before its tolerance, such as \"20 {}\"", split.tolerance), {}};
    const auto number = readNumberAndUnit(text, style); // with the unit of the tolerance where that alone has one
    if (const auto* problem = std::get_if<QuantityProblem>(&number)) return *problem;
    const auto& typed = std::get<NumberAndUnit>(number);
    const auto alone = readNumberAndUnit(split.value, style);
    const bool bare = std::get<NumberAndUnit>(alone).unit.empty();
    auto read =
        readQuantity(bare ? withUnit(shortest(typed.value), typed.unit) : std::string(split.value), kinds, style);
    if (auto* problem = std::get_if<QuantityProblem>(&read)) return *problem;
    Quantity quantity = std::get<Quantity>(std::move(read));
    auto tolerance = readTolerance(split.tolerance, quantity.si, typed.unit, quantity.kind, style);
    if (auto* problem = std::get_if<QuantityProblem>(&tolerance)) return *problem;
    quantity.text = style == NumberStyle::file ? std::string(trimmed(text))
                                               : (bare ? shortest(typed.value) : quantity.text) + " " +
                                                     std::get<ReadTolerance>(tolerance).text;
    return quantity;
}

std::optional<Tolerance> toleranceOf(std::string_view text, QuantityKind kind)
{
    const auto split = splitTolerance(text);
    if (split.tolerance.empty()) return std::nullopt;
    const auto read = readTolerated(text, {kind}, NumberStyle::file);
    const auto* quantity = std::get_if<Quantity>(&read);
    if (!quantity) return std::nullopt;
    const auto number = readNumberAndUnit(text, NumberStyle::file);
    const auto tolerance =
        readTolerance(split.tolerance, quantity->si, std::get<NumberAndUnit>(number).unit, kind, NumberStyle::file);
    return std::get<ReadTolerance>(tolerance).range;
}

} // namespace undisona
