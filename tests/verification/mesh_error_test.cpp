// The estimate against computed errors: the same structure in coarse and in very fine elements.
#include "core/modal/estimate_ahead.hpp"
#include "tests/mesh_error_cases.hpp"

using namespace undisona;

namespace {

/// Estimated over true relative error of each mode of `coarse` elements, against many.
void compare(const std::string& section, const std::string& matrix, int coarse, double low, double high)
{
    const auto build = [&](int elements) {
        SaidModel said;
        said.say("run", {{"name", "B"},
                         {"from", "0, 0, 0 m"},
                         {"to", "3, 0, 0 m"},
                         {"section", section},
                         {"elements", std::to_string(elements)}})
            .material("200 GPa", "0.3", "8000 kg/m3");
        return said.say("hold", {{"where", "B.0"}, {"directions", "all"}})
            .say("mass-matrix", {{"matrix", matrix}})
            .say("lowest", {{"count", "8"}});
    };
    const auto rough = build(coarse).solved(), fine = build(120).solved();
    int checked = 0;
    for (std::size_t at = 0; at < 4; ++at) {
        const double truth = rough->modes[at].frequency / fine->modes[at].frequency - 1.0;
        if (std::abs(truth) < 2e-6) continue;
        ++checked;
        EXPECT_GT(rough->modes[at].meshError / truth, low) << section << " " << matrix << " mode " << at + 1 << " true "
                                                           << truth << " estimate " << rough->modes[at].meshError;
        EXPECT_LT(rough->modes[at].meshError / truth, high)
            << section << " " << matrix << " mode " << at + 1 << " true " << truth << " estimate "
            << rough->modes[at].meshError;
    }
    EXPECT_GT(checked, 1);
}

} // namespace

TEST(MeshError, EstimateFollowsTheTrueErrorOfASlenderBeam)
{
    compare("rectangle 20x35 mm", "consistent", 4, 0.6, 1.6);
}
TEST(MeshError, EstimateFollowsTheTrueErrorOfAStockyBeam)
{
    compare("rectangle 300x500 mm", "consistent", 6, 0.4, 2.5);
}

TEST(MeshError, MembersAreSplitAndSolvedOnceMoreUntilTheErrorIsSmall)
{
    SaidModel said;
    said.say("run", {{"name", "B"}, {"from", "0, 0, 0 m"}, {"to", "6, 0, 0 m"}, {"section", "rectangle 20x35 mm"}})
        .material("200 GPa", "0.3", "8000 kg/m3");
    said.say("hold", {{"where", "B.0"}, {"directions", "all"}}).say("lowest", {{"count", "10"}});
    const auto solution = said.solved();
    EXPECT_GT(solution->mesh.elements.size(), 5u);
    for (const auto& mode : solution->modes)
        EXPECT_LT(std::abs(mode.meshError), 0.006);
}

// Assumed, projected and enhanced strains, both masses, thin edges, corners that no mesh ends, members on sheet.
class MeshErrorOf : public testing::TestWithParam<MeshErrorCase> {};

TEST_P(MeshErrorOf, SheetAndSolidsStandsBesideTheTrueError)
{
    const MeshErrorReport report = reportOf(GetParam());
    EXPECT_EQ(report.untold, 0);
    EXPECT_GE(report.modes.size(), 20u);
    EXPECT_GE(report.good(), 0.8);
    EXPECT_GE(report.least(), 0.2);
}
INSTANTIATE_TEST_SUITE_P(Cases, MeshErrorOf, testing::ValuesIn([] {
                             std::vector<MeshErrorCase> quick;
                             for (const auto& one : meshErrorCases())
                                 if (!one.slow) quick.push_back(one);
                             return quick;
                         }()),
                         [](const auto& one) {
                             std::string name;
                             for (const char letter : one.param.name)
                                 name += std::isalnum(static_cast<unsigned char>(letter)) ? letter : '_';
                             return name;
                         });

TEST(MeshError, HasBothSignsWhereTheElementHas)
{
    for (const auto& one : meshErrorCases()) {
        if (one.name != "plate held at one edge, lumped mass") continue;
        int low = 0, high = 0;
        for (const auto& mode : reportOf(one).modes) {
            low += mode.estimate < -0.001 && mode.truth < -0.001;
            high += mode.estimate > 0.001 && mode.truth > 0.001;
        }
        EXPECT_GE(low, 5);
        EXPECT_GE(high, 2);
    }
}

