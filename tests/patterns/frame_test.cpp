#include "core/patterns/break_up.hpp"
#include "core/picks/pick.hpp"
#include "core/system/rigid_mass.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

SaidModel smallMast(const std::string& bracing = "crosses")
{
    SaidModel said;
    said.say("lattice-mast", {{"bays", "3"}, {"height", "6 m"}, {"bracing", bracing}});
    said.say("material")
        .say("hold", {{"where", "4 feet of Mast"}, {"directions", "all"}})
        .say("lowest", {{"count", "6"}});
    return said;
}

std::string problemsOf(const SaidModel& said)
{
    std::string all;
    for (const auto& finding : said.findings())
        all += oneLine(finding) + "\n";
    return all;
}

} // namespace

TEST(Pattern, MastHasItsParts)
{
    const auto frame = buildStructure(smallMast().model()).structure.frame;
    EXPECT_EQ(frame.points.size(), 16u);
    EXPECT_EQ(frame.members.size(), 3u * (4 + 8 + 4));
    EXPECT_EQ(pick(frame, "feet of Mast", placeTargets).points.size(), 4u);
    EXPECT_EQ(pick(frame, "legs of Mast", partTargets).members.size(), 12u);
    EXPECT_EQ(pick(frame, "points at z = 2 m", placeTargets).points.size(), 4u);
    EXPECT_EQ(pick(frame, "highest points", placeTargets).points, pick(frame, "head of Mast", placeTargets).points);
    EXPECT_EQ(pick(frame, "nearest to (9, 9, 6 m)", placeTargets).points.size(), 1u);
    EXPECT_EQ(pick(frame, "everything except legs of Mast", partTargets).members.size(), 36u);
    EXPECT_EQ(pick(frame, "4 feet of Mast, Mast.3.1 and Mast.3.2", placeTargets).points.size(), 6u);
    EXPECT_EQ(buildStructure(smallMast("chevrons").model()).structure.frame.points.size(), 28u);
}

TEST(Pick, SaysWhenItFindsNothingOrADifferentNumber)
{
    const auto frame = buildStructure(smallMast().model()).structure.frame;
    const auto fewer = pick(frame, "5 feet of Mast", placeTargets);
    EXPECT_TRUE(fewer.onlyCountDiffers);
    EXPECT_EQ(fewer.points.size(), 4u);
    EXPECT_THAT(fewer.problem, HasSubstr("finds 4 now"));
    EXPECT_THAT(pick(frame, "paws of Mast", placeTargets).problem, HasSubstr("no point"));
    EXPECT_THAT(pick(frame, "points at z = 99 m", placeTargets).problem, HasSubstr("finds no point"));
    EXPECT_THAT(pick(frame, "", partTargets).problem, HasSubstr("finds no member"));
    EXPECT_EQ(quotedName("a, b"), "\"a, b\"");
}

TEST(Pick, OffersMoreLikeThisAsRules)
{
    SaidModel said;
    said.say("frame", {{"name", "House"}, {"bays-x", "2"}, {"bays-y", "1"}, {"storeys", "2"}, {"storey", "3 m"}})
        .say("run", {{"name", "Post"}, {"from", "9, 0, 0 m"}, {"to", "9, 0, 6 m"}, {"parts", "1"}});
    const Frame frame = buildStructure(said.model()).structure.frame;
    const int column = pick(frame, "members along z", partTargets).members.front();
    const auto members = rulesLikeMember(frame, column);
    EXPECT_THAT(members, testing::ElementsAre("12 columns of House", "13 members along z"));
    for (const auto& rule : members) { // each holds what it was made from, and its count is true
        const Picked picked = pick(frame, rule, partTargets);
        EXPECT_TRUE(picked.problem.empty()) << rule << ": " << picked.problem;
        EXPECT_THAT(picked.members, testing::Contains(column)) << rule;
    }
    const auto points = rulesLikePoint(frame, frame.pointNamed("House.0.0.2"));
    EXPECT_THAT(points, testing::Contains("6 roof of House"));
    EXPECT_THAT(points, testing::Contains("7 points at z = 6 m"));
    EXPECT_EQ(pick(frame, "members 118.110236220472 in long in House", partTargets).members.size(), 12u)
        << "3 m in inches";
    EXPECT_EQ(pick(frame, "members between z = 0 m and 3 m", partTargets).members.size(), 13u);
    EXPECT_FALSE(pick(frame, "members along w", partTargets).problem.empty());
}

