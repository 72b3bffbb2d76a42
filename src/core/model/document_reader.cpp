#include "core/model/document_io.hpp"

#include "core/base/number_text.hpp"
#include "core/model/former_sentences.hpp"
#include "core/model/json_tree.hpp"
#include "core/model/other_words.hpp"
#include "core/units/display.hpp"

#include <filesystem>
#include <fstream>
#include <sstream>

#include <fmt/format.h>

namespace undisona {

namespace {

class Reader {
public:
    Reader(const std::string& file, WrongWords wrong) : file_(file), keepsWrong_(wrong == WrongWords::kept) {}

    Result<Document> read(const JsonNode& root)
    {
        Document document;
        if (root.kind != JsonNode::Kind::object) {
            complain(root.line, "", "a model file holds one object, { ... }");
            return findings_;
        }
        if (!knownFormat(root)) return findings_;
        checkKeys(root, {"format", "version", "name", "units", "model", "from", "takes"}, "the document");
        takeText(root, "name", document.name);
        takeText(root, "units", document.units);
        const auto& sets = DisplayUnits::names();
        if (std::find(sets.begin(), sets.end(), document.units) == sets.end()) {
            std::string all;
            for (const auto& set : sets)
                all += (all.empty() ? "\"" : ", \"") + set + "\"";
            complain(root.member("units")->line, "units", fmt::format("\"{}\" is not a set of units", document.units),
                     "Write one of " + all + ".");
        }
        if (const auto* model = root.member("model"))
            document.model = readModel(*model);
        else
            complain(root.line, "model", "the key \"model\" is missing", "Write \"model\": { ... }.");
        if (const auto* takes = root.member("takes")) readTakes(*takes, document);
        takeText(root, "from", document.from);
        mustBeBefore(root, document.from, document.takes);
        if (hasError(findings_)) return findings_;
        return document;
    }

private:
    bool knownFormat(const JsonNode& root)
    {
        const auto* format = root.member("format");
        if (!format || format->text != "undisona") {
            complain(format ? format->line : root.line, "format", "this is not a model file of this program",
                     "A model file begins with \"format\": \"undisona\".");
            return false;
        }
        const auto* version = root.member("version");
        if (!version || version->kind != JsonNode::Kind::number || version->number < 1 ||
            version->number != std::floor(version->number)) {
            complain(version ? version->line : root.line, "version",
                     "the format version is missing or not a whole number",
                     fmt::format("Write \"version\": {}.", formatVersion));
            return false;
        }
        if (version->number > formatVersion) {
            complain(version->line, "version",
                     fmt::format("the file is of format version {}, newer than the {} that this program reads",
                                 version->text, formatVersion),
                     "Open it with a newer program. Nothing has been changed.");
            return false;
        }
        version_ = static_cast<int>(version->number);
        return true;
    }

    Model readModel(const JsonNode& node)
    {
        std::vector<Sentence> sentences;
        ids_.clear();
        if (node.kind != JsonNode::Kind::object) {
            complain(node.line, "model", "\"model\" must be an object of groups, but is " + node.kindWords());
            return {};
        }
        const std::optional<FormerSentences> former =
            version_ == 1 ? std::optional<FormerSentences>(node) : std::nullopt;
        for (const auto& [key, list] : node.members) {
            const auto known = std::find(groupKeys.begin(), groupKeys.end(), key);
            if (known == groupKeys.end()) {
                complain(list.line, key, fmt::format("there is no group \"{}\"", key),
                         "The groups are shape, material, joints, supports, added-mass, excitation and ask.");
                continue;
            }
            if (list.kind != JsonNode::Kind::list) {
                complain(list.line, key, "a group is a list of sentences, but this is " + list.kindWords());
                continue;
            }
            for (const auto& item : list.items) {
                const auto now = former ? former->now(item) : std::nullopt;
                if (auto sentence = readSentence(now ? *now : item, static_cast<Group>(known - groupKeys.begin())))
                    sentences.push_back(std::move(*sentence));
            }
        }
        return Model(std::move(sentences));
    }

