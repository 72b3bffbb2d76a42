#include "core/model/pipe_bend.hpp"
#include "core/picks/pick.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

SaidModel pipe(const std::string& rows, const Words& more = {})
{
    Words words = more;
    words.insert({{"rows", rows}, {"section", "tube 60x4 mm"}});
    SaidModel said = steel();
    said.say("pipe", words);
    return said;
}

const char* const crooked = "0, 0, 0 m\n1, 0, 0 m\n3, 0, 0 m\n3, 2, 0 m|500 mm\n3, 2, 1 m";

std::string problem(const SaidModel& said)
{
    for (const auto& finding : said.findings())
        if (finding.severity == Severity::error) return finding.what;
    return {};
}

} // namespace

TEST(Pipe, RunsStraightAndRoundItsBendsWithPlacesAlongIt)
{
    const SaidModel said = pipe(crooked, {{"radius", "200 mm"}, {"stops", "0.5, 2, 3 m"}, {"every", "2.5 m"}});
    const Frame frame = said.structure().frame;
    EXPECT_EQ(problem(said), "");
    const auto members = [&](const char* pick_) { return pick(frame, pick_, partTargets).members; };
    const auto points = [&](const char* pick_) { return pick(frame, pick_, placeTargets).points; };
    double straight = 0.0, bent = 0.0;
    for (const int at : members("straights of Pipe"))
        straight += frame.length(frame.members[static_cast<std::size_t>(at)]);
    for (const int at : members("bends of Pipe")) {
        const FrameMember& member = frame.members[static_cast<std::size_t>(at)];
        bent += frame.length(member);
        for (const int end : {member.from, member.to}) {
            const Eigen::Vector3d place = frame.points[static_cast<std::size_t>(end)].place;
            const bool first = place.z() == 0.0 && place.y() < 0.3;
            const Eigen::Vector3d centre = first ? Eigen::Vector3d(2.8, 0.2, 0) : Eigen::Vector3d(3, 1.5, 0.5);
            EXPECT_NEAR((place - centre).norm(), first ? 0.2 : 0.5, 1e-12);
        }
        EXPECT_GT(member.flexibility, 1.0);
    }
    EXPECT_NEAR(straight, 2.8 + 1.3 + 0.5, 1e-12);
    EXPECT_NEAR(bent, pi / 2 * 0.7, 1e-3 * bent);
    EXPECT_EQ(points("ends of Pipe").size(), 2u);
    EXPECT_EQ(points("stops of Pipe").size(), 5u);
    EXPECT_EQ(frame.points[static_cast<std::size_t>(frame.pointNamed("Pipe.s2"))].place, Eigen::Vector3d(2, 0, 0));
    const double half = 0.2 * (1.0 - std::sqrt(0.5));
    EXPECT_NEAR(
        (frame.points[static_cast<std::size_t>(frame.pointNamed("Pipe.2"))].place - Eigen::Vector3d(3 - half, half, 0))
            .norm(),
        0.0, 1e-12);
    // A branch that begins at one of its places shares it, and so does one at given coordinates.
    SaidModel tee = said;
    tee.say("pipe", {{"name", "Branch"}, {"rows", "Pipe.s2\n2, 0, 1 m"}})
        .say("pipe", {{"name", "Drain"}, {"rows", "1, 0, 0 m\n1, 0, -1 m"}});
    EXPECT_EQ(tee.structure().frame.points.size(), frame.points.size() + 2);
}

TEST(Pipe, SaysWhatDoesNotFit)
{
    EXPECT_THAT(problem(pipe("0, 0, 0 m")), HasSubstr("two places at least"));
    EXPECT_THAT(problem(pipe("0, 0, 0 m\n0, 0, 0 m\n1, 0, 0 m")), HasSubstr("are one"));
    EXPECT_THAT(problem(pipe("0, 0, 0 m\n1, 0, 0 m\n0.5, 0, 0 m")), HasSubstr("back on itself at Pipe.1"));
    EXPECT_THAT(problem(pipe("0, 0, 0 m\n1, 0, 0 m\n1, 1, 0 m", {{"radius", "30 mm"}})), HasSubstr("tighter"));
    EXPECT_THAT(problem(pipe("0, 0, 0 m\n1, 0, 0 m\n1, 1, 0 m\n2, 1, 0 m", {{"radius", "600 mm"}})),
                HasSubstr("between Pipe.1 and Pipe.2 the pipe is 1000 mm long, but its bends take 1200 mm"));
    EXPECT_THAT(problem(pipe(crooked, {{"stops", "1, 9 m"}})), HasSubstr("beyond the end"));
    EXPECT_THAT(problem(pipe(crooked, {{"stops", "soon"}})), HasSubstr("do not read"));
    EXPECT_THAT(problem(pipe("nowhere\n1, 0, 0 m")), HasSubstr("neither a point nor coordinates"));
    EXPECT_THAT(problem(pipe(crooked, {{"section", "box 60x60x3 mm"}})), HasSubstr("is none"));
    SaidModel arc;
    arc.say("arc", {{"from", "0, 0, 0 m"}, {"through", "1, 0, 0 m"}, {"to", "3, 0, 0 m"}});
    EXPECT_THAT(problem(arc), HasSubstr("on one line"));
}

