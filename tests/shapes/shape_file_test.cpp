// Shapes written as STEP and read back; files that are broken, strange or not there.
#include "core/assess/model_checks.hpp"
#include "core/base/file_writer.hpp"
#include "core/picks/pick.hpp"
#include "core/shapes/imported.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/shapes/shape_file.hpp"
#include "tests/said_model.hpp"

#include <fmt/format.h>
#include <gmock/gmock.h>

#include <filesystem>
#include <fstream>
#include <regex>

#include <unistd.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

class ShapeFiles : public testing::Test {
protected:
    ShapeFiles()
    {
        folder_ = std::filesystem::temp_directory_path() / ("undisona-shapes-" + std::to_string(getpid()));
        std::filesystem::create_directories(folder_);
    }
    ~ShapeFiles() override { std::filesystem::remove_all(folder_); }

    std::string at(const std::string& name) const { return (folder_ / name).string(); }

    std::string written(const SaidModel& said, const std::string& name)
    {
        EXPECT_FALSE(writeWholeFile(at(name), *stepText(said.structure().frame)));
        return at(name);
    }
    std::string text(const std::string& path)
    {
        std::ifstream stream(path, std::ios::binary);
        return {std::istreambuf_iterator<char>(stream), {}};
    }
    std::string put(const std::string& name, const std::string& what)
    {
        std::ofstream(at(name), std::ios::binary) << what;
        return at(name);
    }

private:
    std::filesystem::path folder_;
};

SaidModel boxAndCylinder()
{
    return steel()
        .say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.08 m"}, {"z", "0.06 m"}, {"at", "1, 2, 3 m"}})
        .say("solid-cylinder", {{"name", "Shaft"}, {"diameter", "80 mm"}, {"length", "0.4 m"}, {"along", "1, 1, 0"}});
}

SaidModel ofShapes(const std::string& path, const Words& more = {})
{
    auto said = steel();
    for (auto& sentence : importedSentences(said.model(), *ShapeFile::read(path), path)) {
        for (const auto& [key, value] : more)
            sentence.values[key] = std::get<Value>(readValue(*sentence.kind->field(key), value, NumberStyle::file));
        said.add(std::move(sentence));
    }
    return said;
}

std::vector<double> lowest(SaidModel said)
{
    return said.say("lowest", {{"count", "16"}}).frequencies();
}

} // namespace

