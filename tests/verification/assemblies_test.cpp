// Models of other files as parts of one.
#include "core/assess/mass_book.hpp"
#include "core/model/model_key.hpp"
#include "core/shapes/joined_faces.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

#include <filesystem>

using namespace undisona;
using testing::HasSubstr;

namespace {

/// A folder of its own for the files of a test, gone with it.
class Harbour {
public:
    Harbour()
    {
        const auto* test = testing::UnitTest::GetInstance()->current_test_info();
        folder_ = std::filesystem::temp_directory_path() / fmt::format("undisona-{}-{}", test->name(), getpid());
        std::filesystem::create_directories(folder_);
    }
    ~Harbour() { std::filesystem::remove_all(folder_); }
    std::string path(const std::string& name) const { return (folder_ / name).string(); }
    std::string keep(const std::string& name, const SaidModel& said) const
    {
        Document document;
        document.model = said.model();
        const auto failed = writeDocumentFile(document, path(name));
        EXPECT_FALSE(failed) << failed->what;
        return path(name);
    }

private:
    std::filesystem::path folder_;
};

void expectSame(const SaidModel& one, const SaidModel& other, double within)
{
    const auto first = one.frequencies(), second = other.frequencies();
    ASSERT_EQ(first.size(), second.size());
    ASSERT_FALSE(first.empty());
    for (std::size_t mode = 0; mode < first.size(); ++mode)
        EXPECT_NEAR(first[mode] / second[mode], 1.0, within) << mode;
}

/// Members of an unsymmetric section with all that has a direction of its own.
SaidModel crookedFrame()
{
    SaidModel said = steel();
    said.say("points", {{"rows", "a|0 m|0 m|0 m\nb|0.1 m|0.2 m|1 m\nc|1.3 m|0.4 m|1.1 m\nd|1.2 m|1.1 m|0.2 m\n"
                                 "e|0.7 m|-0.3 m|1.6 m\nf|0.7 m|-0.3 m|1.9 m"}})
        .say("members", {{"name", "Leg"}, {"rows", "ab|a|b\nbc|b|c\ncd|c|d\nce|c|e"}, {"section", "angle 80x40x6 mm"}})
        .say("members", {{"name", "Line"},
                         {"rows", "be|b|e"},
                         {"section", "tube 60x4 mm"},
                         {"flexibility", "3"},
                         {"towards", "0, 1, 0.3"}})
        .say("offset", {{"members", "bc"}, {"offset", "0, 10, 30 mm"}, {"far", "5, 0, -10 mm"}})
        .say("release", {{"members", "cd"},
                         {"ends", "the first end"},
                         {"directions", "x ry"},
                         {"stiffness", "1 kN/mm"},
                         {"turning", "2 kN m/rad"}})
        .say("spring", {{"from", "e"},
                        {"to", "f"},
                        {"kx", "1 kN/mm"},
                        {"ky", "2 kN/mm"},
                        {"kz", "0.5 kN/mm"},
                        {"krx", "3 kN m/rad"},
                        {"kry", "2 kN m/rad"},
                        {"krz", "1 kN m/rad"},
                        {"x-towards", "1, 2, 1"}})
        .say("mount", {{"from", "c"},
                       {"to", "f"},
                       {"x-towards", "1, 0, 2"},
                       {"y-near", "0, 1, 0"},
                       {"rows", "2 kN/mm|0.1 kN/mm|0.3 kN/mm|100 kN/rad|20 kN/rad|10 kN/rad\n"
                                "0.1 kN/mm|3 kN/mm|0|20 kN/rad|0|100 kN/rad\n0.3 kN/mm|0|1 kN/mm|0|30 kN/rad|0\n"
                                "100 kN/rad|20 kN/rad|0|2000 kN m/rad|0|0\n20 kN/rad|0|30 kN/rad|0|3000 kN m/rad|0\n"
                                "10 kN/rad|100 kN/rad|0|0|0|1000 kN m/rad"}})
        .say("mass", {{"points", "f"},
                      {"mass", "40 kg"},
                      {"centre", "10, 40, 60 mm"},
                      {"inertia", "1, 2, 1.5 kg m2"},
                      {"products", "0.2, 0.1, -0.3 kg m2"}})
        .say("contents", {{"where", "Line"}, {"density", "1000 kg/m3"}})
        .say("weight", {{"where", "bc"}, {"load", "200 N/m"}})
        .say("bed", {{"where", "ab"}, {"stiffness", "50 kN/m2"}, {"directions", "y"}})
        .say("hold", {{"where", "a"}, {"directions", "x z rx"}, {"ky", "3 kN/mm"}, {"x-towards", "1, 1, 0"}})
        .say("hold", {{"where", "d"}, {"directions", "x y z"}, {"about", "1, 0, 1"}, {"through", "0, 0, 0 m"}});
    return said;
}

/// Sheet with a grain that carries a hub in its eye, a body on a bed, a cap that slides on it, and what else is picked
/// by edges and faces.
SaidModel crookedBody()
{
    SaidModel said = steel();
    said.say("orthotropic", {{"name", "ply"}})
        .say("plate", {{"name", "Deck"},
                       {"length", "0.8 m"},
                       {"width", "0.5 m"},
                       {"at", "0.1, 0.2, 0.3 m"},
                       {"along", "1, 0.2, 0"},
                       {"thickness", "12 mm"},
                       {"size", "60 mm"}})
        .say("holes", {{"sheet", "Deck"}, {"diameter", "120 mm"}, {"rows", "0.3 m|0.2 m"}})
        .say("material", {{"what", "Deck"}, {"material", "ply"}})
        .say("solid-box", {{"name", "Block"},
                           {"x", "0.2 m"},
                           {"y", "0.15 m"},
                           {"z", "0.1 m"},
                           {"at", "1.5, 0, 0 m"},
                           {"size", "60 mm"}})
        .say("solid-box", {{"name", "Cap"},
                           {"x", "0.1 m"},
                           {"y", "0.1 m"},
                           {"z", "0.05 m"},
                           {"at", "1.52, 0.02, 0.1 m"},
                           {"size", "60 mm"}})
        .say("solid-cylinder", {{"name", "Plug"},
                                {"diameter", "50 mm"},
                                {"length", "0.1 m"},
                                {"at", "1.6, 0.075, 0 m"},
                                {"size", "60 mm"}})
        .say("solid-cut", {{"tool", "Plug"}, {"body", "Block"}, {"afterwards", "stays in place"}})
        .say("layer", {{"what", "Cap"}, {"other", "Block"}, {"across", "5 N/mm3"}, {"along", "1 N/mm3"}})
        .say("centre", {{"name", "Hub"}, {"where", "rims of Deck"}})
        .say("mass", {{"points", "Hub"}, {"mass", "3 kg"}, {"centre", "0, 0, 50 mm"}})
        .say("bed", {{"where", "faces at z = 0 m of Block"}, {"stiffness", "80 MN/m3"}, {"directions", "x z"}})
        .say("bed", {{"where", "faces at y = 0 m of Block"}, {"stiffness", "10 MN/m3"}, {"directions", "y"}})
        .say("weight", {{"where", "faces at z = 0.15 m of Cap"}, {"load", "3 kN/m2"}})
        .say("hold", {{"where", "edges of Deck"}, {"directions", "y z"}})
        .say("size-at", {{"where", "rims of Deck"}, {"size", "20 mm"}});
    return said;
}

/// The model by itself, and as a sub-assembly that stands somewhere, however it stands.
void expectTheSameHowever(const SaidModel& own, const std::vector<Words>& ways, double within)
{
    const Harbour harbour;
    const std::string file = harbour.keep("own.undisona.json", own);
    SaidModel alone = own;
    alone.say("lowest", {{"count", "8"}});
    for (const Words& way : ways) {
        SaidModel whole;
        Words words{{"name", "Own"}, {"file", file}, {"at", "3, -2, 1 m"}};
        words.insert(way.begin(), way.end());
        whole.say("assembly", words).say("lowest", {{"count", "8"}});
        SCOPED_TRACE(way.empty() ? "moved" : way.begin()->first + " " + way.begin()->second);
        EXPECT_EQ(whole.problems(), "");
        expectSame(whole, alone, within);
    }
}

const std::vector<Words> everyWay{
    {}, {{"turned", "20, 35, -50 deg"}}, {{"mirrored", "y"}}, {{"mirrored", "z"}, {"turned", "10, 80, 200 deg"}}};

} // namespace

