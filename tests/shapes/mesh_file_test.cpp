// Meshes that come from VTU files: what is written comes back with the same frequencies, and what is broken is said.
#include "core/assess/model_checks.hpp"
#include "core/io/export.hpp"
#include "core/picks/pick.hpp"
#include "core/shapes/imported.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/shapes/mesh_file.hpp"
#include "tests/said_model.hpp"

#include <fmt/format.h>
#include <gmock/gmock.h>

#include <filesystem>
#include <fstream>

#include <unistd.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

class MeshFiles : public testing::Test {
protected:
    MeshFiles()
    {
        folder_ = std::filesystem::temp_directory_path() / ("undisona-meshes-" + std::to_string(getpid()));
        std::filesystem::create_directories(folder_);
    }
    ~MeshFiles() override { std::filesystem::remove_all(folder_); }

    std::string put(const std::string& name, const std::string& what)
    {
        const std::string path = (folder_ / name).string();
        std::ofstream(path, std::ios::binary) << what;
        return path;
    }

private:
    std::filesystem::path folder_;
};

/// A model of the mesh, its words beside those of the import.
SaidModel ofMesh(const std::string& path, const Words& more = {})
{
    auto said = steel();
    const auto file = MeshFile::read(path);
    EXPECT_EQ(file->problem, "");
    for (auto& sentence : importedSentences(said.model(), *file, path)) {
        for (const auto& [key, value] : more)
            if (key != "thickness" || sentence.text("of") == "sheet")
                sentence.values[key] = std::get<Value>(readValue(*sentence.kind->field(key), value, NumberStyle::file));
        said.add(std::move(sentence));
    }
    return said;
}

using Places = std::vector<Eigen::Vector3d>;

/// A VTU file of cells of one type each.
std::string vtu(const Places& points, const std::vector<std::pair<int, std::vector<int>>>& cells,
                const std::string& more = {})
{
    std::string text = fmt::format("<?xml version=\"1.0\"?>\n<VTKFile type=\"UnstructuredGrid\" version=\"0.1\" "
                                   "byte_order=\"LittleEndian\">\n<UnstructuredGrid>\n<Piece NumberOfPoints=\"{}\" "
                                   "NumberOfCells=\"{}\">\n<Points><DataArray type=\"Float64\" "
                                   "NumberOfComponents=\"3\" format=\"ascii\">\n",
                                   points.size(), cells.size());
    for (const auto& point : points)
        text += fmt::format("{} {} {}\n", point.x(), point.y(), point.z());
    std::string nodes, ends, types;
    std::size_t end = 0;
    for (const auto& [type, own] : cells) {
        for (const int node : own)
            nodes += fmt::format("{} ", node);
        ends += fmt::format("{} ", end += own.size());
        types += fmt::format("{} ", type);
    }
    const auto array = [](const char* type, const char* name, const std::string& values) {
        return fmt::format("<DataArray type=\"{}\" Name=\"{}\" format=\"ascii\">{}</DataArray>\n", type, name, values);
    };
    return text + "</DataArray></Points>\n<Cells>\n" + array("Int64", "connectivity", nodes) +
           array("Int64", "offsets", ends) + array("UInt8", "types", types) + "</Cells>\n" + more +
           "</Piece></UnstructuredGrid></VTKFile>\n";
}

Places unitCube()
{
    return {{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}, {0, 0, 1}, {1, 0, 1}, {1, 1, 1}, {0, 1, 1}};
}

std::string problemOf(const std::string& path)
{
    const auto file = MeshFile::read(path);
    return file->problem + "; " + file->remedy;
}

/// Modes of the drawn model and of its own mesh, read back, agree to rounding.
void expectSame(const SaidModel& drawn, const SaidModel& read)
{
    const auto wanted = drawn.frequencies(), got = read.frequencies();
    ASSERT_EQ(got.size(), wanted.size());
    for (std::size_t mode = 0; mode < wanted.size(); ++mode)
        EXPECT_NEAR(got[mode] / wanted[mode], 1.0, 1e-8) << "mode " << mode + 1;
}

} // namespace

