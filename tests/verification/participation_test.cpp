// Effective masses of uniform members: Clough and Penzien, Dynamics of Structures, 1993; Wijker, Mechanical
// Vibrations in Spacecraft Design, 2004, app. A.
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

/// Effective-mass fractions of the modes that move in the direction, in order.
std::vector<double> fractions(const Solution& solution, int direction)
{
    std::vector<double> list;
    for (std::size_t at = 0; at < solution.modes.size(); ++at)
        if (const double share = solution.participation.ofTotal(static_cast<Eigen::Index>(at), direction); share > 1e-5)
            list.push_back(share);
    return list;
}

} // namespace

TEST(Participation, UniformCantilever)
{
    SaidModel beam = straightBeam(10, 0.02, 0.05, 60);
    beam.say("hold", {{"where", "Beam.0"}, {"directions", "all"}}).say("lowest", {{"count", "16"}});
    const auto shares = fractions(*beam.solved(), 2);
    const double wanted[] = {0.6131, 0.1883, 0.06473, 0.03309};
    for (std::size_t at = 0; at < 4; ++at)
        EXPECT_NEAR(shares[at], wanted[at], 1e-3);
}

TEST(Participation, PinnedBeamAndRod)
{
    SaidModel beam = straightBeam(10, 0.02, 0.05, 60);
    beam.say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx"}})
        .say("hold", {{"where", "Beam.1"}, {"directions", "y z"}})
        .say("lowest", {{"count", "14"}});
    const auto pinned = fractions(*beam.solved(), 2);
    for (int n = 1; n <= 5; n += 2)
        EXPECT_NEAR(pinned[static_cast<std::size_t>(n / 2)], 8 / std::pow(n * pi, 2), 1e-3)
            << "even ones carry nothing";
    SaidModel rod = straightBeam(3, 0.06, 0.06, 80);
    rod.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("hold", {{"where", "Beam.1"}, {"directions", "y z ry rz"}})
        .say("lowest", {{"count", "60"}});
    const auto axial = fractions(*rod.solved(), 0);
    for (int n = 1; n <= 2; ++n)
        EXPECT_NEAR(axial[static_cast<std::size_t>(n - 1)], 8 / std::pow((2 * n - 1) * pi, 2), 1e-3 + 0.01 / 80);
}

TEST(Participation, AllModesOfASmallModelSumToWhatCanMove)
{
    for (const bool held : {true, false})
        for (const char* about : {"", "3, -2, 1 m"}) {
            SaidModel said;
            said.say("frame", {{"bays-x", "1"}, {"bays-y", "1"}, {"storeys", "1"}, {"elements", "1"}}).say("material");
            said.say("mass", {{"mass", "50 kg"},
                              {"points", "Frame.1.1.1"},
                              {"centre", "0.2, 0.1, 0.3 m"},
                              {"inertia", "2, 3, 4 kg m2"}});
            said.say("release", {{"members", "Frame.beam-x.1.0.1"}, {"ends", "the first end"}, {"directions", "ry"}});
            if (held) said.say("hold", {{"where", "feet of Frame"}, {"directions", "x y z"}, {"kz", "10 kN/mm"}});
            if (*about) said.say("reference-point", {{"at", about}});
            said.say("lowest", {{"count", "1000"}});
            Progress progress;
            const auto solution = *solve(said.model(), progress);
            ASSERT_TRUE(solution->allModes);
            for (int d = 0; d < 6; ++d) {
                const double sum = solution->participation.effective.col(d).sum(),
                             movable = solution->participation.movable[d];
                EXPECT_NEAR(sum, movable, 1e-9 * movable) << "direction " << d << (held ? " held " : " free ") << about;
                if (!held) EXPECT_NEAR(movable, solution->participation.total[d], 1e-9 * movable);
            }
        }
}

TEST(Participation, TurnsWithTheModel)
{
    // The same bent frame along x and along a direction of its own: group by group the participation is one vector.
    const double angle = 0.7;
    const auto build = [&](bool turned) {
        const auto place = [&](double x, double y, double z) {
            const double c = turned ? std::cos(angle) : 1.0, s = turned ? std::sin(angle) : 0.0;
            return fmt::format("{:.17g}, {:.17g}, {:.17g} m", c * x - s * y, s * x + c * y, z);
        };
        SaidModel said;
        said.say("run", {{"name", "A"},
                         {"from", place(0, 0, 0)},
                         {"to", place(0, 0, 3)},
                         {"elements", "4"},
                         {"section", "tube 90x5 mm"}})
            .say("run", {{"name", "B"},
                         {"from", place(0, 0, 3)},
                         {"to", place(2, 0.6, 3.4)},
                         {"elements", "4"},
                         {"section", "tube 70x4 mm"}})
            .say("material")
            .say("mass", {{"mass", "40 kg"}, {"points", "B.1"}})
            .say("hold", {{"where", "A.0"}, {"directions", "all"}})
            .say("reference-point", {{"at", "0, 0, 0 m"}})
            .say("lowest", {{"count", "8"}});
        return said.solved();
    };
    const auto straight = build(false), turned = build(true);
    const Eigen::Matrix3d turn = Eigen::AngleAxisd(angle, Eigen::Vector3d::UnitZ()).toRotationMatrix();
    ASSERT_EQ(straight->modes.size(), turned->modes.size());
    for (Eigen::Index at = 0; at < 8; ++at) {
        EXPECT_NEAR(straight->modes[std::size_t(at)].frequency, turned->modes[std::size_t(at)].frequency,
                    1e-8 * straight->modes[std::size_t(at)].frequency);
        for (const Eigen::Index first : {0, 3}) { // translations, rotations
            const Eigen::Vector3d before = turn * straight->participation.factor.block(at, first, 1, 3).transpose(),
                                  after = turned->participation.factor.block(at, first, 1, 3).transpose();
            const double size = std::sqrt(straight->participation.movable.segment(first, 3).maxCoeff());
            EXPECT_LT(std::min((after - before).norm(), (after + before).norm()), 1e-8 * size) << at << " " << first;
        }
    }
}