TEST_F(ShapeFiles, FacesKeepTheNamesAndColoursOfTheFile)
{
    // The face below is drawn in two halves, which are one where nothing tells them apart.
    auto drawn = steel().say("extrusion", {{"name", "Block"},
                                           {"rows", "0 m|0 m\n0.15 m|0 m\n0.3 m|0 m\n0.3 m|0.08 m\n0 m|0.08 m"},
                                           {"length", "0.06 m"}});
    const std::string plain = text(written(drawn, "plain.step"));
    EXPECT_EQ(ofShapes(at("plain.step")).structure().frame.faces->faces.size(), 6U);

    std::string marked = plain, styles;
    std::smatch found;
    ASSERT_TRUE(std::regex_search(plain, found,
                                  std::regex("ADVANCED_BREP_SHAPE_REPRESENTATION\\([^#]*#\\d+,#\\d+\\),#(\\d+)")));
    const std::string context = found[1];
    const std::regex face("#(\\d+) = ADVANCED_FACE\\(''");
    int number = 0;
    std::string items;
    for (std::sregex_iterator at(plain.begin(), plain.end(), face), end; at != end; ++at) {
        const std::string id = (*at)[1];
        const std::string before = "#" + id + " = ADVANCED_FACE(''";
        marked.replace(marked.find(before), before.size(), fmt::format("#{} = ADVANCED_FACE('Side {}'", id, ++number));
        const int first = 90000 + 10 * number;
        styles += fmt::format("#{0}=COLOUR_RGB('',{7},0.2,0.);\n#{1}=FILL_AREA_STYLE_COLOUR('',#{0});\n"
                              "#{2}=FILL_AREA_STYLE('',(#{1}));\n#{3}=SURFACE_STYLE_FILL_AREA(#{2});\n"
                              "#{4}=SURFACE_SIDE_STYLE('',(#{3}));\n#{5}=SURFACE_STYLE_USAGE(.BOTH.,#{4});\n"
                              "#{6}=PRESENTATION_STYLE_ASSIGNMENT((#{5}));\n#{8}=STYLED_ITEM('',(#{6}),#{9});\n",
                              first, first + 1, first + 2, first + 3, first + 4, first + 5, first + 6,
                              number <= 2 ? "1." : "0.6", first + 7, id);
        items += fmt::format("{}#{}", items.empty() ? "" : ",", first + 7);
    }
    ASSERT_EQ(number, 7);
    styles +=
        fmt::format("#99999=MECHANICAL_DESIGN_GEOMETRIC_PRESENTATION_REPRESENTATION('',({}),#{});\n", items, context);
    marked.insert(marked.rfind("ENDSEC;"), styles);
    const auto read = ofShapes(put("marked.step", marked));
    EXPECT_EQ(read.problems(), "");
    const Frame frame = read.structure().frame;
    ASSERT_EQ(frame.faces->faces.size(), 7U);
    for (int side = 1; side <= 7; ++side)
        EXPECT_EQ(pick(frame, fmt::format("faces named Side {} of Block", side), placeTargets).faces.size(), 1U)
            << side;
    // Most faces have the one colour, which is the body's; two have another.
    ASSERT_TRUE(frame.solids[0].colour);
    EXPECT_NEAR(frame.solids[0].colour->x(), 0.6, 1e-6);
    const auto red = pick(frame, "2 faces of colour #ff3300 of Block", placeTargets);
    EXPECT_EQ(red.problem, "");
    ASSERT_EQ(red.faces.size(), 2U);
    const auto offers = rulesLikeFace(frame, red.faces[0]);
    EXPECT_THAT(offers, testing::Contains("2 faces of colour #ff3300 of Block"));
    // Moved and made larger they are the same faces.
    const auto moved =
        ofShapes(at("marked.step"), {{"scale", "2"}}).say("moved", {{"what", "Block"}, {"step", "1, 0, 0 m"}});
    EXPECT_EQ(pick(moved.structure().frame, "faces of colour #ff3300 of Block", placeTargets).faces.size(), 2U);
    EXPECT_THAT(pick(frame, "faces named Top of Block", placeTargets).problem, HasSubstr("finds no point"));
}

TEST_F(ShapeFiles, BoxAndCylinderComeBackAsTheyWere)
{
    const auto drawn = boxAndCylinder();
    const auto read = ofShapes(written(drawn, "pair.step"));
    EXPECT_EQ(read.problems(), "");
    const Structure here = drawn.structure(), back = read.structure();
    ASSERT_EQ(back.frame.solids.size(), 2u);
    EXPECT_EQ(back.frame.solids[0].name, "Block");
    EXPECT_EQ(back.frame.solids[1].name, "Shaft");
    for (std::size_t body = 0; body < 2; ++body)
        EXPECT_NEAR(back.frame.faces->solids[body].volume / here.frame.faces->solids[body].volume, 1.0, 1e-6);
    for (int corner = 0; corner < 2; ++corner)
        EXPECT_LT(
            (back.frame.box()[static_cast<std::size_t>(corner)] - here.frame.box()[static_cast<std::size_t>(corner)])
                .norm(),
            1e-6);
    const auto before = lowest(drawn), after = lowest(read);
    ASSERT_EQ(before.size(), after.size());
    for (std::size_t mode = 0; mode < before.size(); ++mode)
        EXPECT_NEAR(after[mode] / before[mode], 1.0, 0.002) << mode;
}

