// What a moving base does to a structure: effective masses on the mesh that the program chooses by itself. Closed forms
// of uniform members: Clough and Penzien, Dynamics of Structures, 1993, ch. 18 and 26; Wijker, Mechanical Vibrations in
// Spacecraft Design, 2004, app. A.
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

/// Shares of the total of the modes that carry some along the direction, in order.
std::vector<double> sharesOf(const Solution& solution, int direction, std::size_t count)
{
    std::vector<double> list;
    for (std::size_t at = 0; at < solution.modes.size() && list.size() < count; ++at)
        if (const double share = solution.participation.ofTotal(static_cast<Eigen::Index>(at), direction); share > 1e-4)
            list.push_back(share);
    return list;
}

/// Shares of a uniform bending member by its own equation: (integral of phi)^2 / (L integral of phi^2), with
/// phi = cosh bx - cos bx - s (sinh bx - sin bx) and its kind's bL; integrated by Simpson's rule, 4000 steps.
double bendingShare(double bL, double s, const std::function<double(double, double)>& shape)
{
    double sum = 0.0, square = 0.0;
    constexpr int steps = 4000;
    for (int at = 0; at <= steps; ++at) {
        const double weight = at == 0 || at == steps ? 1.0 : at % 2 ? 4.0 : 2.0, value = shape(bL * at / steps, s);
        sum += weight * value;
        square += weight * value * value;
    }
    return sum * sum / (3.0 * steps) / square;
}

double clampedAtZero(double bx, double s)
{
    return std::cosh(bx) - std::cos(bx) - s * (std::sinh(bx) - std::sin(bx));
}

struct Case {
    const char* name;
    const char *first, *second; ///< held directions of the ends
    std::vector<double> shares;
};

/// bL solves the frequency equation; s follows from the end at L.
std::vector<Case> bendingCases()
{
    std::vector<Case> cases;
    cases.push_back({"clamped-free", "all", "", {}});
    for (const double bL : {1.8751040687, 4.6940911330, 7.8547574382, 10.9955407349})
        cases.back().shares.push_back(
            bendingShare(bL, (std::cosh(bL) + std::cos(bL)) / (std::sinh(bL) + std::sin(bL)), clampedAtZero));
    cases.push_back({"pinned", "x y z rx", "y z", {}});
    for (const int n : {1, 3, 5, 7, 9})
        cases.back().shares.push_back(8.0 / std::pow(n * pi, 2));
    cases.push_back({"clamped", "all", "all", {}});
    for (const double bL : {4.7300407449, 10.9956078380, 17.2787596574})
        cases.back().shares.push_back(
            bendingShare(bL, (std::cosh(bL) - std::cos(bL)) / (std::sinh(bL) - std::sin(bL)), clampedAtZero));
    cases.push_back({"propped", "all", "y z", {}});
    for (const double bL : {3.9266023120, 7.0685827456, 10.2101761228, 13.3517687778})
        cases.back().shares.push_back(
            bendingShare(bL, std::cosh(bL) > 0 ? (std::cosh(bL) - std::cos(bL)) / (std::sinh(bL) - std::sin(bL)) : 0.0,
                         clampedAtZero));
    return cases;
}

SaidModel member(const Case& own)
{
    SaidModel said;
    said.say("run", {{"name", "Beam"},
                     {"from", "0, 0, 0 m"},
                     {"to", "10, 0, 0 m"},
                     {"parts", "1"},
                     {"section", "rectangle 0.02x0.05 m"}})
        .material("200 GPa", "0.3", "8000 kg/m3");
    said.say("hold", {{"where", "Beam.0"}, {"directions", own.first}});
    if (*own.second) said.say("hold", {{"where", "Beam.1"}, {"directions", own.second}});
    return said;
}

} // namespace

TEST(BaseMotion, SharesOfUniformMembersOnTheMeshChosen)
{
    for (const auto& own : bendingCases()) {
        SaidModel said = member(own);
        said.say("lowest", {{"count", "20"}});
        const auto solution = said.solved();
        const auto shares = sharesOf(*solution, 2, own.shares.size());
        ASSERT_GE(shares.size(), own.shares.size()) << own.name;
        for (std::size_t at = 0; at < own.shares.size(); ++at)
            EXPECT_NEAR(shares[at] / own.shares[at], 1.0, 0.01) << own.name << " " << at + 1;
        // The same on a mesh that is halved twice.
        Progress progress;
        const auto finer = *solve(said.model(), progress, {.plan = scaled(planOf(solution->mesh), 0.25)});
        const auto fine = sharesOf(*finer, 2, own.shares.size());
        for (std::size_t at = 0; at < own.shares.size(); ++at)
            EXPECT_NEAR(fine[at] / own.shares[at], 1.0, 0.001) << own.name << " " << at + 1 << ", fine";
    }
}

