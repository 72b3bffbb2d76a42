// Parts joined by their surfaces, whatever mesh each has, and springs spread between them.
#include "core/numerics/shifted_factor.hpp"
#include "core/system/facing.hpp"
#include "tests/rigid_balance.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

std::vector<double> heldFrequencies(SaidModel said, const std::string& count = "10")
{
    return said.say("lowest", {{"count", count}}).frequencies();
}

/// Two blocks of 0.3 by 0.2 m on each other, the upper one finer, with a gap (m) between them.
SaidModel twoBlocks(double gap = 0.0)
{
    SaidModel said = steel();
    said.say("solid-box", {{"name", "Lower"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
        .say("solid-box",
             {{"name", "Upper"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.15 m"}, {"at", "0, 0, " + metres(0.1 + gap)}})
        .say("size-at", {{"size", "47 mm"}, {"where", "Upper"}})
        .say("size-at", {{"size", "71 mm"}, {"where", "Lower"}});
    return said;
}

} // namespace

TEST(SurfaceJoint, TwoBlocksWithAMeshEachAreOneBlock)
{
    SaidModel one = steel();
    one.say("solid-box", {{"name", "Whole"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.25 m"}})
        .say("hold", {{"where", "faces at z = 0 m of Whole"}, {"directions", "x y z"}});
    SaidModel two = twoBlocks();
    two.say("hold", {{"where", "faces at z = 0 m of Lower"}, {"directions", "x y z"}})
        .say("join", {{"what", "Upper"}, {"other", "Lower"}});
    const auto whole = heldFrequencies(one), joined = heldFrequencies(two);
    ASSERT_EQ(whole.size(), 10u);
    ASSERT_EQ(joined.size(), 10u);
    for (std::size_t mode = 0; mode < 10; ++mode)
        EXPECT_NEAR(joined[mode] / whole[mode], 1.0, 5e-3) << mode;
}

TEST(SurfaceJoint, SurfacesSlideOnEachOtherAndNowhereElse)
{
    const auto freeMotions = [](const SaidModel& said) {
        const auto solution = said.solved();
        return std::count_if(solution->modes.begin(), solution->modes.end(),
                             [](const Mode& mode) { return mode.rigid || mode.mechanism; });
    };
    // A block on another: along x and y and about z it is free.
    SaidModel blocks = twoBlocks();
    blocks.say("hold", {{"where", "faces at z = 0 m of Lower"}, {"directions", "x y z"}})
        .say("join", {{"what", "Upper"}, {"other", "Lower"}, {"turning", "sliding on it"}})
        .say("lowest", {{"count", "6"}});
    EXPECT_EQ(freeMotions(blocks), 3);
    // A pin in a bore: along its axis and about it, whatever meshes the two have.
    SaidModel pin = steel();
    pin.say("solid-box", {{"name", "Plate"}, {"x", "0.2 m"}, {"y", "0.2 m"}, {"z", "60 mm"}})
        .say("solid-cylinder", {{"name", "Bore"}, {"diameter", "80 mm"}, {"length", "60 mm"}, {"at", "0.1, 0.1, 0 m"}})
        .say("solid-cut", {{"tool", "Bore"}, {"body", "Plate"}})
        .say("solid-cylinder",
             {{"name", "Pin"}, {"diameter", "80 mm"}, {"length", "160 mm"}, {"at", "0.1, 0.1, -0.05 m"}})
        .say("size-at", {{"size", "17 mm"}, {"where", "Pin"}})
        .say("hold", {{"where", "faces at x = 0 m, faces at x = 0.2 m"}, {"directions", "x y z"}})
        .say("join", {{"what", "Pin"}, {"other", "Plate"}, {"turning", "sliding on it"}})
        .say("lowest", {{"count", "4"}});
    EXPECT_EQ(freeMotions(pin), 2);
    SaidModel edges = twoBlocks();
    edges.say("join", {{"what", "Upper"}, {"other", "Lower"}, {"turning", "sliding along it"}});
    EXPECT_THAT(edges.problems(), testing::HasSubstr("edges alone slide along themselves"));
}

TEST(SurfaceJoint, AnEvenPressurePassesEvenlyBetweenMeshesThatDoNotMatch)
{
    // Held so that it may widen freely, pressed by p: u = (-nu p x, -nu p y, p z) / E everywhere, pieces of the second
    // order or the first.
    for (const auto& [touching, turning] : {std::pair(true, "turning with it"),
                                            {false, "turning with it"},
                                            {true, "sliding on it"},
                                            {false, "sliding on it"}}) {
        SaidModel said = twoBlocks(touching ? 0.0 : 0.004);
        said.say("hold", {{"where", "faces at z = 0 m of Lower"}, {"directions", "z"}})
            .say("hold", {{"where", "faces at x = 0 m"}, {"directions", "x"}})
            .say("hold", {{"where", "faces at y = 0 m"}, {"directions", "y"}})
            .say("join", {{"what", "Lower"}, {"other", "Upper"}, {"turning", turning}})
            .say("lowest", {{"count", "1"}});
        const auto solution = said.solvedUnjudged();
        const System& system = *solution->system;
        const FrameMesh& mesh = solution->mesh;
        constexpr double pressure = 1e6;
        Eigen::VectorXd load = Eigen::VectorXd::Zero(system.size());
        const double top = touching ? 0.25 : 0.254;
        for (std::size_t face = 0; face < solution->structure->frame.faces->faces.size(); ++face)
            for (const auto& piece : mesh.piecesOfFace(*solution->structure, static_cast<int>(face)))
                for (std::size_t node = 0; node < piece.nodes.size(); ++node) {
                    const auto& own = mesh.nodes[static_cast<std::size_t>(piece.nodes[node])];
                    if (std::any_of(piece.nodes.begin(), piece.nodes.end(), [&](int other) {
                            return std::abs(mesh.nodes[static_cast<std::size_t>(other)].place.z() - top) > 1e-9;
                        }))
                        continue;
                    EXPECT_NEAR(own.place.z(), top, 1e-9);
                    const auto& motion = system.motions.nodes[static_cast<std::size_t>(piece.nodes[node])];
                    const double force = pressure * piece.products.col(Eigen::Index(node)).sum();
                    for (std::size_t at = 0; at < motion.unknowns.size(); ++at)
                        load[motion.unknowns[at]] += force * motion.basis(2, Eigen::Index(at));
                }
        const auto factor = ShiftedFactor::factorise(nullptr, system.stiffness, 0.0, system.mass, {});
        ASSERT_TRUE(factor);
        Eigen::VectorXd answer = factor->solve(load);
        answer += factor->solve(load - system.stiffness * answer); // what rounding left
        const double most = pressure * top / E;
        for (std::size_t node = 0; node < mesh.nodes.size(); ++node) {
            const Eigen::Vector3d place = mesh.nodes[node].place,
                                  shift = system.motionOf(static_cast<int>(node), answer).head<3>();
            // Across a gap the upper block follows as if the lower one went on rigidly: all shifts are those beneath.
            const double height = touching || place.z() < 0.102 ? place.z() : place.z() - 0.004;
            if (system.motions.nodes[node].basis.cols() == 0 && system.motions.nodes[node].heldBasis.cols() == 0)
                continue;
            const Eigen::Vector3d exact(-nu * place.x(), -nu * place.y(), height);
            EXPECT_LT((shift - pressure / E * exact).norm(), 1e-9 * most) << node << " " << place.transpose();
        }
    }
}

TEST(SurfaceJoint, NothingStrainsItWhenTheWholeMoves)
{
    // Bodies, sheet and edges, touching and not, flat and round, followed or on springs.
    const auto withLayer = [](SaidModel said, const char* what, const char* other) {
        return said.say("layer", {{"what", what}, {"other", other}, {"across", "5 N/mm3"}, {"along", "2 N/mm3"}});
    };
    const auto withJoin = [](SaidModel said, const char* what, const char* other) {
        return said.say("join", {{"what", what}, {"other", other}});
    };
    for (const double gap : {0.0, 0.003}) {
        balanced(withJoin(twoBlocks(gap), "Upper", "Lower"), "blocks");
        balanced(withLayer(twoBlocks(gap), "Upper", "Lower"), "blocks on a layer");
    }
    SaidModel sheet = steel();
    sheet.say("solid-box", {{"name", "Base"}, {"x", "0.4 m"}, {"y", "0.3 m"}, {"z", "30 mm"}})
        .say(
            "plate",
            {{"name", "Skin"}, {"length", "0.3 m"}, {"width", "0.2 m"}, {"at", "40, 60, 34 mm"}, {"thickness", "8 mm"}})
        .say("size-at", {{"size", "37 mm"}, {"where", "Skin"}});
    balanced(withJoin(sheet, "Skin", "Base"), "sheet on a body");
    balanced(withJoin(sheet, "Base", "Skin"), "a body and sheet");
    balanced(withLayer(sheet, "Skin", "Base"), "sheet on a layer");
    SaidModel sheets = steel();
    sheets.say("plate", {{"name", "Deck"}, {"length", "0.5 m"}, {"width", "0.4 m"}, {"thickness", "10 mm"}})
        .say("plate", {{"name", "Patch"},
                       {"length", "0.23 m"},
                       {"width", "0.17 m"},
                       {"at", "100, 90, 9 mm"},
                       {"thickness", "8 mm"}})
        .say("plate", {{"name", "Wall"},
                       {"length", "0.3 m"},
                       {"width", "0.2 m"},
                       {"at", "80, 300, 6 mm"},
                       {"towards", "0, 0, 1"},
                       {"thickness", "6 mm"}});
    balanced(withJoin(withJoin(sheets, "Patch", "Deck"), "edges at z = 6 mm of Wall", "Deck"),
             "lapped sheets and a wall");
    SaidModel round = steel();
    round.say("solid-cylinder", {{"name", "Pin"}, {"diameter", "58 mm"}, {"length", "80 mm"}, {"at", "60, 60, 0 mm"}})
        .say("solid-box", {{"name", "Block"}, {"x", "120 mm"}, {"y", "120 mm"}, {"z", "60 mm"}})
        .say("solid-cylinder", {{"name", "Bore"}, {"diameter", "60 mm"}, {"length", "80 mm"}, {"at", "60, 60, -10 mm"}})
        .say("solid-cut", {{"tool", "Bore"}, {"body", "Block"}});
    balanced(withJoin(round, "Pin", "Block"), "a pin in a bore");
    balanced(withLayer(round, "Block", "Pin"), "a pin in a bush");
}

TEST(SurfaceJoint, AStiffBlockOnALayerBouncesRocksAndTurnsAsByHand)
{
    // 24 kg on 0.3 x 0.2 m: k = 2e8 N/m3 across, 0.5e8 along. Uncoupled: bounce, and the turn about the upright axis.
    constexpr double a = 0.3, b = 0.2, h = 0.05, mass = rho * a * b * h, across = 2e8, along = 5e7;
    SaidModel said = steel();
    said.say("solid-box", {{"name", "Floor"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "0.1 m"}})
        .say("solid-box", {{"name", "Block"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "50 mm"}, {"at", "0, 0, 110 mm"}})
        .say("hold", {{"where", "Floor"}, {"directions", "x y z"}})
        .say("layer", {{"what", "Block"}, {"other", "Floor"}, {"across", "0.2 N/mm3"}, {"along", "0.05 N/mm3"}})
        .say("lowest", {{"count", "6"}});
    const auto found = said.frequencies();
    ASSERT_EQ(found.size(), 6u);
    const auto hertz = [](double square) { return std::sqrt(square) / (2.0 * pi); };
    const double area = a * b, arm = h / 2.0 + 0.005; // from the middle of the gap to the block's
    std::vector<double> hand{hertz(across * area / mass),
                             hertz(along * area * (a * a + b * b) / 12.0 / (mass * (a * a + b * b) / 12.0))};
    for (const double side : {a, b}) { // shear and rocking together
        const double inertia = mass * (side * side + h * h) / 12.0;
        Eigen::Matrix2d k, m;
        k << along * area, along * area * arm, along * area * arm,
            across * area * side * side / 12.0 + along * area * arm * arm;
        m << mass, 0.0, 0.0, inertia;
        const Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::Matrix2d> eigen(k, m, Eigen::EigenvaluesOnly);
        for (const double square : eigen.eigenvalues())
            hand.push_back(hertz(square));
    }
    std::sort(hand.begin(), hand.end());
    for (std::size_t mode = 0; mode < 6; ++mode)
        EXPECT_NEAR(found[mode] / hand[mode], 1.0, 3e-3) << mode; // the block gives by so much
}

TEST(SurfaceJoint, SheetGluedOnABarBendsAsTheBarOfBoth)
{
    // A bar of 40 mm with a cover of 4 mm on it, against the bar of 44 mm.
    SaidModel glued = steel();
    glued.say("solid-box", {{"name", "Bar"}, {"x", "0.8 m"}, {"y", "60 mm"}, {"z", "40 mm"}})
        .say("plate",
             {{"name", "Cover"}, {"length", "0.8 m"}, {"width", "60 mm"}, {"at", "0, 0, 42 mm"}, {"thickness", "4 mm"}})
        .say("size-at", {{"size", "23 mm"}, {"where", "Cover"}})
        .say("join", {{"what", "Cover"}, {"other", "Bar"}});
    SaidModel whole = steel();
    whole.say("solid-box", {{"name", "Bar"}, {"x", "0.8 m"}, {"y", "60 mm"}, {"z", "44 mm"}});
    const auto two = heldFrequencies(glued, "4"), one = heldFrequencies(whole, "4");
    ASSERT_GE(two.size(), 4u);
    for (std::size_t mode = 0; mode < 4; ++mode)
        EXPECT_NEAR(two[mode] / one[mode], 1.0, 5e-3) << mode;
}

TEST(SurfaceJoint, AWallWeldedOnADeckAcrossAHairIsTheWallThatStandsOnIt)
{
    const auto withWall = [](const char* place) {
        SaidModel said = steel();
        said.say("plate", {{"name", "Deck"}, {"length", "1 m"}, {"width", "0.8 m"}, {"thickness", "10 mm"}})
            .say("plate", {{"name", "Wall"},
                           {"length", "0.6 m"},
                           {"width", "0.3 m"},
                           {"at", place},
                           {"towards", "0, 0, 1"},
                           {"thickness", "8 mm"}})
            .say("hold", {{"where", "edges at x = 0 m of Deck, edges at x = 1 m of Deck"}, {"directions", "all"}});
        return said;
    };
    const auto standing = heldFrequencies(withWall("200, 330, 0 mm"), "8");
    const auto welded = heldFrequencies(
        withWall("200, 330, 0.2 mm").say("join", {{"what", "edges at z = 0.2 mm of Wall"}, {"other", "Deck"}}), "8");
    ASSERT_EQ(standing.size(), 8u);
    ASSERT_EQ(welded.size(), 8u);
    for (std::size_t mode = 0; mode < 8; ++mode)
        EXPECT_NEAR(welded[mode] / standing[mode], 1.0, 1e-2) << mode;
}

TEST(SurfaceJoint, SaysWhatItJoinsHowFarItIsAndWhatIsWrong)
{
    SaidModel far = twoBlocks(0.012);
    far.say("join", {{"what", "Upper"}, {"other", "Lower"}, {"reach", "5 mm"}}).say("lowest", {{"count", "1"}});
    Progress progress;
    const auto refused = solve(far.model(), progress);
    ASSERT_FALSE(refused);
    EXPECT_THAT(refused.findings().front().what, HasSubstr("nothing of the two sides faces each other within 5 mm"));
    EXPECT_THAT(refused.findings().front().remedy, HasSubstr("The nearest is 12 mm away"));

    SaidModel near = twoBlocks(0.012);
    near.say("join", {{"what", "Upper"}, {"other", "Lower"}})
        .say("hold", {{"where", "Lower"}, {"directions", "x y z"}})
        .say("lowest", {{"count", "1"}});
    std::string notes;
    const auto solution = near.solvedUnjudged();
    for (const auto& finding : solution->findings)
        notes += finding.what + "\n";
    EXPECT_THAT(notes, HasSubstr("Upper and Lower face each other over 0.06 m2, across a gap of 12 mm"));

    SaidModel same = twoBlocks();
    same.say("layer", {{"what", "Upper"}, {"other", "faces at z = 250 mm of Upper"}});
    EXPECT_THAT(same.problems(), HasSubstr("both sides are Upper"));
}

TEST(SurfaceJoint, OfSmallOnLargeTheSmallOneFollowsAndCrosswiseWhatIsCovered)
{
    // Crosswise neither strip is covered whole; the square where they cross holds them together.
    SaidModel said = steel();
    said.say("plate", {{"name", "Along"}, {"length", "0.6 m"}, {"width", "0.1 m"}, {"thickness", "10 mm"}})
        .say("plate", {{"name", "Across"},
                       {"length", "0.1 m"},
                       {"width", "0.6 m"},
                       {"at", "270, -250, 10 mm"},
                       {"thickness", "10 mm"}})
        .say("join", {{"what", "Along"}, {"other", "Across"}})
        .say("lowest", {{"count", "8"}});
    const auto crosswise = said.solved();
    const Facing facing = facingOf(*crosswise->structure, crosswise->mesh, crosswise->structure->surfaceJoints.front());
    EXPECT_NEAR(facing.area(), 0.01, 1e-9);
    EXPECT_NEAR(facing.gaps()[0], 0.01, 1e-12);
    EXPECT_EQ(
        std::count_if(crosswise->modes.begin(), crosswise->modes.end(), [](const Mode& mode) { return mode.rigid; }),
        6);
    EXPECT_TRUE(
        std::none_of(crosswise->modes.begin(), crosswise->modes.end(), [](const Mode& m) { return m.mechanism; }));
}

TEST(SurfaceJoint, MeetsTheNearestOnEachSideOfASheetAndNothingThroughABody)
{
    // A plate between two blocks, and a plate before a block whose far side looks away.
    SaidModel said = steel();
    said.say("plate", {{"name", "Web"}, {"length", "0.3 m"}, {"width", "0.2 m"}, {"thickness", "6 mm"}})
        .say("solid-box", {{"name", "Above"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "60 mm"}, {"at", "0, 0, 4 mm"}})
        .say("solid-box", {{"name", "Below"}, {"x", "0.3 m"}, {"y", "0.2 m"}, {"z", "60 mm"}, {"at", "0, 0, -65 mm"}})
        .say("join", {{"what", "Web"}, {"other", "Above, Below"}})
        .say("layer", {{"what", "Above"}, {"other", "Below"}, {"across", "1 N/mm3"}, {"along", "1 N/mm3"}});
    const Structure structure = said.structure();
    Progress progress;
    const FrameMesh mesh = meshOf(structure, proposeSplits(structure, 0.0), proposeSizes(structure, 0.0));
    const System system = assemble(structure, mesh, progress);
    ASSERT_EQ(structure.surfaceJoints.size(), 2u);
    EXPECT_NEAR(facingOf(structure, mesh, structure.surfaceJoints[0]).area(), 0.12, 1e-9);
    EXPECT_NEAR(facingOf(structure, mesh, structure.surfaceJoints[1]).area(), 0.06, 1e-9);
    ASSERT_EQ(system.motions.problems.size(), 2u);
    for (const auto& finding : system.motions.problems)
        EXPECT_THAT(finding.what, testing::Not(HasSubstr("overlapping")));
    // Neither block moves but with the plate.
    for (std::size_t node = 0; node < mesh.nodes.size(); ++node)
        if (const double z = mesh.nodes[node].place.z(); std::abs(z - 0.004) < 1e-9 || std::abs(z + 0.005) < 1e-9)
            for (const int unknown : system.motions.nodes[node].unknowns)
                EXPECT_THAT(system.motions.unknowns[static_cast<std::size_t>(unknown)].where,
                            testing::StartsWith("Web"));
}

TEST(SurfaceJoint, AHingedEdgeIsASimpleSupportAndOneThatTurnsWithItAClamp)
{
    // A strip between two held walls, 0.5 mm from each: the beam of its width.
    const auto first = [](const char* turning) {
        SaidModel said = steel();
        said.material("200 GPa", "0", "8000 kg/m3")
            .say("plate", {{"name", "Strip"}, {"length", "0.6 m"}, {"width", "0.1 m"}, {"thickness", "4 mm"}});
        for (const auto& [name, at] :
             {std::pair("Left", "-0.5, -50, -100 mm"), std::pair("Right", "600.5, -50, -100 mm")})
            said.say("plate", {{"name", name},
                               {"length", "0.2 m"},
                               {"width", "0.2 m"},
                               {"at", at},
                               {"along", "0, 1, 0"},
                               {"towards", "0, 0, 1"},
                               {"thickness", "10 mm"}});
        said.say("hold", {{"where", "Left, Right"}, {"directions", "all"}})
            .say("join", {{"what", "edges at x = 0 m of Strip"}, {"other", "Left"}, {"turning", turning}})
            .say("join", {{"what", "edges at x = 0.6 m of Strip"}, {"other", "Right"}, {"turning", turning}});
        return heldFrequencies(said, "1").at(0);
    };
    const double beam = std::sqrt(E * 0.004 * 0.004 / (12.0 * rho)) / (2.0 * pi * 0.36);
    EXPECT_NEAR(first("hinged") / (pi * pi * beam), 1.0, 3e-3);
    EXPECT_NEAR(first("turning with it") / (4.730041 * 4.730041 * beam), 1.0, 6e-3); // of the mesh
    // An edge that runs out beyond what it stands on follows as far as that goes, and that is said.
    SaidModel beyond = steel();
    beyond.say("plate", {{"name", "Deck"}, {"length", "0.4 m"}, {"width", "0.4 m"}, {"thickness", "8 mm"}})
        .say("plate", {{"name", "Wall"},
                       {"length", "0.8 m"},
                       {"width", "0.2 m"},
                       {"at", "0, 200, 1 mm"},
                       {"towards", "0, 0, 1"},
                       {"thickness", "6 mm"}})
        .say("join", {{"what", "edges at z = 1 mm of Wall"}, {"other", "Deck"}});
    const Structure structure = beyond.structure();
    const System system =
        kinematicsOf(structure, meshOf(structure, proposeSplits(structure, 0.0), proposeSizes(structure, 0.0)));
    ASSERT_EQ(system.motions.problems.size(), 1u);
    EXPECT_THAT(system.motions.problems[0].what, HasSubstr("nodes lie before Deck; the others are free"));
    SaidModel wrong = twoBlocks();
    wrong.say("join", {{"what", "Upper"}, {"other", "Lower"}, {"turning", "hinged"}});
    EXPECT_THAT(wrong.problems(), HasSubstr("edges and members alone are hinged"));
}

TEST(SurfaceJoint, ASealAlongTwoEdgesCarriesALidByItsLength)
{
    SaidModel said = steel();
    said.say("plate",
             {{"name", "Lid"}, {"length", "0.5 m"}, {"width", "0.3 m"}, {"at", "0, 0, 3 mm"}, {"thickness", "40 mm"}})
        .say("plate", {{"name", "Frame"},
                       {"length", "0.7 m"},
                       {"width", "0.5 m"},
                       {"at", "-100, -100, 0 mm"},
                       {"thickness", "9 mm"}})
        .say("hold", {{"where", "Frame"}, {"directions", "all"}});
    SaidModel perArea = said;
    said.say("layer", {{"what", "edges at x = 0 m of Lid, edges at x = 0.5 m of Lid"},
                       {"other", "Frame"},
                       {"across", "0.5 N/mm2"},
                       {"along", "0.2 N/mm2"}});
    const double bounce = std::sqrt(0.6 * 5e5 / (rho * 0.5 * 0.3 * 0.04)) / (2.0 * pi);
    double nearest = 0.0;
    for (const double hertz : heldFrequencies(said, "6"))
        if (std::abs(hertz - bounce) < std::abs(nearest - bounce)) nearest = hertz;
    EXPECT_NEAR(nearest / bounce, 1.0, 2e-3);
    // So much per area is not meant of edges.
    perArea.say("layer", {{"what", "edges at x = 0 m of Lid"}, {"other", "Frame"}, {"across", "0.5 N/mm3"}});
    EXPECT_THAT(perArea.problems(), HasSubstr("0.5 N/mm3 is a stiffness per area"));
}