TEST(Assemblies, MembersSpringsAndMassesAreTheSameHoweverTheyStand)
{
    expectTheSameHowever(crookedFrame(), everyWay, 1e-8);
}

TEST(Assemblies, SheetAndBodiesAreTheSameHoweverTheyStand)
{
    expectTheSameHowever(crookedBody(), everyWay, 2e-3); // meshes of turned faces differ
}

TEST(Assemblies, ThreeFilesAreTheSameModelAsOne)
{
    // Two floats of sheet on legs in a row, joined by a gangway whose ends stand on points of theirs.
    const auto addFloat = [](SaidModel& said, const std::string& name, double x) {
        const auto at = [&](double along, double across, double up) {
            return fmt::format("{}|{}|{}", metres(x + along), metres(across), metres(up));
        };
        said.say("plate", {{"name", name + "Deck"},
                           {"length", "2 m"},
                           {"width", "1 m"},
                           {"at", fmt::format("{}, 0, 1 m", x)},
                           {"thickness", "10 mm"}})
            .say("points", {{"rows", fmt::format("{0}foot|{1}\n{0}far|{2}", name, at(0, 0, 0), at(2, 0, 0))}})
            .say("members", {{"name", name + "Legs"},
                             {"rows", fmt::format("{0}l1|{0}foot|{0}Deck.1\n{0}l2|{0}far|{0}Deck.2", name)},
                             {"section", "tube 60x4 mm"}})
            .say("hold", {{"where", name + "foot, " + name + "far"}, {"directions", "all"}})
            .say("mass", {{"points", name + "Deck.3"}, {"mass", "20 kg"}});
        return said;
    };
    const auto gangway = [](SaidModel& said, const std::string& from, const std::string& to) {
        said.say("members", {{"name", "Gangway"}, {"rows", "g|" + from + "|" + to}, {"section", "tube 100x5 mm"}})
            .say("lowest", {{"count", "8"}});
    };
    const Harbour harbour;
    SaidModel own = steel(), one = steel(), several = steel();
    const std::string file = harbour.keep("float.undisona.json", addFloat(own, "", 0.0));
    addFloat(one, "A", 0.0);
    addFloat(one, "B", 5.0);
    gangway(one, "ADeck.2", "BDeck.1");
    several.say("assembly-row", {{"name", "Floats"}, {"count", "2"}, {"file", file}, {"step", "5, 0, 0 m"}});
    gangway(several, "Floats.1.Deck.2", "Floats.2.Deck.1");
    EXPECT_EQ(several.problems(), "");
    expectSame(several, one, 1e-10);

    // The same of three files: the row in one of its own, a gangway in the second, both in the third.
    SaidModel row = steel(), nested = steel();
    row.say("assembly-row", {{"name", "Floats"}, {"count", "2"}, {"file", file}, {"step", "5, 0, 0 m"}});
    nested.say("assembly", {{"name", "Row"}, {"file", harbour.keep("row.undisona.json", row)}});
    gangway(nested, "Row.Floats.1.Deck.2", "Row.Floats.2.Deck.1");
    expectSame(nested, one, 1e-10);

    // Where the gangway has points of its own they are another file's no more than they are tied.
    SaidModel apart = steel();
    apart.say("assembly-row", {{"name", "Floats"}, {"count", "2"}, {"file", file}, {"step", "5, 0, 0 m"}});
    SaidModel bridge = steel();
    bridge.say("run", {{"name", "G"}, {"from", "0, 0, 0 m"}, {"to", "3, 0, 0 m"}, {"section", "tube 100x5 mm"}});
    apart.say("assembly",
              {{"name", "Bridge"}, {"file", harbour.keep("bridge.undisona.json", bridge)}, {"at", "Floats.1.far"}});
    EXPECT_THAT(apart.problems(), HasSubstr("are at the same place but are two points"));
    // Points on the same place of a sheet move with it both.
    SaidModel onDeck = steel();
    onDeck.say("assembly-row", {{"name", "Floats"}, {"count", "2"}, {"file", file}, {"step", "5, 0, 0 m"}})
        .say("assembly",
             {{"name", "Bridge"}, {"file", harbour.path("bridge.undisona.json")}, {"at", "Floats.1.Deck.2"}})
        .say("lowest", {{"count", "8"}});
    EXPECT_EQ(onDeck.problems(), "");
    expectSame(onDeck, one, 1e-8);

    // What each weighs stands under the sentence that places it, as does what its file changes.
    const std::uint64_t before = solveKey(several.model());
    const auto book = massBook(several.structure(), several.model(), massSummary(several.structure()));
    EXPECT_NEAR(book.added, 40.0, 1e-9);
    double floats = 0.0;
    for (const auto& entry : book.rows)
        if (entry.sentence == several.model().group(Group::shape)[0]->id) floats += entry.mass;
    EXPECT_NEAR(floats, 2.0 * (2.0 * 0.01 * rho + 20.0 + 2.0 * rho * pi / 4.0 * (0.06 * 0.06 - 0.052 * 0.052)), 1e-9);
    own.say("mass", {{"points", "Deck.4"}, {"mass", "10 kg"}});
    harbour.keep("float.undisona.json", own);
    EXPECT_NE(solveKey(several.model()), before);
    EXPECT_LT(several.frequencies()[0], one.frequencies()[0]);
}

