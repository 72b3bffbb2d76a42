// Weights and loads that count as mass, against closed forms and against the same masses said as such.
#include "core/assess/model_checks.hpp"
#include "core/units/unit.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;
using testing::Not;

namespace {

/// Two bays of frame, a sheet beside it and a block, so that every kind of place is there.
SaidModel quay()
{
    SaidModel said = steel();
    said.say("frame", {{"name", "Frame"}, {"bays-x", "2"}, {"bays-y", "1"}, {"storeys", "1"}})
        .say("plate",
             {{"name", "Deck"}, {"length", "2 m"}, {"width", "1.5 m"}, {"thickness", "12 mm"}, {"at", "0, 20, 0 m"}})
        .say("solid-box", {{"name", "Block"}, {"x", "0.4 m"}, {"y", "0.3 m"}, {"z", "0.2 m"}, {"at", "0, 40, 0 m"}})
        .say("hold", {{"where", "feet of Frame"}, {"directions", "all"}})
        .say("hold", {{"where", "edges of Deck"}, {"directions", "x y z"}})
        .say("hold", {{"where", "faces at z = 0 m of Block"}, {"directions", "x y z"}})
        .say("lowest", {{"count", "10"}});
    return said;
}

std::string per(double value, const char* unit)
{
    return fmt::format("{:.17g} {}", value, unit);
}

std::string adviceOn(const SaidModel& said)
{
    const auto built = buildStructure(said.model());
    std::string all;
    for (const auto& finding : checkStructure(built.structure, massSummary(built.structure), said.model()))
        all += oneLine(finding) + "\n";
    return all;
}

double addedMass(const SaidModel& said, const SaidModel& without)
{
    return massSummary(said.structure()).mass - massSummary(without.structure()).mass;
}

} // namespace

TEST(Weight, IsTheMassThatItsLoadHasAtGOnWhateverItStands)
{
    struct Case {
        const char *where, *load, *kind;
        Words mass;
    };
    const std::vector<Case> cases{
        {"roof of Frame",
         "6 kN",
         "mass",
         {{"mass", per(6000 / standardGravity, "kg")}, {"sharing", "shared over"}, {"points", "roof of Frame"}}},
        {"beams of Frame", "1.5 kN/m", "mass-spread", {{"mass", per(1500 / standardGravity, "kg/m")}}},
        {"beams of Frame", "9 kN", "mass-spread", {{"mass", per(9000 / standardGravity, "kg")}}},
        {"Deck", "2 kN/m2", "mass-spread", {{"mass", per(2000 / standardGravity, "kg/m2")}}},
        {"Deck", "800 N", "mass-spread", {{"mass", per(800 / standardGravity, "kg")}}},
        {"edges of Deck", "40 N/m", "mass-spread", {{"mass", per(40 / standardGravity, "kg/m")}}},
        {"faces at z = 0.2 m of Block", "5 kPa", "mass-spread", {{"mass", per(5000 / standardGravity, "kg/m2")}}},
        {"Block", "3 kN", "mass-spread", {{"mass", per(3000 / standardGravity, "kg")}}},
    };
    for (const auto& one : cases) {
        SCOPED_TRACE(std::string(one.load) + " on " + one.where);
        SaidModel weighed = quay(), massive = quay();
        weighed.say("weight", {{"load", one.load}, {"where", one.where}});
        Words words = one.mass;
        if (!words.contains("points")) words["where"] = one.where;
        massive.say(one.kind, words);
        EXPECT_EQ(weighed.problems(), "");
        EXPECT_EQ(massive.problems(), "");
        const Structure mine = weighed.structure(), its = massive.structure();
        ASSERT_EQ(mine.attachments.size(), its.attachments.size());
        ASSERT_EQ(mine.pointMasses.size(), its.pointMasses.size());
        EXPECT_GT(mine.attachments.size() + mine.pointMasses.size(), 0u);
        for (std::size_t at = 0; at < mine.attachments.size(); ++at) {
            EXPECT_EQ(mine.attachments[at].over, its.attachments[at].over);
            EXPECT_EQ(mine.attachments[at].at, its.attachments[at].at);
            EXPECT_TRUE(mine.attachments[at].tensor.isApprox(its.attachments[at].tensor, 1e-12));
        }
        for (std::size_t at = 0; at < mine.pointMasses.size(); ++at) {
            EXPECT_EQ(mine.pointMasses[at].point, its.pointMasses[at].point);
            EXPECT_NEAR(mine.pointMasses[at].mass / its.pointMasses[at].mass, 1.0, 1e-12);
        }
    }
}

