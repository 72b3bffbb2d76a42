// Plates and shells against closed forms and published values: Kirchhoff's and Mindlin's plate (Mindlin, J. Appl. Mech.
// 1951), Leissa, Vibration of Plates, 1969; Fluegge's cylinder as in Leissa, Vibration of Shells, 1973, ch. 2; an open
// benchmark for the tapered membrane.
#include "core/assess/settling.hpp"
#include "core/base/number_text.hpp"
#include "core/modal/pencil_of.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/system/sum_parts.hpp"
#include "tests/said_model.hpp"

#include <numeric>

using namespace undisona;

namespace {

double rigidity(double h)
{
    return E * h * h * h / 12 / (1 - nu * nu);
}

SaidModel plate(double length, double width, double h, double size)
{
    SaidModel model;
    model.material("200 GPa", "0.3", "8000 kg/m3")
        .say("plate", {{"name", "Plate"},
                       {"length", metres(length)},
                       {"width", metres(width)},
                       {"thickness", metres(h)},
                       {"size", metres(size)}});
    return model;
}

/// Simply supported, hard: the turn about the edge's normal is held too.
SaidModel supported(double length, double width, double h, double size, int modes)
{
    SaidModel model = plate(length, width, h, size);
    for (const double x : {0.0, length})
        model.say("hold", {{"where", "edges at x = " + metres(x)}, {"directions", "x y z rx"}});
    for (const double y : {0.0, width})
        model.say("hold", {{"where", "edges at y = " + metres(y)}, {"directions", "x y z ry"}});
    return model.say("lowest", {{"count", std::to_string(modes)}});
}

/// Mindlin's plate, supported hard, wave number k: the lower root of his two coupled motions.
double mindlin(double k2, double h)
{
    const double shear = 5.0 / 6.0 * E / (2 + 2 * nu) * h, d = rigidity(h), mass = rho * h,
                 rotary = rho * h * h * h / 12;
    // (S k2 - m w2)(D k2 + S - I w2) = S^2 k2
    const double a = mass * rotary, b = -(mass * (d * k2 + shear) + rotary * shear * k2), c = shear * k2 * d * k2;
    return std::sqrt((-b - std::sqrt(b * b - 4 * a * c)) / (2 * a)) / (2 * pi);
}

std::vector<double> closedForms(double length, double width, double h)
{
    std::vector<double> all;
    for (int m = 1; m < 9; ++m)
        for (int n = 1; n < 9; ++n)
            all.push_back(mindlin(std::pow(m * pi / length, 2) + std::pow(n * pi / width, 2), h));
    std::sort(all.begin(), all.end());
    return all;
}

/// Frequencies of the modes whose motion is in the plane z = 0 alone.
std::vector<double> inPlane(const Solution& solution)
{
    std::vector<double> list;
    for (std::size_t at = 0; at < solution.modes.size(); ++at) {
        double out = 0, in = 0;
        for (std::size_t node = 0; node < solution.mesh.nodes.size(); ++node) {
            const Vector6 motion = solution.motion(static_cast<int>(node), at);
            out += motion[2] * motion[2];
            in += motion.head<2>().squaredNorm();
        }
        if (in > 1e6 * out && !solution.modes[at].rigid) list.push_back(solution.modes[at].frequency);
    }
    return list;
}

} // namespace

TEST(SupportedPlate, ThinAndThickAgreeWithMindlin)
{
    for (const double h : {0.2, 0.02, 0.002}) { // to length as 1e-1 ... 1e-3
        const auto found = supported(2.0, 1.4, h, 0.05, 6).frequencies();
        const auto expected = closedForms(2.0, 1.4, h);
        for (std::size_t at = 0; at < 4; ++at) {
            const bool inTheFaceFirst = h > 0.1 && found.size() < 4;
            ASSERT_FALSE(inTheFaceFirst);
            EXPECT_NEAR(found[at] / expected[at], 1.0, 5e-3) << h << " " << at;
        }
    }
    // Kirchhoff's limit for the thin one.
    const double k2 = std::pow(pi / 2.0, 2) + std::pow(pi / 1.4, 2);
    EXPECT_NEAR(mindlin(k2, 0.002) / (k2 / (2 * pi) * std::sqrt(rigidity(0.002) / rho / 0.002)), 1.0, 1e-5);
}

