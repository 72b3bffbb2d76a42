#include "core/model/grammar.hpp"

#include "core/base/number_text.hpp"
#include "core/units/tolerance.hpp"

#include <charconv>
#include <cstdlib>

#include <fmt/format.h>

namespace undisona {

const Field* SentenceKind::field(std::string_view fieldKey) const
{
    for (const auto& candidate : fields)
        if (candidate.key == fieldKey) return &candidate;
    return nullptr;
}

bool SentenceKind::has(Touch what) const
{
    return std::find(touches.begin(), touches.end(), what) != touches.end();
}

bool SentenceKind::leavesModes() const
{
    return std::all_of(touches.begin(), touches.end(),
                       [](Touch what) { return what == Touch::load || what == Touch::reading; });
}

std::vector<std::string> SentenceKind::optionalFields() const
{
    std::vector<std::string> keys;
    for (const auto& candidate : fields)
        if (candidate.optional) keys.push_back(candidate.key);
    return keys;
}

namespace {

std::vector<Touch> usually(Group group)
{
    switch (group) {
    case Group::shape:
        return {Touch::shape};
    case Group::material:
        return {Touch::stiffness, Touch::mass, Touch::damping};
    case Group::joints:
    case Group::supports:
        return {Touch::stiffness};
    case Group::addedMass:
        return {Touch::mass};
    case Group::loads:
        return {Touch::load};
    case Group::excitation:
        return {Touch::reading};
    case Group::ask:
        break;
    }
    return {Touch::ask};
}

} // namespace

const std::vector<SentenceKind>& sentenceKinds()
{
    static const std::vector<SentenceKind> kinds = [] {
        std::vector<SentenceKind> all;
        addShapeKinds(all);
        addSheetKinds(all);
        addSolidKinds(all);
        addAssemblyKinds(all);
        addMaterialKinds(all);
        addJointKinds(all);
        addSupportKinds(all);
        addMassKinds(all);
        addLoadKinds(all);
        addExcitationKinds(all);
        addAskKinds(all);
        for (auto& kind : all)
            if (kind.touches.empty()) kind.touches = usually(kind.group);
        return all;
    }();
    return kinds;
}

const SentenceKind* kindNamed(std::string_view key)
{
    for (const auto& kind : sentenceKinds())
        if (kind.key == key) return &kind;
    return nullptr;
}

std::vector<PhrasePiece> piecesOf(const SentenceKind& kind)
{
    std::vector<PhrasePiece> pieces;
    std::string words;
    int part = -1, parts = 0;
    const auto flush = [&] {
        if (!words.empty()) pieces.push_back({words, {}, part});
        words.clear();
    };
    for (std::size_t at = 0; at < kind.phrase.size(); ++at) {
        const char letter = kind.phrase[at];
        if (letter == '{') {
            flush();
            const auto end = kind.phrase.find('}', at);
            pieces.push_back({{}, kind.phrase.substr(at + 1, end - at - 1), part});
            at = end;
        } else if (letter == '[') {
            flush();
            part = parts++;
        } else if (letter == ']') {
            flush();
            part = -1;
        } else {
            words += letter;
        }
    }
    flush();
    return pieces;
}

namespace {

/// A limit in SI in the unit of the value that was typed: "360 deg" beside "400 deg".
std::string limitText(double limit, double value, std::string_view text)
{
    const std::string typed(text);
    char* unit = nullptr;
    const double number = std::strtod(typed.c_str(), &unit);
    if (number == 0.0 || value == 0.0 || unit == typed.c_str()) return shortest(limit);
    return fmt::format("{:.7g}{}", limit * number / value, unit);
}

std::optional<QuantityProblem> limitProblem(const Field& field, double value, std::string_view text)
{
    if (field.positive && value <= 0.0)
        return QuantityProblem{fmt::format("{} must be more than zero; {} is not", field.label, text), {}};
    if (field.least && value < *field.least)
        return QuantityProblem{
            fmt::format("{} must be at least {}; {} is less", field.label, limitText(*field.least, value, text), text),
            {}};
    if (field.most && value > *field.most)
        return QuantityProblem{
            fmt::format("{} must be at most {}; {} is more", field.label, limitText(*field.most, value, text), text),
            {}};
    return std::nullopt;
}

std::variant<Value, QuantityProblem> readCount(const Field& field, std::string_view text)
{
    const auto number = readPlainNumber(text);
    if (!number || *number != std::floor(*number) || std::abs(*number) > 1e9)
        return QuantityProblem{fmt::format("{} is a whole number; \"{}\" is not", field.label, text), {}};
    if (auto problem = limitProblem(field, *number, text)) return *problem;
    return Value{static_cast<long>(*number)};
}

std::variant<Value, QuantityProblem> readChoice(const Field& field, std::string_view text)
{
    for (const auto& choice : field.choices)
        if (choice == text) return Value{choice};
    const std::string low = lowered(text); // the first letters are enough where they fit one choice only
    std::vector<std::string> fitting;
    for (const auto& choice : field.choices)
        if (!low.empty() && lowered(choice).starts_with(low)) fitting.push_back(choice);
    if (fitting.size() == 1) return Value{fitting[0]};
    std::string all;
    for (const auto& choice : field.choices)
        all += (all.empty() ? "" : ", ") + choice;
    return QuantityProblem{fmt::format("{} is one of: {}; \"{}\" is not", field.label, all, text), field.choices};
}

/// Passes a problem on, or wraps the value.
template <class T>
std::variant<Value, QuantityProblem> asValue(std::variant<T, QuantityProblem> read)
{
    if (auto* problem = std::get_if<QuantityProblem>(&read)) return *problem;
    return Value{std::get<T>(std::move(read))};
}

} // namespace

std::variant<Value, QuantityProblem> readValue(const Field& field, std::string_view rawText, NumberStyle style)
{
    const std::string_view text = trimmed(rawText);
    switch (field.type) {
    case FieldType::quantity: {
        std::vector<QuantityKind> kinds{field.kind};
        kinds.insert(kinds.end(), field.otherKinds.begin(), field.otherKinds.end());
        auto read = readTolerated(text, kinds, style);
        if (const auto* quantity = std::get_if<Quantity>(&read)) {
            if (auto problem = limitProblem(field, quantity->si, text)) return *problem;
            if (const auto range = toleranceOf(quantity->text, quantity->kind))
                for (const double end : {range->low, range->high})
                    if (auto problem = limitProblem(field, end, text))
                        return QuantityProblem{"at the end of its tolerance: " + problem->what, {}};
        }
        return asValue(std::move(read));
    }
    case FieldType::count:
        return readCount(field, text);
    case FieldType::choice:
        return readChoice(field, text);
    case FieldType::directions:
        return asValue(readDirections(text, true));
    case FieldType::translations:
        return asValue(readDirections(text, false));
    case FieldType::orders:
        return asValue(readOrders(text));
    case FieldType::vector:
        return asValue(readVector(text, field.kind, style));
    case FieldType::table:
        return QuantityProblem{"a table is needed here", {}};
    case FieldType::name:
    case FieldType::label:
    case FieldType::where:
    case FieldType::place:
    case FieldType::section:
    case FieldType::material:
    case FieldType::file:
        break;
    }
    if (field.type == FieldType::place && std::count(text.begin(), text.end(), ',') == 2 &&
        text.find('"') == std::string_view::npos)
        if (const auto read = readVector(text, QuantityKind::length, style); // coordinates, or a name with two commas
            std::holds_alternative<QuantityProblem>(read) && text.find_first_of("+-.0123456789") == 0)
            return std::get<QuantityProblem>(read);
    if (text.empty() && field.type != FieldType::label)
        return QuantityProblem{fmt::format("{} must not be empty", field.label), {}};
    return Value{std::string(text)};
}

Field quantityField(std::string key, std::string label, QuantityKind kind, std::string fallback)
{
    Field field{std::move(key), FieldType::quantity, std::move(label), std::move(fallback)};
    field.kind = kind;
    return field;
}

Field countField(std::string key, std::string label, std::string fallback, double least, double most)
{
    Field field{std::move(key), FieldType::count, std::move(label), std::move(fallback)};
    field.least = least;
    field.most = most;
    return field;
}

Field choiceField(std::string key, std::string label, std::vector<std::string> choices)
{
    Field field{std::move(key), FieldType::choice, std::move(label), choices.front()};
    field.choices = std::move(choices);
    return field;
}

Field textField(std::string key, FieldType type, std::string label, std::string fallback)
{
    return {std::move(key), type, std::move(label), std::move(fallback)};
}

Field whereField(std::string key, Targets targets, std::string label, std::string fallback)
{
    Field field = textField(std::move(key), FieldType::where, std::move(label), std::move(fallback));
    field.targets = targets;
    return field;
}

Field vectorField(std::string key, std::string label, QuantityKind kind, std::string fallback)
{
    Field field{std::move(key), FieldType::vector, std::move(label), std::move(fallback)};
    field.kind = kind;
    return field;
}

Field optionalField(Field field)
{
    field.optional = true;
    return field;
}

Field atLeast(Field field, double least)
{
    field.least = least;
    return field;
}

Field positiveField(Field field)
{
    field.positive = true;
    return field;
}

std::size_t cellsNeeded(const Field& table)
{
    return static_cast<std::size_t>(std::count_if(table.columns.begin(), table.columns.end(),
                                                  [](const Field& column) { return !column.optional; }));
}

Cell usualCell(const Field& column)
{
    const auto value = readValue(column, column.fallback, NumberStyle::file);
    const auto& good = std::get<Value>(value);
    if (const auto* quantity = std::get_if<Quantity>(&good)) return *quantity;
    return std::get<std::string>(good);
}

} // namespace undisona