TEST(Weight, OfAFloorBeamLowersItAsByHand)
{
    // Pinned beam: f = pi / (2 L^2) sqrt(E I / m), m of the beam and of what stands on it (Rayleigh 1877).
    const double length = 6.0, height = 0.2, width = 0.1;
    SaidModel beam = straightBeam(length, height, width, 8);
    beam.say("hold", {{"where", "Beam.0, Beam.1"}, {"directions", "x y z rx"}}).say("lowest", {{"count", "4"}});
    beam.say("weight", {{"load", "4 kN/m"}, {"where", "Beam"}, {"share", "30 %"}, {"label", "live load"}});
    const double m = rho * height * width + 0.3 * 4000 / standardGravity;
    const double weak = height * std::pow(width, 3) / 12, strong = width * std::pow(height, 3) / 12;
    const auto found = beam.frequencies();
    for (const double inertia : {weak, strong}) {
        const double byHand = pi / (2 * length * length) * std::sqrt(E * inertia / m);
        const auto nearest = std::min_element(found.begin(), found.end(), [&](double a, double b) {
            return std::abs(a - byHand) < std::abs(b - byHand);
        });
        EXPECT_NEAR(*nearest / byHand, 1.0, 0.003) << "shear and rotary inertia take off a little";
    }
}

TEST(Weight, CountsWhatPointsDownAndByItsOwnGravity)
{
    const SaidModel bare = quay();
    const auto added = [&](Words words) {
        words.insert({{"load", "2 kN/m2"}, {"where", "Deck"}});
        return addedMass(SaidModel(bare).say("weight", words), bare);
    };
    const double whole = 2000 * 3.0 / standardGravity; // of 2 m by 1.5 m
    EXPECT_NEAR(added({}), whole, 1e-9 * whole);
    EXPECT_NEAR(added({{"share", "130 %"}}), 1.3 * whole, 1e-9 * whole);
    EXPECT_NEAR(added({{"direction", "0, 3, -4"}}), 0.8 * whole, 1e-9 * whole);
    EXPECT_NEAR(added({{"g", "1.62 m/s2"}}), whole * standardGravity / 1.62, 1e-9 * whole);
    EXPECT_NEAR(added({{"only", "z"}}), whole, 1e-9 * whole) << "one mass is one mass, whichever way it acts";
    EXPECT_NEAR(added({{"load", "50 psf"}}), 50 * 4.4482216152605 / (0.3048 * 0.3048) * 3.0 / standardGravity,
                1e-6 * whole);
    EXPECT_NEAR(addedMass(SaidModel(bare).say("weight", {{"load", "20 lbf/ft"}, {"where", "edges of Deck"}}), bare),
                20 * 4.4482216152605 / 0.3048 * 7.0 / standardGravity, 1e-6);
}

TEST(Weight, ThatIsNoneIsRefusedWithTheReason)
{
    const auto problems = [](Words words, const char* load = "2 kN/m2", const char* where = "Deck") {
        words.insert({{"load", load}, {"where", where}});
        return quay().say("weight", words).problems();
    };
    EXPECT_THAT(problems({{"direction", "1, 0, 0"}}),
                HasSubstr("a load that points sideways is no weight and has no mass"));
    EXPECT_THAT(problems({{"direction", "0, 0, 1"}}), HasSubstr("this load points up"));
    EXPECT_THAT(problems({{"direction", "0, 0, 0"}}), HasSubstr("the load has no direction"));
    EXPECT_THAT(problems({}, "2 kN/m2", "beams of Frame"),
                HasSubstr("means members, and sheets or faces are meant here"));
    EXPECT_THAT(problems({}, "2 kN/m", "Deck"), HasSubstr("members or edges are meant here"));
    EXPECT_THAT(problems({}, "2 kN", "everything"), HasSubstr("over which one total is not shared evenly"));
    EXPECT_EQ(problems({}), "");
}

