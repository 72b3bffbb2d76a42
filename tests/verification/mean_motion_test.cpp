// A point that follows the mean of others: what it brings to them, and that it holds nothing together.
#include "core/modal/pencil_of.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;

namespace {

SaidModel floorPlate(const char* size = "60 mm")
{
    SaidModel said = steel();
    said.say("plate",
             {{"name", "Floor"}, {"length", "1.2 m"}, {"width", "0.9 m"}, {"thickness", "6 mm"}, {"size", size}})
        .say("points", {{"rows", "device|0.5 m|0.4 m|0.3 m"}});
    return said;
}

/// Eigenvalues of the whole system by dense matrices: the relations as a basis of what they leave.
Eigen::VectorXd denseFrequencies(const System& system)
{
    const Eigen::MatrixXd identity = Eigen::MatrixXd::Identity(system.size(), system.size());
    const Eigen::MatrixXd mass = system.mass * identity, stiffness = matricesOf(system).stiffnessTimes(identity);
    Eigen::MatrixXd rows = Eigen::MatrixXd::Zero(system.size(), Eigen::Index(system.motions.apart.size()));
    for (std::size_t at = 0; at < system.motions.apart.size(); ++at)
        for (const auto& [unknown, weight] : system.motions.apart[at].weights)
            rows(unknown, Eigen::Index(at)) = weight;
    // q = T x, each follower by the others: by hand, no factorisation of the relations.
    std::vector<Eigen::Index> others;
    Eigen::MatrixXd all = identity;
    for (std::size_t at = 0; at < system.motions.apart.size(); ++at) {
        const auto& own = system.motions.apart[at];
        for (const auto& [unknown, weight] : own.weights)
            if (unknown != own.follower) all(own.follower, unknown) = -weight / own.weights.at(own.follower);
        all(own.follower, own.follower) = 0.0;
    }
    for (Eigen::Index at = 0; at < system.size(); ++at)
        if (std::none_of(system.motions.apart.begin(), system.motions.apart.end(),
                         [&](const auto& own) { return own.follower == at; }))
            others.push_back(at);
    const Eigen::MatrixXd t = all(Eigen::all, others);
    EXPECT_LT((rows.transpose() * t).cwiseAbs().maxCoeff(), 1e-12);
    const Eigen::VectorXd lambda = Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd>(
                                       t.transpose() * stiffness * t, t.transpose() * mass * t, Eigen::EigenvaluesOnly)
                                       .eigenvalues();
    return lambda.cwiseMax(0.0).cwiseSqrt() / (2.0 * pi);
}

} // namespace

TEST(MeanMotion, CarriesItsDeviceAsTheDensePencilHasIt)
{
    for (const bool held : {true, false}) {
        SaidModel said = floorPlate("150 mm");
        said.say("mean", {{"point", "device"}, {"of", "Floor"}})
            .say("mass", {{"points", "device"}, {"mass", "40 kg"}, {"inertia", "1, 2, 3 kg m2"}})
            .say("mass-matrix", {{"matrix", "consistent"}})
            .say("lowest", {{"count", "14"}});
        if (held) said.say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}});
        const auto solution = said.solved();
        ASSERT_EQ(solution->system->motions.apart.size(), 6u);
        const Eigen::VectorXd dense = denseFrequencies(*solution->system);
        const auto rigid =
            std::count_if(solution->modes.begin(), solution->modes.end(), [](const Mode& m) { return m.rigid; });
        EXPECT_EQ(rigid, held ? 0 : 6);
        for (std::size_t at = std::size_t(rigid); at < solution->modes.size(); ++at)
            EXPECT_NEAR(solution->modes[at].frequency, dense[Eigen::Index(at)], 1e-7 * dense[Eigen::Index(at)])
                << held << at;
        EXPECT_TRUE(solution->count.proven);
        EXPECT_NEAR(solution->mass.mass, 40 + 8000 * 1.2 * 0.9 * 0.006, 1e-9);
        // Shares of all modes make up what moves.
        Progress progress;
        Ask every;
        every.until = Ask::Until::all;
        const auto whole =
            *solve(said.model(), progress, {.ask = every, .plan = planOf(solution->mesh), .meshErrors = false});
        // A turn of the free plate in its own plane that next to nothing weighs is no mode.
        EXPECT_EQ(Eigen::Index(whole->modes.size()), (dense.array() < 1e7).count());
        for (int direction = 0; direction < 6; ++direction)
            EXPECT_NEAR(whole->participation.effective.col(direction).sum(), whole->participation.movable[direction],
                        1e-6 * whole->participation.movable[direction])
                << direction;
    }
}