TEST(Assemblies, WhatIsWrongInAFileIsSaidWithTheFilesInBetween)
{
    const Harbour harbour;
    SaidModel inner = steel(), outer = steel(), own = steel();
    inner.say("assembly", {{"name", "Back"}, {"file", harbour.path("outer.undisona.json")}});
    harbour.keep("inner.undisona.json", inner);
    outer.say("assembly", {{"name", "Inner"}, {"file", harbour.path("inner.undisona.json")}});
    harbour.keep("outer.undisona.json", outer);
    own.say("assembly", {{"name", "Loop"}, {"file", harbour.path("outer.undisona.json")}});
    EXPECT_THAT(own.problems(), HasSubstr("a file takes itself: outer.undisona.json, which takes inner.undisona.json, "
                                          "which takes outer.undisona.json"));
    EXPECT_NE(solveKey(own.model()), 0u); // ends

    SaidModel missing = steel();
    missing.say("assembly", {{"name", "Gone"}, {"file", harbour.path("gone.undisona.json")}})
        .say("hold", {{"where", "\"Gone.a b\", Gone.c"}, {"directions", "all"}});
    EXPECT_THAT(missing.problems(), HasSubstr("there is no file gone.undisona.json"));
    EXPECT_THAT(missing.problems(), testing::Not(HasSubstr("Gone.a b"))) << "which follows from that";

    SaidModel broken = straightBeam(1.0, 0.02, 0.02, 2), whole = steel();
    broken.say("hold", {{"where", "Nowhere"}, {"directions", "all"}});
    whole.say("assembly", {{"name", "Beam"}, {"file", harbour.keep("broken.undisona.json", broken)}});
    EXPECT_THAT(whole.problems(), HasSubstr("broken.undisona.json, "));
    EXPECT_THAT(whole.problems(), HasSubstr("Nowhere"));

    SaidModel clash = steel();
    const std::string beam = harbour.keep("beam.undisona.json", straightBeam(1.0, 0.02, 0.02, 2));
    clash.say("point", {{"name", "One.Beam.0"}, {"at", "9, 9, 9 m"}})
        .say("assembly", {{"name", "One"}, {"file", beam}});
    EXPECT_THAT(clash.problems(), HasSubstr("there are two points called \"One.Beam.0\""));

    // What follows some directions alone cannot be turned askew.
    SaidModel askew = straightBeam(1.0, 0.02, 0.02, 2);
    askew.say("mass", {{"points", "Beam.1"}, {"mass", "2 kg"}, {"only", "z"}});
    SaidModel turned = steel();
    turned.say("assembly",
               {{"name", "Askew"}, {"file", harbour.keep("askew.undisona.json", askew)}, {"turned", "0, 30, 0 deg"}});
    EXPECT_THAT(turned.problems(), HasSubstr("a mass acts in some directions alone"));
}