TEST(AddedMass, TypedAsAWeightSaidTwiceOrOnAHeldPointIsAskedAbout)
{
    const auto with = [](const char* kind, const Words& words) { return adviceOn(quay().say(kind, words)); };
    const std::string wrong = "is a weight given as a mass?";
    for (const char* mass : {"981 kg", "98.1 kg", "2452 kg", "490.3 kg", "0.981 t", "78.48 kg/m2"})
        EXPECT_THAT(with("mass-spread", {{"where", "Deck"}, {"mass", mass}}), HasSubstr(wrong)) << mass;
    for (const char* mass : {"980 kg", "1000 kg", "85 kg", "491 kg", "12.5 kg/m2", "0 kg", "737.4 kg"})
        EXPECT_THAT(with("mass-spread", {{"where", "Deck"}, {"mass", mass}}), Not(HasSubstr(wrong))) << mass;

    SaidModel typed = quay().say("mass", {{"mass", "981 kg"}, {"points", "Frame.1.0.1"}});
    const auto built = buildStructure(typed.model());
    for (const auto& finding : checkStructure(built.structure, massSummary(built.structure), typed.model()))
        if (finding.what.find(wrong) != std::string::npos) {
            ASSERT_EQ(finding.cures.size(), 1u);
            EXPECT_EQ(finding.cures[0].words, "Take it as 100 kg");
            EXPECT_EQ(finding.cures[0].statements[0].words.at("mass"), "100 kg");
        }

    SaidModel twice = quay();
    twice.say("weight", {{"load", "2 kN/m2"}, {"where", "Deck"}, {"label", "stores"}});
    EXPECT_THAT(adviceOn(twice), Not(HasSubstr("counts twice")));
    twice.say("weight", {{"load", "2 kN/m2"}, {"where", "Deck"}, {"label", "live load"}});
    EXPECT_THAT(adviceOn(twice), HasSubstr("says the same as \"stores\": the mass counts twice"));

    EXPECT_THAT(with("mass", {{"mass", "85 kg"}, {"points", "Frame.0.0.0"}}),
                HasSubstr("85 kg stand on Frame.0.0.0, which is held"));
    EXPECT_THAT(with("mass", {{"mass", "85 kg"}, {"points", "Frame.0.0.1"}}), Not(HasSubstr("which is held")));
    EXPECT_THAT(with("mass", {{"mass", "85 kg"}, {"points", "Frame.0.0.0"}, {"centre", "0, 0, 1 m"}}),
                Not(HasSubstr("which is held")))
        << "a mass beside it turns with nothing, but that is for the joints to say";
}

TEST(MassActing, AlongZAloneLeavesTheVerticalModesOfAFloorBeamByHand)
{
    const double length = 6.0, height = 0.2, width = 0.1;
    SaidModel beam = straightBeam(length, height, width, 8);
    beam.say("hold", {{"where", "Beam.0, Beam.1"}, {"directions", "x y z rx"}}).say("lowest", {{"count", "3"}});
    const auto every = beam.frequencies();
    for (const char* matrix : {"consistent", "lumped"}) {
        SCOPED_TRACE(matrix);
        SaidModel vertical = beam;
        vertical.say("mass-acts", {{"directions", "z"}}).say("mass-matrix", {{"matrix", matrix}});
        const auto solution = vertical.solved();
        for (int n = 1; n <= 3; ++n) {
            const double byHand = n * n * pi / (2 * length * length) *
                                  std::sqrt(E * width * std::pow(height, 3) / 12 / (rho * width * height));
            EXPECT_NEAR(solution->modes[std::size_t(n - 1)].frequency / byHand, 1.0, 0.003 + 0.003 * n * n)
                << "shear takes off more from higher ones";
        }
        EXPECT_LT(every[0], 0.6 * solution->modes[0].frequency) << "which sways sideways";
        EXPECT_TRUE(std::any_of(solution->findings.begin(), solution->findings.end(), [](const Finding& finding) {
            return finding.what == "mass acts only along z, as Ask has it";
        }));
        // One mass is one mass; what takes part along x and y is nothing.
        const double mass = rho * width * height * length;
        EXPECT_NEAR(solution->mass.mass, mass, 1e-9 * mass);
        EXPECT_NEAR(solution->mass.centre.x(), length / 2, 1e-9);
        EXPECT_NEAR(solution->participation.total[2], mass, 1e-9 * mass);
        EXPECT_EQ(solution->participation.total[0], 0.0);
        EXPECT_EQ(solution->participation.total[1], 0.0);
        EXPECT_LT(solution->participation.effective.leftCols<2>().maxCoeff(), 1e-12 * mass);
        // Of eight lumps, two of them halved and held, the first takes cot^2(pi / 16) / 32.
        const bool lumped = std::string(matrix) == "lumped";
        EXPECT_NEAR(solution->participation.ofTotal(0, 2),
                    lumped ? std::pow(std::tan(pi / 16), -2) / 32 : 8 / (pi * pi), 1e-3);
    }
}