    std::optional<Sentence> readSentence(const JsonNode& node, Group group)
    {
        if (node.kind != JsonNode::Kind::object) {
            complain(node.line, "", "a sentence must be an object, but is " + node.kindWords());
            return std::nullopt;
        }
        const auto* kindNode = node.member("kind");
        if (!kindNode || kindNode->kind != JsonNode::Kind::text) {
            complain(node.line, "kind", "the sentence does not say its kind", "Write \"kind\": \"...\".");
            return std::nullopt;
        }
        const auto* kind = kindNamed(kindNode->text);
        if (!kind) {
            complain(kindNode->line, "kind", fmt::format("there is no kind of sentence \"{}\"", kindNode->text),
                     adviceOn(kindNode->text, group));
            return std::nullopt;
        }
        if (kind->group != group) {
            complain(kindNode->line, "kind",
                     fmt::format("\"{}\" belongs to the group \"{}\"", kind->key,
                                 groupKeys[static_cast<std::size_t>(kind->group)]));
            return std::nullopt;
        }
        Sentence sentence{{}, kind, true, {}};
        const auto* id = node.member("id");
        if (!id || id->kind != JsonNode::Kind::text || id->text.empty()) {
            complain(id ? id->line : node.line, "id", "every sentence needs an id of its own",
                     "Write \"id\": \"...\".");
            return std::nullopt;
        }
        if (!ids_.emplace(id->text, id->line).second)
            complain(id->line, "id",
                     fmt::format("the id \"{}\" is already that of the sentence on line {}", id->text, ids_[id->text]),
                     "Give one of the two another id.");
        sentence.id = id->text;
        if (const auto* on = node.member("on")) {
            if (on->kind != JsonNode::Kind::boolean) complain(on->line, "on", "\"on\" must be true or false");
            sentence.on = on->boolean;
        }
        for (const auto& [key, value] : node.members) {
            if (key == "id" || key == "kind" || key == "on") continue;
            const auto* field = kind->field(key);
            if (!field) {
                complain(value.line, key, fmt::format("a sentence of kind \"{}\" has no \"{}\"", kind->key, key),
                         fieldsOf(*kind));
                continue;
            }
            if (auto read = readField(*field, value)) sentence.values.insert_or_assign(key, std::move(*read));
        }
        for (const auto& field : kind->fields)
            if (!field.optional && !node.member(field.key))
                complain(node.line, field.key,
                         fmt::format("{} is missing in the sentence \"{}\"", field.label, sentence.id),
                         fmt::format("Write \"{}\": {}.", field.key, exampleOf(field)));
        return sentence;
    }

    std::optional<Value> readField(const Field& field, const JsonNode& node)
    {
        if (field.type == FieldType::table) return readTable(field, node);
        const bool wholeNumber = field.type == FieldType::count && node.kind == JsonNode::Kind::number;
        if (keepsWrong_ && node.kind == JsonNode::Kind::number && !wholeNumber) return Value{node.text};
        if (node.kind != JsonNode::Kind::text && !wholeNumber) {
            complain(node.line, field.key, fmt::format("{} must be a text, but is {}", field.label, node.kindWords()),
                     fmt::format("Write it in quotes and with its unit, such as {}.", exampleOf(field)));
            return std::nullopt;
        }
        auto read = readValue(field, node.text, NumberStyle::file);
        if (const auto* problem = std::get_if<QuantityProblem>(&read)) {
            if (keepsWrong_) return Value{node.text};
            complain(node.line, field.key, problem->what, suggestion(*problem));
            return std::nullopt;
        }
        return std::get<Value>(std::move(read));
    }

