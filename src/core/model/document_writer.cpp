#include "core/model/document_io.hpp"

#include <cstdio>
#include <filesystem>
#include <fstream>

#include <nlohmann/json.hpp>

#include <fmt/format.h>

namespace undisona {

namespace {

std::string quoted(const std::string& text)
{
    return nlohmann::json(text).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

/// Cells at the end that say what they would say if they were not there are left out.
std::size_t cellsToWrite(const Field& field, const Row& row)
{
    std::size_t cells = row.size();
    while (cells > 0 && field.columns[cells - 1].optional &&
           textOf(row[cells - 1]) == field.columns[cells - 1].fallback)
        --cells;
    return cells;
}

void writeTable(std::string& out, const Field& field, const Table& table, const std::string& indent)
{
    out += "[";
    for (std::size_t row = 0; row < table.rows->size(); ++row) {
        out += (row ? ",\n" : "\n") + indent + "  [";
        const auto& cells = (*table.rows)[row];
        const std::size_t count = cellsToWrite(field, cells);
        for (std::size_t column = 0; column < count; ++column)
            out += (column ? ", " : "") + quoted(textOf(cells[column]));
        out += "]";
    }
    out += table.rows->empty() ? "]" : "\n" + indent + "]";
}

void writeSentence(std::string& out, const Sentence& sentence, const std::string& indent)
{
    out += indent + "{ \"id\": " + quoted(sentence.id) + ", \"kind\": " + quoted(sentence.kind->key);
    if (!sentence.on) out += ", \"on\": false";
    for (const auto& field : sentence.kind->fields) {
        if (!sentence.has(field.key)) continue;
        const Value& value = sentence.value(field.key);
        out += ",\n" + indent + "  " + quoted(field.key) + ": ";
        if (const auto* table = std::get_if<Table>(&value))
            writeTable(out, field, *table, indent + "  ");
        else if (const auto* count = std::get_if<long>(&value))
            out += std::to_string(*count);
        else
            out += quoted(textOf(value));
    }
    out += " }";
}

void writeModel(std::string& out, const Model& model, const std::string& indent)
{
    out += "{";
    for (std::size_t which = 0; which < groupCount; ++which) {
        const auto& sentences = model.group(static_cast<Group>(which));
        if (sentences.empty() && static_cast<Group>(which) == Group::loads) continue; // a file without is as it was
        out += (which ? ",\n" : "\n") + indent + "  " + quoted(std::string(groupKeys[which])) + ": [";
        for (std::size_t at = 0; at < sentences.size(); ++at) {
            out += at ? ",\n" : "\n";
            writeSentence(out, *sentences[at], indent + "    ");
        }
        out += sentences.empty() ? "]" : "\n" + indent + "  ]";
    }
    out += "\n" + indent + "}";
}

} // namespace

std::string writeDocument(const Document& document)
{
    std::string out =
        fmt::format("{{\n  \"format\": \"undisona\",\n  \"version\": {},\n  \"name\": {},\n  \"units\": {},\n"
                    "  \"model\": ",
                    formatVersion, quoted(document.name), quoted(document.units));
    writeModel(out, document.model, "  ");
    if (!document.from.empty()) out += ",\n  \"from\": " + quoted(document.from);
    out += ",\n  \"takes\": [";
    for (std::size_t at = 0; at < document.takes.size(); ++at) {
        const auto& take = document.takes[at];
        out +=
            fmt::format("{}    {{ \"id\": {}, \"name\": {}, ", at ? ",\n" : "\n", quoted(take.id), quoted(take.name));
        for (const auto& [key, said] :
             {std::pair("from", &take.from), std::pair("kept", &take.kept), std::pair("note", &take.note)})
            if (!said->empty()) out += fmt::format("\"{}\": {}, ", key, quoted(*said));
        out += "\"model\": ";
        writeModel(out, take.model, "    ");
        out += " }";
    }
    out += document.takes.empty() ? "]\n}\n" : "\n  ]\n}\n";
    return out;
}

namespace {

Document withPaths(Document document, const std::function<std::string(const std::string&)>& changed)
{
    document.model = document.model.withPaths(changed);
    for (auto& take : document.takes)
        take.model = take.model.withPaths(changed);
    return document;
}

} // namespace

Document withWholePaths(Document document, const std::string& folder)
{
    return withPaths(std::move(document), [&](const std::string& path) {
        return (std::filesystem::path(folder) / path).lexically_normal().string(); // a whole one stays as it is
    });
}

Document withPathsFrom(Document document, const std::string& folder)
{
    return withPaths(std::move(document), [&](const std::string& path) {
        const auto below = std::filesystem::path(path).lexically_relative(folder);
        return below.empty() || *below.begin() == ".." ? path : below.string();
    });
}

std::vector<std::string> filesOf(const Document& document)
{
    std::vector<std::string> files;
    withPaths(document, [&](const std::string& file) {
        if (std::find(files.begin(), files.end(), file) == files.end()) files.push_back(file);
        return file;
    });
    return files;
}

std::optional<Finding> writeDocumentFile(const Document& document, const std::string& path, WriteRules rules)
{
    for (auto& file : filesOf(document))
        rules.inputs.push_back(std::move(file));
    std::error_code error; // of a folder that is gone: writing says so
    const auto folder = std::filesystem::absolute(path, error).parent_path().lexically_normal();
    return writeWholeFile(path, writeDocument(withPathsFrom(document, folder.string())), rules);
}

} // namespace undisona
