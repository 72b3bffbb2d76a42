// Bodies of a whole turn filled with bricks and wedges carried round: closed, of the body's volume, and vibrating as
// the same body does of tetrahedra.
#include "core/shapes/joined_faces.hpp"
#include "tests/closed_mesh.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

struct Profile {
    const char* what;
    const char* rows;
    double volume; ///< m3; 0: as the kernel has it
};

SaidModel turned(const Profile& profile, const std::string& elements, const Words& more = {})
{
    Words words{{"what", "Body"}, {"elements", elements}};
    words.insert(more.begin(), more.end());
    return steel()
        .say("revolution", {{"name", "Body"}, {"rows", profile.rows}, {"size", "30 mm"}, {"along", "0, 1, 2"}})
        .say("solid-elements", words);
}

const std::vector<Profile>& profiles()
{
    static const std::vector<Profile> list{
        {"ring", "0.2 m|0 m\n0.3 m|0 m\n0.3 m|0.05 m\n0.2 m|0.05 m", pi * (0.09 - 0.04) * 0.05},
        {"rounded ring", "0.2 m|0 m\n0.3 m|0 m\n0.3 m|0.05 m|0.015 m\n0.2 m|0.05 m", 0.0},
        {"cone with a bore", "0.05 m|0 m\n0.2 m|0 m\n0.1 m|0.2 m\n0.05 m|0.2 m", 0.0},
        {"disc", "0 m|0 m\n0.2 m|0 m\n0.2 m|0.03 m\n0 m|0.03 m", pi * 0.04 * 0.03},
        {"stepped shaft", "0 m|0 m\n0.1 m|0 m\n0.1 m|0.1 m\n0.05 m|0.1 m\n0.05 m|0.3 m\n0 m|0.3 m",
         pi * (0.01 * 0.1 + 0.0025 * 0.2)},
        {"bell", "0 m|0.3 m\n0.1 m|0.3 m\n0.14 m|0.1 m\n0.2 m|0 m\n0.22 m|0 m\n0.16 m|0.1 m\n0.12 m|0.32 m\n0 m|0.32 m",
         0.0}};
    return list;
}

FrameMesh meshOfTurned(const SaidModel& said)
{
    EXPECT_EQ(said.problems(), "");
    const Structure structure = said.structure();
    return meshOf(structure, {}, proposeSizes(structure, 0.0));
}

} // namespace

TEST(WholeTurn, BodiesAreFilledWithBricksThatCloseAndHaveTheirVolume)
{
    for (const auto& profile : profiles())
        for (const char* elements : {"20-node bricks", "8-node bricks"}) {
            SCOPED_TRACE(std::string(profile.what) + " of " + elements);
            const auto said = turned(profile, elements);
            const FrameMesh mesh = meshOfTurned(said);
            const bool linear = std::string(elements) == "8-node bricks";
            const double volume = closedVolume(mesh);
            for (const auto& piece : mesh.solids)
                EXPECT_TRUE(linear ? piece.kind == SolidKind::brick8 || piece.kind == SolidKind::wedge6
                                   : piece.kind == SolidKind::brick20 || piece.kind == SolidKind::wedge15);
            for (const auto& finding : mesh.problems)
                EXPECT_THAT(finding.what, testing::Not(HasSubstr("cannot be filled with bricks")));
            const double wanted =
                profile.volume > 0.0 ? profile.volume : said.structure().frame.faces->solids[0].volume;
            EXPECT_NEAR(volume / wanted, 1.0, linear ? 0.06 : 2e-3);
        }
}

TEST(WholeTurn, HasAsManyElementsThroughItsThicknessAsAsked)
{
    const Profile tube{"thin ring", "0.2 m|0 m\n0.21 m|0 m\n0.21 m|0.1 m\n0.2 m|0.1 m", 0.0};
    for (const int through : {1, 2, 3}) {
        const FrameMesh mesh = meshOfTurned(turned(tube, "20-node bricks", {{"through", std::to_string(through)}}));
        std::set<long> radii; // of corners at half height, about, in tenths of a millimetre
        const Structure structure = turned(tube, "20-node bricks").structure();
        const Eigen::Vector3d axis = Eigen::Vector3d(0, 1, 2).normalized();
        for (const auto& piece : mesh.solids)
            for (std::size_t corner = 0; corner < cornersOf(piece.kind); ++corner) {
                const Eigen::Vector3d place = mesh.nodes[static_cast<std::size_t>(piece.nodes[corner])].place;
                const double height = place.dot(axis);
                if (height > 1e-6) continue; // the lower end
                radii.insert(std::lround(1e4 * (place - height * axis).norm()));
            }
        EXPECT_GE(radii.size(), static_cast<std::size_t>(through) + 1);
        EXPECT_GE(mesh.bodies.at(0).through(), through);
    }
}

TEST(WholeTurn, VibratesAsTheSameBodyOfTetrahedra)
{
    for (const auto& [which, fine] : {std::pair{0U, "26 mm"}, std::pair{3U, "19 mm"}, std::pair{5U, "22 mm"}}) {
        SCOPED_TRACE(profiles()[which].what);
        const auto frequencies = [&](const char* elements, const char* size) {
            SaidModel said = steel();
            said.say("revolution", {{"name", "Body"}, {"rows", profiles()[which].rows}, {"size", size}})
                .say("solid-elements", {{"what", "Body"}, {"elements", elements}})
                .say("lowest", {{"count", "14"}});
            return said.frequencies();
        };
        const auto bricks = frequencies("20-node bricks", "25 mm"), tetrahedra = frequencies("tetrahedra", fine);
        ASSERT_GE(std::min(bricks.size(), tetrahedra.size()), 8U);
        for (std::size_t mode = 0; mode < 8U; ++mode)
            EXPECT_NEAR(bricks[mode] / tetrahedra[mode], 1.0, 5e-3) << mode;
    }
}

TEST(WholeTurn, WhatIsNotRoundAllRoundHasTetrahedra)
{
    auto said = turned(profiles()[0], "20-node bricks");
    said.say("solid-cylinder", {{"name", "Bore"}, {"diameter", "20 mm"}, {"length", "1 m"}, {"at", "0.25, 0, -0.5 m"}})
        .say("solid-cut", {{"tool", "Bore"}, {"body", "Body"}});
    const FrameMesh mesh = meshOfTurned(said);
    ASSERT_FALSE(mesh.solids.empty());
    for (const auto& piece : mesh.solids)
        EXPECT_EQ(piece.kind, SolidKind::tetrahedron10);
    ASSERT_EQ(mesh.problems.size(), 1U);
    EXPECT_THAT(mesh.problems[0].what, HasSubstr("cannot be filled with bricks"));
}