TEST_F(MeshFiles, SheetComesBackWithItsFrequenciesAndItsEdges)
{
    const auto shape = [](SaidModel said) {
        return said.say("plate", {{"name", "Deck"}, {"length", "1.2 m"}, {"width", "0.8 m"}, {"thickness", "6 mm"}})
            .say("plate", {{"name", "Web"},
                           {"length", "1.2 m"},
                           {"width", "0.15 m"},
                           {"at", "0, 0.4, 0 m"},
                           {"towards", "0, 0, 1"},
                           {"thickness", "6 mm"}});
    };
    const auto rest = [](SaidModel said) {
        return said.say("hold", {{"where", "edges at x = 0 m of Deck"}, {"directions", "all"}})
            .say("lowest", {{"count", "8"}});
    };
    const auto drawn = rest(shape(steel()));
    const auto read = rest(ofMesh(put("tee.vtu", solutionVtu(*drawn.solved())), {{"thickness", "6 mm"}}));
    EXPECT_EQ(read.problems(), "");
    expectSame(drawn, read);
    const auto structure = read.structure();
    for (const auto& finding : checkStructure(structure, massSummary(structure))) // of the nodes that were held
        EXPECT_THAT(finding.what, testing::Not(HasSubstr("nothing is joined")));
    EXPECT_EQ(structure.frame.sheets.size(), 2U);
    EXPECT_EQ(structure.frame.sheets[1].name, "Web");
    // The deck is parted where the web stands on it.
    double area = 0.0;
    for (const auto& face : structure.frame.faces->faces)
        area += face.area;
    EXPECT_EQ(structure.frame.faces->faces.size(), 3U);
    EXPECT_NEAR(area, 1.2 * 0.8 + 1.2 * 0.15, 1e-9);
}

TEST_F(MeshFiles, SheetsOfOneFileComeApart)
{
    const auto shape = [](SaidModel said) {
        return said.say("plate", {{"name", "One"}, {"length", "0.5 m"}, {"width", "0.4 m"}, {"thickness", "5 mm"}})
            .say("plate", {{"name", "Two"},
                           {"length", "0.5 m"},
                           {"width", "0.4 m"},
                           {"at", "0.5, 0, 0 m"},
                           {"thickness", "5 mm"}});
    };
    const auto rest = [](SaidModel said) {
        return said.say("apart", {{"what", "One"}, {"other", "Two"}})
            .say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
            .say("hold", {{"where", "edges at x = 1 m"}, {"directions", "all"}})
            .say("lowest", {{"count", "6"}});
    };
    const auto joined = shape(steel()).say("lowest", {{"count", "1"}});
    const auto drawn = rest(shape(steel()));
    const auto read = rest(ofMesh(put("pair.vtu", solutionVtu(*joined.solved())), {{"thickness", "5 mm"}}));
    const auto wanted = drawn.frequencies(), got = read.frequencies();
    EXPECT_NEAR(got[0] / wanted[0], 1.0, 0.02); // on another mesh
    EXPECT_NEAR(got[0] / got[1], 1.0, 1e-6);    // two alike, which joined ones would not be
}

class MeshFilesOfSolids : public MeshFiles, public testing::WithParamInterface<const char*> {};

TEST_P(MeshFilesOfSolids, ComeBackWithTheirFrequenciesAndFaces)
{
    const std::string elements = GetParam();
    const auto shape = [&](SaidModel said) {
        return said
            .say("solid-cylinder",
                 {{"name", "Hub"}, {"diameter", "0.2 m"}, {"inner", "0.1 m"}, {"length", "0.15 m"}, {"size", "40 mm"}})
            .say("solid-elements", {{"what", "Hub"}, {"elements", elements}});
    };
    const auto rest = [](SaidModel said) {
        return said.say("hold", {{"where", "faces at z = 0 m of Hub"}, {"directions", "all"}})
            .say("mass-spread", {{"mass", "2 kg"}, {"where", "faces of radius 50 mm of Hub"}})
            .say("lowest", {{"count", "8"}});
    };
    const auto drawn = rest(shape(steel()));
    const auto path = put("hub.vtu", solutionVtu(*drawn.solved()));
    const auto read = rest(ofMesh(path));
    EXPECT_EQ(read.problems(), "");
    expectSame(drawn, read);
    EXPECT_EQ(read.structure().frame.faces->faces.size(), 4U); // two ends, the bore, the outside
    EXPECT_EQ(read.structure().frame.faces->edges.size(), 4U);
    EXPECT_EQ(pick(read.structure().frame, "rims of radius 50 mm of Hub", placeTargets).edges.size(), 2U);
    // In its mirror image too.
    const auto image = ofMesh(path).say("mirror", {{"name", "Image"}, {"what", "Hub"}, {"axis", "x"}, {"at", "0.3 m"}});
    EXPECT_EQ(image.problems(), "");
    EXPECT_NEAR(SaidModel(image).say("lowest", {{"count", "13"}}).solved()->mass.mass /
                    SaidModel(ofMesh(path)).say("lowest", {{"count", "7"}}).solved()->mass.mass,
                2.0, 1e-9);
}

