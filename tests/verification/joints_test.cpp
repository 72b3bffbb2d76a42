// Releases, ties, offsets, tilted supports.
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;

namespace {

double bending(double bl, double length, double height)
{
    return bl * bl / (2 * pi * length * length) * std::sqrt(E * height * height / 12 / rho);
}

bool finds(const std::vector<double>& list, double wanted, double tolerance)
{
    return std::any_of(list.begin(), list.end(), [&](double f) { return std::abs(f / wanted - 1) < tolerance; });
}

} // namespace

TEST(Release, TurnsAClampedEndIntoAPin)
{
    SaidModel beam = straightBeam(10, 0.02, 0.05, 12);
    beam.say("hold", {{"where", "Beam.0, Beam.1"}, {"directions", "all"}})
        .say("release", {{"members", "Beam"}, {"ends", "both ends"}, {"directions", "ry"}})
        .say("lowest", {{"count", "12"}});
    const auto found = beam.frequencies();
    for (int n = 1; n <= 3; ++n)
        EXPECT_TRUE(finds(found, bending(n * pi, 10, 0.02), 1e-3)) << n;
    EXPECT_TRUE(finds(found, bending(4.73004, 10, 0.05), 1e-3)) << "about z it is still clamped";
    SaidModel sprung = straightBeam(10, 0.02, 0.05, 12);
    sprung.say("hold", {{"where", "Beam.0, Beam.1"}, {"directions", "all"}});
    sprung.say("release", {{"members", "Beam"}, {"directions", "ry"}, {"turning", "1e6 kN m/rad"}})
        .say("lowest", {{"count", "12"}});
    EXPECT_TRUE(finds(sprung.frequencies(), bending(4.73004, 10, 0.02), 1e-3)) << "a very stiff spring is a clamp";
}

TEST(Hinge, InMidSpanOfAClampedBeam)
{
    // Symmetric half: clamped, and free to turn but carrying no moment at the hinge: clamped-free for the
    // symmetric modes, clamped-pinned for the skew ones (Blevins 1979).
    SaidModel beam;
    beam.say("run", {{"name", "B"},
                     {"from", "0, 0, 0 m"},
                     {"to", "8, 0, 0 m"},
                     {"parts", "2"},
                     {"section", "rectangle 0.02x0.06 m"},
                     {"elements", "10"}})
        .material("200 GPa", "0.3", "8000 kg/m3");
    beam.say("hold", {{"where", "B.0, B.2"}, {"directions", "all"}})
        .say("release", {{"members", "B.0-1"}, {"ends", "the second end"}, {"directions", "ry"}})
        .say("lowest", {{"count", "8"}});
    const auto found = beam.frequencies();
    EXPECT_NEAR(found[0] / bending(1.87510, 4, 0.02), 1, 1e-3);
    EXPECT_TRUE(finds(found, bending(3.92660, 4, 0.02), 1e-3));
}

TEST(Offset, MovesTheCentroidLineOnRigidArms)
{
    // A member 100 mm above its points is the same as one drawn there and tied rigidly to them.
    SaidModel offset = straightBeam(3, 0.05, 0.05, 8);
    offset.say("offset", {{"members", "Beam"}, {"offset", "0, 0, 100 mm"}});
    SaidModel tied;
    tied.say("points", {{"rows", "a|0 m|0 m|0 m\nb|3 m|0 m|0 m"}});
    tied.say("run", {{"name", "Beam"},
                     {"from", "0, 0, 0.1 m"},
                     {"to", "3, 0, 0.1 m"},
                     {"section", "rectangle 0.05x0.05 m"},
                     {"elements", "8"}})
        .material("200 GPa", "0.3", "8000 kg/m3");
    tied.say("rigid", {{"points", "Beam.0"}, {"to", "a"}}).say("rigid", {{"points", "Beam.1"}, {"to", "b"}});
    for (auto* said : {&offset, &tied}) {
        const bool first = said == &offset;
        said->say("hold", {{"where", first ? "Beam.0" : "a"}, {"directions", "x y z rx"}})
            .say("hold", {{"where", first ? "Beam.1" : "b"}, {"directions", "x y z"}})
            .say("lowest", {{"count", "8"}});
    }
    const auto a = offset.frequencies(), b = tied.frequencies();
    for (std::size_t at = 0; at < a.size(); ++at)
        EXPECT_NEAR(a[at], b[at], 1e-9 * b[at]);
}

