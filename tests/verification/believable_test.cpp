// What is said beside the frequencies must be as true as they are.
#include "core/assess/model_checks.hpp"
#include "core/base/file_writer.hpp"
#include "core/shapes/shape_file.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

#include <filesystem>

#include <unistd.h>

using namespace undisona;
using testing::HasSubstr;
using testing::Not;

namespace {

std::string words(const Findings& findings)
{
    std::string all;
    for (const auto& finding : findings)
        all += oneLine(finding) + "\n";
    return all;
}

std::string checksOf(const SaidModel& said)
{
    const auto built = buildStructure(said.model());
    return words(built.findings) + words(checkStructure(built.structure, massSummary(built.structure)));
}

} // namespace

// Middles of tetrahedra's sides lie on a wall that bows by more than its thickness over one element: the size follows
// it.
TEST(Mass, OfCurvedSolidsIsThatOfTheBodyOnAnyMesh)
{
    for (const char* size : {"140 mm", "70 mm"}) {
        SaidModel tube = steel();
        tube.say("solid-cylinder",
                 {{"name", "Wall"}, {"diameter", "600 mm"}, {"inner", "580 mm"}, {"length", "800 mm"}, {"size", size}})
            .say("solid-elements", {{"what", "Wall"}, {"elements", "tetrahedra"}})
            .say("hold", {{"where", "faces at z = 0 mm of Wall"}, {"directions", "x y z"}})
            .say("lowest", {{"count", "4"}});
        const double exact = 8000.0 * pi * (0.3 * 0.3 - 0.29 * 0.29) * 0.8;
        const auto solution = tube.solved();
        EXPECT_NEAR(solution->mass.mass / exact, 1.0, 0.002) << size;
        EXPECT_THAT(words(solution->findings), Not(HasSubstr("its mass is"))) << size;
    }
}

// One sentence, one number: what is shown, not what the count lay a few modes higher for.
TEST(Count, SpeaksOfTheModesThatAreShown)
{
    CountCheck check{0.0, 24.05, 11, 11, 0, "", true, 10, 22.31, 0.0};
    EXPECT_EQ(wordsOf(check), "10 of 10 modes up to 22.31 Hz found");
    check.shown = 11;
    EXPECT_EQ(wordsOf(check), "11 of 11 modes below 24.05 Hz found");
    SaidModel said = straightBeam(6, 0.1, 0.05, 12);
    said.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("up-to", {{"frequency", "300 Hz"}, {"most", "4"}});
    const auto solution = said.solved();
    ASSERT_EQ(solution->modes.size(), 4u);
    EXPECT_THAT(words(solution->findings), HasSubstr("more lie below the 300.0 Hz that was asked"));
    EXPECT_THAT(certificateOf(*solution).words, HasSubstr("300.0 Hz was asked"));
    EXPECT_THAT(wordsOf(solution->count), HasSubstr("300"));
}

TEST(Picks, APartsNameIsTheWholeOfItAndNeverItsCorners)
{
    SaidModel said = steel();
    said.say("plate", {{"name", "Strip"}, {"length", "420 mm"}, {"width", "20 mm"}, {"thickness", "1.5 mm"}});
    SaidModel byName = said, everything = said, corners = said, edges = said;
    byName.say("hold", {{"where", "Strip"}, {"directions", "x z"}});
    everything.say("hold", {{"where", "everything"}, {"directions", "x z"}});
    for (const SaidModel& held : {byName, everything}) {
        EXPECT_EQ(words(held.findings()), "");
        ASSERT_EQ(held.structure().holds.size(), 1u);
        const FrameMesh mesh = coarseMesh(held.structure());
        EXPECT_EQ(mesh.nodesOf(held.structure().holds[0].on, 0).size(), mesh.nodes.size());
    }
    said.say("mass", {{"mass", "1 kg"}, {"points", "Strip"}});
    EXPECT_THAT(words(said.findings()), HasSubstr("\"Strip\" means a sheet, and points are meant here"));
    EXPECT_THAT(words(said.findings()), HasSubstr("points of Strip"));
    corners.say("hold", {{"where", "points of Strip"}, {"directions", "x z"}});
    EXPECT_EQ(corners.structure().holds.size(), 4u);
    edges.say("hold", {{"where", "edges of Strip"}, {"directions", "x z"}});
    EXPECT_FALSE(hasError(edges.findings())) << words(edges.findings());
}

