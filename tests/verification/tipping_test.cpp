// What bending and twisting moments of a state do to its motions: beams that tip sideways, twisted shafts, arms.
#include "core/elements/stress_stiffness.hpp"
#include "core/modal/resting_place.hpp"
#include "core/units/unit.hpp"
#include "tests/verification/resting.hpp"

using namespace undisona;

namespace {

/// A beam along x of one run, deep in z and thin in y, with the elements that the program chooses.
SaidModel thinBeam(const char* parts = "1", const char* length = "2, 0, 0 m")
{
    return steel().say("run", {{"name", "Beam"},
                               {"from", "0, 0, 0 m"},
                               {"to", length},
                               {"parts", parts},
                               {"section", "rectangle 100x10 mm"}});
}

/// The root of its stiffness sideways by that of its twisting, N m2.
double sidewaysByTwisting()
{
    const Section section = rectangleSection(0.1, 0.01);
    return std::sqrt(E * section.iz * (E / (2 * (1 + nu))) * section.torsion);
}

SaidModel& onForks(SaidModel&& beam, const char* end)
{
    return beam.say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx"}})
        .say("hold", {{"where", end}, {"directions", "y z rx"}});
}

double firstFactor(const SaidModel& said)
{
    const Rest found = loadedRest(said);
    EXPECT_FALSE(found.states.empty() || found.states[0].buckles.empty());
    return found.states.empty() || found.states[0].buckles.empty() ? 0.0 : found.states[0].buckles[0];
}

} // namespace

TEST(Tipping, ForcesOfAMemberTurnWithItAndItsMomentsHalf)
{
    // Forces at both ends in balance, and every rigid rotation: what is added to the stiffness turns them.
    const double length = 0.7;
    MemberElement member =
        memberElement(rectangleSection(0.1, 0.06), libraryMaterial("structural steel").value(), length, 1.0);
    member.shearCentre = {0.01, -0.02};
    std::array<Eigen::Matrix<double, 6, 1>, 2> state;
    state[1] << 300, -70, 50, 9, -20, 14;
    state[0] = state[1];
    state[0][4] -= state[1][2] * length; // M1' = V2, M2' = -V1
    state[0][5] += state[1][1] * length;
    const Matrix12 added = stressStiffness(member, state);
    EXPECT_LT((added - added.transpose()).norm(), 1e-12 * added.norm());
    for (int axis = 0; axis < 3; ++axis) {
        const Eigen::Vector3d turn = Eigen::Vector3d::Unit(axis);
        Vector12 rigid, wanted;
        rigid << Eigen::Vector3d::Zero(), turn, turn.cross(length * Eigen::Vector3d::UnitX()), turn;
        for (int end = 0; end < 2; ++end) {
            const Eigen::Matrix<double, 6, 1> onIt = (end == 0 ? -1.0 : 1.0) * state[std::size_t(end)];
            wanted.segment<3>(6 * end) = turn.cross(onIt.head<3>());
            wanted.segment<3>(6 * end + 3) = 0.5 * turn.cross(onIt.tail<3>());
        }
        EXPECT_LT((added * rigid - wanted).norm(), 1e-9 * wanted.norm()) << axis;
    }
}