INSTANTIATE_TEST_SUITE_P(Of, MeshFilesOfSolids, testing::Values("tetrahedra", "20-node bricks", "8-node bricks"));

TEST_F(MeshFiles, GroupsOfNodesBecomePointsAndNodesCanBeNamed)
{
    const std::string marks = "<PointData><DataArray type=\"UInt8\" Name=\"feet\" format=\"ascii\">1 1 1 1 0 0 0 0"
                              "</DataArray></PointData>\n";
    const auto path = put("cube.vtu", vtu(unitCube(), {{12, {0, 1, 2, 3, 4, 5, 6, 7}}}, marks));
    auto said = ofMesh(path, {{"unit", "mm"}, {"name", "Cube"}});
    said.say("hold", {{"where", "4 feet of Cube"}, {"directions", "all"}})
        .say("point-at-node", {{"name", "top"}, {"part", "Cube"}, {"at", "0.9, 1.2, 0.8 mm"}})
        .say("mass", {{"mass", "1 kg"}, {"points", "top"}})
        .say("lowest", {{"count", "3"}});
    EXPECT_EQ(said.problems(), "");
    const auto frame = said.structure().frame;
    EXPECT_LT(
        (frame.points[static_cast<std::size_t>(frame.pointNamed("top"))].place - Eigen::Vector3d(1e-3, 1e-3, 1e-3))
            .norm(),
        1e-12);
    const auto solution = said.solved();
    EXPECT_NEAR(solution->mass.mass, 1.0 + 8000e-9, 1e-9);
    EXPECT_EQ(solution->mesh.nodes.size(), 8U); // the points are the nodes
}

TEST_F(MeshFiles, WhatTheFormatHasAndElementsHereHaveNotIsTakenAndSaid)
{
    // A tetrahedron of four nodes gets six more.
    const auto tetrahedron = ofMesh(put(
        "four.vtu", vtu({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {9, 9, 9}}, {{10, {0, 1, 2, 3}}, {3, {0, 1}}})));
    const auto solution = SaidModel(tetrahedron).say("lowest", {{"count", "7"}}).solved();
    EXPECT_EQ(solution->mesh.solids.size(), 1U);
    EXPECT_NEAR(solution->mass.mass, 8000.0 / 6.0, 1e-9);
    std::string notes;
    for (const auto& finding : tetrahedron.findings())
        notes += oneLine(finding) + "\n";
    EXPECT_THAT(notes, HasSubstr("1 tetrahedra of 4 nodes"));
    EXPECT_THAT(notes, HasSubstr("1 node of the file belongs to no cell of sheet or solids and is left out, the first "
                                 "is number 5"));
    EXPECT_THAT(notes, HasSubstr("1 line is left out"));
    // Wedges as the format has them, with the first triangle seen from outside, and the other way round.
    const Places prism{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {1, 0, 1}, {0, 1, 1}};
    for (const auto& nodes : {std::vector<int>{0, 2, 1, 3, 5, 4}, {0, 1, 2, 3, 4, 5}}) {
        const auto wedge = ofMesh(put(fmt::format("wedge{}.vtu", nodes[1]), vtu(prism, {{13, nodes}})));
        EXPECT_EQ(wedge.problems(), "");
        EXPECT_NEAR(SaidModel(wedge).say("lowest", {{"count", "7"}}).solved()->mass.mass, 4000.0, 1e-9);
    }
    // Sheet of the second order is parted.
    const auto sheet =
        ofMesh(put("sheet.vtu",
                   vtu({{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}, {0.5, 0, 0}, {1, 0.5, 0}, {0.5, 1, 0}, {0, 0.5, 0}},
                       {{23, {0, 1, 2, 3, 4, 5, 6, 7}}})),
               {{"thickness", "1 mm"}});
    EXPECT_NEAR(SaidModel(sheet).say("lowest", {{"count", "7"}}).solved()->mass.mass, 8.0, 1e-9);
}