TEST(Support, TiltedPinEqualsATurnedStructure)
{
    SaidModel tilted = straightBeam(3, 0.05, 0.03, 6);
    tilted.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("hold", {{"where", "Beam.1"}, {"directions", "z"}, {"x-towards", "1, 0, 0"}, {"y-near", "0, 1, 1"}})
        .say("lowest", {{"count", "4"}});
    const auto solution = tilted.solved();
    for (std::size_t mode = 0; mode < solution->modes.size(); ++mode) {
        const Vector6 motion = solution->motion(1, mode);
        EXPECT_NEAR(motion.head<3>().dot(Eigen::Vector3d(0, -1, 1).normalized()), 0, 1e-12 + 1e-9 * motion.norm());
    }
    const Eigen::Vector3d end = solution->motion(1, 0).head<3>();
    EXPECT_GT(std::abs(end.dot(Eigen::Vector3d(0, 1, 1).normalized())), 0.9 * end.norm()) << "free along the slope";
}

TEST(Tie, HeldAtTwoOfItsPointsTurnsAboutTheLineThroughThem)
{
    SaidModel plate;
    plate.say("points", {{"rows", "a|0 m|0 m|0 m\nb|0 m|2 m|0 m\nc|1 m|1 m|0 m"}})
        .say("rigid", {{"points", "b, c"}, {"to", "a"}});
    plate.say("mass", {{"mass", "4 kg"}, {"points", "c"}})
        .say("hold", {{"where", "a, b"}, {"directions", "x y z"}})
        .say("ground-spring", {{"points", "c"}, {"kz", "100 N/m"}})
        .say("lowest", {{"count", "3"}});
    const auto found = plate.frequencies();
    ASSERT_EQ(found.size(), 1u);
    EXPECT_NEAR(found[0], std::sqrt(25.0) / (2 * pi), 1e-9);
}

TEST(Mechanism, IsNamedWithItsPlace)
{
    SaidModel chain;
    chain
        .say("run",
             {{"name", "C"}, {"from", "0, 0, 0 m"}, {"to", "4, 0, 0 m"}, {"parts", "4"}, {"section", "round 20 mm"}})
        .say("material");
    chain.say("hold", {{"where", "C.0, C.4"}, {"directions", "all"}})
        .say("release", {{"members", "C"}, {"ends", "the second end"}, {"directions", "ry"}})
        .say("release", {{"members", "C.0-1"}, {"ends", "the first end"}, {"directions", "ry"}})
        .say("lowest", {{"count", "4"}});
    Progress progress;
    const auto solution = solve(chain.model(), progress);
    ASSERT_TRUE(solution) << oneLine(solution.findings().front());
    EXPECT_TRUE((*solution)->modes[0].mechanism) << (*solution)->modes[0].frequency;
    const auto loose = std::find_if((*solution)->findings.begin(), (*solution)->findings.end(),
                                    [](const Finding& found) { return found.what.find("loose") != std::string::npos; });
    ASSERT_NE(loose, (*solution)->findings.end());
    EXPECT_EQ(loose->place.rfind("C.", 0), 0U) << "a point of the chain: " << loose->place;
    EXPECT_EQ(loose->mode, 1) << "whose motion shows it";
    const auto sentence = chain.model().sentence(loose->sentence);
    ASSERT_TRUE(sentence) << loose->sentence;
    EXPECT_EQ(sentence->kind->key, "release");
}

