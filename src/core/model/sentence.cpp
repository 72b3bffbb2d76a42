#include "core/model/sentence.hpp"

namespace undisona {

namespace {

/// As many rows as a table has at least.
Table emptyRows(const Field& field)
{
    if (!field.least) return {};
    Row row;
    for (const auto& column : field.columns)
        row.push_back(usualCell(column));
    return {std::make_shared<const std::vector<Row>>(static_cast<std::size_t>(*field.least), row)};
}

/// The fallbacks are texts of our own tables, so they always read.
Value fallbackOf(const SentenceKind& kind, std::string_view key)
{
    const Field* field = kind.field(key);
    if (!field) return {};
    if (field->type == FieldType::table) return emptyRows(*field);
    auto read = readValue(*field, field->fallback, NumberStyle::file);
    if (auto* value = std::get_if<Value>(&read)) return *value;
    return {};
}

template <class T>
T valueOr(const Sentence& sentence, std::string_view key)
{
    if (const auto* said = std::get_if<T>(&sentence.value(key))) return *said;
    const Value fallback = fallbackOf(*sentence.kind, key);
    if (const auto* value = std::get_if<T>(&fallback)) return *value;
    return T{};
}

/// What a row of the sentence's table is.
std::string nounOf(const SentenceKind& kind)
{
    static const std::map<std::string_view, const char*> nouns{{"points", "point"},
                                                               {"plate-through", "corner"},
                                                               {"opening-through", "corner"},
                                                               {"extrusion", "corner"},
                                                               {"revolution", "corner"},
                                                               {"folded-sheet", "line"},
                                                               {"holes", "place"},
                                                               {"pipe", "place"},
                                                               {"layers", "layer"},
                                                               {"loads", "load"},
                                                               {"mount", "row"}};
    const auto found = nouns.find(kind.key);
    return found == nouns.end() ? "member" : found->second;
}

std::string shownTable(const Sentence& sentence, const Table& table)
{
    const std::size_t rows = table.rows->size();
    const std::string noun = nounOf(*sentence.kind);
    std::string words = rows == 0 ? "none yet" : rows == 1 ? "one " + noun : std::to_string(rows) + " " + noun + "s";
    if (rows >= 1 && rows <= 4 && std::holds_alternative<std::string>(table.rows->front()[0])) {
        words.clear();
        const bool places = std::any_of(table.rows->begin(), table.rows->end(),
                                        [](const Row& row) { return textOf(row[0]).find(',') != std::string::npos; });
        for (const auto& row : *table.rows)
            words += (words.empty() ? "" : places ? "; " : ", ") + textOf(row[0]);
    }
    return words;
}

/// Of a file its name without its folder.
std::string shownText(const Field& field, const Value& value)
{
    std::string text = textOf(value);
    if (field.type != FieldType::file) return text;
    return text.substr(text.find_last_of('/') + 1);
}

} // namespace

bool Sentence::has(std::string_view key) const
{
    return values.find(key) != values.end();
}

const Value& Sentence::value(std::string_view key) const
{
    static const Value nothing;
    const auto found = values.find(key);
    return found == values.end() ? nothing : found->second;
}

double Sentence::number(std::string_view key) const
{
    return valueOr<Quantity>(*this, key).si;
}
long Sentence::count(std::string_view key) const
{
    return valueOr<long>(*this, key);
}
std::string Sentence::text(std::string_view key) const
{
    return valueOr<std::string>(*this, key);
}
Directions Sentence::directions(std::string_view key) const
{
    return valueOr<Directions>(*this, key);
}
Orders Sentence::orders(std::string_view key) const
{
    return valueOr<Orders>(*this, key);
}
std::array<double, 3> Sentence::vector(std::string_view key) const
{
    return valueOr<Vector>(*this, key).si;
}

const Table& Sentence::table(std::string_view key) const
{
    static const Table empty;
    const auto* said = std::get_if<Table>(&value(key));
    return said ? *said : empty;
}

Sentence Sentence::with(std::string_view key, Value newValue) const
{
    Sentence changed = *this;
    if (std::holds_alternative<std::monostate>(newValue))
        changed.values.erase(std::string(key));
    else
        changed.values.insert_or_assign(std::string(key), std::move(newValue));
    return changed;
}

Sentence Sentence::switched(bool nowOn) const
{
    Sentence changed = *this;
    changed.on = nowOn;
    return changed;
}

Sentence newSentence(const SentenceKind& kind, std::string id)
{
    Sentence sentence{std::move(id), &kind, true, {}};
    for (const auto& field : kind.fields)
        if (!field.optional) sentence.values.emplace(field.key, fallbackOf(kind, field.key));
    return sentence;
}

std::vector<ShownPiece> shownPieces(const Sentence& sentence)
{
    const auto pieces = piecesOf(*sentence.kind);
    std::map<int, bool> shown;
    for (const auto& piece : pieces)
        if (piece.part >= 0 && !piece.field.empty() && sentence.has(piece.field)) shown[piece.part] = true;
    std::vector<ShownPiece> result;
    for (const auto& piece : pieces) {
        if (piece.part >= 0 && !shown[piece.part]) continue;
        if (piece.field.empty()) {
            result.push_back({piece.words, {}});
        } else if (const auto* table = std::get_if<Table>(&sentence.value(piece.field))) {
            result.push_back({shownTable(sentence, *table), piece.field});
        } else if (sentence.has(piece.field)) {
            result.push_back({shownText(*sentence.kind->field(piece.field), sentence.value(piece.field)), piece.field});
        } else if (!sentence.kind->field(piece.field)->optional) {
            result.push_back({textOf(fallbackOf(*sentence.kind, piece.field)), piece.field});
        }
    }
    return result;
}

std::string wordsOf(const Sentence& sentence)
{
    std::string words;
    for (const auto& piece : shownPieces(sentence))
        words += piece.words;
    return words;
}

} // namespace undisona
