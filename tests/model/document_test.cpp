#include "core/base/number_text.hpp"
#include "core/statement/structure.hpp"
#include "core/model/document_io.hpp"
#include "core/system/rigid_mass.hpp"
#include "core/model/takes.hpp"

#include <gmock/gmock.h>
#include <nlohmann/json.hpp>

#include <filesystem>
#include <fstream>
#include <random>
#include <sstream>

using namespace undisona;
using testing::HasSubstr;

namespace {

std::string fileText(const std::string& path)
{
    std::ifstream stream(path, std::ios::binary);
    std::stringstream text;
    text << stream.rdbuf();
    return text.str();
}

std::string around(const std::string& sentences, const std::string& group = "added-mass")
{
    return "{\n\"format\": \"undisona\",\n\"version\": 1,\n\"model\": {\n\"" + group + "\": [\n" + sentences +
           "\n]\n}\n}\n";
}

std::string firstProblem(const std::string& text)
{
    const auto read = readDocument(text, "mast.json");
    EXPECT_FALSE(read) << text;
    return read ? std::string() : oneLine(read.findings().front());
}

/// A document with every kind of sentence, its values drawn at random from readable texts.
Document randomDocument(unsigned seed)
{
    std::mt19937 random(seed);
    Document document;
    document.name = "made \"up\" " + std::to_string(seed) + " äß\n\t\\";
    for (const auto& kind : sentenceKinds()) {
        if (random() % 3 == 0) continue;
        Sentence sentence = newSentence(kind, document.model.freeId());
        sentence.on = random() % 4 != 0;
        for (const auto& field : kind.fields) {
            if (field.type == FieldType::table) {
                std::vector<Row> rows;
                for (unsigned row = random() % 5; row > 0; --row) {
                    Row cells;
                    for (const auto& column : field.columns) {
                        const auto value = std::get<Value>(readValue(
                            column,
                            column.type == FieldType::quantity
                                ? shortest(column.most ? double(random() % 100) * *column.most
                                                       : (random() % 20000) / 7.0 - (column.least      ? *column.least
                                                                                     : column.positive ? -0.001
                                                                                                       : 900.0)) +
                                      " " + siUnitOf(column.kind)
                                : "n" + std::to_string(random()),
                            NumberStyle::file));
                        if (const auto* quantity = std::get_if<Quantity>(&value))
                            cells.emplace_back(*quantity);
                        else
                            cells.emplace_back(std::get<std::string>(value));
                    }
                    rows.push_back(cells);
                }
                sentence = sentence.with(field.key, Table{std::make_shared<const std::vector<Row>>(rows)});
            } else if (!field.optional || random() % 2) {
                sentence = sentence.with(
                    field.key,
                    std::get<Value>(readValue(
                        field, field.choices.empty() ? field.fallback : field.choices[random() % field.choices.size()],
                        NumberStyle::file)));
            }
        }
        document.model = document.model.inserted(sentence);
    }
    for (unsigned take = random() % 3; take > 0; --take)
        keepTake(document, "take " + std::to_string(take), document.model,
                 document.takes.empty() ? "" : document.takes[random() % document.takes.size()].id);
    return document;
}

} // namespace

TEST(Document, WhatIsWrittenReadsBackTheSameToTheByte)
{
    for (unsigned seed = 1; seed <= 60; ++seed) {
        const Document made = randomDocument(seed);
        const std::string text = writeDocument(made);
        const auto read = readDocument(text, "made.json");
        ASSERT_TRUE(read) << oneLine(read.findings().front()) << text;
        EXPECT_EQ(*read, made) << text;
        EXPECT_EQ(writeDocument(*read), text);
    }
}

TEST(Document, ExamplesAndHandWrittenFilesKeepIdsOrderAndNumbersAsTyped)
{
    for (const auto& entry : std::filesystem::directory_iterator(EXAMPLES)) {
        if (entry.path().extension() != ".json") continue;
        const auto read = readDocumentFile(entry.path().string());
        ASSERT_TRUE(read) << entry.path() << oneLine(read.findings().front());
        EXPECT_EQ(writeDocument(withPathsFrom(*read, std::filesystem::canonical(EXAMPLES).string())),
                  fileText(entry.path().string()))
            << entry.path();
    }
    const auto read = readDocument(
        around(
            "{\"kind\": \"mass\", \"points\": \"a\", \"id\": \"my id\", \"sharing\": \"on\", \"mass\": \"85.50 kg\"}"),
        "x");
    ASSERT_TRUE(read) << oneLine(read.findings().front());
    const auto& sentence = read->model.group(Group::addedMass)[0];
    EXPECT_EQ(sentence->id, "my id");
    EXPECT_EQ(textOf(sentence->value("mass")), "85.50 kg");
    EXPECT_NE(writeDocument(*read).find("\"85.50 kg\""), std::string::npos);
}