    std::optional<Value> readTable(const Field& field, const JsonNode& node)
    {
        if (node.kind != JsonNode::Kind::list) {
            complain(node.line, field.key, fmt::format("{} must be a list of rows", field.label));
            return std::nullopt;
        }
        std::vector<Row> rows;
        for (const auto& rowNode : node.items) {
            const std::size_t most = field.columns.size(), least = cellsNeeded(field);
            if (rowNode.kind != JsonNode::Kind::list || rowNode.items.size() > most || rowNode.items.size() < least) {
                complain(rowNode.line, field.key,
                         least == most ? fmt::format("a row here has {} cells", most)
                                       : fmt::format("a row here has {} to {} cells", least, most));
                continue;
            }
            Row row;
            for (std::size_t column = 0; column < most; ++column) {
                if (column >= rowNode.items.size()) {
                    row.push_back(usualCell(field.columns[column]));
                    continue;
                }
                const auto& cellNode = rowNode.items[column];
                if (cellNode.kind != JsonNode::Kind::text) {
                    complain(cellNode.line, field.key,
                             fmt::format("{} must be a text with its unit", field.columns[column].label));
                    continue;
                }
                auto read = readValue(field.columns[column], cellNode.text, NumberStyle::file);
                if (const auto* problem = std::get_if<QuantityProblem>(&read)) {
                    if (keepsWrong_) {
                        row.emplace_back(cellNode.text);
                        continue;
                    }
                    complain(cellNode.line, field.key, problem->what, suggestion(*problem));
                    continue;
                }
                const auto& value = std::get<Value>(read);
                if (const auto* quantity = std::get_if<Quantity>(&value))
                    row.emplace_back(*quantity);
                else
                    row.emplace_back(std::get<std::string>(value));
            }
            if (row.size() == field.columns.size()) rows.push_back(std::move(row));
        }
        return Table{std::make_shared<const std::vector<Row>>(std::move(rows))};
    }

    void readTakes(const JsonNode& node, Document& document)
    {
        if (node.kind != JsonNode::Kind::list) {
            complain(node.line, "takes", "\"takes\" must be a list");
            return;
        }
        std::set<std::string> takeIds;
        for (const auto& item : node.items) {
            if (item.kind != JsonNode::Kind::object) {
                complain(item.line, "takes", "a take must be an object with id, name and model");
                continue;
            }
            checkKeys(item, {"id", "name", "from", "kept", "note", "model"}, "a take");
            Take take;
            takeText(item, "id", take.id);
            takeText(item, "name", take.name);
            takeText(item, "from", take.from);
            takeText(item, "kept", take.kept);
            takeText(item, "note", take.note);
            mustBeBefore(item, take.from, document.takes);
            if (take.id.empty()) complain(item.line, "id", "every take needs an id of its own");
            if (!takeIds.insert(take.id).second)
                complain(item.line, "id", fmt::format("two takes have the id \"{}\"", take.id));
            if (const auto* model = item.member("model")) take.model = readModel(*model);
            document.takes.push_back(std::move(take));
        }
    }

    /// What something was made from is one of the takes that stand before it.
    void mustBeBefore(const JsonNode& object, const std::string& from, const std::vector<Take>& takes)
    {
        if (from.empty() || std::any_of(takes.begin(), takes.end(), [&](const Take& take) { return take.id == from; }))
            return;
        complain(object.member("from")->line, "from", fmt::format("no take before this has the id \"{}\"", from),
                 "Name one that stands before it in the list, or leave \"from\" out.");
    }

    void takeText(const JsonNode& object, std::string_view key, std::string& into)
    {
        const auto* node = object.member(key);
        if (!node) return;
        if (node->kind != JsonNode::Kind::text)
            complain(node->line, std::string(key),
                     fmt::format("\"{}\" must be a text, but is {}", key, node->kindWords()));
        into = node->text;
    }

    void checkKeys(const JsonNode& object, std::initializer_list<std::string_view> known, std::string_view where)
    {
        for (const auto& [key, node] : object.members)
            if (std::find(known.begin(), known.end(), key) == known.end())
                complain(node.line, key, fmt::format("{} has no \"{}\"", where, key),
                         "Remove it, or mend its spelling.");
    }