TEST(Tipping, BeamsTipByTheTables)
{
    // Prandtl 1899, Michell 1899; Timoshenko and Gere, Theory of Elastic Stability, 2nd ed. 1961, ch. 6.
    const double both = sidewaysByTwisting();
    const auto down = [](const char* where, const char* load) {
        return Words{{"load", load}, {"direction", "0, 0, -1"}, {"where", where}};
    };
    SaidModel atTip = thinBeam();
    atTip.say("hold", {{"where", "Beam.0"}, {"directions", "all"}}).say("force", down("Beam.1", "1 N"));
    EXPECT_NEAR(firstFactor(atTip) / (4.0126 * both / 4.0), 1.0, 0.01) << "a force at the end of a cantilever";
    SaidModel along = thinBeam();
    along.say("hold", {{"where", "Beam.0"}, {"directions", "all"}}).say("force", down("Beam", "1 N"));
    EXPECT_NEAR(firstFactor(along) / (12.85 * both / 4.0), 1.0, 0.01) << "spread along a cantilever";
    SaidModel between = onForks(thinBeam(), "Beam.1").say("force", down("Beam", "1 N"));
    EXPECT_NEAR(firstFactor(between) / (28.3 * both / 4.0), 1.0, 0.01) << "spread between two forks";
    SaidModel middle = onForks(thinBeam("2"), "Beam.2").say("force", down("Beam.1", "1 N"));
    EXPECT_NEAR(firstFactor(middle) / (16.94 * both / 4.0), 1.0, 0.01) << "in the middle between two forks";
    SaidModel bent = onForks(thinBeam(), "Beam.1");
    bent.say("moment", {{"moment", "1 N m"}, {"direction", "0, 1, 0"}, {"points", "Beam.0"}})
        .say("moment", {{"moment", "-1 N m"}, {"direction", "0, 1, 0"}, {"points", "Beam.1"}});
    EXPECT_NEAR(firstFactor(bent) / (pi * both / 2.0), 1.0, 0.01) << "bent evenly";

    // Half of it takes a fourth off the square of the frequency sideways of the evenly bent one.
    SaidModel half = onForks(thinBeam(), "Beam.1");
    const std::string moment = fmt::format("{} N m", pi * both / 4.0);
    half.say("moment", {{"moment", moment}, {"direction", "0, 1, 0"}, {"points", "Beam.0"}})
        .say("moment", {{"moment", "-" + moment}, {"direction", "0, 1, 0"}, {"points", "Beam.1"}})
        .say("lowest", {{"count", "1"}});
    const double still = half.frequencies()[0], loaded = about(half, "loaded").frequencies()[0];
    EXPECT_NEAR(std::pow(loaded / still, 2), 0.75, 0.01);
}