// Bodies whose strains tell too little: curved bricks, one through a thin wall, inner edges of bricks.
TEST(MeshError, OfBricksIsSetAgainstACoarserMesh)
{
    struct Body {
        const char* kind;
        Words form, finer;
        double left; ///< of the error in the smaller elements, by the ratio of sizes and the rate
        const char* held;
    };
    const std::string handle =
        "0 mm|0 mm\n220 mm|0 mm\n220 mm|60 mm\n200 mm|60 mm\n200 mm|20 mm\n20 mm|20 mm\n20 mm|60 mm\n0 mm|60 mm";
    const std::string angle = "0 mm|0 mm\n100 mm|0 mm\n100 mm|10 mm\n10 mm|10 mm\n10 mm|100 mm\n0 mm|100 mm";
    for (const auto& [kind, form, finer, left, held] :
         {Body{"solid-cylinder",
               {{"diameter", "0.2 m"}, {"inner", "100 mm"}, {"length", "0.2 m"}},
               {{"size", "16 mm"}},
               0.2,
               nullptr},
          Body{"extrusion",
               {{"rows", handle}, {"length", "18 mm"}},
               {{"size", "4.5 mm"}},
               0.5,
               "faces at y = 0.06 m of S"},
          Body{"extrusion",
               {{"rows", angle}, {"length", "240 mm"}},
               {{"size", "10 mm"}},
               0.1,
               "faces at z = 0 m of S"}}) {
        const auto saidAs = [&](const Words& size) {
            Words words = form;
            words.insert(size.begin(), size.end());
            words.emplace("name", "S");
            auto said = steel();
            said.say(kind, words).say("lowest", {{"count", "8"}});
            if (held) said.say("hold", {{"where", held}, {"directions", "all"}});
            if (!size.empty())
                said.say("solid-elements", {{"what", "S"}, {"elements", "20-node bricks"}, {"through", "3"}});
            return said;
        };
        const auto own = saidAs({}).solved(), fine = saidAs(finer).solvedUnjudged();
        int good = 0, all = 0;
        std::string bad;
        for (std::size_t at = 0; at < own->modes.size(); ++at) {
            const Mode& mode = own->modes[at];
            if (mode.rigid) continue;
            const double truth = (mode.frequency / fine->modes[at].frequency - 1.0) / (1.0 - left);
            SCOPED_TRACE(std::string(kind) + " mode " + std::to_string(mode.number) + ": true " +
                         std::to_string(truth) + ", estimated " + std::to_string(mode.meshError));
            ASSERT_TRUE(mode.judged());
            ++all;
            if (std::abs(truth) < 2e-4) {
                EXPECT_LT(std::abs(mode.meshError), 1e-3);
                ++good;
                continue;
            }
            EXPECT_GT(mode.meshError, truth / 5.0);
            EXPECT_LT(mode.meshError, 5.0 * truth);
            const bool fits = (mode.meshError > 0.5 * truth && mode.meshError < 2.0 * truth) ||
                              std::abs(mode.meshError - truth) < mode.meshErrorEither;
            good += fits;
            if (!fits) bad += std::to_string(truth) + " is estimated as " + std::to_string(mode.meshError) + "\n";
        }
        EXPECT_GE(good, 0.8 * all) << kind << "\n" << bad;
    }
}

// Lamb 1882 for the ball; the others against much smaller elements.
TEST(DefaultMesh, OfSolidsAskedByCountHoldsHalfAPerCent)
{
    auto ball = steel();
    ball.say("solid-sphere", {{"name", "S"}, {"diameter", "0.2 m"}}).say("lowest", {{"count", "10"}});
    const auto modes = ball.solvedUnjudged()->modes;
    const double shear = std::sqrt(200e9 / 2.6 / 8000.0);
    for (std::size_t at = 6; at < 11; ++at) // torsional of order two, five of them
        EXPECT_NEAR(modes[at].frequency / (2.5011 * shear / (2.0 * std::numbers::pi * 0.1)), 1.0, 0.005);
    const auto compare = [](const char* kind, const Words& form, const Words& finer, const Words& elements) {
        const auto solved = [&](const Words& size) {
            Words words = form;
            words.insert(size.begin(), size.end());
            words.emplace("name", "S");
            auto said = steel();
            said.say(kind, words).say("lowest", {{"count", "6"}});
            if (!elements.empty()) said.say("solid-elements", elements);
            return said.solvedUnjudged();
        };
        const auto own = solved({}), fine = solved(finer);
        for (std::size_t at = 6; at < own->modes.size() && at < fine->modes.size(); ++at)
            EXPECT_NEAR(own->modes[at].frequency / fine->modes[at].frequency, 1.0, 0.005) << kind << " " << at + 1;
    };
    compare("solid-cylinder", {{"diameter", "0.2 m"}, {"inner", "100 mm"}, {"length", "0.2 m"}}, {{"size", "17 mm"}},
            {});
    compare("solid-box", {{"x", "300 mm"}, {"y", "220 mm"}, {"z", "60 mm"}}, {{"size", "16 mm"}}, {});
    compare("solid-box", {{"x", "600 mm"}, {"y", "30 mm"}, {"z", "10 mm"}}, {{"size", "5 mm"}}, {});
    compare("solid-box", {{"x", "0.2 m"}, {"y", "0.15 m"}, {"z", "0.1 m"}}, {{"size", "19 mm"}},
            {{"what", "S"}, {"elements", "tetrahedra"}});
}

