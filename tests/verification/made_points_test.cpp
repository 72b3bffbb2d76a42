// Points that sentences make in the middle of what they join, and devices carried by several faces.
#include "tests/rigid_balance.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

/// A bracket with a bore and two pads, held at its back.
SaidModel bracket(bool held = true)
{
    SaidModel said = steel();
    said.say("solid-box", {{"name", "Bracket"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "40 mm"}})
        .say("solid-cylinder",
             {{"name", "Bore"}, {"diameter", "60 mm"}, {"length", "80 mm"}, {"at", "220, 120, -20 mm"}})
        .say("solid-cut", {{"tool", "Bore"}, {"body", "Bracket"}});
    if (held) said.say("hold", {{"where", "faces at x = 0 m of Bracket"}, {"directions", "x y z"}});
    return said;
}

const FramePoint& pointOf(const Structure& structure, const char* name)
{
    return structure.frame.points.at(static_cast<std::size_t>(structure.frame.pointNamed(name)));
}

} // namespace

TEST(MadePoint, LiesOnTheAxisOfABoreInARimAndInTheMiddleOfFlatFaces)
{
    const auto made = [](const char* where, const char* how) {
        SaidModel said = bracket();
        said.say("centre", {{"name", "Hub"}, {"where", where}, {"how", how}});
        return pointOf(said.structure(), "Hub").place;
    };
    for (const char* how : {"tied rigidly to it", "following its mean"}) {
        EXPECT_LT((made("faces of radius 30 mm of Bracket", how) - Eigen::Vector3d(0.22, 0.12, 0.02)).norm(), 1e-9);
        EXPECT_LT((made("edges at z = 40 mm of Bracket", how) - Eigen::Vector3d(0.15, 0.1, 0.04)).norm(), 0.05);
        EXPECT_LT((made("faces at y = 0 m of Bracket", how) - Eigen::Vector3d(0.15, 0.0, 0.02)).norm(), 1e-12);
    }
    // A flat face with a hole: the centroid of what is left, (A c - a h) / (A - a).
    const double whole = 0.06, hole = pi * 0.03 * 0.03;
    const Eigen::Vector3d byHand =
        (whole * Eigen::Vector3d(0.15, 0.1, 0.04) - hole * Eigen::Vector3d(0.22, 0.12, 0.04)) / (whole - hole);
    EXPECT_LT((made("faces at z = 40 mm of Bracket", "following its mean") - byHand).norm(), 1e-9);
    balanced(bracket(false).say("centre", {{"name", "Hub"}, {"where", "faces of radius 30 mm of Bracket"}}), "a hub");
}

TEST(MadePoint, ADeviceCarriedInOneSentenceIsThatOfThree)
{
    // 38 kg on two faces, its centre beside their middle, turned by its own axes.
    const Words body{{"mass", "38 kg"}, {"centre", "20, -10, 200 mm"}, {"inertia", "0.5, 0.7, 0.4 kg m2"}};
    const char* faces = "faces at y = 0 m of Bracket, faces at y = 0.2 m of Bracket";
    for (const bool rigid : {true, false}) {
        SaidModel one = bracket();
        Words all = body;
        all.insert({{"name", "Motor"}, {"where", faces}, {"how", rigid ? "as one rigid body" : "in the mean"}});
        one.say("carried", all).say("lowest", {{"count", "6"}});
        SaidModel three = bracket();
        three.say("point", {{"name", "Motor"}, {"at", "0.15, 0.1, 0.02 m"}});
        if (rigid)
            three.say("rigid", {{"points", faces}, {"to", "Motor"}});
        else
            three.say("mean", {{"point", "Motor"}, {"of", faces}});
        Words mass = body;
        mass.insert({{"points", "Motor"}, {"sharing", "on"}});
        three.say("mass", mass).say("lowest", {{"count", "6"}});
        const auto said = one.frequencies(), byHand = three.frequencies();
        ASSERT_EQ(said.size(), 6u);
        ASSERT_EQ(byHand.size(), 6u);
        for (std::size_t mode = 0; mode < 6; ++mode)
            EXPECT_NEAR(said[mode] / byHand[mode], 1.0, 1e-8) << mode << rigid;
        // Others may name its point.
        one.say("hand-check", {{"point", "Motor"}, {"direction", "z"}});
        EXPECT_EQ(one.problems(), "");
    }
}