TEST(Participation, TwistingOfASymmetricFrameCarriesNoneUntilAMassIsOffset)
{
    const auto shares = [](const char* centre) {
        SaidModel said;
        said.say("frame", {{"bays-x", "1"},
                           {"bays-y", "1"},
                           {"storeys", "1"},
                           {"columns", "tube 80x5 mm"},
                           {"beams", "tube 80x5 mm"}})
            .say("material")
            .say("hold", {{"where", "feet of Frame"}, {"directions", "all"}});
        said.say("point", {{"name", "deck"}, {"at", "2, 2, 3 m"}})
            .say("rigid", {{"points", "roof of Frame"}, {"to", "deck"}});
        said.say("mass", {{"mass", "2 t"}, {"points", "deck"}, {"centre", centre}, {"inertia", "900, 900, 9000 kg m2"}})
            .say("lowest", {{"count", "3"}});
        const auto solution = said.solved();
        std::size_t twist = 0; // the mode that carries most rotation about z
        for (std::size_t at = 1; at < 3; ++at)
            if (solution->participation.ofMovable(static_cast<Eigen::Index>(at), 5) >
                solution->participation.ofMovable(static_cast<Eigen::Index>(twist), 5))
                twist = at;
        return solution->participation.ofMovable(static_cast<Eigen::Index>(twist), 0) +
               solution->participation.ofMovable(static_cast<Eigen::Index>(twist), 1);
    };
    EXPECT_LT(shares("0, 0, 0 m"), 1e-12);
    EXPECT_GT(shares("0, 0.8, 0 m"), 1e-3);
}

TEST(Groups, OfEqualFrequencyAreTurnedToXThenY)
{
    SaidModel mast;
    mast.say(
            "run",
            {{"name", "M"}, {"from", "0, 0, 0 m"}, {"to", "0, 0, 5 m"}, {"section", "tube 80x5 mm"}, {"elements", "8"}})
        .say("material")
        .say("hold", {{"where", "M.0"}, {"directions", "all"}})
        .say("lowest", {{"count", "4"}});
    const auto solution = mast.solved();
    ASSERT_EQ(solution->modes[0].group, solution->modes[1].group);
    EXPECT_NEAR(solution->participation.ofMovable(1, 0), 0, 1e-12);
    EXPECT_GT(solution->participation.ofMovable(0, 0), 0.6);
    EXPECT_NEAR(solution->participation.ofMovable(0, 1), 0, 1e-12);
    EXPECT_EQ(solution->modes[0].name, "first bending in x");
    EXPECT_EQ(solution->modes[1].name, "first bending in y");
}

TEST(Energy, SharesAddUpToOne)
{
    SaidModel said = straightBeam(4, 0.08, 0.05, 5);
    said.say("ground-spring", {{"points", "Beam.0, Beam.1"}, {"kz", "20 kN/m"}, {"ky", "20 kN/m"}, {"kx", "1 kN/m"}})
        .say("mass", {{"mass", "15 kg"}, {"points", "Beam.1"}})
        .say("mass-spread", {{"mass", "2 kg/m"}, {"where", "Beam"}});
    said.say("lowest", {{"count", "12"}});
    Progress progress;
    const auto solution = *solve(said.model(), progress);
    for (std::size_t at = 0; at < solution->modes.size(); ++at) {
        const auto column = static_cast<Eigen::Index>(at);
        EXPECT_NEAR(solution->energies.kinetic.col(column).sum(), 1.0, 1e-9);
        if (solution->modes[at].lambda > 0) EXPECT_NEAR(solution->energies.strain.col(column).sum(), 1.0, 1e-7);
    }
    // The first-order forecast against a solve with ten per cent more spring: half of the strain share.
    const auto stiffer = said.model().replaced(
        said.model().group(Group::supports)[0]->with("kz", quantityIn(22e3, QuantityKind::stiffness, "N/m")));
    const auto after = *solve(stiffer, progress);
    std::size_t bounce = 0;
    while (solution->modes[bounce].rigid ||
           solution->participation.ofMovable(static_cast<Eigen::Index>(bounce), 2) < 0.3)
        ++bounce;
    double springs = 0.0;
    for (std::size_t row = 0; row < solution->energies.rows.size(); ++row)
        if (solution->energies.rows[row].kind == PartKind::support)
            springs += solution->energies.strain(static_cast<Eigen::Index>(row), static_cast<Eigen::Index>(bounce));
    const double change = after->modes[bounce].frequency / solution->modes[bounce].frequency - 1.0;
    EXPECT_NEAR(change, 0.05 * springs, 0.004);
}