// A step of four thousandths and a groove in a body of a millimetre, a metre and a hundred metres.
TEST_F(ShapeFiles, ABodyOfAnySizeIsReadAlike)
{
    std::vector<double> first;
    for (const double size : {1.0, 1000.0, 100000.0}) { // mm
        std::string rows;
        for (const auto& [x, y] : {std::pair(0.0, 0.0),
                                   {1.0, 0.0},
                                   {1.0, 0.3},
                                   {0.996, 0.3},
                                   {0.996, 0.5},
                                   {0.6, 0.5},
                                   {0.6, 0.45},
                                   {0.57, 0.45},
                                   {0.57, 0.5},
                                   {0.0, 0.5}})
            rows += fmt::format("{}{:.9g} mm|{:.9g} mm", rows.empty() ? "" : "\n", size * x, size * y);
        auto drawn = steel();
        drawn.say("extrusion", {{"name", "Foot"}, {"rows", rows}, {"length", fmt::format("{:.9g} mm", 0.4 * size)}});
        const auto said = ofShapes(written(drawn, "foot.step"));
        const Structure structure = said.structure();
        EXPECT_EQ(said.problems(), "") << size;
        ASSERT_EQ(structure.frame.faces->solids.size(), 1u) << size;
        EXPECT_EQ(structure.frame.faces->faces.size(), 12u) << size;
        const double area = 0.5 - 0.004 * 0.2 - 0.03 * 0.05;
        EXPECT_NEAR(structure.frame.faces->solids[0].volume / (area * 0.4 * std::pow(size / 1000.0, 3)), 1.0, 1e-6)
            << size;
        auto hertz = SaidModel(said).say("lowest", {{"count", "3"}}).frequencies();
        ASSERT_EQ(hertz.size(), 3u) << size;
        for (double& own : hertz)
            own *= size;
        if (first.empty()) first = hertz;
        for (std::size_t at = 0; at < hertz.size(); ++at)
            EXPECT_NEAR(hertz[at] / first[at], 1.0, 5e-3) << size << " mm, mode " << at + 1;
    }
}

TEST_F(ShapeFiles, SheetComesBackWithTheThicknessThatIsSaid)
{
    auto drawn = steel();
    drawn
        .say("sheet-box", {{"name", "Tray"},
                           {"x", "0.3 m"},
                           {"y", "0.2 m"},
                           {"z", "0.1 m"},
                           {"thickness", "3 mm"},
                           {"open", "open above"}})
        .say("hold", {{"where", "edges at z = 0 m"}, {"directions", "all"}});
    const std::string path = written(drawn, "tray.stp");
    EXPECT_THAT(ofShapes(path).problems(), HasSubstr("Tray.bottom is sheet and has no thickness yet"));
    auto read = ofShapes(path, {{"thickness", "3 mm"}});
    read.say("hold", {{"where", "edges at z = 0 m"}, {"directions", "all"}});
    EXPECT_EQ(read.problems(), "");
    const auto before = drawn.say("lowest", {{"count", "6"}}).frequencies(),
               after = read.say("lowest", {{"count", "6"}}).frequencies();
    for (std::size_t mode = 0; mode < 6; ++mode)
        EXPECT_NEAR(after[mode] / before[mode], 1.0, 0.005) << mode;
}

TEST_F(ShapeFiles, AHollowBallAndARingAreParted)
{
    // A whole ball of two halves becomes one face with two poles in the file, and a ring one without any edge.
    auto drawn = steel();
    drawn.say("solid-sphere", {{"name", "Ball"}, {"diameter", "0.1 m"}})
        .say("revolution",
             {{"name", "Ring"}, {"rows", "0.2 m|0 m|0 m|0.02 m\n0.24 m|0 m|0 m|0.02 m"}, {"at", "0, 0, 0.2 m"}});
    const auto read = ofShapes(written(drawn, "round.step"));
    EXPECT_EQ(read.problems(), "");
    Progress progress;
    auto asked = read;
    const auto solution = solve(asked.say("lowest", {{"count", "14"}}).model(), progress);
    ASSERT_TRUE(solution) << oneLine(solution.findings().front());
    EXPECT_NEAR((*solution)->mass.mass,
                8000 * (4.0 / 3.0 * std::numbers::pi * 1.25e-4 + std::numbers::pi * 4e-4 * 2 * std::numbers::pi * 0.22),
                0.01 * (*solution)->mass.mass);
}