TEST(MadePoint, RefusesWhatHasNoMiddleAndNamesThatAreTaken)
{
    EXPECT_THAT(bracket().say("centre", {{"name", "Hub"}, {"where", "faces of Bracket, edges of Bracket"}}).problems(),
                HasSubstr("edges and faces are named together, which have no middle in common"));
    EXPECT_THAT(bracket()
                    .say("point", {{"name", "Hub"}, {"at", "0, 0, 1 m"}})
                    .say("centre", {{"name", "Hub"}, {"where", "faces of Bracket"}})
                    .problems(),
                HasSubstr("there is a point called \"Hub\" already"));
    EXPECT_THAT(bracket().say("carried", {{"where", "faces of Nobody"}}).problems(), HasSubstr("Nobody"));
}

TEST(MadePoint, AFloorThatIsStiffInItsPlaneMovesAsOneBody)
{
    // Four massless columns, clamped below and free to turn above, k = 3 EI / h3 each; the floor's two shifts and its
    // turn against unequal masses at its corners: three equations by hand. The same with one mass at the centre of
    // those masses in their place, and their rotary inertia.
    const double h = 3.0, a = 4.0, b = 5.0, stiff = 3.0 * E * 0.1 * std::pow(0.1, 3) / 12.0 / (h * h * h);
    const double masses[4] = {1000.0, 3000.0, 1500.0, 500.0};
    const Eigen::Vector2d corner[4] = {{0, 0}, {a, 0}, {a, b}, {0, b}};
    Eigen::Matrix3d k = Eigen::Matrix3d::Zero(), m = k;
    Eigen::Vector2d centre = Eigen::Vector2d::Zero();
    double total = 0.0, inertia = 0.0;
    for (int at = 0; at < 4; ++at) {
        Eigen::Matrix<double, 2, 3> moves; // by the shifts of the middle and the turn
        const Eigen::Vector2d arm = corner[at] - Eigen::Vector2d(a / 2, b / 2);
        moves << 1, 0, -arm.y(), 0, 1, arm.x();
        k += stiff * moves.transpose() * moves;
        m += masses[at] * moves.transpose() * moves;
        centre += masses[at] * arm;
        total += masses[at];
    }
    centre /= total;
    for (int at = 0; at < 4; ++at)
        inertia += masses[at] * (corner[at] - Eigen::Vector2d(a / 2, b / 2) - centre).squaredNorm();
    const Eigen::Vector3d expected =
        Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::Matrix3d>(k, m).eigenvalues().cwiseSqrt() / (2 * pi);
    for (const bool replaced : {false, true}) {
        SaidModel said = steel();
        said.say("points", {{"rows", "a|0 m|0 m|0 m\nb|4 m|0 m|0 m\nc|4 m|5 m|0 m\nd|0 m|5 m|0 m\n"
                                     "A|0 m|0 m|3 m\nB|4 m|0 m|3 m\nC|4 m|5 m|3 m\nD|0 m|5 m|3 m"}})
            .say("members",
                 {{"name", "Columns"}, {"rows", "1|a|A\n2|b|B\n3|c|C\n4|d|D"}, {"section", "rectangle 100x100 mm"}})
            .say("material-mass", {{"factor", "0 %"}})
            .say("hold", {{"where", "a, b, c, d"}, {"directions", "all"}})
            .say("hold", {{"where", "A, B, C, D"}, {"directions", "z rz"}})
            .say("centre",
                 {{"name", "Floor"}, {"where", "A, B, C, D"}, {"how", "tied rigidly to it"}, {"directions", "x y"}})
            .say("lowest", {{"count", "3"}});
        if (replaced)
            said.say("mass", {{"mass", "6000 kg"},
                              {"points", "Floor"},
                              {"centre", metres(centre.x()) + ", " + metres(centre.y()) + ", 0 m"},
                              {"inertia", "9000, 9000, " + std::to_string(inertia) + " kg m2"}})
                .say("hold", {{"where", "Floor"}, {"directions", "z rx ry"}});
        else
            for (int at = 0; at < 4; ++at)
                said.say("mass",
                         {{"mass", std::to_string(masses[at]) + " kg"}, {"points", std::string(1, "ABCD"[at])}});
        const auto found = said.frequencies();
        ASSERT_GE(found.size(), 3u);
        for (int at = 0; at < 3; ++at)
            EXPECT_NEAR(found[std::size_t(at)] / expected[at], 1.0, 4e-3) << at << replaced; // but for shear
    }
}