TEST(MassActing, AlongZAloneIsAThinPlatesBendingAndABarsPlainWave)
{
    // A flat plate bends as ever: its own plane moves along other directions, and rotary inertia is small.
    SaidModel plate = steel();
    plate.say("plate", {{"name", "Deck"}, {"length", "2 m"}, {"width", "1.5 m"}, {"thickness", "12 mm"}})
        .say("hold", {{"where", "edges of Deck"}, {"directions", "x y z"}})
        .say("lowest", {{"count", "6"}});
    const auto bent = plate.frequencies();
    plate.say("mass-acts", {{"directions", "z"}});
    const auto vertical = plate.frequencies();
    for (std::size_t at = 0; at < bent.size(); ++at) {
        EXPECT_GT(vertical[at], bent[at]) << at << ": rotary inertia is gone";
        EXPECT_LT(vertical[at], (1.0 + 5e-4) * bent[at]) << at;
    }

    // A bar upright: sqrt(E / rho) / (4 L) and 3 and 5 times as much, with no inertia across (which Love 1927 adds).
    const double length = 2.0, first = std::sqrt(E / rho) / (4 * length);
    const auto upright = [&](SaidModel said, int alike) {
        const auto found = said.say("lowest", {{"count", std::to_string(3 * alike)}})
                               .say("mass-acts", {{"directions", "z"}})
                               .frequencies();
        for (int n = 0; n < 3 * alike; ++n)
            EXPECT_NEAR(found[std::size_t(n)] / ((2 * (n / alike) + 1) * first), 1.0, 0.005) << n;
    };
    upright(steel()
                .say("solid-box", {{"name", "Bar"}, {"x", "0.1 m"}, {"y", "0.1 m"}, {"z", metres(length)}})
                .say("hold", {{"where", "faces at z = 0 m of Bar"}, {"directions", "z"}})
                .say("hold", {{"where", "edges at z = 0 m of Bar"}, {"directions", "x y"}}),
            3); // its sections may lean as well as rise: as fast, where nothing has inertia across
    SaidModel member = steel();
    member
        .say("run", {{"name", "Bar"},
                     {"from", "0, 0, 0 m"},
                     {"to", "0, 0, " + metres(length)},
                     {"parts", "1"},
                     {"section", "rectangle 100x100 mm"}})
        .say("hold", {{"where", "Bar.0"}, {"directions", "all"}});
    upright(member, 1);
}

TEST(MassActing, KnowsNoAxisFromAnother)
{
    // The same frame of sheet, members and a block thrice, turned so that what was along z is along x and y.
    std::vector<std::vector<double>> found;
    for (const std::string acts : {"z", "x", "y"}) {
        SaidModel said = steel();
        const bool x = acts == "x", y = acts == "y";
        const auto at = [&](double a, double b, double c) { // cyclic, so that it stays right-handed
            const std::array<double, 3> place = x ? std::array{c, a, b} : y ? std::array{b, c, a} : std::array{a, b, c};
            return fmt::format("{}, {}, {} m", place[0], place[1], place[2]);
        };
        const auto way = [&](int axis) {
            std::array<int, 3> unit{};
            unit[std::size_t(x ? (axis + 1) % 3 : y ? (axis + 2) % 3 : axis)] = 1;
            return fmt::format("{}, {}, {}", unit[0], unit[1], unit[2]);
        };
        const char* names = x ? "yzx" : y ? "zxy" : "xyz";
        said.say("plate", {{"name", "Deck"},
                           {"length", "1.2 m"},
                           {"width", "0.8 m"},
                           {"thickness", "10 mm"},
                           {"at", at(0, 0, 0)},
                           {"along", way(0)},
                           {"towards", way(1)}})
            .say("run", {{"name", "Mast"},
                         {"from", at(0, 0, 0)},
                         {"to", at(0.2, 0.1, 1.5)},
                         {"parts", "1"},
                         {"section", "tube 60x4 mm"}})
            .say("hold", {{"where", fmt::format("edges at {} = 0.8 m of Deck", names[1])}, {"directions", "all"}})
            .say("mass", {{"mass", "40 kg"}, {"points", "Mast.1"}, {"sharing", "on"}})
            .say("mass-spread", {{"mass", "5 kg/m2"}, {"where", "Deck"}})
            .say("mass-acts", {{"directions", acts}})
            .say("lowest", {{"count", "6"}});
        EXPECT_EQ(said.problems(), "");
        found.push_back(said.frequencies());
    }
    for (std::size_t mode = 0; mode < found[0].size(); ++mode) {
        EXPECT_NEAR(found[1][mode] / found[0][mode], 1.0, 1e-6) << mode;
        EXPECT_NEAR(found[2][mode] / found[0][mode], 1.0, 1e-6) << mode;
    }
}