TEST(Pipe, TellsHowFlexibleItsBendsAre)
{
    const SaidModel said = pipe(crooked, {{"radius", "200 mm"}});
    const auto findings = said.findings();
    const auto told = std::find_if(findings.begin(), findings.end(), [](const Finding& finding) {
        return finding.what.find("oval") != std::string::npos;
    });
    ASSERT_NE(told, findings.end());
    EXPECT_THAT(told->what, HasSubstr("1 bend of Pipe with radius 200 mm turns oval as it is bent: 1.61 times"));
    const Frame stiff = pipe(crooked, {{"radius", "200 mm"}, {"flexibility", "1"}}).structure().frame;
    for (const auto& member : stiff.members)
        EXPECT_EQ(member.flexibility, 1.0);
}

TEST(Arc, LiesOnItsCircleWithItsSectionSquareToIt)
{
    SaidModel said = steel();
    said.say("arc",
             {{"from", "2, 1, 0 m"}, {"through", "1, 1, 1 m"}, {"to", "0, 1, 0 m"}, {"section", "I 80x40x3x4 mm"}})
        .say("circle", {{"diameter", "3 m"}, {"axis", "x"}, {"at", "0, 0, 5 m"}, {"parts", "10"}});
    const Frame frame = said.structure().frame;
    EXPECT_EQ(problem(said), "");
    const auto arc = pick(frame, "Arc", partTargets).members, ring = pick(frame, "Ring", partTargets).members;
    EXPECT_EQ(arc.size(), 36u);
    EXPECT_EQ(ring.size(), 10u);
    for (const int at : arc) {
        const FrameMember& member = frame.members[static_cast<std::size_t>(at)];
        const Eigen::Vector3d place = frame.points[static_cast<std::size_t>(member.to)].place;
        EXPECT_NEAR((place - Eigen::Vector3d(1, 1, 0)).norm(), 1.0, 1e-12);
        EXPECT_GE(place.z(), -1e-12);
        EXPECT_NEAR(std::abs(member.zAxis.y()), 1.0, 1e-12);
    }
    for (const int at : ring) {
        const FrameMember& member = frame.members[static_cast<std::size_t>(at)];
        const Eigen::Vector3d place = frame.points[static_cast<std::size_t>(member.to)].place;
        EXPECT_NEAR((place - Eigen::Vector3d(0, 0, 5)).norm(), 1.5, 1e-12);
        EXPECT_NEAR(place.x(), 0.0, 1e-12);
        EXPECT_NEAR(member.zAxis.x(), 1.0, 1e-12);
    }
}

TEST(BendFlexibility, IsThatOfTheLiterature)
{
    // Three terms in closed form without Poisson's ratio (Timoshenko, Strength of Materials II, 3rd ed. 1956, art. 17);
    // Clark and Reissner, Bending of curved tubes, 1951, for thin ones: sqrt(3 (1 - nu2)) / h.
    const auto tube = [](double h) { // of radius 1 m bent to 20 m
        Section section;
        section.shape = SectionShape::tube;
        const double wall = h / 20.0;
        section.sizes = {2.0 + wall, wall, 0.0, 0.0};
        return section;
    };
    const auto threeTerms = [](double h) {
        const double a = h * h, b = a * a, c = b * a;
        return (252.0 + 73912.0 * a + 2446176.0 * b + 2822400.0 * c) /
               (3.0 + 3280.0 * a + 329376.0 * b + 2822400.0 * c);
    };
    for (const double h : {0.1, 0.2, 0.5, 1.0, 3.0}) {
        EXPECT_NEAR(bendCharacteristic(tube(h), 20.0), h, 1e-12);
        EXPECT_NEAR(bendFlexibility(tube(h), 20.0, 0.0) / threeTerms(h), 1.0, h < 0.2 ? 5e-3 : 1e-4) << h;
    }
    for (const double h : {0.01, 0.03}) // 1.65 for 0.3
        EXPECT_NEAR(bendFlexibility(tube(h), 20.0, 0.3) * h, std::sqrt(3.0 * 0.91), 2e-3) << h;
    EXPECT_EQ(bendFlexibility(roundSection(0.05), 0.2), 1.0);
}