TEST(SupportedPlate, ErrorFallsWithTheSquareOfTheMesh)
{
    const double exact = closedForms(2.0, 1.4, 0.02)[0];
    std::vector<double> errors;
    for (const double size : {0.2, 0.1, 0.05})
        errors.push_back(std::abs(supported(2.0, 1.4, 0.02, size, 2).frequencies()[0] / exact - 1.0));
    EXPECT_GT(std::log2(errors[0] / errors[1]), 1.8);
    EXPECT_GT(std::log2(errors[1] / errors[2]), 1.8);
}

TEST(SupportedPlate, SettlesAtMindlinsFrequenciesWithTheRateOfTheElement)
{
    const SaidModel said = supported(2.0, 1.4, 0.02, 0.1, 6);
    const auto own = said.solved();
    Progress progress;
    const auto settling = settle(said.model(), *own, progress);
    ASSERT_TRUE(settling);
    ASSERT_EQ(settling->rounds.size(), 4u);
    const auto exact = closedForms(2.0, 1.4, 0.02);
    int steady = 0;
    for (std::size_t mode = 0; mode < 6; ++mode) {
        const auto& settled = settling->settled[mode];
        ASSERT_TRUE(settled) << mode;
        EXPECT_LT(std::abs(settled->hertz - exact[mode]), settled->either) << mode;
        if (settled->order == 0.0) continue; // an error that is nearly nothing has no course
        ++steady;
        EXPECT_NEAR(settled->order, 1.0, 0.25) << "the square of the size, and the unknowns go with that";
        const double before = std::abs(own->modes[mode].frequency - exact[mode]);
        EXPECT_LT(std::abs(settled->hertz - exact[mode]), 0.2 * before) << mode;
    }
    EXPECT_GE(steady, 5);
}

TEST(SupportedPlate, ThinnessLeavesTheErrorAsItIs)
{
    // Clamped, and skew as well: the error against a fine mesh of the same plate, down to thickness/length 1e-5. In
    // Kirchhoff's limit the frequency goes with the thickness, so that a fine mesh at 1e-3 serves all thinner ones.
    const auto found = [](double skew, double h, double size) {
        SaidModel model;
        const auto corner = [&](double x, double y) { return metres(x + skew * y) + " | " + metres(y) + " | 0 m\n"; };
        model.material("200 GPa", "0.3", "8000 kg/m3")
            .say("plate-through", {{"name", "Plate"},
                                   {"rows", corner(0, 0) + corner(1, 0) + corner(1, 0.8) + corner(0, 0.8)},
                                   {"thickness", metres(h)},
                                   {"size", metres(size)}})
            .say("hold", {{"where", "edges of Plate"}, {"directions", "all"}})
            .say("lowest", {{"count", "1"}});
        return model.frequencies()[0];
    };
    for (const double skew : {0.0, 0.577}) {
        const double stout = std::abs(found(skew, 1e-2, 0.1) / found(skew, 1e-2, 0.02) - 1.0);
        const double kirchhoff = found(skew, 1e-3, 0.02) / 1e-3;
        for (const double h : {1e-3, 1e-4, 1e-5})
            EXPECT_LT(std::abs(found(skew, h, 0.1) / kirchhoff / h - 1.0), 2.0 * stout) << skew << " " << h;
    }
}

TEST(FreePlate, ThinSquareOneHasRitzsFrequencies)
{
    const double expected[] = {1.6217, 2.3595, 2.9223, 4.1902, 4.1902, 7.3560, 7.3560};
    const auto solution = plate(10, 10, 0.05, 0.2).say("lowest", {{"count", "13"}}).solved();
    ASSERT_GE(solution->modes.size(), 13u);
    EXPECT_TRUE(solution->modes[5].rigid);
    for (std::size_t at = 0; at < 7; ++at)
        EXPECT_NEAR(solution->modes[at + 6].frequency / expected[at], 1.0, 3e-3) << at;
    EXPECT_EQ(solution->modes[9].group, solution->modes[10].group);
}