TEST(BaseMotion, SharesOfARodOnTheMeshChosen)
{
    SaidModel rod;
    rod.say("run", {{"name", "Rod"},
                    {"from", "0, 0, 0 m"},
                    {"to", "3, 0, 0 m"},
                    {"parts", "1"},
                    {"section", "rectangle 0.06x0.06 m"}})
        .material("200 GPa", "0.3", "8000 kg/m3");
    rod.say("hold", {{"where", "Rod.0"}, {"directions", "all"}})
        .say("hold", {{"where", "Rod.1"}, {"directions", "y z ry rz"}})
        .say("up-to", {{"frequency", "2.5 kHz"}, {"most", "100"}});
    const auto shares = sharesOf(*rod.solved(), 0, 3);
    ASSERT_EQ(shares.size(), 3u);
    for (int n = 1; n <= 3; ++n)
        EXPECT_NEAR(shares[std::size_t(n - 1)] * std::pow((2 * n - 1) * pi, 2) / 8.0, 1.0, 0.01) << n;
}

// "Until 90 % in Z" of a pinned beam: the first mode carries 81.06 %, the third of bending brings it past the target.
TEST(BaseMotion, APinnedBeamNeedsItsThirdModeForNinetyPercent)
{
    SaidModel said = member({"pinned", "x y z rx", "y z", {}});
    said.say("mass-share", {{"share", "90 %"}, {"directions", "z"}, {"most", "40"}});
    const auto solution = said.solved();
    const auto shares = sharesOf(*solution, 2, 3);
    ASSERT_EQ(shares.size(), 2u);
    EXPECT_NEAR(shares[0], 8.0 / (pi * pi), 0.0081);
    EXPECT_NEAR(shares[0] + shares[1], 8.0 / (pi * pi) * (1.0 + 1.0 / 9.0), 0.0091);
}

// A plate and a block on their default meshes, held along an edge and on a face, without Poisson's ratio: as the
// member.
TEST(BaseMotion, SheetAndSolidsHeldAlongEdgesAndFacesShareAsTheMember)
{
    const auto cantilever = bendingCases().front().shares;
    const auto strip = [](const char* kind, const Words& shape, const char* held) {
        SaidModel said;
        said.material("200 GPa", "0", "8000 kg/m3");
        said.say(kind, shape).say("hold", {{"where", held}, {"directions", "all"}});
        said.say("lowest", {{"count", "12"}});
        return said.solved();
    };
    const auto sheet = strip("plate", {{"name", "Strip"}, {"length", "1 m"}, {"width", "50 mm"}, {"thickness", "5 mm"}},
                             "edges at x = 0 m");
    const auto solid = strip("solid-box", {{"name", "Strip"}, {"x", "1 m"}, {"y", "50 mm"}, {"z", "10 mm"}},
                             "faces at x = 0 m of Strip");
    for (const auto& solution : {sheet, solid}) {
        const auto shares = sharesOf(*solution, 2, 3);
        ASSERT_EQ(shares.size(), 3u);
        for (std::size_t at = 0; at < 3; ++at)
            EXPECT_NEAR(shares[at] / cantilever[at], 1.0, 0.01) << at + 1 << (solution == sheet ? " sheet" : " solid");
        for (int d = 0; d < 3; ++d) {
            EXPECT_LE(solution->participation.movable[d], solution->participation.total[d] * (1.0 + 1e-9));
            EXPECT_GT(solution->participation.movable[d], 0.9 * solution->participation.total[d]) << "a little is held";
        }
    }
}

// b' M_ff^-1 b is the sum over all modes: with ties, offset bodies, tilted and eccentric holds, lumped or not, turned.
TEST(BaseMotion, AllModesSumToTheMovableMassHoweverHeld)
{
    for (const char* matrix : {"consistent", "lumped"})
        for (const char* towards : {"1, 0, 0", "1, 0.4, -0.3"}) {
            SaidModel said;
            said.say("points", {{"rows", "a|0 m|0 m|0 m\nb|1 m|0 m|0.2 m\nc|1.5 m|1 m|0.4 m\nd|1.2 m|0.1 m|0 m"}})
                .say("members", {{"name", "Frame"}, {"rows", "m|a|b\nn|b|c"}, {"section", "box 60x60x4 mm"}})
                .say("material")
                .say("fineness", {{"elements", "2"}})
                .say("rigid", {{"points", "d"}, {"to", "b"}})
                .say("hold", {{"where", "a"}, {"directions", "x y z rx"}, {"x-towards", towards}})
                .say("hold", {{"where", "d"}, {"directions", "z"}, {"x-towards", towards}}) // eccentric to b
                .say("mass",
                     {{"mass", "30 kg"}, {"points", "d"}, {"centre", "0.1, 0.2, 0.1 m"}, {"inertia", "1, 2, 3 kg m2"}})
                .say("mass", {{"mass", "12 kg"}, {"points", "a"}})
                .say("mass-matrix", {{"matrix", matrix}})
                .say("every-mode");
            const auto solution = said.solved();
            ASSERT_TRUE(solution->allModes);
            for (int d = 0; d < 6; ++d)
                EXPECT_NEAR(solution->participation.effective.col(d).sum(), solution->participation.movable[d],
                            1e-9 * solution->participation.movable[d])
                    << matrix << ", x towards " << towards << ", direction " << d;
        }
}
