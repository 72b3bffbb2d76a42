#include "core/picks/part_rule.hpp"

#include "core/base/number_text.hpp"
#include "core/model/value.hpp"

namespace undisona {

PartRule partRule(const std::string& term)
{
    const auto of = term.rfind("of ");
    if (of == std::string::npos || (of > 0 && term[of - 1] != ' ')) return {term, {}};
    std::string name(trimmed(std::string_view(term).substr(of + 3)));
    if (name.size() >= 2 && name.front() == '"' && name.back() == '"') name = name.substr(1, name.size() - 2);
    return {std::string(trimmed(std::string_view(term).substr(0, of))), name};
}

std::optional<Eigen::Vector3d> coordinatesIn(std::string words)
{
    if (words.find(',') == std::string::npos)
        for (std::size_t space = 0, left = 2; left > 0 && (space = words.find(' ', space)) != std::string::npos; --left)
            words.replace(space, 1, ", "), space += 2;
    const auto read = readVector(words, QuantityKind::length, NumberStyle::file);
    const auto* vector = std::get_if<Vector>(&read);
    if (!vector) return std::nullopt;
    return Eigen::Vector3d(vector->si[0], vector->si[1], vector->si[2]);
}

NearestTo nearestTo(const std::string& rule, const std::string& noun)
{
    if (!rule.starts_with(noun + " nearest to ") && !rule.starts_with(noun + "s nearest to ")) return {};
    return {true, coordinatesIn(std::string(trimmed(std::string_view(rule).substr(rule.find(" to ") + 4))))};
}

AtCoordinate atCoordinate(const std::string& rule, const std::string& noun)
{
    const std::string lead = noun + " at ";
    if (!rule.starts_with(lead) || rule.size() <= lead.size() + 2) return {};
    AtCoordinate found{true, rule[lead.size()] - 'x', std::nullopt};
    const auto equals = rule.find('=');
    if (found.axis < 0 || found.axis > 2 || equals == std::string::npos) return found;
    found.value = lengthAfter(rule, rule.substr(0, equals + 1));
    return found;
}

std::optional<double> lengthAfter(const std::string& rule, const std::string& lead)
{
    const auto value =
        readQuantity(std::string_view(rule).substr(lead.size()), QuantityKind::length, NumberStyle::file);
    const auto* quantity = std::get_if<Quantity>(&value);
    return quantity ? std::optional(quantity->si) : std::nullopt;
}

} // namespace undisona