TEST_F(ShapeFiles, BrokenAndStrangeOnesSayWhy)
{
    const auto problem = [](const std::string& path) { return ShapeFile::read(path)->problem; };
    const std::string whole = written(boxAndCylinder(), "whole.step"), all = text(whole);
    EXPECT_THAT(problem(at("nowhere.step")), HasSubstr("is not there"));
    EXPECT_THAT(problem(put("none.step", "")), HasSubstr("is empty"));
    EXPECT_THAT(problem(put("short.step", all.substr(0, all.size() / 2))), HasSubstr("cut short"));
    EXPECT_THAT(problem(put("other.step", "solid ascii stl\nendsolid")), HasSubstr("does not begin as one"));
    EXPECT_THAT(problem(put("other.docx", all)), HasSubstr("by its name"));
    EXPECT_THAT(problem(put("none.brep", "")), HasSubstr("no BREP file"));
    std::string hollow = all; // whole, but its shapes are gone
    hollow.erase(hollow.find("DATA;") + 5, hollow.rfind("ENDSEC;") - hollow.find("DATA;") - 5);
    EXPECT_THAT(problem(put("hollow.step", hollow)), testing::Not(""));
    std::string wild = all; // every third entity points into the void
    for (std::size_t place = 0; (place = wild.find("(#1", place)) != std::string::npos; place += 9)
        wild.replace(place, 3, "(#9");
    EXPECT_NO_FATAL_FAILURE(problem(put("wild.step", wild)));
    // Bodies without a thickness, and with a corner drawn through to the other side.
    const std::string box = text(written(
        steel().say("solid-box", {{"name", "Box"}, {"x", "0.3 m"}, {"y", "0.08 m"}, {"z", "0.06 m"}}), "box.step"));
    std::string flat = box, crossing = box;
    for (std::size_t place = 0; (place = flat.find(",60.))", place)) != std::string::npos;)
        flat.replace(place, 5, ",0.))");
    const std::string corner = "(300.,80.,60.)";
    ASSERT_NE(crossing.find(corner), std::string::npos);
    for (std::size_t place = 0; (place = crossing.find(corner, place)) != std::string::npos;)
        crossing.replace(place, corner.size(), "(-200.,80.,60.)");
    for (const auto& path : {put("flat.step", flat), put("crossing.step", crossing)}) {
        const auto body = ofShapes(path);
        const Structure structure = body.structure();
        std::string said = body.problems();
        for (const auto& finding : checkStructure(structure, massSummary(structure)))
            if (finding.severity == Severity::error) said += oneLine(finding);
        EXPECT_THAT(said, HasSubstr("Box")) << path;
    }
    EXPECT_THAT(ofShapes(whole).say("imported", {{"name", "Third"}, {"body", "3"}, {"file", whole}}).problems(),
                HasSubstr("has 2 bodies, so none with the number 3"));
    EXPECT_THAT(ofShapes(whole, {{"scale", "1000"}}).problems(), HasSubstr("was it drawn in another unit?"));
    EXPECT_THAT(ofShapes(whole, {{"thickness", "1 mm"}}).problems(), HasSubstr("is a solid and has no thickness"));
}

TEST_F(ShapeFiles, TheDocumentNamesThemFromItsOwnFolder)
{
    const std::string path = written(boxAndCylinder(), "pair.step");
    Document document;
    document.model = ofShapes(path).model();
    ASSERT_FALSE(writeDocumentFile(document, at("model.json")));
    EXPECT_THAT(text(at("model.json")), HasSubstr("\"file\": \"pair.step\""));
    const auto read = readDocumentFile(at("model.json"));
    ASSERT_TRUE(read);
    EXPECT_EQ(*read, document);
    // A file that has changed is another one.
    const auto key = solveKey(document.model);
    std::filesystem::last_write_time(path, std::filesystem::file_time_type::clock::now() + std::chrono::hours(1));
    EXPECT_NE(solveKey(document.model), key);
}