TEST(TaperedMembrane, HasItsPublishedFrequencies)
{
    const double expected[] = {44.623, 130.03, 162.70, 246.05, 379.90, 391.44};
    SaidModel model;
    model.material("200 GPa", "0.3", "8000 kg/m3")
        .say("plate-through",
             {{"name", "Plate"},
              {"rows", "0 m | -2.5 m | 0 m\n10 m | -0.5 m | 0 m\n10 m | 0.5 m | 0 m\n0 m | 2.5 m | 0 m"},
              {"thickness", "0.05 m"},
              {"size", "0.3 m"}})
        .say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
        .say("up-to", {{"frequency", "395 Hz"}, {"most", "400"}});
    const auto found = inPlane(*model.solved());
    ASSERT_GE(found.size(), 6u);
    for (std::size_t at = 0; at < 6; ++at)
        EXPECT_NEAR(found[at] / expected[at], 1.0, 5e-3) << at;
}

TEST(ClampedDisc, HasLeissasFrequenciesAndPairs)
{
    SaidModel model;
    model.material("200 GPa", "0.3", "8000 kg/m3")
        .say("disc", {{"name", "Disc"}, {"diameter", "2 m"}, {"thickness", "0.01 m"}, {"size", "0.022 m"}})
        .say("hold", {{"where", "edges of Disc"}, {"directions", "all"}})
        .say("lowest", {{"count", "6"}});
    const auto found = model.frequencies();
    const double lambda2[] = {10.2158, 21.26, 21.26, 34.88, 34.88, 39.771};
    for (std::size_t at = 0; at < 6; ++at)
        EXPECT_NEAR(found[at] / (lambda2[at] / (2 * pi) * std::sqrt(rigidity(0.01) / rho / 0.01)), 1.0, 5e-3) << at;
    EXPECT_NEAR(found[1] / found[2], 1.0, 1e-3);
    EXPECT_NEAR(found[3] / found[4], 1.0, 1e-3);
}

namespace {

/// The lowest frequency of Fluegge's cylinder between shear diaphragms, n waves round and m half waves along.
double fluegge(double radius, double length, double h, int m, int n)
{
    const double s = m * pi * radius / length, k = h * h / (12 * radius * radius), a = (1 - nu) / 2, b = (1 + nu) / 2,
                 q = n;
    // u = A cos(s x) cos(n t), v = B sin(s x) sin(n t), w = C sin(s x) cos(n t), x along in radii.
    Eigen::Matrix3d l;
    l << s * s + a * (1 + k) * q * q, -b * s * q, -nu * s - k * (s * s * s - a * s * q * q), //
        -b * s * q, a * s * s * (1 + 3 * k) + q * q, q + k * (3 - nu) / 2 * s * s * q,       //
        -nu * s - k * (s * s * s - a * s * q * q), q + k * (3 - nu) / 2 * s * s * q,
        1 + k * (std::pow(s * s + q * q, 2) - 2 * q * q + 1);
    const double omega2 = Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(l).eigenvalues()[0];
    return std::sqrt(omega2 * E / rho / (1 - nu * nu)) / radius / (2 * pi);
}

} // namespace

TEST(CylinderShell, BetweenDiaphragmsAgreesWithFlueggeInPairs)
{
    const double radius = 0.3, length = 0.9, h = 0.003;
    SaidModel model;
    model.material("200 GPa", "0.3", "8000 kg/m3")
        .say("cylinder-shell",
             {{"name", "Shell"}, {"diameter", "0.6 m"}, {"length", "0.9 m"}, {"thickness", "3 mm"}, {"size", "0.02 m"}})
        .say("hold", {{"where", "edges at z = 0 m"}, {"directions", "x y"}})
        .say("hold", {{"where", "edges at z = 0.9 m"}, {"directions", "x y"}})
        .say("lowest", {{"count", "18"}});
    const auto solution = model.solved();
    std::vector<double> found;
    for (const auto& mode : solution->modes)
        if (mode.frequency > 1.0) found.push_back(mode.frequency); // but the slide along the axis
    std::vector<double> expected;
    for (int n = 2; n <= 8; ++n)
        for (int m = 1; m <= 3; ++m)
            expected.insert(expected.end(), 2, fluegge(radius, length, h, m, n));
    std::sort(expected.begin(), expected.end());
    ASSERT_GE(found.size(), 16u);
    for (std::size_t at = 0; at < 16; ++at) {
        EXPECT_NEAR(found[at] / expected[at], 1.0, 1e-2) << at;
        if (at % 2 == 1) EXPECT_NEAR(found[at] / found[at - 1], 1.0, 1e-3) << "a pair";
    }
}

