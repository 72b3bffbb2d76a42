// Files of format version 1: each kind of sentence that is said another way now means what it meant.
#include "core/model/document_io.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

#include <filesystem>

#include <fmt/format.h>

using namespace undisona;

namespace {

/// A mast of members, a deck, a block, and copies of members and deck together.
constexpr const char* shapes = R"(
    { "id": "p1", "kind": "points", "rows": [["a", "0 m", "0 m", "0 m"], ["b", "0 m", "0 m", "3 m"]] },
    { "id": "p2", "kind": "members", "name": "Mast", "rows": [["m", "a", "b"]], "section": "rectangle 100x50 mm" },
    { "id": "p3", "kind": "plate", "name": "Deck", "length": "2 m", "width": "1 m", "thickness": "10 mm",
      "at": "0, 2, 0 m", "along": "1, 0, 0", "towards": "0, 1, 0" },
    { "id": "p4", "kind": "solid-box", "name": "Block", "x": "1 m", "y": "1 m", "z": "0.5 m", "at": "0, 5, 0 m" },
    { "id": "p5", "kind": "copies", "name": "Twins", "count": 1, "what": "Mast, Deck", "step": "9, 0, 0 m" },
    { "id": "p6", "kind": "frame", "name": "House", "bays-x": 1, "bay-x": "4 m", "bays-y": 0, "bay-y": "4 m",
      "storeys": 1, "storey": "3 m", "columns": "rectangle 100x50 mm", "beams": "rectangle 100x50 mm",
      "at": "30, 0, 0 m" })";

struct Read {
    Document document;
    Structure structure;
    Findings findings;
};

Read read(const std::string& group, const std::string& sentence)
{
    const std::string text = fmt::format(R"({{ "format": "undisona", "version": 1, "model": {{ "shape": [{}],
        "material": [{{ "id": "steel", "kind": "material", "what": "everything", "material": "structural steel" }}],
        "{}": [{{ "id": "it", {} }}] }} }})",
                                         shapes, group, sentence);
    auto document = readDocument(text, "former.json");
    EXPECT_TRUE(document) << sentence << "\n" << (document ? "" : oneLine(document.findings().front()));
    if (!document) return {};
    auto [structure, findings] = buildStructure(document->model);
    return {std::move(*document), std::move(structure), std::move(findings)};
}

/// "sheet 0: 12", "edge 3: 1.5", ... in order: kg or N/m per m, m2 or m3.
std::vector<std::string> attached(const Read& read)
{
    std::vector<std::string> list;
    for (const auto& own : read.structure.attachments)
        list.push_back(fmt::format("{} {}: {:.6g}", nounOf(own.over), own.at, own.perExtent()));
    return list;
}

std::string wordsOfIt(const Read& read)
{
    return wordsOf(*read.document.model.sentence("it"));
}

} // namespace