    static std::string suggestion(const QuantityProblem& problem)
    {
        return problem.suggestions.empty() ? "" : fmt::format("Write \"{}\".", problem.suggestions.front());
    }

    static std::string exampleOf(const Field& field)
    {
        if (field.type == FieldType::count) return field.fallback;
        if (field.type == FieldType::table) return "[ ... ]";
        return "\"" + field.fallback + "\"";
    }

    static std::string adviceOn(const std::string& kind, Group group)
    {
        if (const std::string forces = aboutForces(kind); !forces.empty()) return forces;
        std::vector<std::string> near = kindsSpeltLike(kind);
        for (const auto& meant : kindsMeantBy(kind))
            if (std::find(near.begin(), near.end(), meant) == near.end()) near.push_back(meant);
        if (near.empty()) return kindsOf(group);
        std::string all;
        for (std::size_t at = 0; at < near.size() && at < 3; ++at)
            all += (at == 0 ? "Did you mean \"" : "\" or \"") + near[at];
        return all + "\"?";
    }

    static std::string kindsOf(Group group)
    {
        std::string all;
        for (const auto& kind : sentenceKinds())
            if (kind.group == group) all += (all.empty() ? "Kinds in this group: " : ", ") + kind.key;
        return all + ".";
    }

    static std::string fieldsOf(const SentenceKind& kind)
    {
        std::string all;
        for (const auto& field : kind.fields)
            all += (all.empty() ? "It has: " : ", ") + field.key;
        return all + ".";
    }

    void complain(int line, const std::string& key, std::string what, std::string remedy = {})
    {
        std::string place = fmt::format("{}, line {}", file_, line);
        if (!key.empty()) place += fmt::format(", key \"{}\"", key);
        findings_.push_back({Severity::error, std::move(what), std::move(remedy), {}, std::move(place)});
    }

    const std::string& file_;
    const bool keepsWrong_;
    Findings findings_;
    int version_ = formatVersion;
    std::map<std::string, int> ids_;
};

} // namespace

Result<Document> readDocument(std::string_view text, const std::string& file, WrongWords wrong)
{
    auto tree = readJson(text, file);
    if (!tree) return tree.findings();
    return Reader(file, wrong).read(*tree);
}

Result<Document> readDocumentFile(const std::string& path, WrongWords wrong)
{
    constexpr std::streamoff largest = 200'000'000;
    const auto refuse = [&](std::string what, std::string remedy) {
        return Finding{Severity::error, std::move(what), std::move(remedy), {}, path};
    };
    std::error_code unknown;
    const auto kind = std::filesystem::status(path, unknown).type();
    if (kind == std::filesystem::file_type::directory) return refuse("this is a folder", "Name a model file.");
    if (std::filesystem::exists(std::filesystem::file_status(kind)) && kind != std::filesystem::file_type::regular)
        return refuse("this is a pipe or a device, and no file", "Name a model file."); // it might never end
    std::ifstream stream(path, std::ios::binary | std::ios::ate);
    if (!stream) return refuse("the file cannot be opened", "Check that it exists and may be read.");
    const auto size = stream.tellg();
    if (size < 0) return refuse("this is not a file that can be read", "Name a model file.");
    if (size > largest) return refuse("the file is larger than 200 MB, which no model of this program is", "");
    std::string text(static_cast<std::size_t>(size), '\0');
    stream.seekg(0);
    if (!stream.read(text.data(), size))
        return refuse("the file cannot be read to its end", "Check the disk that it lies on.");
    auto document = readDocument(text, path, wrong);
    if (!document) return document;
    std::error_code error; // where the folder is gone, paths stay as they are written
    return withWholePaths(std::move(*document), std::filesystem::absolute(path, error).parent_path().string());
}

} // namespace undisona