TEST(Assemblies, AreCutTurnedAndNamedByTheModelThatPlacesThem)
{
    const Harbour harbour;
    SaidModel plate = steel();
    plate.say("plate", {{"name", "Deck"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "8 mm"}})
        .say("hold", {{"where", "edges at y = 0 m of Deck"}, {"directions", "all"}});
    SaidModel inPlace = plate, whole;
    const std::string file = harbour.keep("plate.undisona.json", plate);
    // A hole cut by the model that places it, its held edge divided by a rib that stands on it.
    const auto rest = [](SaidModel& said, const std::string& name) {
        said.say("holes", {{"sheet", name}, {"diameter", "200 mm"}, {"rows", "0.5 m|0.3 m"}})
            .say("plate", {{"name", "Rib"},
                           {"length", "0.6 m"},
                           {"width", "0.1 m"},
                           {"at", "0.3, 0, 0 m"},
                           {"along", "0, 1, 0"},
                           {"towards", "0, 0, 1"},
                           {"thickness", "8 mm"}})
            .say("material", {{"what", "Rib"}, {"material", "aluminium alloy 6082"}})
            .say("lowest", {{"count", "6"}});
    };
    rest(inPlace, "Deck");
    whole.say("assembly", {{"name", "Plate"}, {"file", file}});
    rest(whole, "Plate.Deck");
    EXPECT_EQ(whole.problems(), "");
    expectSame(whole, inPlace, 1e-9);

    // Moved as a whole it takes its supports along; a part of it stays with the rest.
    SaidModel moved;
    moved.say("assembly", {{"name", "Plate"}, {"file", file}})
        .say("turned", {{"what", "Plate"}, {"axis", "z"}, {"angle", "90 deg"}})
        .say("lowest", {{"count", "6"}});
    plate.say("lowest", {{"count", "6"}});
    expectSame(moved, plate, 2e-3);

    // "Everything" is what the model itself has: the sub-assembly is what its file says unless it is named.
    SaidModel oak = whole, named = whole;
    oak.say("material", {{"what", "everything"}, {"material", "aluminium alloy 6082"}});
    expectSame(oak, whole, 1e-9);
    named.say("material", {{"what", "Plate.Deck"}, {"material", "aluminium alloy 6082"}});
    EXPECT_GT(std::abs(named.frequencies()[0] / whole.frequencies()[0] - 1.0), 1e-3);
}

