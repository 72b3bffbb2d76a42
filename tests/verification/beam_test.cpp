// Uniform beams and rods against closed forms: Blevins, Formulas for Natural Frequency and Mode Shape, 1979,
// tables 8-1 and 8-16; Timoshenko, Vibration Problems in Engineering, 1955; Huang 1961 for the pinned
// Timoshenko beam.
#include "core/base/number_text.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

double bendingHertz(double bl, double length, double height)
{
    return bl * bl / (2 * pi * length * length) * std::sqrt(E * height * height / 12 / rho);
}

struct Ends {
    const char *name, *first, *second;
    std::vector<double> bl;
};

/// Frequencies of bending in the x-z plane: y, rx and rz are held at both ends or the section is much wider.
std::vector<double> inBeamsPlane(const Solution& solution)
{
    std::vector<double> list;
    for (std::size_t at = 0; at < solution.modes.size(); ++at) {
        double z = 0, rest = 0;
        for (std::size_t node = 0; node < solution.mesh.nodes.size(); ++node) {
            const Vector6 motion = solution.motion(static_cast<int>(node), at);
            z += motion[2] * motion[2];
            rest += motion[0] * motion[0] + motion[1] * motion[1] + motion[3] * motion[3] * 1e-4;
        }
        if (z > 100 * rest && !solution.modes[at].rigid) list.push_back(solution.modes[at].frequency);
    }
    return list;
}

} // namespace

TEST(SlenderBeam, EveryEndCondition)
{
    const Ends cases[] = {{"clamped-free", "all", "", {1.87510, 4.69409, 7.85476, 10.99554}},
                          {"pinned", "x y z rx", "y z", {pi, 2 * pi, 3 * pi, 4 * pi}},
                          {"clamped-clamped", "all", "all", {4.73004, 7.85320, 10.99561}},
                          {"free-free", "", "", {4.73004, 7.85320, 10.99561}},
                          {"clamped-pinned", "all", "y z", {3.92660, 7.06858, 10.21018}}};
    for (const auto& ends : cases) {
        SaidModel beam = straightBeam(10.0, 0.02, 0.05, 16);
        if (*ends.first) beam.say("hold", {{"where", "Beam.0"}, {"directions", ends.first}});
        if (*ends.second) beam.say("hold", {{"where", "Beam.1"}, {"directions", ends.second}});
        beam.say("lowest", {{"count", "18"}});
        const auto found = inBeamsPlane(*beam.solved());
        ASSERT_GE(found.size(), ends.bl.size()) << ends.name;
        for (std::size_t at = 0; at < ends.bl.size(); ++at)
            EXPECT_NEAR(found[at] / bendingHertz(ends.bl[at], 10.0, 0.02), 1.0, 1e-3) << ends.name << " " << at + 1;
    }
}

TEST(SlenderBeam, ErrorFallsWithTheFourthPowerOfTheMesh)
{
    std::vector<double> errors;
    for (const int elements : {2, 4, 8}) {
        SaidModel beam = straightBeam(10.0, 0.002, 0.005, elements); // so slender that shear is nothing
        beam.say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx"}})
            .say("hold", {{"where", "Beam.1"}, {"directions", "y z"}});
        beam.say("lowest", {{"count", "8"}});
        errors.push_back(inBeamsPlane(*beam.solved())[0] / bendingHertz(pi, 10.0, 0.002) - 1.0);
    }
    EXPECT_NEAR(errors[0] / errors[1], 16.0, 1.0);
    EXPECT_NEAR(errors[1] / errors[2], 16.0, 1.5);
    EXPECT_LT(errors[2], 2e-5);
}

TEST(StockyBeam, PinnedTimoshenkoBeamHasBothSpectra)
{
    // w satisfies: w^4 rho^2 I/(k G) ... for half waves n: (EI b4 - w2 rA - w2 rI b2 (1 + E/kG) + w4 r2 I/(kG)) = 0.
    const double length = 2.0, h = 0.4, b = 0.3, G = E / (2 * (1 + nu)), k = 10 * (1 + nu) / (12 + 11 * nu);
    const double area = b * h, inertia = b * h * h * h / 12;
    std::vector<double> exact;
    for (int n = 1; n <= 4; ++n) {
        const double beta2 = std::pow(n * pi / length, 2);
        const double a = rho * rho * inertia / (k * G), c = E * inertia * beta2 * beta2;
        const double m = rho * area + rho * inertia * beta2 * (1 + E / (k * G));
        for (const double sign : {-1.0, 1.0})
            exact.push_back(std::sqrt((m + sign * std::sqrt(m * m - 4 * a * c)) / (2 * a)) / (2 * pi));
    }
    std::sort(exact.begin(), exact.end());
    double last = 0.0;
    for (const int elements : {40, 80}) {
        SaidModel beam = straightBeam(length, h, b, elements);
        beam.say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx rz"}})
            .say("hold", {{"where", "Beam.1"}, {"directions", "x y z rx rz"}});
        beam.say("lowest", {{"count", "600"}});
        const auto found = inBeamsPlane(*beam.solved());
        double worst = 0.0;
        for (std::size_t at = 0; at < 6; ++at) {
            double nearest = 1e9;
            for (const double own : found)
                nearest = std::min(nearest, std::abs(own / exact[at] - 1.0));
            worst = std::max(worst, nearest);
        }
        if (elements == 80) EXPECT_LT(worst, 2e-3);
        if (last > 0.0) EXPECT_NEAR(last / worst, 4.0, 0.8);
        last = worst;
    }
}