TEST(Strip, AsMemberAndAsSheetAgree)
{
    // Width to length 0.05, thickness to width 0.3: three bending modes in each plane and the first axial one.
    SaidModel member = straightBeam(2.0, 0.03, 0.1, 24);
    member.say("hold", {{"where", "Beam.0"}, {"directions", "all"}}).say("lowest", {{"count", "12"}});
    SaidModel sheet = plate(2.0, 0.1, 0.03, 0.025);
    sheet.say("hold", {{"where", "edges at x = 0 m"}, {"directions", "x z rx ry rz"}})
        .say("hold", {{"where", "edge nearest to (0, 0.05, 0 m)"}, {"directions", "x"}})
        .say("hold", {{"where", "Plate.1"}, {"directions", "y"}})
        .say("lowest", {{"count", "12"}});
    const auto frequency = [](const Solution& solution, int axis, int which) {
        for (std::size_t at = 0; at < solution.modes.size(); ++at) {
            Vector6 sums = Vector6::Zero();
            for (std::size_t node = 0; node < solution.mesh.nodes.size(); ++node)
                sums += solution.motion(static_cast<int>(node), at).cwiseAbs2();
            int most = 0;
            sums.head<3>().maxCoeff(&most);
            const bool twists = sums[3] * 0.05 * 0.05 > 0.1 * sums.head<3>().sum();
            if (most == axis && !twists && which-- == 0) return solution.modes[at].frequency;
        }
        return 0.0;
    };
    const auto ofMember = member.solved(), ofSheet = sheet.solved();
    for (int which = 0; which < 3; ++which) {
        EXPECT_NEAR(frequency(*ofSheet, 2, which) / frequency(*ofMember, 2, which), 1.0, 1e-2) << "across " << which;
        EXPECT_NEAR(frequency(*ofSheet, 1, which) / frequency(*ofMember, 1, which), 1.0, 1e-2)
            << "in its face " << which;
    }
}

TEST(StiffenedPlate, OffsetMemberAndRibAgree)
{
    const auto stiffened = [](bool asSheet) {
        SaidModel model = plate(1.6, 1.0, 0.01, 0.05);
        if (asSheet)
            model.say("rib", {{"name", "Rib"},
                              {"from", "0, 0.5, 0 m"},
                              {"to", "1.6, 0.5, 0 m"},
                              {"height", "0.08 m"},
                              {"thickness", "12 mm"},
                              {"size", "0.02 m"}});
        else
            model
                .say("run", {{"name", "Rib"},
                             {"from", "0, 0.5, 0 m"},
                             {"to", "1.6, 0.5, 0 m"},
                             {"parts", "1"},
                             {"section", "rectangle 80x12 mm"}})
                .say("offset", {{"members", "Rib"}, {"offset", "0, 0, 40 mm"}});
        return model.say("hold", {{"where", "edges at x = 0 m of Plate"}, {"directions", "x y z"}})
            .say("hold", {{"where", "edges at x = 1.6 m of Plate"}, {"directions", "y z"}})
            .say("lowest", {{"count", "4"}})
            .frequencies();
    };
    const auto sheet = stiffened(true), member = stiffened(false);
    for (std::size_t at = 0; at < 4; ++at)
        EXPECT_NEAR(sheet[at] / member[at], 1.0, 2e-2) << at;
    // The stiffener carries: without it the plate is far softer.
    const auto bare = plate(1.6, 1.0, 0.01, 0.05)
                          .say("hold", {{"where", "edges at x = 0 m of Plate"}, {"directions", "x y z"}})
                          .say("hold", {{"where", "edges at x = 1.6 m of Plate"}, {"directions", "y z"}})
                          .say("lowest", {{"count", "1"}})
                          .frequencies();
    EXPECT_GT(member[0], 1.5 * bare[0]);
}