TEST(MeanMotion, WhatNothingIsPutOnChangesNothingAndDoesNotFillTheEquations)
{
    const auto said = [](bool follows) {
        SaidModel one = floorPlate("30 mm");
        one.say("hold", {{"where", "edges at y = 0 m"}, {"directions", "all"}}).say("lowest", {{"count", "6"}});
        if (follows) one.say("mean", {{"point", "device"}, {"of", "Floor"}});
        return one;
    };
    const auto with = said(true).solved(), without = said(false).solved();
    EXPECT_EQ(with->system->stiffness.row.size(), without->system->stiffness.row.size());
    for (std::size_t at = 0; at < 6; ++at)
        EXPECT_NEAR(with->modes[at].frequency, without->modes[at].frequency, 1e-9 * without->modes[at].frequency);
    SaidModel loaded = said(true);
    loaded.say("mass", {{"points", "device"}, {"mass", "5 kg"}});
    const auto heavy = loaded.solved();
    EXPECT_EQ(heavy->system->motions.apart.size(), 3u) << "nothing wants its turns";
    EXPECT_LE(heavy->system->stiffness.row.size(), without->system->stiffness.row.size() + 9);
    EXPECT_LT(heavy->modes[0].frequency, 0.98 * without->modes[0].frequency);
}

TEST(MeanMotion, OfFewPointsIsWhatTheyAreOfMany)
{
    // Two ways to the same: all the corners of a small plate's mesh by name, and its sheet by points.
    SaidModel frame;
    frame.say("points", {{"rows", "a|0 m|0 m|0 m\nb|2 m|0 m|0 m\nc|2 m|1 m|0 m\nd|0 m|1 m|0 m\nm|1.1 m|0.4 m|0.2 m"}});
    for (const char* name : {"a", "b", "c", "d"})
        frame.say("ground-spring", {{"points", name}, {"kx", "1 kN/m"}, {"ky", "1 kN/m"}, {"kz", "2 kN/m"}})
            .say("mass", {{"points", name}, {"mass", "1 kg"}});
    frame.say("mean", {{"point", "m"}, {"of", "a, b, c, d"}})
        .say("mass", {{"points", "m"}, {"mass", "8 kg"}})
        .say("lowest", {{"count", "12"}});
    const auto solution = frame.solved();
    ASSERT_EQ(solution->modes.size(), 12u);
    // The mean of the four along z, at the arms of m from their middle: by hand from u_m = w' u.
    Eigen::Vector4d weights; // 1/4 + (x - 1)(x_m - 1) / sum (x - 1)^2 + (y - 1/2)(y_m - 1/2) / sum (y - 1/2)^2
    const std::array<Eigen::Vector2d, 4> places{{{0, 0}, {2, 0}, {2, 1}, {0, 1}}};
    for (int at = 0; at < 4; ++at)
        weights[at] =
            0.25 + (places[std::size_t(at)].x() - 1.0) * 0.1 / 4.0 + (places[std::size_t(at)].y() - 0.5) * -0.1 / 1.0;
    // Along z alone (x and y couple to the height of m by its turning): masses 1, springs 2 kN/m, one term of rank 1.
    EXPECT_NEAR(weights.sum(), 1.0, 1e-12);
    Eigen::MatrixXd mass = Eigen::MatrixXd::Identity(12, 12), stiffness = Eigen::MatrixXd::Zero(12, 12);
    // u_m = mean + r x (m - c), r by J^-1: all three directions.
    const Eigen::Vector3d centre(1, 0.5, 0), arm = Eigen::Vector3d(1.1, 0.4, 0.2) - centre;
    Eigen::Matrix3d inertia = Eigen::Matrix3d::Zero();
    Eigen::MatrixXd turn(3, 12), follow(3, 12);
    const auto cross = [](const Eigen::Vector3d& v) {
        Eigen::Matrix3d m;
        m << 0, -v.z(), v.y(), v.z(), 0, -v.x(), -v.y(), v.x(), 0;
        return m;
    };
    for (int at = 0; at < 4; ++at) {
        const Eigen::Vector3d d = Eigen::Vector3d(places[std::size_t(at)].x(), places[std::size_t(at)].y(), 0) - centre;
        inertia -= cross(d) * cross(d);
        turn.middleCols<3>(3 * at) = cross(d);
        stiffness.block<3, 3>(3 * at, 3 * at) = Eigen::Vector3d(1e3, 1e3, 2e3).asDiagonal();
    }
    turn = (inertia.inverse() * turn).eval();
    for (int at = 0; at < 4; ++at)
        follow.middleCols<3>(3 * at) = 0.25 * Eigen::Matrix3d::Identity() - cross(arm) * turn.middleCols<3>(3 * at);
    EXPECT_NEAR(follow(2, 2), weights[0], 1e-12);
    mass += 8.0 * follow.transpose() * follow;
    const Eigen::VectorXd lambda =
        Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd>(stiffness, mass, Eigen::EigenvaluesOnly)
            .eigenvalues();
    for (std::size_t at = 0; at < 12; ++at)
        EXPECT_NEAR(solution->modes[at].frequency, std::sqrt(lambda[Eigen::Index(at)]) / (2 * pi), 1e-9) << at;
}

