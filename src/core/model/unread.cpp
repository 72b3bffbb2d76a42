#include "core/model/unread.hpp"

#include <algorithm>

#include <fmt/format.h>

namespace undisona {

namespace {

/// Whether the field's words are no mere text, so that a text in their place is one that could not be read.
bool isParsed(FieldType type)
{
    return type == FieldType::quantity || type == FieldType::count || type == FieldType::directions ||
           type == FieldType::translations || type == FieldType::orders || type == FieldType::vector ||
           type == FieldType::table;
}

bool isUnreadText(const Field& field, const std::string* text)
{
    if (!text) return false;
    if (isParsed(field.type)) return true;
    if (field.type == FieldType::choice)
        return std::find(field.choices.begin(), field.choices.end(), *text) == field.choices.end();
    return std::holds_alternative<QuantityProblem>(readValue(field, *text, NumberStyle::file));
}

bool hasUnread(const Field& field, const Value& value)
{
    const auto* table = std::get_if<Table>(&value);
    if (!table) return isUnread(field, value);
    return std::any_of(table->rows->begin(), table->rows->end(), [&](const Row& row) {
        for (std::size_t column = 0; column < row.size(); ++column)
            if (isUnread(field.columns[column], row[column])) return true;
        return false;
    });
}

bool hasUnread(const Sentence& sentence)
{
    for (const auto& [key, value] : sentence.values)
        if (const Field* field = sentence.kind->field(key); field && hasUnread(*field, value)) return true;
    return false;
}

Finding problemOf(const Sentence& sentence, const Field& field, const std::string& text)
{
    const auto read = readValue(field, text, NumberStyle::file);
    const auto* problem = std::get_if<QuantityProblem>(&read);
    Finding finding =
        errorAt(sentence.id, field.label + " cannot be read: " + (problem ? problem->what : "\"" + text + "\""));
    if (problem && !problem->suggestions.empty())
        finding.remedy = fmt::format("Write \"{}\".", problem->suggestions.front());
    return finding;
}

} // namespace

bool isUnread(const Field& field, const Value& value)
{
    return isUnreadText(field, std::get_if<std::string>(&value));
}

bool isUnread(const Field& column, const Cell& cell)
{
    return isUnreadText(column, std::get_if<std::string>(&cell));
}

Findings unreadWords(const Model& model)
{
    Findings findings;
    for (const auto& sentence : model.active())
        for (const auto& [key, value] : sentence->values) {
            const Field* field = sentence->kind->field(key);
            if (!field || !hasUnread(*field, value)) continue;
            const auto* table = std::get_if<Table>(&value);
            if (!table) findings.push_back(problemOf(*sentence, *field, textOf(value)));
            for (std::size_t row = 0; table && row < table->rows->size(); ++row)
                for (std::size_t column = 0; column < (*table->rows)[row].size(); ++column)
                    if (const Cell& cell = (*table->rows)[row][column]; isUnread(field->columns[column], cell)) {
                        findings.push_back(problemOf(*sentence, field->columns[column], textOf(cell)));
                        findings.back().place = fmt::format("row {}", row + 1);
                    }
        }
    return findings;
}

Model withoutUnread(const Model& model)
{
    Model clean = model;
    for (const auto& sentence : model.sentences()) {
        if (!hasUnread(*sentence)) continue;
        Sentence own = *sentence;
        for (const auto& [key, value] : sentence->values) {
            const Field* field = sentence->kind->field(key);
            if (!field || !hasUnread(*field, value)) continue;
            const auto* table = std::get_if<Table>(&value);
            if (!table) {
                own.values.erase(key);
                continue;
            }
            std::vector<Row> rows;
            for (const auto& row : *table->rows) {
                bool good = true;
                for (std::size_t column = 0; column < row.size(); ++column)
                    good = good && !isUnread(field->columns[column], row[column]);
                if (good) rows.push_back(row);
            }
            own.values.insert_or_assign(key, Table{std::make_shared<const std::vector<Row>>(std::move(rows))});
        }
        clean = clean.replaced(std::move(own));
    }
    return clean;
}

} // namespace undisona