TEST_F(MeshFiles, BrokenOnesAreSaidAndHarmNothing)
{
    const auto cube = vtu(unitCube(), {{12, {0, 1, 2, 3, 4, 5, 6, 7}}});
    EXPECT_THAT(problemOf("/nowhere/at/all.vtu"), HasSubstr("is not there"));
    EXPECT_THAT(problemOf(put("empty.vtu", "")), HasSubstr("it is empty"));
    EXPECT_THAT(problemOf(put("words.vtu", "this is no mesh at all")), HasSubstr("it is no VTU file"));
    for (const double share : {0.3, 0.6, 0.9})
        EXPECT_THAT(problemOf(put(fmt::format("cut{}.vtu", share),
                                  cube.substr(0, static_cast<std::size_t>(share * double(cube.size()))))),
                    HasSubstr("cut short"));
    EXPECT_THAT(problemOf(put("beyond.vtu", vtu(unitCube(), {{12, {0, 1, 2, 3, 4, 5, 6, 8}}}))),
                HasSubstr("cell 1 names the node 9, and there are 8"));
    EXPECT_THAT(problemOf(put("seven.vtu", vtu(unitCube(), {{12, {0, 1, 2, 3, 4, 5, 6}}}))),
                HasSubstr("cell 1 has 7 nodes, and its type has 8"));
    EXPECT_THAT(problemOf(put("pyramid.vtu", vtu(unitCube(), {{14, {0, 1, 2, 3, 4}}, {12, {0, 1, 2, 3, 4, 5, 6, 7}}}))),
                HasSubstr("1 of the type 14 (pyramids)"));
    EXPECT_THAT(problemOf(put("nothing.vtu", vtu(unitCube(), {}))), HasSubstr("no cells of sheet or solids"));

    // Cells inside out are an error of their sentence, which stays, as does all else.
    auto points = unitCube();
    std::swap(points[0], points[4]);
    auto said = ofMesh(put("inverted.vtu", vtu(points, {{12, {0, 1, 2, 3, 4, 5, 6, 7}}})));
    said.say("solid-box", {{"name", "Block"}, {"at", "3, 0, 0 m"}});
    EXPECT_THAT(said.problems(), HasSubstr("1 cell is turned inside out or flat, the first is number 1, at 0, 0, 1 m"));
    EXPECT_EQ(said.structure().frame.solids.size(), 2U);

    auto large = unitCube();
    for (auto& place : large)
        place *= 250.0;
    EXPECT_THAT(ofMesh(put("large.vtu", vtu(large, {{12, {0, 1, 2, 3, 4, 5, 6, 7}}}))).problems(),
                HasSubstr("is 250 m long: are its lengths in another unit?"));
    auto sheet = ofMesh(put("flat.vtu", vtu(unitCube(), {{9, {0, 1, 2, 3}}})));
    EXPECT_THAT(sheet.problems(), HasSubstr("is sheet and has no thickness yet"));
    auto strange = ofMesh(put("cube.vtu", cube), {{"cells", "part = 7"}, {"name", "Cube"}});
    EXPECT_THAT(strange.problems(), HasSubstr("there are no cells with \"part = 7\""));
    auto cut = ofMesh(put("cube.vtu", cube), {{"name", "Cube"}});
    cut.say("solid-box", {{"name", "Block"}}).say("solid-cut", {{"tool", "Block"}, {"body", "Cube"}});
    EXPECT_THAT(cut.problems(), HasSubstr("Cube comes as a mesh, which is neither cut nor joined"));
    // One mesh is all there is: no other is tried.
    auto refined = ofMesh(put("cube.vtu", cube), {{"name", "Cube"}});
    refined.say("hold", {{"where", "faces at z = 0 m"}, {"directions", "all"}})
        .say("lowest", {{"count", "2"}})
        .say("refine", {{"error", "1 %"}});
    const auto solution = refined.solved();
    std::string remarks;
    for (const auto& finding : solution->findings)
        remarks += oneLine(finding) + "\n";
    EXPECT_THAT(remarks, HasSubstr("not refined: Cube comes as a mesh"));
}