TEST(Sheets, TurnedByAnyAngleTheyHaveTheSameFrequencies)
{
    const auto folded = [](const char* along, const char* towards) {
        SaidModel model;
        model.material("200 GPa", "0.3", "8000 kg/m3")
            .say("folded-sheet", {{"name", "Fold"},
                                  {"rows", "0 m | 0 m\n0.2 m | 0 m\n0.2 m | 0.15 m\n0.35 m | 0.2 m"},
                                  {"length", "0.6 m"},
                                  {"along", along},
                                  {"towards", towards},
                                  {"thickness", "4 mm"},
                                  {"size", "0.05 m"}})
            .say("lowest", {{"count", "14"}});
        return model.frequencies();
    };
    const auto straight = folded("1, 0, 0", "0, 1, 0"), turned = folded("0.3, -0.5, 0.8", "0.7, 0.6, 0.1");
    ASSERT_EQ(straight.size(), turned.size());
    for (std::size_t at = 0; at < straight.size(); ++at)
        EXPECT_NEAR(turned[at] / straight[at], 1.0, 1e-8) << at;
}

TEST(Sheets, TheDrillingStiffnessIsOfNoInfluence)
{
    // A folded box and a curved panel, both free, with a tenth and with ten times of it.
    SaidModel box, panel;
    box.material("200 GPa", "0.3", "8000 kg/m3")
        .say("sheet-box", {{"name", "Box"},
                           {"x", "0.6 m"},
                           {"y", "0.4 m"},
                           {"z", "0.3 m"},
                           {"open", "open above"},
                           {"thickness", "3 mm"},
                           {"size", "0.075 m"}});
    panel.material("200 GPa", "0.3", "8000 kg/m3")
        .say("cylinder-shell", {{"name", "Panel"},
                                {"diameter", "1.2 m"},
                                {"length", "0.5 m"},
                                {"angle", "70 deg"},
                                {"thickness", "4 mm"},
                                {"size", "0.06 m"}});
    for (const SaidModel* model : {&box, &panel}) {
        const Structure structure = buildStructure(model->model()).structure;
        const FrameMesh mesh = meshOf(structure, {}, proposeSizes(structure, 0.0));
        Progress progress;
        const auto frequencies = [&](double factor) {
            System system = assemble(structure, mesh, progress);
            EXPECT_EQ(system.parts.size(), system.shells.size());
            for (std::size_t at = 0; at < system.shells.size(); ++at) { // nodes are free: six unknowns each, in order
                system.shells[at].element.drilling = factor;
                const Eigen::MatrixXd own = system.shells[at].toOwn();
                Eigen::MatrixXd room;
                system.parts[at].mass = system.massOf(system.parts[at], room);
                system.parts[at].stiffness = own.transpose() * stiffness(system.shells[at].element) * own;
            }
            std::tie(system.stiffness, system.mass) = sumParts(system.size(), system.parts, {});
            return Eigen::VectorXd(
                (*ModeExtractor::prepare(*pencilOf(system), progress))->find({.most = 16}).lambda.tail(10).cwiseSqrt());
        };
        const Eigen::VectorXd usual = frequencies(1.0);
        for (const double factor : {0.1, 10.0})
            EXPECT_LT((frequencies(factor).cwiseQuotient(usual).array() - 1.0).abs().maxCoeff(), 1e-3) << factor;
    }
}

TEST(Sheets, WeighWhatTheyShould)
{
    SaidModel model = plate(2.0, 1.0, 0.01, 0.1);
    model
        .say("hole-grid", {{"columns", "4"},
                           {"lines", "2"},
                           {"diameter", "200 mm"},
                           {"sheet", "Plate"},
                           {"x", "0.4 m"},
                           {"y", "0.3 m"},
                           {"apart-x", "0.4 m"},
                           {"apart-y", "0.4 m"}})
        .say("mass-spread", {{"mass", "12 kg/m2"}, {"where", "Plate"}})
        .say("mass-spread", {{"mass", "30 kg"}, {"where", "Plate"}})
        .say("lowest", {{"count", "7"}});
    const double area = 2.0 - 8 * pi * 0.01;
    const auto solution = model.solved();
    EXPECT_NEAR(solution->mass.mass / (area * (80 + 12) + 30), 1.0, 1e-9) << "though rims are polygons in the mesh";
    EXPECT_NEAR(solution->mass.centre.x(), 1.0, 1e-6);
    EXPECT_NEAR(solution->participation.total[0], solution->mass.mass, 1e-9 * solution->mass.mass);
    double faces = 0.0;
    for (const auto& face : solution->structure->frame.faces->faces)
        faces += face.area;
    EXPECT_NEAR(faces, area, 1e-9);
}