TEST(FormerSentences, SpreadWhatTheySpread)
{
    using testing::ElementsAre;
    using testing::SizeIs;
    const auto mass = [](const std::string& sentence) { return read("added-mass", sentence); };
    EXPECT_THAT(attached(mass(R"("kind": "mass-along", "mass": "3 kg/m", "members": "everything")")),
                ElementsAre("member 0: 3", "member 1: 3", "member 2: 3", "member 3: 3", "member 4: 3"));
    EXPECT_THAT(attached(mass(R"("kind": "mass-shared", "mass": "12 kg", "members": "Twins")")),
                ElementsAre("member 1: 4"))
        << "of members alone, whatever else the copies are";
    EXPECT_THAT(attached(mass(R"("kind": "mass-shared", "mass": "32 kg", "members": "everything")")), SizeIs(5));
    EXPECT_THAT(attached(mass(R"("kind": "mass-over", "mass": "12 kg/m2", "sheets": "everything")")),
                ElementsAre("sheet 0: 12", "sheet 1: 12"));
    EXPECT_THAT(attached(mass(R"("kind": "mass-spread", "mass": "20 kg", "sheets": "everything")")),
                ElementsAre("sheet 0: 5", "sheet 1: 5"));
    EXPECT_THAT(attached(mass(R"("kind": "mass-spread", "mass": "20 kg", "sheets": "Twins, Deck")")),
                ElementsAre("sheet 0: 5", "sheet 1: 5"));
    EXPECT_THAT(attached(mass(R"("kind": "mass-edges", "mass": "2 kg/m", "edges": "edges at x = 2 m")")), SizeIs(1));
    EXPECT_THAT(
        attached(
            mass(R"("kind": "mass-faces", "mass": "20 kg", "faces": "faces at z = 0.5 m, faces at z = 0 m of Block")")),
        SizeIs(2));
    EXPECT_THAT(
        attached(mass(R"("kind": "coating", "thickness": "10 mm", "density": "1000 kg/m3", "members": "everything")")),
        testing::Each(testing::EndsWith(": 3.31416")))
        << "t (P + pi t)";
    const auto bed = [](const std::string& sentence) { return attached(read("supports", sentence)); };
    EXPECT_THAT(bed(R"("kind": "bed", "members": "Twins", "stiffness": "1 kN/m2", "directions": "z")"),
                ElementsAre("member 1: 1000"));
    EXPECT_THAT(bed(R"("kind": "bed-under", "sheets": "Twins", "stiffness": "1 MN/m3", "directions": "z")"),
                ElementsAre("sheet 1: 1e+06"));
    EXPECT_THAT(bed(R"("kind": "bed-faces", "faces": "faces of Block", "stiffness": "1 MN/m3", "directions": "z")"),
                SizeIs(6));
    EXPECT_THAT(
        bed(R"("kind": "bed-along-edges", "edges": "edges of Deck", "stiffness": "1 kN/m2", "directions": "z")"),
        SizeIs(4));
}

TEST(FormerSentences, HoldThePointsThatNamesMeant)
{
    const auto hold = [](const std::string& points) {
        const std::string text = testing::PrintToString(points);
        return read("supports", "\"kind\": \"hold\", \"points\": " + text + ", \"directions\": \"all\"");
    };
    struct Case {
        std::string former, now;
        std::size_t points;
    };
    for (const auto& [former, now, points] : {Case{"Mast", "points of Mast", 2},
                                              {"b, Mast except a", "b, points of Mast except a", 1},
                                              {"columns of House", "points of columns of House", 4},
                                              {"feet of House", "feet of House", 2},
                                              {"points of Deck", "points of Deck", 4},
                                              {"nearest to (0, 0, 2 m)", "nearest to (0, 0, 2 m)", 1},
                                              {"Twins", "points of Twins", 6}}) {
        const Read found = hold(former);
        EXPECT_EQ(wordsOfIt(found), "Hold " + now + " in x y z rx ry rz") << former;
        EXPECT_EQ(found.structure.holds.size(), points) << former;
        for (const auto& own : found.structure.holds)
            EXPECT_EQ(own.on, Target::point) << former;
    }
    const Read edges = hold("edges of Deck, a");
    EXPECT_EQ(edges.structure.holds.size(), 5u);
    const Read size = read("ask", R"("kind": "size-at", "size": "10 mm", "where": "Mast")");
    EXPECT_EQ(size.structure.localSizes.front().places.size(), 2u);
}

TEST(FormerSentences, ExamplesOfTheFirstFormatSayTheSameNow)
{
    std::size_t files = 0;
    for (const auto& entry : std::filesystem::directory_iterator(TEST_MODELS "/format-1")) {
        const auto former = readDocumentFile(entry.path().string());
        auto now = readDocumentFile(EXAMPLES "/" + entry.path().filename().string());
        ASSERT_TRUE(former && now) << entry.path();
        for (auto& take : now->takes) // of which the first format noted nothing
            take.kept = take.note = {};
        EXPECT_EQ(withPathsFrom(*former, TEST_MODELS "/format-1"), withPathsFrom(*now, EXAMPLES)) << entry.path();
        // Written anew it is of the second format, and reads as the same.
        const std::string text = writeDocument(*former);
        EXPECT_THAT(text, testing::HasSubstr("\"version\": 2"));
        EXPECT_EQ(*readDocument(text, "again.json"), *former) << entry.path();
        ++files;
    }
    EXPECT_EQ(files, 8u);
}