TEST(Rod, AxialAndTwisting)
{
    for (const bool twisting : {false, true}) {
        SaidModel rod;
        rod.say("run", {{"name", "Rod"},
                        {"from", "0, 0, 0 m"},
                        {"to", "0, 0, 3 m"},
                        {"section", "round 60 mm"},
                        {"elements", "60"}})
            .material("200 GPa", "0.3", "8000 kg/m3");
        rod.say("hold", {{"where", "Rod.0"}, {"directions", "all"}}).say("lowest", {{"count", "40"}});
        const double c = twisting ? std::sqrt(E / 2.6 / rho) : std::sqrt(E / rho);
        const auto found = rod.frequencies();
        for (int n = 1; n <= 2; ++n) {
            const double exact = (2 * n - 1) * c / 12.0;
            double nearest = 1e9;
            for (const double f : found)
                nearest = std::min(nearest, std::abs(f / exact - 1));
            EXPECT_LT(nearest, 1e-3) << (twisting ? "twisting " : "axial ") << n;
        }
    }
}

TEST(FreeBeam, HasSixRigidModesThenBendingPairs)
{
    SaidModel beam = straightBeam(10.0, 0.02, 0.02, 16);
    beam.say("lowest", {{"count", "10"}});
    Progress progress;
    const auto solution = *solve(beam.model(), progress);
    for (int at = 0; at < 6; ++at) {
        EXPECT_TRUE(solution->modes[static_cast<std::size_t>(at)].rigid);
        EXPECT_EQ(solution->modes[static_cast<std::size_t>(at)].frequency, 0.0);
    }
    for (int at = 6; at < 8; ++at)
        EXPECT_NEAR(solution->modes[static_cast<std::size_t>(at)].frequency / bendingHertz(4.73004, 10.0, 0.02), 1.0,
                    1e-3);
    EXPECT_EQ(solution->modes[6].group, solution->modes[7].group) << "a square section bends the same way in y and z";
    EXPECT_TRUE(solution->count.proven);
}

TEST(BeamOnABed, AddsItsStiffnessToTheSquareOfTheFrequency)
{
    SaidModel beam = straightBeam(10.0, 0.02, 0.05, 16);
    beam.say("hold", {{"where", "Beam.0"}, {"directions", "x y z rx"}})
        .say("hold", {{"where", "Beam.1"}, {"directions", "y z"}});
    beam.say("bed", {{"where", "Beam"}, {"stiffness", "300 N/m2"}, {"directions", "z"}})
        .say("lowest", {{"count", "12"}});
    const auto found = inBeamsPlane(*beam.solved());
    for (int n = 1; n <= 3; ++n) {
        const double bending = 2 * pi * bendingHertz(n * pi, 10.0, 0.02);
        EXPECT_NEAR(found[static_cast<std::size_t>(n - 1)] * 2 * pi /
                        std::sqrt(bending * bending + 300 / (rho * 0.001)),
                    1.0, 1e-3);
    }
}

TEST(Turned, AnyAngleAndAnyOrderGiveTheSameFrequencies)
{
    SaidModel straight, turned;
    const Eigen::Matrix3d turn = (Eigen::AngleAxisd(0.7, Eigen::Vector3d(1, 2, 3).normalized()) *
                                  Eigen::AngleAxisd(1.1, Eigen::Vector3d::UnitX()))
                                     .toRotationMatrix();
    const auto place = [&](SaidModel& said, const Eigen::Matrix3d& by, bool backwards) {
        const std::vector<std::pair<std::string, Eigen::Vector3d>> points{
            {"a", {0, 0, 0}}, {"b", {0, 0, 3}}, {"c", {4, 0, 3}}, {"d", {4, 1, 0}}};
        std::vector<std::string> rows;
        for (const auto& [name, at] : points) {
            const Eigen::Vector3d moved = by * at;
            rows.push_back(name + "|" + metres(moved.x()) + "|" + metres(moved.y()) + "|" + metres(moved.z()));
        }
        if (backwards) std::reverse(rows.begin(), rows.end());
        std::string table;
        for (const auto& row : rows)
            table += row + "\n";
        said.say("points", {{"rows", table}});
        for (const auto& [name, ends] :
             std::vector<std::pair<std::string, std::string>>{{"m1", "a|b"}, {"m2", "b|c"}, {"m3", "c|d"}}) {
            const Eigen::Vector3d towards = by * Eigen::Vector3d(0.3, 1, 0.2);
            said.say("members", {{"name", name},
                                 {"rows", name + "|" + ends},
                                 {"section", "channel 100x50x4x6 mm"},
                                 {"elements", "3"},
                                 {"towards", shortest(towards.x()) + ", " + shortest(towards.y()) + ", " +
                                                 shortest(towards.z())}});
        }
        said.material("200 GPa", "0.3", "8000 kg/m3")
            .say("hold", {{"where", "a, d"}, {"directions", "all"}})
            .say("lowest", {{"count", "10"}});
    };
    place(straight, Eigen::Matrix3d::Identity(), false);
    place(turned, turn, true);
    const auto a = straight.solved(), b = turned.solved();
    ASSERT_EQ(a->modes.size(), b->modes.size());
    Eigen::Matrix3d sumA = Eigen::Matrix3d::Zero(), sumB = sumA;
    for (std::size_t at = 0; at < a->modes.size(); ++at) {
        EXPECT_NEAR(b->modes[at].frequency, a->modes[at].frequency, 1e-8 * a->modes[at].frequency);
        const auto row = static_cast<Eigen::Index>(at);
        const Eigen::Vector3d ga = a->participation.factor.row(row).head<3>(),
                              gb = b->participation.factor.row(row).head<3>();
        sumA += ga * ga.transpose();
        sumB += gb * gb.transpose();
    }
    EXPECT_LT((turn * sumA * turn.transpose() - sumB).norm(), 1e-8 * sumA.norm()) << "participation turns as a vector";
}