TEST(Tipping, MembersSheetAndBodiesTipAlike)
{
    SaidModel member = steel(), sheet = steel(), body = steel();
    member
        .say("run", {{"name", "Beam"},
                     {"from", "0, 0, 0 m"},
                     {"to", "2, 0, 0 m"},
                     {"parts", "1"},
                     {"section", "rectangle 100x10 mm"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("force", {{"load", "1 N"}, {"direction", "0, 0, -1"}, {"where", "Beam.1"}});
    sheet
        .say("plate",
             {{"name", "Strip"}, {"length", "2 m"}, {"width", "0.1 m"}, {"towards", "0, 0, 1"}, {"thickness", "10 mm"}})
        .say("hold", {{"where", "edges at x = 0 m of Strip"}, {"directions", "all"}})
        .say("force", {{"load", "1 N"}, {"direction", "0, 0, -1"}, {"where", "edges at x = 2 m of Strip"}});
    body.say("solid-box", {{"name", "Bar"}, {"x", "2 m"}, {"y", "0.01 m"}, {"z", "0.1 m"}})
        .say("hold", {{"where", "faces at x = 0 m of Bar"}, {"directions", "all"}})
        .say("force", {{"load", "1 N"}, {"direction", "0, 0, -1"}, {"where", "faces at x = 2 m of Bar"}});
    const double own = firstFactor(member);
    // What is held all over cannot warp there, which is as if it were shorter by a part of its depth; sheet twists by
    // b t3 / 3, without what its edges take off.
    EXPECT_NEAR(firstFactor(sheet) / own, 1.0, 0.04);
    EXPECT_NEAR(firstFactor(body) / own, 1.0, 0.03);
}

TEST(Tipping, AShaftGivesWayToItsTorque)
{
    // Greenhill 1883: both ends clamped but for the twisting, T L / EI = 2 x where tan x = x.
    const double bending = E * pi * std::pow(0.02, 4) / 64.0;
    SaidModel shaft = steel();
    shaft
        .say("run", {{"name", "Shaft"},
                     {"from", "0, 0, 0 m"},
                     {"to", "1, 2, -2 m"}, // 3 m
                     {"parts", "1"},
                     {"section", "round 20 mm"}})
        .say("hold", {{"where", "Shaft.0"}, {"directions", "all"}})
        .say("hold",
             {{"where", "Shaft.1"}, {"directions", "x y z ry rz"}, {"x-towards", "1, 2, -2"}, {"y-near", "0, 1, 0"}})
        .say("moment", {{"moment", "1 N m"}, {"direction", "1, 2, -2"}, {"points", "Shaft.1"}});
    EXPECT_NEAR(firstFactor(shaft) / (2 * 4.4934 * bending / 3.0), 1.0, 0.01);
}

TEST(Tipping, MomentsGoAroundCornersOfAFrame)
{
    // An arm of two members at a right angle, in balance under forces at its tips: turned as a whole, the forces that
    // its state adds are those at the tips, turned, and none at the corner.
    SaidModel said = steel();
    said.say("points", {{"rows", "a|0 m|0 m|0 m\nb|1 m|0 m|0 m\nc|1 m|2 m|0.5 m"}})
        .say("members", {{"name", "Arm"}, {"rows", "one|a|b\ntwo|b|c"}, {"section", "rectangle 60x40 mm"}})
        .say("offset", {{"members", "Arm.one"}, {"offset", "0, 0, 0 m"}, {"far", "0, 0.1, 0.2 m"}})
        .say("force", {{"load", "100 N"}, {"direction", "1, 2, 0.5"}, {"where", "a"}})
        .say("force", {{"load", "-100 N"}, {"direction", "1, 2, 0.5"}, {"where", "c"}});
    const Structure structure = said.structure();
    const FrameMesh mesh = meshOf(structure, {4, 4}, {});
    Progress progress;
    const System system = assemble(structure, mesh, progress);
    const StaticLoads loads = staticLoadsOf(structure, mesh, system);
    const auto place = RestingPlace::of(system, progress);
    ASSERT_TRUE(place);
    const auto moved = place->motions(loads.forces, {"loaded"});
    ASSERT_TRUE(moved);
    const auto state = prestressOf(structure, mesh, system, loads, 0, moved->col(0));
    const SparseSymmetric added = sumOf(system, tensionParts(structure, mesh, system, state));
    const Eigen::Vector3d force = 100.0 * Eigen::Vector3d(1, 2, 0.5).normalized();
    for (int axis = 0; axis < 3; ++axis) {
        const Eigen::Vector3d turn = Eigen::Vector3d::Unit(axis);
        Eigen::VectorXd rigid(system.size()), wanted = Eigen::VectorXd::Zero(system.size());
        for (Eigen::Index at = 0; at < rigid.size(); ++at)
            rigid[at] = system.motions.unknowns[std::size_t(at)].fromRigid[3 + axis];
        for (const auto& [point, sign] : {std::pair("a", 1.0), std::pair("c", -1.0)}) {
            const auto& node = system.motions.nodes[std::size_t(structure.frame.pointNamed(point))];
            Vector6 both = Vector6::Zero();
            both.head<3>() = sign * turn.cross(force);
            wanted(node.unknowns) += node.basis.transpose() * both;
        }
        EXPECT_LT((added * rigid - wanted).norm(), 1e-8 * wanted.norm()) << axis;
    }
}

TEST(Tipping, AMassOnAnArmTipsBySoMuchAsItsSupportGives)
{
    // A weight m g at the height h on a spring that turns: m g h = k; about it f2 = f02 (1 - m g h / k).
    SaidModel said;
    said.say("points", {{"rows", "foot|0 m|0 m|0 m"}})
        .say("hold", {{"where", "foot"}, {"directions", "x y z rx rz"}})
        .say("ground-spring", {{"points", "foot"}, {"kry", "500 N m/rad"}})
        .say("mass", {{"mass", "20 kg"}, {"points", "foot"}, {"centre", "0, 0, 1.5 m"}})
        .say("own-weight", {{"state", "up"}})
        .say("own-weight", {{"state", "down"}, {"direction", "0, 0, 1"}})
        .say("lowest", {{"count", "1"}});
    const double share = 20 * standardGravity * 1.5 / 500.0;
    EXPECT_NEAR(firstFactor(said) * share, 1.0, 1e-9);
    SaidModel up = said, down = said;
    const double still = said.frequencies()[0];
    EXPECT_NEAR(std::pow(about(up, "up").frequencies()[0] / still, 2), 1.0 - share, 1e-6);
    EXPECT_NEAR(std::pow(about(down, "down").frequencies()[0] / still, 2), 1.0 + share, 1e-6);
}
