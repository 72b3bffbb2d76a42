#include "core/model/said_quantities.hpp"

#include "core/model/called.hpp"
#include "core/base/number_text.hpp"
#include "core/model/section_text.hpp"
#include "core/units/tolerance.hpp"

#include <fmt/ranges.h>

namespace undisona {

namespace {

std::string unitIn(std::string_view text, QuantityKind kind)
{
    const auto read = readNumberAndUnit(text, NumberStyle::file);
    const auto* typed = std::get_if<NumberAndUnit>(&read);
    const bool bare = kind == QuantityKind::number || kind == QuantityKind::share;
    return typed && (bare || !typed->unit.empty()) ? typed->unit : siUnitOf(kind);
}

/// Beside each other in "0, 0, 240 mm" the last unit serves those without one.
std::vector<std::string> piecesOfVector(const std::string& text, QuantityKind kind)
{
    std::vector<std::string> pieces = splitAt(text, ",;");
    std::string unit = pieces.empty() ? siUnitOf(kind) : unitIn(trimmed(pieces.back()), kind);
    for (auto& piece : pieces) {
        piece = std::string(trimmed(piece));
        const auto read = readNumberAndUnit(piece, NumberStyle::file);
        if (const auto* typed = std::get_if<NumberAndUnit>(&read); typed && typed->unit.empty())
            piece = withUnit(piece, unit);
    }
    return pieces;
}

std::string firstWord(const std::string& text)
{
    return text.substr(0, text.find_first_of(" 0123456789"));
}

/// What each size of a section in words is called: "wall".
std::vector<std::string> sizeNames(const std::string& text)
{
    for (const auto& form : sectionForms())
        if (lowered(form.word) == lowered(firstWord(text))) {
            auto names = splitAt(form.sizes, "x");
            for (auto& name : names)
                name = std::string(trimmed(name));
            return names;
        }
    return {};
}

std::string millimetres(double value)
{
    return quantityIn(value, QuantityKind::length, "mm").text;
}

/// The tolerance of a size of a section in words, in millimetres, as it is written anew: "3.6..4.4"; empty where none
/// is said.
std::string toleranceOfSize(const std::string& section, std::size_t at)
{
    const auto pieces = sizesIn(section.substr(firstWord(section).size()));
    if (at >= pieces.size() || splitTolerance(pieces[at]).tolerance.empty()) return {};
    const std::string unit = unitIn(trimmed(pieces.back()), QuantityKind::length);
    const bool own = unitIn(trimmed(pieces[at]), QuantityKind::number) != siUnitOf(QuantityKind::number);
    const auto range = toleranceOf(own ? pieces[at] : withUnit(pieces[at], unit), QuantityKind::length);
    if (!range) return {};
    const auto number = [](double value) {
        const std::string text = millimetres(value);
        return text.substr(0, text.find(' '));
    };
    return number(range->low) + ".." + number(range->high);
}

class Reader {
public:
    explicit Reader(std::vector<SaidQuantity>& all) : all_(all) {}

    void read(const Sentence& sentence)
    {
        for (const auto& field : sentence.kind->fields) {
            if (!sentence.has(field.key)) continue;
            const SaidQuantity said{
                sentence.id, {},  field.key, -1,
                field.kind,  0.0, {},        called(sentence) + ": " + field.label.substr(0, field.label.find(','))};
            if (field.type == FieldType::quantity)
                whole(said, std::get<Quantity>(sentence.value(field.key)));
            else if (field.type == FieldType::vector || field.type == FieldType::place)
                vector(said, textOf(sentence.value(field.key)),
                       field.type == FieldType::place ? QuantityKind::length : field.kind);
            else if (field.type == FieldType::section)
                section(said, sentence.text(field.key));
            else if (field.type == FieldType::table)
                table(said, field, sentence.table(field.key));
        }
    }

private:
    void whole(SaidQuantity said, const Quantity& quantity)
    {
        said.kind = quantity.kind;
        said.value = quantity.si;
        said.text = quantity.text;
        all_.push_back(std::move(said));
    }

    void vector(SaidQuantity said, const std::string& text, QuantityKind kind)
    {
        const auto read = readVector(text, kind, NumberStyle::file);
        const auto* components = std::get_if<Vector>(&read);
        if (!components || kind == QuantityKind::number) return; // the name of a point; a direction
        const auto pieces = piecesOfVector(text, kind);
        const std::string name = said.name;
        for (std::size_t at = 0; at < pieces.size() && at < 3; ++at) {
            said.part = static_cast<int>(at);
            said.kind = kind;
            said.value = components->si[at];
            said.text = pieces[at];
            said.name = name + ", " + "xyz"[at];
            all_.push_back(said);
        }
    }