TEST(Holes, AreCutIntoFlatSheetFromFiles)
{
    SaidModel drawn = steel();
    drawn.say("plate", {{"name", "Cover"}, {"length", "300 mm"}, {"width", "200 mm"}, {"thickness", "2 mm"}})
        .say("holes", {{"sheet", "Cover"}, {"diameter", "40 mm"}, {"rows", "150 mm|100 mm"}});
    const auto path = (std::filesystem::temp_directory_path() / fmt::format("cover-{}.step", getpid())).string();
    ASSERT_FALSE(writeWholeFile(path, *stepText(drawn.structure().frame)));
    const double whole = 8000.0 * 0.002 * (0.3 * 0.2 - pi * 0.02 * 0.02), hole = 8000.0 * 0.002 * pi * 0.004 * 0.004;
    for (const int holes : {0, 1, 4}) {
        SaidModel said = steel();
        said.say("imported", {{"name", "Cover"}, {"file", path}, {"body", "1"}, {"thickness", "2 mm"}});
        if (holes == 1) said.say("holes", {{"sheet", "Cover"}, {"diameter", "8 mm"}, {"rows", "25 mm|25 mm"}});
        if (holes == 4)
            said.say("holes", {{"sheet", "Cover"}, {"diameter", "8 mm"}, {"rows", "25 mm|25 mm"}, {"mirror", "both"}});
        EXPECT_FALSE(hasError(said.findings())) << words(said.findings());
        EXPECT_NEAR(massSummary(said.structure()).mass, whole - holes * hole, 1e-6 * whole) << holes << " holes";
    }
    std::filesystem::remove(path);
}

TEST(Advice, SheetIsOfferedOnlyWhereItIsAsGood)
{
    const auto tube = [](const char* inner) {
        SaidModel said = steel();
        said.say("solid-cylinder", {{"name", "Tube"}, {"diameter", "100 mm"}, {"inner", inner}, {"length", "600 mm"}});
        return checksOf(said);
    };
    EXPECT_THAT(tube("92 mm"), HasSubstr("as sheet along its mid-face"));
    EXPECT_THAT(tube("57 mm"), Not(HasSubstr("as sheet along its mid-face"))) << "R/t = 1.8";
    SaidModel sharp = steel();
    sharp.say("cylinder-shell",
              {{"name", "Sleeve"}, {"diameter", "60 mm"}, {"length", "300 mm"}, {"thickness", "20 mm"}});
    EXPECT_THAT(checksOf(sharp), HasSubstr("thicknesses: as thin sheet"));
}

// A portal a million times stiffer along its members than across sways; it is not loose.
TEST(ZeroEnergy, ASoftWayIsNoMechanism)
{
    const auto portal = [](const char* along) {
        SaidModel said;
        said.say("points", {{"rows", "a|0 m|0 m|0 m\nb|0 m|0 m|3 m\nc|4 m|0 m|3 m\nd|4 m|0 m|0 m"}})
            .say("members", {{"name", "Portal"}, {"rows", "left|a|b\nbeam|b|c\nright|c|d"}, {"section", along}})
            .say("material")
            .say("hold", {{"where", "a, d"}, {"directions", "x y z"}})
            .say("hold", {{"where", "b, c"}, {"directions", "y"}})
            .say("lowest", {{"count", "3"}});
        Progress progress;
        return *solve(said.model(), progress);
    };
    const auto usual = portal("round 40 mm"), thin = portal("round 0.4 mm");
    for (const auto& solution : {usual, thin}) {
        EXPECT_FALSE(solution->modes[0].mechanism);
        EXPECT_THAT(words(solution->findings), Not(HasSubstr("loose")));
    }
    // Of a uniform frame every frequency goes with the radius alone.
    for (std::size_t mode = 0; mode < 2; ++mode)
        EXPECT_NEAR(usual->modes[mode].frequency / thin->modes[mode].frequency, 100.0, 0.1) << mode;
}

TEST(IdleDirections, OfPointsWhereEveryEndIsReleasedAreLeftOutAndSaid)
{
    // A cantilever on a strut that is pinned at both ends: the turns of the strut's foot have nothing to hold them, and
    // no mode needs them.
    SaidModel said;
    said.say("points", {{"rows", "a|0 m|0 m|0 m\nb|2 m|0 m|0 m\nc|2 m|0 m|-1 m"}})
        .say("members", {{"name", "Arm"}, {"rows", "m|a|b"}, {"section", "tube 60.3x4 mm"}})
        .say("members", {{"name", "Strut"}, {"rows", "s|b|c"}, {"section", "round 10 mm"}})
        .say("material")
        .say("release", {{"members", "Strut"}, {"ends", "both ends"}, {"directions", "ry rz"}})
        .say("hold", {{"where", "a"}, {"directions", "all"}})
        .say("hold", {{"where", "c"}, {"directions", "x y z"}})
        .say("mass", {{"mass", "500 kg"}, {"points", "b"}})
        .say("material-mass", {{"factor", "0 %"}})
        .say("lowest", {{"count", "3"}});
    const auto solution = said.solved();
    EXPECT_THAT(words(solution->findings), HasSubstr("neither stiffness nor mass"));
    EXPECT_THAT(words(solution->findings), Not(HasSubstr("loose")));
    const auto& frame = solution->structure->frame;
    const double e = solution->structure->members[0].material->modulus,
                 sideways = 3.0 * e * frame.members[0].section->i1 / 8.0,
                 upright = sideways + e * frame.members[1].section->area;
    ASSERT_GE(solution->modes.size(), 2u);
    // Shear gives way a little beside bending; the strut is pinned, so that it does not help sideways.
    EXPECT_NEAR(solution->modes[0].frequency * 2 * pi / std::sqrt(sideways / 500.0), 1.0, 0.005);
    EXPECT_NEAR(solution->modes[1].frequency * 2 * pi / std::sqrt(upright / 500.0), 1.0, 0.005);
}