TEST(Pattern, CopiesMirrorAndGridShareMeetingPoints)
{
    SaidModel said;
    said.say("frame", {{"bays-x", "2"}, {"bays-y", "1"}, {"storeys", "2"}});
    auto frame = buildStructure(said.model()).structure.frame;
    EXPECT_EQ(frame.points.size(), 18u);
    EXPECT_EQ(frame.members.size(), 2u * (6 + 4 + 3));
    SaidModel row;
    row.say("run", {{"name", "A"}, {"from", "0, 0, 0 m"}, {"to", "1, 0, 0 m"}})
        .say("copies", {{"name", "C"}, {"what", "A"}, {"count", "3"}, {"step", "1, 0, 0 m"}});
    frame = buildStructure(row.model()).structure.frame;
    EXPECT_EQ(frame.members.size(), 4u);
    EXPECT_EQ(frame.points.size(), 5u);
    SaidModel cross;
    cross.say("run", {{"name", "A"}, {"from", "0, 0, 0 m"}, {"to", "1, 0, 0 m"}})
        .say("copies-around", {{"what", "A"}, {"count", "3"}, {"angle", "90 deg"}});
    EXPECT_EQ(buildStructure(cross.model()).structure.frame.points.size(), 5u);
    SaidModel image;
    image.say("run", {{"name", "A"}, {"from", "0, 0, 0 m"}, {"to", "1, 0, 2 m"}, {"section", "angle 50x50x5 mm"}})
        .say("mirror", {{"what", "A"}, {"axis", "x"}, {"at", "0 m"}});
    frame = buildStructure(image.model()).structure.frame;
    ASSERT_EQ(frame.members.size(), 2u);
    EXPECT_EQ(frame.points.size(), 3u);
    // The mirrored section's corner is the mirror image of the first one's.
    const auto corner = [&](const FrameMember& member) {
        const Eigen::Vector3d x = frame.direction(member), y = member.zAxis.cross(x);
        return Eigen::Vector3d(-y - member.zAxis);
    };
    const Eigen::Vector3d first = corner(frame.members[0]), second = corner(frame.members[1]);
    EXPECT_NEAR((first - Eigen::Vector3d(-second.x(), second.y(), second.z())).norm(), 0, 1e-12);
}

TEST(Pattern, BrokenUpIsTheSameStructure)
{
    SaidModel pipe; // whose bends are softer than their section
    pipe.say("pipe", {{"rows", "0, 0, 0 m\n2, 0, 0 m\n2, 1, 0 m\n2, 1, 2 m"}, {"radius", "200 mm"}, {"elements", "2"}})
        .say("material")
        .say("hold", {{"where", "ends of Pipe"}, {"directions", "all"}})
        .say("lowest", {{"count", "6"}});
    for (const SaidModel& whole : {smallMast(), pipe}) {
        const auto broken = brokenUp(whole.model(), whole.structure().frame, whole.model().group(Group::shape)[0]->id);
        ASSERT_TRUE(broken);
        Progress progress;
        const auto a = solve(whole.model(), progress), b = solve(*broken, progress);
        ASSERT_TRUE(a && b) << oneLine(b.findings().empty() ? Finding{} : b.findings().front());
        for (std::size_t mode = 0; mode < 6; ++mode)
            EXPECT_NEAR((*b)->modes[mode].frequency, (*a)->modes[mode].frequency, 1e-8 * (*a)->modes[mode].frequency);
        EXPECT_FALSE(brokenUp(whole.model(), whole.structure().frame, "nothing"));
    }
    const auto broken = brokenUp(pipe.model(), pipe.structure().frame, pipe.model().group(Group::shape)[0]->id);
    EXPECT_EQ(broken->group(Group::shape).size(), 3u) << "points, straight lengths, bends";
}