    void section(SaidQuantity said, const std::string& text)
    {
        if (!looksLikeSection(text)) return; // its name: its own sentence says it
        const auto read = readSection(text, NumberStyle::file);
        const auto* section = std::get_if<Section>(&read);
        if (!section) return;
        const auto names = sizeNames(text);
        const std::string name = said.name;
        for (std::size_t at = 0; at < names.size() && at < section->sizes.size(); ++at) {
            said.part = static_cast<int>(at);
            said.kind = QuantityKind::length;
            said.value = section->sizes[at];
            said.text = millimetres(said.value);
            if (const auto tolerance = toleranceOfSize(text, at); !tolerance.empty()) said.text += " " + tolerance;
            said.name = name + ", " + names[at];
            all_.push_back(said);
        }
    }

    void table(SaidQuantity said, const Field& field, const Table& table)
    {
        std::map<std::string, int> times;
        for (const auto& row : *table.rows)
            if (!row.empty()) ++times[textOf(row.front())];
        const std::string name = said.name;
        for (const auto& row : *table.rows)
            for (std::size_t at = 1; at < row.size() && at < field.columns.size(); ++at) {
                const auto* quantity = std::get_if<Quantity>(&row[at]);
                if (!quantity || times[textOf(row.front())] != 1) continue;
                said.row = textOf(row.front());
                said.field = field.columns[at].key;
                said.name = name.substr(0, name.find(':')) + ": " + said.row + ", " + field.columns[at].label;
                whole(said, *quantity);
            }
    }

    std::vector<SaidQuantity>& all_;
};

} // namespace

std::vector<SaidQuantity> saidQuantities(const Model& model)
{
    std::vector<SaidQuantity> all;
    Reader reader(all);
    for (const Group group : {Group::shape, Group::material, Group::joints, Group::supports, Group::addedMass})
        for (const auto& sentence : model.activeIn(group))
            if (!sentence->kind->leavesModes()) reader.read(*sentence);
    const auto asks = model.activeIn(Group::ask);
    if (std::any_of(asks.begin(), asks.end(), [](const auto& one) { return one->kind->key == "about-state"; }))
        for (const auto& sentence : model.activeIn(Group::loads))
            reader.read(*sentence);
    return all;
}

std::string textAnew(const SaidQuantity& said, double value)
{
    return quantityIn(value, said.kind, unitIn(said.text, said.kind)).text;
}

Statement saidAnew(const SaidQuantity& said, const Model& model, double value)
{
    Statement statement{{}, said.sentence, said.row, {}};
    std::string text = textAnew(said, value);
    const auto tolerance = splitTolerance(said.text).tolerance; // one to either side goes along, two ends do not
    if (!tolerance.empty() && tolerance.find("..") == std::string_view::npos) text += " " + std::string(tolerance);
    if (said.part >= 0 && said.row.empty()) {
        const auto sentence = model.sentence(said.sentence);
        const std::string whole = sentence ? textOf(sentence->value(said.field)) : std::string();
        const auto part = static_cast<std::size_t>(said.part);
        const Field* field = sentence ? sentence->kind->field(said.field) : nullptr;
        if (field && field->type == FieldType::section) {
            const auto read = readSection(whole, NumberStyle::file);
            const auto* section = std::get_if<Section>(&read);
            const std::size_t count = section ? sizeNames(whole).size() : 0;
            std::string sizes;
            for (std::size_t at = 0; at < count; ++at) {
                const std::string own = millimetres(at == part ? value : section->sizes[at]);
                const auto ends = at == part ? std::string() : toleranceOfSize(whole, at);
                sizes += (at ? "x" : "") + own.substr(0, own.find(' ')) + (ends.empty() ? "" : " " + ends);
            }
            text = firstWord(whole) + " " + sizes + " mm";
        } else {
            auto pieces = piecesOfVector(whole, said.kind);
            if (part < pieces.size()) pieces[part] = text;
            text = fmt::format("{}", fmt::join(pieces, ", "));
        }
    }
    statement.words[said.field] = text;
    return statement;
}

} // namespace undisona