TEST(FaceRules, OfferFacesOfOneRadiusAndThoseThatGoOnWithoutACorner)
{
    auto said = steel();
    said.say("extrusion", {{"name", "Foot"},
                           {"rows", "0 m|0 m|20 mm\n0.3 m|0 m|20 mm\n0.3 m|0.2 m|20 mm\n0 m|0.2 m|20 mm"},
                           {"length", "20 mm"}});
    int drills = 0;
    for (const char* place :
         {"0.05, 0.05, -0.01 m", "0.25, 0.05, -0.01 m", "0.05, 0.15, -0.01 m", "0.25, 0.15, -0.01 m"}) {
        const std::string drill = "Drill " + std::to_string(++drills);
        said.say("solid-cylinder", {{"name", drill}, {"diameter", "22 mm"}, {"length", "40 mm"}, {"at", place}})
            .say("solid-cut", {{"tool", drill}, {"body", "Foot"}});
    }
    EXPECT_EQ(said.problems(), "");
    const Frame frame = said.structure().frame;
    const auto rulesAt = [&](const char* place) {
        const Picked one = pick(frame, std::string("face nearest to ") + place, placeTargets);
        EXPECT_EQ(one.faces.size(), 1u);
        return rulesLikeFace(frame, one.faces.front());
    };
    EXPECT_THAT(rulesAt("0.061 0.05 0.01 m"), testing::Contains("4 faces of radius 0.011 m of Foot"));
    // Four sides and four rounded corners.
    const auto round = rulesAt("0.15 0 0.01 m");
    EXPECT_THAT(round, testing::Contains(HasSubstr("8 faces smooth with face nearest to")));
    for (const auto& rule : round)
        EXPECT_EQ(pick(frame, rule, placeTargets).problem, "") << rule;
    EXPECT_EQ(pick(frame, "rims of Foot", placeTargets).edges.size(), 8u) << "above and below";
    EXPECT_EQ(pick(frame, "rims of radius 11 mm of Foot", placeTargets).edges.size(), 8u);
    EXPECT_EQ(pick(frame, "rims of radius 12 mm of Foot", placeTargets).edges.size(), 0u);
    EXPECT_EQ(pick(frame, "edges at z = 0 m", placeTargets).edges.size(), 12u) << "eight sides and four rims";
}

// A bar held along two edges of an end, middles of sides too, is held as at its corners by a careful hand: nothing of
// those edges moves.
TEST(EdgeRules, EdgesOfSolidsAreHeldWithTheMiddlesOfTheirSides)
{
    auto said = steel();
    said.say("solid-box", {{"name", "Bar"}, {"x", "0.3 m"}, {"y", "0.03 m"}, {"z", "0.03 m"}, {"size", "15 mm"}})
        .say("hold", {{"where", "edges at x = 0 m of Bar"}, {"directions", "x y z"}})
        .say("size-at", {{"size", "5 mm"}, {"where", "edges at x = 0.3 m of Bar"}})
        .say("lowest", {{"count", "3"}});
    EXPECT_EQ(said.problems(), "");
    const auto solution = said.solved();
    int held = 0;
    for (std::size_t node = 0; node < solution->mesh.nodes.size(); ++node) {
        const Eigen::Vector3d at = solution->mesh.nodes[node].place;
        const bool onEdge =
            at.x() < 1e-9 && (at.y() < 1e-9 || at.y() > 0.03 - 1e-9 || at.z() < 1e-9 || at.z() > 0.03 - 1e-9);
        if (!onEdge) continue;
        ++held;
        EXPECT_EQ(solution->system->motions.nodes[node].unknowns.size(), 0u);
    }
    EXPECT_GE(held, 16);
}

TEST_F(ShapeFiles, MassAndBedsOnFacesOfSolids)
{
    // A rigid block on an elastic face: it bounces with all the mass on it; the second mass lies on its top.
    auto said = steel();
    said.say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
        .say("bed", {{"where", "faces at z = 0 m of Block"}, {"stiffness", "1 MN/m3"}, {"directions", "x y z"}})
        .say("mass-spread", {{"mass", "12 kg"}, {"where", "faces at z = 0.1 m of Block"}})
        .say("lowest", {{"count", "6"}});
    const auto solution = said.solved();
    EXPECT_NEAR(solution->mass.mass, 60.0, 1e-6);
    EXPECT_NEAR(solution->mass.centre.z(), (48 * 0.05 + 12 * 0.1) / 60, 1e-9);
    double best = 1e300;
    const double wanted = std::sqrt(1e6 * 0.06 / 60.0) / (2 * std::numbers::pi);
    for (const double found : said.frequencies())
        best = std::min(best, std::abs(found / wanted - 1.0));
    EXPECT_LT(best, 2e-3);
    EXPECT_THAT(steel()
                    .say("plate", {{"name", "Plate"}})
                    .say("mass-spread", {{"mass", "12 kg/m2"}, {"where", "edges of Plate"}})
                    .problems(),
                testing::AllOf(HasSubstr("\"edges of Plate\" means edges, and sheets or faces are meant here"),
                               HasSubstr("12 kg/m2 is a mass per area, for sheets and faces")));
}