TEST(Mechanism, LeavesTheModesBesideItToBeFound)
{
    // Planks with a hinge at each joint: three ways to move, and every elastic mode above them.
    SaidModel planks;
    planks
        .say("run", {{"name", "P"},
                     {"from", "0, 0, 0 m"},
                     {"to", "8, 0, 0 m"},
                     {"parts", "4"},
                     {"section", "box 200x120x5 mm"},
                     {"elements", "4"}})
        .say("material")
        .say("release", {{"members", "P"}, {"ends", "the second end"}, {"directions", "ry"}})
        .say("hold", {{"where", "P.0"}, {"directions", "x y z rx rz"}})
        .say("hold", {{"where", "P.4"}, {"directions", "all"}});
    for (const char* count : {"2", "8", "20"}) {
        SaidModel said = planks;
        said.say("lowest", {{"count", count}});
        Progress progress;
        const auto solution = *solve(said.model(), progress);
        EXPECT_GE(solution->modes.size(), std::max<std::size_t>(3, std::stoul(count)))
            << "the three at zero are one group";
        EXPECT_TRUE(solution->count.proven) << count;
        const auto loose = std::count_if(solution->modes.begin(), solution->modes.end(),
                                         [](const Mode& mode) { return mode.mechanism; });
        EXPECT_EQ(loose, 3) << count;
        for (const auto& mode : solution->modes)
            EXPECT_LT(mode.acceptedError, 1e-8) << count << ", mode " << mode.number;
    }
}

TEST(Mechanism, WithoutMassIsLeftOutOrAFindingThatSaysWhere)
{
    SaidModel loose = straightBeam(1, 0.05, 0.05, 2);
    loose.say("points", {{"rows", "q|5 m|0 m|0 m"}})
        .say("spring", {{"from", "Beam.1"}, {"to", "q"}, {"kz", "1 kN/m"}})
        .say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("lowest");
    SaidModel bare = straightBeam(1, 0.05, 0.05, 2);
    bare.say("hold", {{"where", "Beam.0"}, {"directions", "all"}}).say("lowest");
    const auto solution = loose.solved();
    std::string text;
    for (const auto& finding : solution->findings)
        text += oneLine(finding) + "\n";
    EXPECT_THAT(text, testing::HasSubstr("neither stiffness nor mass, which is left out: q")) << "it only follows";
    const auto with = loose.frequencies(), without = bare.frequencies();
    for (std::size_t at = 0; at < without.size(); ++at)
        EXPECT_NEAR(with[at], without[at], 1e-9 * without[at]) << at;
    // Two points that turn against each other about the middle of the spring between them: nothing holds that.
    SaidModel turning = straightBeam(1, 0.05, 0.05, 2);
    turning.say("points", {{"rows", "p|1 m|1 m|0 m\nq|1 m|2 m|0 m"}})
        .say("hold", {{"where", "Beam.0, p, q"}, {"directions", "x y z"}})
        .say("spring", {{"from", "p"}, {"to", "q"}, {"kx", "1 kN/m"}, {"kz", "1 kN/m"}, {"kry", "1 N m/rad"}})
        .say("lowest");
    Progress progress;
    const auto refused = solve(turning.model(), progress);
    ASSERT_FALSE(refused);
    EXPECT_THAT(refused.findings().front().what, testing::HasSubstr("no mass acts that way"));
}