TEST(Document, ErrorsNameFileLineAndKey)
{
    const std::string mass =
        "{\"id\": \"s1\", \"kind\": \"mass\", \"sharing\": \"on\", \"points\": \"a\",\n\"mass\": \"MASS\"}";
    const auto with = [&](const std::string& text) {
        std::string changed = mass;
        return around(changed.replace(changed.find("MASS"), 4, text));
    };
    EXPECT_THAT(firstProblem(with("18 kN")), testing::AllOf(HasSubstr("mast.json, line 7, key \"mass\""),
                                                            HasSubstr("a mass is needed here"), HasSubstr("1835")));
    EXPECT_THAT(firstProblem(with("1,250 kg")), HasSubstr("comma"));
    EXPECT_THAT(firstProblem(around("{\"id\": \"s1\", \"kind\": \"weight\", \"load\": \"-3 kN\", \"where\": \"a\"}")),
                HasSubstr("at least 0"));
    EXPECT_THAT(firstProblem(with("1e999 kg")), HasSubstr("line 7"));
    EXPECT_THAT(firstProblem(around("{\"id\": \"s1\", \"kind\": \"mass\"}")), HasSubstr("the mass is missing"));
    EXPECT_THAT(firstProblem(around("{\"id\": \"s1\", \"kind\": \"qqqq\"}")),
                testing::AllOf(HasSubstr("no kind of sentence \"qqqq\""), HasSubstr("mass-spread")));
    EXPECT_THAT(firstProblem(around("{\"id\": \"s1\", \"kind\": \"hold\", \"points\": \"a\", \"directions\": \"x\"}")),
                HasSubstr("belongs to the group \"supports\""));
    EXPECT_THAT(firstProblem(around("{\"id\": \"s1\", \"kind\": \"mass\", \"sharing\": \"on\", \"mass\": \"1 kg\", "
                                    "\"points\": \"a\", \"colour\": \"red\"}")),
                HasSubstr("key \"colour\""));
    EXPECT_THAT(
        firstProblem(
            around("{\"id\": \"s1\", \"kind\": \"mass\", \"sharing\": \"on\", \"mass\": \"1 kg\", \"points\": \"a\"},\n"
                   "{\"id\": \"s1\", \"kind\": \"mass\", \"sharing\": \"on\", \"mass\": \"1 kg\", \"points\": \"a\"}")),
        testing::AllOf(HasSubstr("line 7"), HasSubstr("already that of the sentence on line 6")));
    EXPECT_THAT(firstProblem("{\"format\": \"undisona\", \"version\": 1,\n\"version\": 1, \"model\": {}}"),
                testing::AllOf(HasSubstr("line 2"), HasSubstr("twice")));
    EXPECT_THAT(firstProblem("{\"format\": \"undisona\", \"version\": 99, \"model\": {}}"), HasSubstr("newer than"));
    EXPECT_THAT(firstProblem("{\"format\": \"other\"}"), HasSubstr("not a model file"));
    EXPECT_THAT(firstProblem("[1, 2]"), HasSubstr("one object"));
    EXPECT_THAT(firstProblem("{\"format\": \"undisona\", \"version\": 1, \"units\": \"stone\", \"model\": {}}"),
                HasSubstr("not a set of units"));
}

TEST(Document, AWordThatCannotBeReadIsKeptSoThatItsSentenceCanBeMended)
{
    const std::string text =
        "{\n\"format\": \"undisona\", \"version\": 1, \"model\": {\"shape\": ["
        "{\"id\": \"p\", \"kind\": \"points\", \"rows\": [[\"a\", \"0 m\", \"0 m\", \"0 m\"], "
        "[\"b\", \"2 mtr\", \"0 m\", \"0 m\"]]}], \"added-mass\": ["
        "{\"id\": \"m\", \"kind\": \"mass\", \"mass\": \"85 kgg\", \"sharing\": \"onto\", \"points\": \"a\"}]}}";
    EXPECT_FALSE(readDocument(text, "mast.json")) << "refused with its line where nobody can mend it";
    const auto kept = readDocument(text, "mast.json", WrongWords::kept);
    ASSERT_TRUE(kept) << oneLine(kept.findings().front());
    const Findings found = buildStructure(kept->model).findings;
    std::string all;
    for (const auto& finding : found)
        all += oneLine(finding) + "\n";
    EXPECT_THAT(all, HasSubstr("\"kgg\" is not a unit known here (sentence m)"));
    EXPECT_THAT(all, HasSubstr("row 2: "));
    EXPECT_THAT(all, HasSubstr("\"onto\" is not (sentence m)"));
    // Nothing of it is lost when it is written, and it is well once it is mended.
    const auto again = readDocument(writeDocument(*kept), "mast.json", WrongWords::kept);
    ASSERT_TRUE(again);
    EXPECT_EQ(*again, *kept);
    const Sentence mass = kept->model.sentence("m")
                              ->with("mass", quantityIn(85, QuantityKind::mass, "kg"))
                              .with("sharing", std::string("on"));
    for (const auto& finding : buildStructure(kept->model.replaced(mass)).findings)
        EXPECT_NE(finding.sentence, "m") << oneLine(finding);
}

