#include "core/model/stated.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

Result<Value> valueOf(const Field& field, const std::string& text, const std::string& sentence)
{
    auto read = readValue(field, text, NumberStyle::file);
    if (const auto* problem = std::get_if<QuantityProblem>(&read)) return errorAt(sentence, problem->what);
    return std::get<Value>(std::move(read));
}

/// The row of a table with some cells said anew.
Result<Table> withRow(const Field& field, const Table& table, const Statement& statement)
{
    auto rows = *table.rows;
    const auto row = std::find_if(rows.begin(), rows.end(), [&](const Row& one) {
        return !one.empty() && textOf(one.front()) == statement.row;
    });
    if (row == rows.end())
        return errorAt(statement.sentence, fmt::format("there is no row \"{}\" in it any more", statement.row));
    for (const auto& [key, text] : statement.words) {
        const auto column = std::find_if(field.columns.begin(), field.columns.end(),
                                         [&, &key = key](const Field& one) { return one.key == key; });
        if (column == field.columns.end()) return errorAt(statement.sentence, fmt::format("it has no column {}", key));
        const auto value = valueOf(*column, text, statement.sentence);
        if (!value) return value.findings();
        const auto at = static_cast<std::size_t>(column - field.columns.begin());
        while (row->size() <= at)
            row->push_back(usualCell(field.columns[row->size()]));
        if (const auto* quantity = std::get_if<Quantity>(&*value))
            (*row)[at] = *quantity;
        else
            (*row)[at] = text;
    }
    return Table{std::make_shared<const std::vector<Row>>(std::move(rows))};
}

Result<Sentence> said(Sentence sentence, const Statement& statement)
{
    if (!statement.row.empty()) {
        for (const auto& field : sentence.kind->fields) {
            if (field.type != FieldType::table) continue;
            auto table = withRow(field, sentence.table(field.key), statement);
            if (!table) return table.findings();
            return sentence.with(field.key, *table);
        }
        return errorAt(sentence.id, "it has no table");
    }
    for (const auto& [key, text] : statement.words) {
        const Field* field = sentence.kind->field(key);
        if (!field) return errorAt(sentence.id, fmt::format("\"{}\" has no word {}", sentence.kind->title, key));
        const auto value = valueOf(*field, text, sentence.id);
        if (!value) return value.findings();
        sentence = sentence.with(key, *value);
    }
    return sentence;
}

} // namespace

Result<Model> stated(Model model, const std::vector<Statement>& statements)
{
    for (const auto& statement : statements) {
        const bool isNew = statement.sentence.empty();
        const SentenceKind* kind = kindNamed(statement.kind);
        const SentencePtr own = model.sentence(statement.sentence);
        if (isNew ? !kind : !own) return errorAt(statement.sentence, "the sentence that this changes is gone");
        auto changed = said(isNew ? newSentence(*kind, model.freeId()) : *own, statement);
        if (!changed) return changed.findings();
        model = isNew ? model.inserted(std::move(*changed)) : model.replaced(std::move(*changed));
    }
    return model;
}

} // namespace undisona