TEST(MassActing, RefusesWhatHasNoMassOrIsNotHeld)
{
    const auto refusal = [](const char* kind, const Words& words, const char* held = "Beam.0, Beam.1") {
        SaidModel beam = straightBeam(3, 0.05, 0.03, 4);
        beam.say("hold", {{"where", held}, {"directions", "x y z rx"}})
            .say(kind, words)
            .say("mass-acts", {{"directions", "z"}});
        Progress progress;
        const auto solution = solve(std::make_shared<const Structure>(beam.structure()), progress);
        return solution ? std::string() : solution.findings().front().what;
    };
    EXPECT_EQ(refusal("lowest", {{"count", "3"}}), "");
    EXPECT_EQ(refusal("mass-share", {{"share", "60 %"}, {"directions", "z"}}), "");
    EXPECT_THAT(refusal("mass-share", {{"share", "60 %"}, {"directions", "x z"}}), HasSubstr("no mass acts along x"));
    EXPECT_THAT(refusal("residual-vectors", {{"from", "base accelerations"}, {"directions", "y"}}),
                HasSubstr("no mass acts along y"));
    EXPECT_THAT(refusal("ritz-vectors", {{"from", "self weight"}, {"directions", "y"}}),
                HasSubstr("no mass acts along y"));
    EXPECT_THAT(refusal("every-mode", {}), HasSubstr("every mode is asked"));
    EXPECT_THAT(refusal("lowest", {{"count", "3"}}, "Beam.0"), HasSubstr("not fully held"));
}

TEST(Weight, AListOfLoadsIsItsLinesEachInASentence)
{
    SaidModel list = quay(), one = quay();
    list.say("loads", {{"rows", "Deck | 2.5 kN/m2 | 30 % | live load\nDeck | 1.2 kN/m2\nroof of Frame | 6 kN | 100 % | "
                                "cabinets\nedges at y = 20 m of Deck | 2.4 kN/m | 100 % | window front"}});
    for (const Words& words :
         {Words{{"where", "Deck"}, {"load", "2.5 kN/m2"}, {"share", "30 %"}},
          Words{{"where", "Deck"}, {"load", "1.2 kN/m2"}}, Words{{"where", "roof of Frame"}, {"load", "6 kN"}},
          Words{{"where", "edges at y = 20 m of Deck"}, {"load", "2.4 kN/m"}}})
        one.say("weight", words);
    const Structure listed = list.structure(), said = one.structure();
    ASSERT_EQ(listed.attachments.size(), said.attachments.size());
    for (std::size_t at = 0; at < said.attachments.size(); ++at) {
        EXPECT_EQ(listed.attachments[at].at, said.attachments[at].at);
        EXPECT_EQ(listed.attachments[at].tensor, said.attachments[at].tensor);
    }
    ASSERT_EQ(listed.pointMasses.size(), said.pointMasses.size());
    EXPECT_NEAR(addedMass(list, quay()) / addedMass(one, quay()), 1.0, 1e-12);
    EXPECT_EQ(list.problems(), "");
    SaidModel wrong = quay();
    wrong.say("loads", {{"rows", "Deck | 2 kN/m2\nNobody | 1 kN"}});
    EXPECT_THAT(wrong.problems(), HasSubstr("Nobody"));
}