TEST(Document, AKindThatIsNotKnownNamesTheOneThatIsMeant)
{
    const auto said = [](const char* kind) {
        return firstProblem(around("{\"id\": \"m\", \"kind\": \"" + std::string(kind) + "\"}"));
    };
    EXPECT_THAT(said("mas"), HasSubstr("Did you mean \"mass\""));
    EXPECT_THAT(said("lumped-mass"), HasSubstr("\"mass\""));
    EXPECT_THAT(said("boundary-condition"), HasSubstr("Did you mean \"hold\"?"));
    EXPECT_THAT(said("nodal-force"), HasSubstr("add a mass"));
    EXPECT_THAT(said("qqqq"), HasSubstr("Kinds in this group: mass"));
}

TEST(Document, AFileCutAnywhereIsRefusedWithAMessageAndNeverCrashes)
{
    const std::string whole = fileText(std::string(EXAMPLES) + "/radar-mast.undisona.json");
    ASSERT_GT(whole.size(), 1000u);
    for (std::size_t cut = 0; cut + 3 < whole.size(); cut += 37) {
        const auto read = readDocument(whole.substr(0, cut), "cut.json");
        ASSERT_FALSE(read) << cut;
        EXPECT_FALSE(read.findings().front().what.empty());
    }
    std::mt19937 random(3);
    for (int round = 0; round < 400; ++round) { // bytes changed at random: read or refused
        std::string spoilt = whole;
        for (int change = 0; change < 3; ++change)
            spoilt[random() % spoilt.size()] = static_cast<char>(random() % 256);
        const auto read = readDocument(spoilt, "spoilt.json");
        if (read)
            buildStructure(read->model);
        else
            EXPECT_FALSE(read.findings().empty());
    }
    EXPECT_THAT(firstProblem(std::string(100000, '[')), HasSubstr("nested too deeply"));
}

TEST(Document, SavesBesideAndThenInPlace)
{
    const auto folder = std::filesystem::temp_directory_path() / "undisona-save-test";
    std::filesystem::create_directories(folder);
    const std::string path = (folder / "a b\"ü.json").string();
    Document document;
    document.name = "kept";
    ASSERT_FALSE(writeDocumentFile(document, path));
    EXPECT_EQ(*readDocumentFile(path), document);
    EXPECT_TRUE(writeDocumentFile(document, "/nowhere/at/all.json"));
    EXPECT_FALSE(readDocumentFile(folder.string()));
    EXPECT_FALSE(readDocumentFile("/nowhere/at/all.json"));
    std::filesystem::remove_all(folder);
}

TEST(Document, AHundredThousandSentencesAreReadAndLookedThrough)
{
    constexpr int count = 100000; // one after the other each, not each after all the others
    std::string masses;
    for (int at = 0; at < count; ++at)
        masses += std::string(at == 0 ? "" : ",\n") + R"({"id": "q)" + std::to_string(at) +
                  R"(", "kind": "mass", "mass": "2 kg", "sharing": "on each of", "points": "a"})";
    const auto read = readDocument(R"({"format": "undisona", "version": 1, "model": {
        "shape": [{"id": "p", "kind": "point", "name": "a", "at": "0, 0, 0 m"}],
        "added-mass": [)" + masses + "]}}",
                                   "many");
    ASSERT_TRUE(read) << oneLine(read.findings()[0]);
    EXPECT_EQ(read->model.group(Group::addedMass).size(), std::size_t(count));
    EXPECT_EQ(*readDocument(writeDocument(*read), "again"), *read);
    const auto built = buildStructure(read->model);
    EXPECT_TRUE(built.findings.empty());
    EXPECT_DOUBLE_EQ(massSummary(built.structure).mass, 2.0 * count);
    EXPECT_NE(solveKey(read->model), solveKey(read->model.removed("q99999")));
}

TEST(Document, ALimitIsSaidInTheUnitThatWasTyped)
{
    EXPECT_THAT(firstProblem(around(R"({"id": "l", "kind": "mass-share", "share": "120 %"})", "ask")),
                HasSubstr("must be at most 100 %; 120 % is more"));
    const auto* turned = kindNamed("revolution")->field("angle");
    const auto angle = readValue(*turned, "400 deg", NumberStyle::file);
    EXPECT_THAT(std::get<QuantityProblem>(angle).what, HasSubstr("must be at most 360 deg; 400 deg is more"));
}

TEST(Schema, KnowsEveryKindAndItsFields)
{
    const auto schema = nlohmann::json::parse(documentSchema());
    EXPECT_EQ(schema["$schema"], "https://json-schema.org/draft/2020-12/schema");
    for (const auto& kind : sentenceKinds()) {
        const auto& own = schema["$defs"][kind.key];
        ASSERT_TRUE(own.is_object()) << kind.key;
        EXPECT_EQ(own["additionalProperties"], false);
        for (const auto& field : kind.fields)
            EXPECT_TRUE(own["properties"].contains(field.key)) << kind.key << "." << field.key;
    }
    EXPECT_EQ(fileText(std::string(EXAMPLES) + "/../docs/model.schema.json"), documentSchema())
        << "print it anew: undisona-cli schema > docs/model.schema.json";
}