TEST(Mechanism, WithoutMassIsFoundWhereNoSingleUnknownIsWithoutIt)
{
    const auto refusal = [](const SaidModel& said) {
        Progress progress;
        const auto solution = solve(said.model(), progress);
        return solution ? std::string() : solution.findings().front().what;
    };
    // Bars askew to the axes, released about one of their own at both ends: lumped, their ends have no mass about it,
    // and a spring that turns about x alone leaves the two free to turn against each other.
    const auto askew = [](const Words& more) {
        Words spring{{"from", "a"}, {"to", "g"}, {"kx", "1 kN/mm"}, {"krx", "100 kN m/rad"}};
        spring.insert(more.begin(), more.end());
        SaidModel bars = steel();
        bars.say("points", {{"rows", "a|0 m|-1 m|1 m\nb|0 m|1 m|-1 m\nf|2 m|-1 m|0 m\ng|0 m|2 m|0 m"}})
            .say("members", {{"name", "Bars"}, {"rows", "one|a|b\nother|f|g"}, {"section", "round 16 mm"}})
            .say("release", {{"ends", "both ends"}, {"members", "Bars"}, {"directions", "rz"}})
            .say("hold", {{"where", "b, f"}, {"directions", "all"}})
            .say("spring", spring)
            .say("mass-matrix", {{"matrix", "lumped"}})
            .say("up-to", {{"frequency", "100 Hz"}, {"most", "50"}});
        return bars;
    };
    EXPECT_THAT(refusal(askew({})), testing::HasSubstr("no mass acts that way"));
    EXPECT_EQ(refusal(askew({{"kry", "1 kN m/rad"}})), "");
    // All mass of a free bar at two places of it: it turns about the line between them without any.
    const auto free = [](const char* third, const Words& ask, const char* kind) {
        SaidModel bar = straightBeam(1, 0.05, 0.05, 2);
        bar.say("material-mass", {{"factor", "0 %"}})
            .say("points", {{"rows", "q|0 m|1 m|0 m"}})
            .say("members", {{"name", "Arm"}, {"rows", "it|Beam.0|q"}, {"section", "round 16 mm"}})
            .say("mass",
                 {{"mass", "10 kg"}, {"sharing", "on each of"}, {"points", std::string("Beam.0, Beam.1") + third}})
            .say(kind, ask);
        return bar;
    };
    for (const auto& [kind, ask] : {std::pair<const char*, Words>{"lowest", {{"count", "8"}}},
                                    {"nearest", {{"count", "4"}, {"frequency", "25 Hz"}}}}) {
        EXPECT_THAT(refusal(free("", ask, kind)), testing::HasSubstr("no mass acts that way")) << kind;
        EXPECT_EQ(refusal(free(", q", ask, kind)), "") << kind;
    }
}

TEST(Channel, ForkSupportedBendsAndTwistsTogetherThroughItsShearCentre)
{
    // Half waves sin(b x), b = n pi / L, without warping: with w the shear centre's displacement along z and r the
    // twist, the centroid moves by w - ys r. Energy in w and r gives two coupled equations for each n
    // (Timoshenko, Young and Weaver, Vibration Problems in Engineering, 1974, art. 5.22).
    SaidModel said;
    said.say("run", {{"name", "C"},
                     {"from", "0, 0, 0 m"},
                     {"to", "6, 0, 0 m"},
                     {"section", "channel 100x50x4x6 mm"},
                     {"elements", "24"}})
        .material("200 GPa", "0.3", "8000 kg/m3")
        .say("hold", {{"where", "C.0"}, {"directions", "x y z rx"}})
        .say("hold", {{"where", "C.1"}, {"directions", "y z rx"}})
        .say("lowest", {{"count", "10"}});
    const auto solution = said.solved();
    std::vector<double> found;
    for (const auto& mode : solution->modes)
        found.push_back(mode.frequency);
    const Section& section = *solution->structure->frame.members[0].section;
    const double ys = section.shearCentre[0], m = rho * section.area, polar = rho * section.polarMoment();
    EXPECT_LT(ys, -0.02) << "a test of coupling needs an offset";
    for (int n = 1; n <= 2; ++n) {
        const double b = n * pi / 6.0, ei = E * section.iy, gj = E / 2.6 * section.torsion;
        Eigen::Matrix2d k = Eigen::Matrix2d::Zero(), mass;
        k(0, 0) = ei * std::pow(b, 4);
        k(1, 1) = gj * b * b;
        mass << m + rho * section.iy * b * b, -m * ys, -m * ys, m * ys * ys + polar;
        const Eigen::VectorXd squares =
            Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd>(k, mass).eigenvalues();
        for (int which = 0; which < 2; ++which) {
            const double hertz = std::sqrt(squares[which]) / (2 * pi);
            if (hertz < solution->modes.back().frequency)
                EXPECT_TRUE(finds(found, hertz, 5e-3)) << n << " " << which << " " << hertz;
        }
        EXPECT_FALSE(finds(found, std::sqrt(ei / m) * b * b / (2 * pi), 5e-3)) << "it does not bend alone";
    }
    bool warned = false;
    for (const auto& finding : solution->findings)
        warned |= finding.what.find("warping is left out: the true frequency is higher") != std::string::npos;
    EXPECT_TRUE(warned);
}