TEST(Assemblies, AFaceOfABodyThatWasMovedIsWhereItStands)
{
    // A mass in the middle of a face is a place of it wherever the body was moved to.
    const auto block = [](const std::string& by) {
        SaidModel said = steel();
        said.say("solid-box", {{"name", "Block"}, {"x", "0.4 m"}, {"y", "0.3 m"}, {"z", "0.1 m"}});
        if (!by.empty()) said.say("moved", {{"what", "Block"}, {"step", by}});
        const Eigen::Vector3d at = by.empty() ? Eigen::Vector3d(0, 0, 0) : Eigen::Vector3d(5, -3, 2);
        said.say("point", {{"name", "p"}, {"at", placeText(at + Eigen::Vector3d(0.17, 0.12, 0.1))}})
            .say("mass", {{"mass", "40 kg"}, {"points", "p"}})
            .say("hold", {{"where", "faces at z = " + metres(at.z()) + " of Block"}, {"directions", "x y z"}})
            .say("lowest", {{"count", "4"}});
        EXPECT_EQ(said.problems(), "");
        return said;
    };
    const SaidModel there = block("5, -3, 2 m"), here = block("");
    expectSame(there, here, 1e-6);
    const auto& faces = *there.structure().frame.faces;
    for (std::size_t face = 0; face < faces.faces.size(); ++face)
        EXPECT_LT((faces.middle(static_cast<int>(face)) - faces.centroid(static_cast<int>(face))).norm(), 1e-9);
}