TEST(MeanMotion, OfAFaceCarriesABlockOnSpringsOfOnePoint)
{
    // A stiff block whose foot is followed by a point on springs: it bounces as a mass on them.
    SaidModel said;
    said.say("own-material", {{"name", "m"}, {"modulus", "2000 GPa"}, {"poisson", "0.3"}, {"density", "8000 kg/m3"}})
        .say("material", {{"what", "everything"}, {"material", "m"}})
        .say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
        .say("points", {{"rows", "foot|0.15 m|0.1 m|0 m"}})
        .say("mean", {{"point", "foot"}, {"of", "faces at z = 0 m of Block"}})
        .say("ground-spring", {{"points", "foot"},
                               {"kx", "1 kN/mm"},
                               {"ky", "1 kN/mm"},
                               {"kz", "2 kN/mm"},
                               {"krx", "20 kN m/rad"},
                               {"kry", "20 kN m/rad"},
                               {"krz", "20 kN m/rad"}})
        .say("lowest", {{"count", "6"}});
    const auto solution = said.solved();
    EXPECT_TRUE(solution->count.proven);
    const double mass = 8000 * 0.3 * 0.2 * 0.1, bounce = std::sqrt(2e6 / mass) / (2 * pi);
    double nearest = 1e300;
    for (const auto& mode : solution->modes)
        nearest = std::min(nearest, std::abs(mode.frequency / bounce - 1.0));
    EXPECT_LT(nearest, 1e-4);
    EXPECT_FALSE(solution->modes[0].mechanism);
}

TEST(MeanMotion, OfALineThatDoesNotTurnTakesNoPointBesideIt)
{
    SaidModel said;
    said.say("points", {{"rows", "a|0 m|0 m|0 m\nb|1 m|0 m|0 m\nm|0.5 m|0.2 m|0 m"}})
        .say("run", {{"name", "Rod"}, {"from", "a"}, {"to", "b"}, {"section", "round 20 mm"}})
        .say("rods", {{"members", "Rod"}})
        .say("material")
        .say("hold", {{"where", "a"}, {"directions", "x y z"}})
        .say("hold", {{"where", "b"}, {"directions", "y z"}})
        .say("mean", {{"point", "m"}, {"of", "a, b"}})
        .say("mass", {{"points", "m"}, {"mass", "2 kg"}})
        .say("lowest", {{"count", "1"}});
    Progress progress;
    const auto answer = solve(said.model(), progress);
    ASSERT_FALSE(answer);
    EXPECT_THAT(answer.findings().front().what, testing::HasSubstr("lies on one line"));
}

TEST(MeanMotion, SaidTwiceIsSaidOnceAndTheSecondJoinsNothing)
{
    const auto said = [](int times) {
        SaidModel one = floorPlate("100 mm");
        one.say("hold", {{"where", "edges at y = 0 m"}, {"directions", "all"}})
            .say("mass", {{"points", "device"}, {"mass", "25 kg"}})
            .say("lowest", {{"count", "5"}});
        for (int time = 0; time < times; ++time)
            one.say("mean", {{"point", "device"}, {"of", "Floor"}});
        return one.solved();
    };
    const auto once = said(1), twice = said(2);
    EXPECT_EQ(twice->system->motions.apart.size(), once->system->motions.apart.size());
    for (std::size_t at = 0; at < 5; ++at)
        EXPECT_NEAR(twice->modes[at].frequency, once->modes[at].frequency, 1e-9 * once->modes[at].frequency);
    EXPECT_TRUE(twice->count.proven);
}