TEST(Mass, WaterInAPipeSwaysWithItAndSlidesAlongIt)
{
    // Pinned, and along itself clamped and free: 8 m of 168.3 by 4.5 mm, leaning however it may.
    const auto pipe = [](const char* to, bool filled) {
        SaidModel said = steel();
        said.say("run", {{"name", "Pipe"},
                         {"from", "0, 0, 0 m"},
                         {"to", to},
                         {"parts", "1"},
                         {"section", "tube 168.3x4.5 mm"},
                         {"elements", "24"}});
        if (filled) said.say("contents", {{"where", "Pipe"}});
        return said;
    };
    const double outer = 0.1683, inner = outer - 0.009, area = pi * (outer * outer - inner * inner) / 4.0;
    const double second = pi * (std::pow(outer, 4) - std::pow(inner, 4)) / 64.0, bore = pi * inner * inner / 4.0;
    for (const char* to : {"8, 0, 0 m", "4.8, 0, 6.4 m"}) {
        SaidModel said = pipe(to, true);
        EXPECT_NEAR(massSummary(said.structure()).mass, 8.0 * (rho * area + 1000.0 * bore), 1e-6);
        said.say("hold", {{"where", "Pipe.0, Pipe.1"}, {"directions", "x y z"}}).say("lowest", {{"count", "1"}});
        const double euler = pi / 2.0 * std::sqrt(E * second / (rho * area + 1000.0 * bore)) / 64.0;
        EXPECT_NEAR(said.frequencies().at(0) / euler, 1.0, 3e-3) << to; // less shear and rotary inertia
        // Along itself only the wall moves.
        SaidModel rod = pipe(to, true);
        rod.say("hold", {{"where", "Pipe.0"}, {"directions", "all"}}).say("lowest", {{"count", "24"}});
        const double axial = std::sqrt(E / rho) / 32.0;
        const auto all = rod.frequencies();
        EXPECT_TRUE(std::any_of(all.begin(), all.end(), [&](double hertz) {
            return std::abs(hertz / axial - 1.0) < 1e-3;
        })) << to;
    }
    // Half full, a lining, insulation of half its diameter: rings by hand.
    const auto added = [&](const char* kind, const Words& words) {
        return addedMass(pipe("8, 0, 0 m", false).say(kind, words), pipe("8, 0, 0 m", false)) / 8.0;
    };
    EXPECT_NEAR(added("contents", {{"where", "Pipe"}, {"share", "50 %"}}), 500.0 * bore, 1e-9);
    EXPECT_NEAR(added("lining", {{"where", "Pipe"}, {"thickness", "5 mm"}, {"density", "1300 kg/m3"}}),
                1300.0 * pi * (inner * inner - std::pow(inner - 0.01, 2)) / 4.0, 1e-9);
    EXPECT_NEAR(added("coating", {{"where", "Pipe"}, {"thickness", "80 mm"}, {"density", "100 kg/m3"}}),
                100.0 * pi * (std::pow(outer + 0.16, 2) - outer * outer) / 4.0, 1e-9);
    SaidModel bar = straightBeam(1.0, 0.04, 0.03, 2);
    EXPECT_THAT(bar.say("contents", {{"where", "Beam"}}).problems(), HasSubstr("there is no bore in rectangle"));
    SaidModel full = pipe("8, 0, 0 m", false);
    EXPECT_THAT(full.say("lining", {{"where", "Pipe"}, {"thickness", "90 mm"}}).problems(),
                HasSubstr("has no room for such a lining"));
}

TEST(Weight, DensitiesOffTheLibraryAndMostInOneSpotAreAskedAbout)
{
    SaidModel said;
    said.say("own-material", {{"name", "thin air"}, {"density", "7.85 kg/m3"}})
        .say("plate", {{"name", "Deck"}})
        .say("material", {{"what", "Deck"}, {"material", "thin air"}})
        .say("point", {{"name", "p"}, {"at", "0.5, 0.5, 0 m"}})
        .say("mass", {{"mass", "85 kg"}, {"points", "p"}, {"sharing", "on"}});
    const auto built = buildStructure(said.model());
    const auto findings = checkStructure(built.structure, massSummary(built.structure), said.model());
    const auto saying = [&](const char* what) {
        return std::find_if(findings.begin(), findings.end(),
                            [&](const Finding& finding) { return finding.what.find(what) != std::string::npos; });
    };
    const auto light = saying("7.85 kg/m3 is lighter than any material");
    ASSERT_NE(light, findings.end());
    ASSERT_EQ(light->cures.size(), 1u);
    EXPECT_EQ(light->cures[0].words, "Make it 7850 kg/m3");
    EXPECT_NE(saying("% of all mass stand on p"), findings.end());
    EXPECT_THAT(adviceOn(quay()), Not(HasSubstr("than any material")));
    // A ring by its integrals: m (D2 + d2) / 8 about its axis.
    SaidModel ring = steel();
    ring.say("point", {{"name", "p"}, {"at", "0, 0, 0 m"}})
        .say("mass", {{"mass", "10 kg"},
                      {"points", "p"},
                      {"sharing", "on"},
                      {"body", "ring about z"},
                      {"size", "400, 300, 50 mm"}});
    const Eigen::Matrix3d inertia = ring.structure().pointMasses.at(0).inertia;
    EXPECT_NEAR(inertia(2, 2), 10.0 * (0.16 + 0.09) / 8.0, 1e-12);
    EXPECT_NEAR(inertia(0, 0), 10.0 * ((0.16 + 0.09) / 16.0 + 0.0025 / 12.0), 1e-12);
}

