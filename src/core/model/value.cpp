#include "core/model/value.hpp"

#include "core/base/number_text.hpp"
#include "core/units/tolerance.hpp"

#include <bit>

#include <fmt/format.h>

namespace undisona {

int Directions::count() const
{
    return std::popcount(bits);
}

std::string textOf(Directions directions)
{
    std::string text;
    for (int direction = 0; direction < 6; ++direction) {
        if (!directions.has(direction)) continue;
        if (!text.empty()) text += ' ';
        text += directionNames[static_cast<std::size_t>(direction)];
    }
    return text;
}

std::string textOf(const Cell& cell)
{
    if (const auto* name = std::get_if<std::string>(&cell)) return *name;
    return std::get<Quantity>(cell).text;
}

std::string textOf(const Value& value)
{
    struct Reader {
        std::string operator()(std::monostate) const { return {}; }
        std::string operator()(const Quantity& quantity) const { return quantity.text; }
        std::string operator()(long count) const { return std::to_string(count); }
        std::string operator()(const std::string& text) const { return text; }
        std::string operator()(Directions directions) const { return textOf(directions); }
        std::string operator()(const Orders& orders) const { return orders.text; }
        std::string operator()(const Vector& vector) const { return vector.text; }
        std::string operator()(const Table& table) const { return std::to_string(table.rows->size()); }
    };
    return std::visit(Reader{}, value);
}

std::variant<Directions, QuantityProblem> readDirections(std::string_view text, bool rotationsToo)
{
    Directions directions;
    for (const auto& word : splitAt(lowered(text), " ,;")) {
        if (word == "all" || word == "everything") {
            directions.bits |= rotationsToo ? 0x3F : 0x07;
            continue;
        }
        if (word == "xyz" || word == "xy" || word == "xz" || word == "yz") {
            for (const char axis : word)
                directions.bits |= static_cast<std::uint8_t>(1 << (axis - 'x'));
            continue;
        }
        bool known = false;
        for (int direction = 0; direction < (rotationsToo ? 6 : 3); ++direction) {
            if (word != directionNames[static_cast<std::size_t>(direction)]) continue;
            directions.bits |= static_cast<std::uint8_t>(1 << direction);
            known = true;
        }
        if (!known)
            return QuantityProblem{
                fmt::format("\"{}\" is not a direction; write any of x y z{}", word, rotationsToo ? " rx ry rz" : ""),
                {}};
    }
    if (directions.bits == 0)
        return QuantityProblem{rotationsToo ? "name at least one of x y z rx ry rz" : "name at least one of x y z", {}};
    return directions;
}

std::variant<Orders, QuantityProblem> readOrders(std::string_view text)
{
    Orders orders{{}, std::string(trimmed(text))};
    for (const auto& word : splitAt(text, " ,;×")) {
        const auto value = readPlainNumber(word);
        if (!value || !std::isfinite(*value) || *value <= 0.0 || *value > 1e6)
            return QuantityProblem{fmt::format("\"{}\" is not an order; write positive numbers such as 1 2 6", word),
                                   {}};
        orders.values.push_back(*value);
    }
    if (orders.values.empty()) return QuantityProblem{"write at least one order, such as 1", {}};
    return orders;
}

namespace {

/// "0, 0, 240 mm" by its parts.
std::vector<std::string> listed(std::string_view text)
{
    std::vector<std::string> parts;
    std::string source(trimmed(text));
    if (source.starts_with('(')) {
        source.erase(0, 1);
        std::erase(source, ')');
    }
    if (source.find(';') != std::string::npos) return splitAt(source, ";");
    std::size_t from = 0; // a comma separates when a space follows; otherwise it may be a decimal comma
    for (auto at = source.find(", "); at != std::string::npos; at = source.find(", ", from)) {
        parts.push_back(source.substr(from, at - from));
        from = at + 2;
    }
    parts.push_back(source.substr(from));
    return parts;
}

struct Listed {
    double si;
    NumberAndUnit written;
    std::string tolerated; ///< as it is read with its tolerance; empty where it has none
};

/// The last unit serves those without one.
std::variant<std::vector<Listed>, QuantityProblem> readListed(const std::vector<std::string>& parts, QuantityKind kind,
                                                              NumberStyle style)
{
    auto last = readNumberAndUnit(parts.back(), style);
    if (auto* problem = std::get_if<QuantityProblem>(&last)) return *problem;
    const std::string& unit = std::get<NumberAndUnit>(last).unit;
    std::vector<Listed> list;
    for (const auto& part : parts) {
        auto own = readNumberAndUnit(part, style);
        if (auto* problem = std::get_if<QuantityProblem>(&own)) return *problem;
        std::string whole(trimmed(part));
        if (std::get<NumberAndUnit>(own).unit.empty()) whole = withUnit(whole, unit);
        auto read = readTolerated(whole, {kind}, style);
        if (auto* problem = std::get_if<QuantityProblem>(&read)) return QuantityProblem{problem->what, {}};
        const Quantity& quantity = std::get<Quantity>(read);
        const bool tolerated = !splitTolerance(part).tolerance.empty();
        list.push_back({quantity.si, std::get<NumberAndUnit>(own), tolerated ? quantity.text : std::string()});
    }
    return list;
}

} // namespace

std::variant<std::vector<double>, QuantityProblem> readQuantities(std::string_view text, QuantityKind kind,
                                                                  NumberStyle style)
{
    auto read = readListed(listed(text), kind, style);
    if (auto* problem = std::get_if<QuantityProblem>(&read)) return *problem;
    std::vector<double> values;
    for (const Listed& one : std::get<std::vector<Listed>>(read))
        values.push_back(one.si);
    return values;
}

std::variant<Vector, QuantityProblem> readVector(std::string_view text, QuantityKind kind, NumberStyle style)
{
    std::vector<std::string> parts = listed(text);
    if (parts.size() == 1) parts = splitAt(parts.front(), ",");
    if (parts.size() != 3)
        return QuantityProblem{
            fmt::format("three numbers are needed, such as \"0, 0, 240{}\"", siUnitOf(kind).empty() ? "" : " mm"), {}};
    auto read = readListed(parts, kind, style);
    if (auto* problem = std::get_if<QuantityProblem>(&read)) return *problem;
    Vector vector;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const Listed& own = std::get<std::vector<Listed>>(read)[axis];
        vector.si[axis] = own.si;
        if (style == NumberStyle::typed) {
            vector.text += axis ? ", " : "";
            vector.text +=
                own.tolerated.empty() ? withUnit(shortest(own.written.value), own.written.unit) : own.tolerated;
        }
    }
    if (style == NumberStyle::file) vector.text = std::string(trimmed(text));
    return vector;
}

} // namespace undisona