// A case on two thin legs: what swings is thin, and its roots are inner edges. On elements as large as the waves alone
// want it was 5 % off and estimated at a tenth of that.
TEST(DefaultMesh, FollowsThinLegsOfABodyAndSaysWhatIsLeft)
{
    auto said = steel();
    said.say("solid-box", {{"name", "Case"}, {"x", "20 mm"}, {"y", "14 mm"}, {"z", "8 mm"}})
        .say("solid-elements", {{"what", "Case"}, {"elements", "tetrahedra"}});
    for (const std::string x : {"3", "14"})
        said.say("solid-box",
                 {{"name", "Leg " + x}, {"x", "3 mm"}, {"y", "12 mm"}, {"z", "1.2 mm"}, {"at", x + ", -10, 3 mm"}})
            .say("solid-union", {{"tool", "Leg " + x}, {"body", "Case"}});
    said.say("lowest", {{"count", "6"}});
    ASSERT_EQ(said.problems(), "");
    const auto own = said.solved();
    EXPECT_LT(double(own->system->size()), 30000.0) << "but not at any price";
    said.say("refine", {{"error", "1.6 %"}});
    const auto fine = said.solved();
    EXPECT_GT(double(fine->system->size()), 1.6 * double(own->system->size()));
    for (std::size_t at = 6; at < own->modes.size(); ++at) {
        const Mode& mode = own->modes[at];
        const double truth = mode.frequency / fine->modes[at].frequency - 1.0 + fine->modes[at].meshError;
        SCOPED_TRACE("mode " + std::to_string(mode.number) + ": true " + std::to_string(truth) + ", estimated " +
                     std::to_string(mode.meshError) + ", left " + std::to_string(fine->modes[at].meshError));
        EXPECT_LT(truth, 0.035);
        EXPECT_GT(mode.meshError, 0.4 * truth);
        EXPECT_LT(mode.meshError, 2.5 * truth);
    }
}

// However the modes are asked for, the elements follow what is thin; and no finer than so many of them.
TEST(DefaultMesh, IsAsFineByFrequencyAsByNumber)
{
    const auto body = [] {
        auto said = steel();
        said.say("solid-box", {{"name", "Case"}, {"x", "20 mm"}, {"y", "14 mm"}, {"z", "8 mm"}})
            .say("solid-elements", {{"what", "Case"}, {"elements", "tetrahedra"}})
            .say("solid-box", {{"name", "Leg"}, {"x", "3 mm"}, {"y", "12 mm"}, {"z", "1.2 mm"}, {"at", "8, -10, 3 mm"}})
            .say("solid-union", {{"tool", "Leg"}, {"body", "Case"}})
            .say("hold", {{"where", "faces at y = 0.014 m of Case"}, {"directions", "all"}});
        return said;
    };
    const auto byNumber = body().say("lowest", {{"count", "3"}}).solved();
    const double limit = 1.02 * byNumber->modes.back().frequency;
    const std::string hertz = std::to_string(limit) + " Hz";
    const auto byFrequency = body().say("up-to", {{"frequency", hertz}}).solved();
    const auto inBand = body().say("band", {{"from", "10 Hz"}, {"to", hertz}}).solved();
    for (const auto& other : {byFrequency, inBand}) {
        ASSERT_EQ(other->modes.size(), byNumber->modes.size());
        EXPECT_NEAR(double(other->system->size()), double(byNumber->system->size()),
                    0.3 * double(byNumber->system->size()));
        for (std::size_t at = 0; at < other->modes.size(); ++at) {
            EXPECT_NEAR(other->modes[at].frequency / byNumber->modes[at].frequency, 1.0, 0.005);
            EXPECT_TRUE(other->modes[at].judged());
        }
    }
    const Structure structure = body().say("lowest", {{"count", "3"}}).structure();
    const double plain = double(meshOf(structure, {}, proposeSizes(structure, 1.2 * limit)).solids.size());
    EXPECT_GT(double(byNumber->mesh.solids.size()), 1.1 * plain);
    EXPECT_LT(double(byNumber->mesh.solids.size()), 3.0 * plain);
    // Nothing that is found depends on whether the mesh error is shown.
    const auto unjudged = body().say("lowest", {{"count", "3"}}).solvedUnjudged();
    EXPECT_EQ(unjudged->system->size(), byNumber->system->size());
}