TEST(Weight, AMassThatNothingStiffCarriesIsSaid)
{
    const auto hung = [](const char* stiffness) {
        SaidModel said = straightBeam(1.0, 0.1, 0.1, 6);
        said.say("hold", {{"where", "Beam.0, Beam.1"}, {"directions", "all"}})
            .say("point", {{"name", "load"}, {"at", "0.5, 0, -0.3 m"}})
            .say("mass", {{"mass", "20 kg"}, {"points", "load"}, {"sharing", "on"}})
            .say("spring", {{"from", "Beam.1"},
                            {"to", "load"},
                            {"kx", stiffness},
                            {"ky", stiffness},
                            {"kz", stiffness},
                            {"krx", "1 kN m/rad"},
                            {"kry", "1 kN m/rad"},
                            {"krz", "1 kN m/rad"}})
            .say("lowest", {{"count", "8"}});
        std::string all;
        const auto solution = said.solved();
        for (const auto& finding : solution->findings)
            all += finding.what + "\n";
        return all;
    };
    EXPECT_THAT(hung("1 N/mm"), HasSubstr("nothing stiff carries this mass"));
    EXPECT_THAT(hung("100 kN/mm"), Not(HasSubstr("nothing stiff carries")));
}

TEST(NegativeMass, TakesAwayWhatIsDrawnAndNotThere)
{
    // A lump less by a lump is the lump that is left; a beam less some of its mass per length is a lighter beam.
    const auto beam = [](const Words& mass) {
        SaidModel said = straightBeam(2, 0.05, 0.03, 6);
        said.say("hold", {{"where", "Beam.0"}, {"directions", "all"}}).say("lowest", {{"count", "6"}});
        if (mass.contains("where"))
            said.say("mass-spread", mass);
        else if (!mass.empty())
            said.say("mass", {{"mass", "5 kg"}, {"points", "Beam.1"}}).say("mass", mass);
        return said;
    };
    const auto same = [](const std::vector<double>& one, const std::vector<double>& other, double share) {
        ASSERT_EQ(one.size(), other.size());
        for (std::size_t at = 0; at < one.size(); ++at)
            EXPECT_NEAR(one[at] / other[at], 1.0, share) << at;
    };
    SaidModel three = straightBeam(2, 0.05, 0.03, 6);
    three.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("lowest", {{"count", "6"}})
        .say("mass", {{"mass", "3 kg"}, {"points", "Beam.1"}});
    same(beam({{"mass", "-2 kg"}, {"points", "Beam.1"}}).frequencies(), three.frequencies(), 1e-12);
    SaidModel lighter = beam({{"mass", "-3 kg/m"}, {"where", "Beam"}});
    EXPECT_NEAR(lighter.solved()->mass.mass, 2 * (0.05 * 0.03 * rho - 3.0), 1e-9);
    const double factor = std::sqrt(12.0 / 9.0);
    auto plain = beam({}).frequencies();
    for (double& hertz : plain)
        hertz *= factor;
    const auto found = lighter.frequencies();
    for (std::size_t at = 0; at < 3; ++at)
        EXPECT_NEAR(found[at] / plain[at], 1.0, 2e-3) << at << ", but for the rotary inertia";
    // More than is there, in all or at one place.
    const auto refusal = [](const SaidModel& said) {
        Progress progress;
        const auto solution = solve(said.model(), progress);
        return solution ? std::string() : solution.findings().front().what;
    };
    EXPECT_THAT(refusal(beam({{"mass", "-13 kg/m"}, {"where", "Beam"}})), HasSubstr("mass"));
    EXPECT_THAT(refusal(beam({{"mass", "-9 kg"}, {"points", "Beam.1"}})),
                HasSubstr("more mass is taken away than is there: at Beam.1"));
}