TEST(Mass, SumsByHand)
{
    SaidModel said = straightBeam(4.0, 0.1, 0.05, 3);
    said.say("mass", {{"mass", "10 kg"}, {"points", "Beam.1"}, {"centre", "0, 0, 2 m"}});
    said.say("mass-spread", {{"mass", "2 kg/m"}, {"where", "Beam"}});
    said.say("mass-spread", {{"mass", "12 kg"}, {"where", "Beam"}});
    said.say("coating", {{"thickness", "10 mm"}, {"density", "1000 kg/m3"}, {"where", "Beam"}});
    said.say("mass", {{"mass", "3 kg"}, {"points", "Beam.0, Beam.1"}, {"sharing", "on each of"}, {"only", "x"}});
    const auto summary = massSummary(buildStructure(said.model()).structure);
    const double beam = 0.1 * 0.05 * 4 * 8000, coat = 1000 * (0.3 * 0.01 + std::numbers::pi * 0.01 * 0.01) * 4;
    EXPECT_NEAR(summary.mass, beam + 10 + 8 + 12 + coat + 6, 1e-9);
    EXPECT_NEAR(summary.centre.x(), ((beam + 8 + 12 + coat) * 2 + 10 * 4 + 3 * 4) / summary.mass, 1e-9);
    EXPECT_NEAR(summary.centre.z(), 20.0 / summary.mass, 1e-9);
    EXPECT_NEAR(summary.aboutOrigin(0, 0) - summary.aboutOrigin(1, 1), 6.0, 1e-9)
        << "a mass limited to x counts in x alone";
}

TEST(BadInput, IsNamedWithItsSentence)
{
    SaidModel zero;
    zero.say("points", {{"rows", "a|0 m|0 m|0 m\nb|0 m|0 m|0 m\nc|1 m|0 m|0 m"}})
        .say("members", {{"rows", "m1|a|b\nm2|a|missing\nm3|a|a"}})
        .say("material");
    const std::string problems = problemsOf(zero);
    EXPECT_THAT(problems, HasSubstr("the points a and b are at the same place"));
    EXPECT_THAT(problems, HasSubstr("the member m1 has no length"));
    EXPECT_THAT(problems, HasSubstr("\"missing\", but there is no such point"));
    EXPECT_THAT(problems, HasSubstr("the member m3 has no length"));
    SaidModel none;
    none.say("run", {{"section", "brace"}});
    EXPECT_THAT(problemsOf(none), HasSubstr("\"brace\" is not a section"));
    EXPECT_THAT(problemsOf(none), HasSubstr(""));
    SaidModel bare;
    bare.say("run");
    EXPECT_THAT(problemsOf(bare), HasSubstr("has no material"));
    EXPECT_THAT(problemsOf(SaidModel()), HasSubstr("nothing to solve yet"));
    SaidModel far;
    far.say("point", {{"at", "1e12, 0, 0 m"}});
    EXPECT_THAT(problemsOf(far), HasSubstr("Check its unit"));
    SaidModel twice = straightBeam(1, 0.1, 0.1, 1);
    twice.say("lowest")
        .say("up-to")
        .say("mass", {{"points", "Beam.0, Beam.1"}})
        .say("spring", {{"from", "Beam.0"}, {"to", "Beam.1"}});
    EXPECT_THAT(problemsOf(twice), HasSubstr("asked for twice"));
    EXPECT_THAT(problemsOf(twice), HasSubstr("one mass is on 2 points"));
    EXPECT_THAT(problemsOf(twice), HasSubstr("no stiffness yet"));
}