TEST(Sheets, ASizeThatIsTooFineIsRefusedWithItsNumber)
{
    const SaidModel model = plate(10.0, 10.0, 0.01, 0.001).say("lowest", {{"count", "3"}});
    Progress progress;
    const auto refused = solve(model.model(), progress);
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.findings().back().what.find("1 mm on Plate would make about 1e+02 million"), std::string::npos)
        << refused.findings().back().what;
    EXPECT_NE(refused.findings().back().remedy.find("10 mm"), std::string::npos) << refused.findings().back().remedy;
}

TEST(Sheets, WhatCannotBeIsSaidWithItsPlace)
{
    const auto complaint = [](const SaidModel& model) {
        const Findings findings = model.findings();
        return findings.empty() ? std::string() : findings.front().what;
    };
    const SaidModel bare = plate(2.0, 1.0, 0.01, 0.1);
    const auto holed = [&](const char* x, const char* sheet) {
        SaidModel model = bare;
        return complaint(
            model.say("holes", {{"diameter", "0.3 m"}, {"sheet", sheet}, {"rows", std::string(x) + " | 0.5 m"}}));
    };
    EXPECT_EQ(holed("1 m", "Plate"), "");
    EXPECT_NE(holed("1.9 m", "Plate").find("does not lie within Plate"), std::string::npos);
    EXPECT_NE(holed("1 m", "Deck").find("called \"Deck\""), std::string::npos);
    SaidModel through;
    through.material("200 GPa", "0.3", "8000 kg/m3");
    const auto cornered = [&](const char* rows) {
        SaidModel model = through;
        return complaint(model.say("plate-through", {{"name", "Plate"}, {"rows", rows}, {"thickness", "5 mm"}}));
    };
    EXPECT_NE(cornered("0 m | 0 m | 0 m\n1 m | 0 m | 0 m").find("three corners"), std::string::npos);
    EXPECT_NE(cornered("0 m | 0 m | 0 m\n1 m | 0 m | 0 m\n2 m | 0 m | 0 m").find("on one line"), std::string::npos);
    EXPECT_NE(cornered("0 m | 0 m | 0 m\n1 m | 0 m | 0 m\n1 m | 1 m | 0.2 m\n0 m | 1 m | 0 m").find("out of the plane"),
              std::string::npos);
    EXPECT_NE(cornered("0 m | 0 m | 0 m\n1 m | 1 m | 0 m\n1 m | 0 m | 0 m\n0 m | 1 m | 0 m").find("on one line"),
              std::string::npos)
        << "crossed, it has no area";
    SaidModel twice = bare;
    twice.say("plate",
              {{"name", "Other"}, {"length", "1 m"}, {"width", "1 m"}, {"at", "0.5, 0, 0 m"}, {"thickness", "5 mm"}});
    EXPECT_NE(complaint(twice).find("Other lies in Plate"), std::string::npos) << complaint(twice);
    SaidModel unsaid;
    unsaid.say("plate", {{"name", "Plate"}});
    EXPECT_NE(complaint(unsaid).find("Plate has no material"), std::string::npos) << complaint(unsaid);
    SaidModel sprung = bare;
    sprung.say("hold", {{"where", "edges of Plate"}, {"directions", "z"}, {"kz", "1 kN/mm"}});
    EXPECT_NE(complaint(sprung).find("stand on points"), std::string::npos) << complaint(sprung);
}

TEST(Sheets, BoxesShareTheirEdges)
{
    SaidModel model;
    model.material("200 GPa", "0.3", "8000 kg/m3")
        .say("sheet-box", {{"name", "Box"},
                           {"x", "0.6 m"},
                           {"y", "0.4 m"},
                           {"z", "0.3 m"},
                           {"open", "open above"},
                           {"thickness", "2 mm"},
                           {"size", "0.05 m"}})
        .say("lowest", {{"count", "10"}});
    const auto solution = model.solved();
    EXPECT_EQ(solution->structure->frame.faces->edges.size(), 12u);
    int rigid = 0;
    for (const auto& mode : solution->modes)
        rigid += mode.rigid;
    EXPECT_EQ(rigid, 6) << "one body";
    EXPECT_EQ(solution->structure->frame.sheets.size(), 5u);
}