TEST(MeshError, PiecesAddUpToThatOfTheMode)
{
    auto said = steel();
    said.say("plate", {{"name", "P"}, {"length", "1 m"}, {"width", "0.7 m"}, {"thickness", "6 mm"}})
        .say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
        .say("lowest", {{"count", "6"}});
    const auto solution = said.solved();
    ASSERT_EQ(std::size_t(solution->pieceErrors.rows()), solution->mesh.shells.size());
    for (const auto& mode : solution->modes)
        EXPECT_NEAR(solution->pieceErrors.col(mode.number - 1).sum(), mode.meshError, 1e-6);
}

TEST(RunEstimate, CountsTheUnknownsOfSheetWithMoreFacesThanSheets)
{
    auto said = steel();
    said.say("sheet-box", {{"name", "B"}, {"x", "0.5 m"}, {"y", "0.4 m"}, {"z", "0.3 m"}, {"thickness", "3 mm"}})
        .say("hold", {{"where", "edges at z = 0 m"}, {"directions", "all"}})
        .say("up-to", {{"frequency", "300 Hz"}});
    const double about = double(unknownsAbout(said.structure())), found = double(said.solved()->system->size());
    EXPECT_GT(about, 0.5 * found);
    EXPECT_LT(about, 2.0 * found);
}

TEST(Refine, GoesOnUntilTheModesAreAsNearAsAskedAndPutsSmallElementsInTheCorner)
{
    auto said = steel();
    said.say("plate-through",
             {{"name", "L"},
              {"rows", "0 m|0 m|0 m\n1 m|0 m|0 m\n1 m|0.5 m|0 m\n0.5 m|0.5 m|0 m\n0.5 m|1 m|0 m\n0 m|1 m|0 m"},
              {"thickness", "6 mm"}})
        .say("hold", {{"where", "free edges of L"}, {"directions", "all"}})
        .say("lowest", {{"count", "6"}});
    const auto before = said.solved();
    double worst = 0.0;
    for (const auto& mode : before->modes)
        worst = std::max(worst, std::abs(mode.meshError));
    ASSERT_GT(worst, 0.003);
    said.say("refine", {{"frequency", "250 Hz"}, {"error", "0.25 %"}});
    const auto after = said.solved();
    for (const auto& mode : after->modes)
        if (mode.frequency <= 250.0) EXPECT_LE(std::abs(mode.meshError), 0.0025) << mode.number;
    double left = 0.0;
    for (const auto& mode : after->modes)
        if (mode.frequency <= 250.0) left = std::max(left, std::abs(mode.meshError));
    EXPECT_GT(left, 0.0025 / 4.0) << "no finer than it was to be";
    std::string text;
    for (const auto& finding : after->findings)
        text += oneLine(finding) + "\n";
    EXPECT_NE(text.find("every mode below 250 Hz is within 0.25 % after"), std::string::npos) << text;
    const auto usual = [](const Solution& of, bool inCorner) { // size of the pieces there
        double area = 0.0, count = 0.0;
        for (const auto& shell : of.mesh.shells) {
            const auto& place = of.mesh.nodes[std::size_t(shell.nodes[0])].place;
            if (((place - Eigen::Vector3d(0.5, 0.5, 0.0)).norm() < 0.05) != inCorner) continue;
            area += of.mesh.area(shell);
            count += 1.0;
        }
        return std::sqrt(area / count);
    };
    EXPECT_LT(usual(*after, true), 0.6 * usual(*before, true));
    EXPECT_LT(usual(*after, true), 0.75 * usual(*after, false));
}

TEST(Refine, SaysWhatNeverSettles)
{
    auto said = steel();
    said.say("plate", {{"name", "P"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "4 mm"}})
        .say("point", {{"name", "seat"}, {"at", "0.4, 0.3, 0 m"}})
        .say("mass", {{"mass", "50 kg"}, {"points", "seat"}, {"centre", "0, 0, 200 mm"}})
        .say("hold", {{"where", "free edges of P"}, {"directions", "x y z"}})
        .say("lowest", {{"count", "3"}})
        .say("refine", {{"error", "0.5 %"}});
    std::string text;
    const auto solution = said.solved();
    for (const auto& finding : solution->findings)
        text += oneLine(finding) + "\n";
    EXPECT_NE(text.find("refin"), std::string::npos);
    EXPECT_NE(text.find("single place never settles"), std::string::npos) << text;
}
