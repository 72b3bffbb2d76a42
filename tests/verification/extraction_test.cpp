#include "core/base/number_text.hpp"
#include "core/numerics/indefinite_factor.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

/// K phi = lambda M phi by a dense solver on M phi = mu (K + a M) phi.
Eigen::VectorXd denseLambda(const System& system, double a)
{
    const Eigen::MatrixXd identity = Eigen::MatrixXd::Identity(system.size(), system.size());
    const Eigen::MatrixXd k = system.stiffness * identity, m = system.mass * identity;
    const Eigen::VectorXd mu =
        Eigen::GeneralizedSelfAdjointEigenSolver<Eigen::MatrixXd>(m, k + a * m).eigenvalues().reverse();
    return mu.cwiseInverse().array() - a;
}

SaidModel twoStoreys()
{
    SaidModel said;
    said.say("frame", {{"bays-x", "1"}, {"bays-y", "1"}, {"storeys", "2"}, {"elements", "2"}})
        .say("material")
        .say("hold", {{"where", "feet of Frame"}, {"directions", "all"}});
    said.say("mass", {{"mass", "900 kg"}, {"points", "Frame.1.1.2"}, {"centre", "0.3, 0.2, 0.1 m"}});
    return said;
}

void expectGood(const Solution& solution)
{
    for (const auto& mode : solution.modes) {
        EXPECT_LT(mode.acceptedError, 1e-8) << mode.number;
        EXPECT_LT(mode.residual, std::max(1e-8, mode.floor)) << mode.number;
    }
    const Eigen::MatrixXd m = solution.shapes.transpose() * (solution.system->mass * solution.shapes);
    EXPECT_LT((m - Eigen::MatrixXd::Identity(m.rows(), m.cols())).cwiseAbs().maxCoeff(), 1e-8);
    const Eigen::MatrixXd k = solution.shapes.transpose() * (solution.system->stiffness * solution.shapes);
    for (Eigen::Index i = 0; i < k.rows(); ++i)
        for (Eigen::Index j = 0; j < i; ++j) {
            const double wi = solution.modes[static_cast<std::size_t>(i)].lambda,
                         wj = solution.modes[static_cast<std::size_t>(j)].lambda;
            const bool same = solution.modes[static_cast<std::size_t>(i)].group ==
                              solution.modes[static_cast<std::size_t>(j)].group; // turned within their space
            if (wi > 0 && wj > 0 && !same)
                EXPECT_LT(std::abs(k(i, j)) / std::sqrt(wi * wj),
                          1e-8 + 1e-7 * solution.modes[static_cast<std::size_t>(j)].floor * 1e7);
        }
    EXPECT_TRUE(solution.count.proven) << solution.count.expected << " expected, " << solution.count.found << " found";
}

} // namespace

TEST(Extraction, AgreesWithADenseSolverHeldAndFree)
{
    for (const bool held : {true, false}) {
        SaidModel said;
        said.say("frame", {{"bays-x", "1"}, {"bays-y", "1"}, {"storeys", "2"}, {"elements", "2"}})
            .say("material")
            .say("lowest", {{"count", "40"}});
        if (held) said.say("hold", {{"where", "feet of Frame"}, {"directions", "all"}});
        Progress progress;
        const auto solution = *solve(said.model(), progress);
        expectGood(*solution);
        const auto exact = denseLambda(*solution->system, held ? 0.0 : 1000.0);
        for (std::size_t at = held ? 0 : 6; at < solution->modes.size(); ++at)
            EXPECT_NEAR(std::sqrt(solution->modes[at].lambda / exact[static_cast<Eigen::Index>(at)]), 1.0,
                        1e-9 + 10 * solution->modes[at].floor);
    }
}

TEST(Extraction, AnyCountFromOneToAll)
{
    const auto base = twoStoreys();
    Progress progress;
    SaidModel probe = base;
    probe.say("lowest", {{"count", "5"}});
    const auto size = static_cast<long>(probe.solved()->system->size());
    const auto exact = denseLambda(*probe.solved()->system, 0.0);
    for (const long count : {1L, 2L, 7L, 8L, 9L, 30L, size / 3, size / 2, size - 1, size, size + 50}) {
        SaidModel said = base;
        said.say("lowest", {{"count", std::to_string(count)}});
        const auto solution = *solve(said.model(), progress);
        EXPECT_EQ(static_cast<long>(solution->modes.size()), std::min(count, size)) << count;
        for (std::size_t at = 0; at < solution->modes.size(); at += 3)
            EXPECT_NEAR(std::sqrt(solution->modes[at].lambda / exact[static_cast<Eigen::Index>(at)]), 1.0, 1e-7)
                << count << " " << at;
        if (count >= size) EXPECT_TRUE(solution->allModes);
    }
}

TEST(Extraction, EqualUncoupledBodiesAreAllFoundBeyondTheBlockSize)
{
    for (const int k : {3, 12, 40}) {
        SaidModel said;
        std::string rows;
        for (int at = 0; at < k; ++at)
            rows += "a" + std::to_string(at) + "|" + std::to_string(at) + " m|0 m|0 m\nb" + std::to_string(at) + "|" +
                    std::to_string(at) + " m|0 m|2 m\n";
        said.say("points", {{"rows", rows}});
        std::string members;
        for (int at = 0; at < k; ++at)
            members += "m" + std::to_string(at) + "|a" + std::to_string(at) + "|b" + std::to_string(at) + "\n";
        said.say("members", {{"rows", members}, {"section", "rectangle 60x30 mm"}, {"elements", "4"}})
            .say("material")
            .say("hold", {{"where", "points at z = 0 m"}, {"directions", "all"}});
        said.say("lowest", {{"count", std::to_string(2 * k)}});
        Progress progress;
        const auto solution = *solve(said.model(), progress);
        expectGood(*solution);
        ASSERT_EQ(static_cast<int>(solution->modes.size()), 2 * k);
        EXPECT_NEAR(solution->modes[0].frequency, solution->modes[static_cast<std::size_t>(k - 1)].frequency,
                    1e-8 * solution->modes[0].frequency);
        EXPECT_NEAR(solution->modes[static_cast<std::size_t>(k)].frequency / solution->modes[0].frequency, 2.0, 2e-3);
        EXPECT_EQ(solution->modes[0].group, solution->modes[static_cast<std::size_t>(k - 1)].group);
    }
}

TEST(Extraction, FortyNearlyEqualTunedMassesOnOneBeam)
{
    SaidModel said;
    said.say("run", {{"name", "B"},
                     {"from", "0, 0, 0 m"},
                     {"to", "20, 0, 0 m"},
                     {"parts", "41"},
                     {"section", "box 300x300x10 mm"},
                     {"elements", "1"}})
        .say("material");
    said.say("hold", {{"where", "B.0, B.41"}, {"directions", "all"}});
    std::string rows;
    for (int at = 1; at <= 40; ++at)
        rows += "t" + std::to_string(at) + "|" + shortest(20.0 * at / 41) + " m|0 m|1 m\n";
    said.say("points", {{"rows", rows}});
    for (int at = 1; at <= 40; ++at) {
        const std::string t = "t" + std::to_string(at);
        said.say("mass", {{"mass", "0.5 kg"}, {"points", t}})
            .say("hold", {{"where", t}, {"directions", "x y rx ry rz"}});
        said.say("spring",
                 {{"from", "B." + std::to_string(at)}, {"to", t}, {"kz", shortest(2000.0 * (1 + 1e-5 * at)) + " N/m"}});
    }
    said.say("lowest", {{"count", "44"}});
    const auto solution = said.solved();
    expectGood(*solution);
    int near = 0;
    for (const auto& mode : solution->modes)
        near += std::abs(mode.frequency / (std::sqrt(4000.0) / (2 * std::numbers::pi)) - 1.0) < 0.02;
    EXPECT_GE(near, 39);
}

TEST(Extraction, SeparateFreeBodiesHaveSixRigidModesEach)
{
    for (const int bodies : {1, 3, 20}) {
        SaidModel said;
        for (int at = 0; at < bodies; ++at)
            said.say("run", {{"name", "R" + std::to_string(at)},
                             {"from", "0, " + std::to_string(2 * at) + ", 0 m"},
                             {"to", "1, " + std::to_string(2 * at) + ", 0.5 m"},
                             {"section", "rectangle 30x20 mm"},
                             {"elements", "3"}});
        said.say("material").say("lowest", {{"count", std::to_string(6 * bodies + 2)}});
        Progress progress;
        const auto solution = *solve(said.model(), progress);
        const auto rigid =
            std::count_if(solution->modes.begin(), solution->modes.end(), [](const Mode& mode) { return mode.rigid; });
        EXPECT_EQ(rigid, 6 * bodies);
        EXPECT_GT(solution->modes[static_cast<std::size_t>(6 * bodies)].frequency, 1.0);
        expectGood(*solution);
    }
}

TEST(Extraction, NoneMissedBelowAnyFrequency)
{
    SaidModel said = twoStoreys();
    said.say("lowest", {{"count", "30"}});
    const auto solution = said.solved();
    for (std::size_t at = 0; at + 1 < solution->modes.size(); ++at) {
        const double a = solution->modes[at].lambda, b = solution->modes[at + 1].lambda;
        if (b / a < 1.0 + 1e-6) continue;
        EXPECT_EQ(negativeEigenvalues(sum(solution->system->stiffness, -(a + b) / 2, solution->system->mass)),
                  static_cast<std::int64_t>(at + 1));
    }
}

TEST(Extraction, UpToAFrequencyAndUntilEnoughMass)
{
    SaidModel said = twoStoreys();
    said.say("lowest", {{"count", "40"}});
    const auto all = said.solved();
    const double limit = (all->modes[13].frequency + all->modes[14].frequency) / 2;
    SaidModel up = twoStoreys();
    up.say("up-to", {{"frequency", shortest(limit) + " Hz"}, {"most", "200"}});
    EXPECT_EQ(up.solved()->modes.size(), 14u);
    SaidModel few = twoStoreys();
    few.say("up-to", {{"frequency", "0.001 Hz"}, {"most", "200"}});
    EXPECT_EQ(few.solved()->modes.size(), 0u);
    SaidModel share = twoStoreys();
    share.say("mass-share", {{"share", "80 %"}, {"directions", "x y"}, {"most", "150"}});
    const auto solution = share.solved();
    const auto last = static_cast<Eigen::Index>(solution->modes.size()) - 1;
    EXPECT_GE(solution->participation.sumOfMovable(last, 0), 0.8);
    EXPECT_GE(solution->participation.sumOfMovable(last, 1), 0.8);
    SaidModel never = twoStoreys();
    never.say("mass-share", {{"share", "100 %"}, {"of", "total"}, {"directions", "z"}, {"most", "20"}});
    const auto short_ = never.solved();
    const std::string& why = short_->findings.front().what;
    EXPECT_NE(why.find("not reached"), std::string::npos);
    const double reach = 100.0 * short_->participation.movable[2] / short_->participation.total[2];
    EXPECT_NE(why.find(fmt::format("it can reach {:.1f} % of the total", reach)), std::string::npos) << why;
    // Not a mode more than the target needs: one fewer, and a direction falls short.
    EXPECT_LT(
        std::min(solution->participation.sumOfMovable(last - 1, 0), solution->participation.sumOfMovable(last - 1, 1)),
        0.8);
}

TEST(Extraction, StiffnessRangeInsideOneModel)
{
    // A stiff member 1e9 times the rest still leaves good frequencies; a rigid tie leaves all digits.
    const auto build = [](bool tied, const std::string& modulus) {
        SaidModel said;
        said.say("run", {{"name", "A"},
                         {"from", "0, 0, 0 m"},
                         {"to", "2, 0, 0 m"},
                         {"section", "rectangle 20x20 mm"},
                         {"elements", "6"}});
        said.say("point", {{"name", "q"}, {"at", "2.3, 0, 0 m"}}).material("200 GPa", "0.3", "8000 kg/m3");
        if (tied)
            said.say("rigid", {{"points", "q"}, {"to", "A.1"}});
        else {
            said.say(
                "run",
                {{"name", "S"}, {"from", "A.1"}, {"to", "q"}, {"section", "rectangle 20x20 mm"}, {"elements", "1"}});
            said.say("own-material",
                     {{"name", "hard"}, {"modulus", modulus}, {"poisson", "0.3"}, {"density", "0 kg/m3"}})
                .say("material", {{"what", "S"}, {"material", "hard"}});
        }
        return said.say("mass", {{"mass", "3 kg"}, {"points", "q"}})
            .say("hold", {{"where", "A.0"}, {"directions", "all"}})
            .say("lowest", {{"count", "6"}});
    };
    const auto exact = build(true, "").frequencies();
    Progress progress;
    const auto stiff = *solve(build(false, "2e8 GPa").model(), progress);
    for (std::size_t at = 0; at < 4; ++at)
        EXPECT_NEAR(stiff->modes[at].frequency / exact[at], 1.0, 1e-5);
    const auto harsh = *solve(build(false, "2e14 GPa").model(), progress);
    bool said = false;
    for (const auto& finding : harsh->findings)
        said |= finding.what.find("stiffer than the rest") != std::string::npos;
    EXPECT_TRUE(said) << "digits lost are reported: floor " << harsh->modes[0].floor;
}

TEST(Extraction, TheSameDigitsOnEveryRun)
{
    SaidModel said = twoStoreys();
    said.say("lowest", {{"count", "12"}});
    const auto a = said.solved(), b = said.solved();
    for (std::size_t at = 0; at < a->modes.size(); ++at)
        EXPECT_EQ(a->modes[at].lambda, b->modes[at].lambda);
    EXPECT_EQ(a->shapes, b->shapes);
}

TEST(Extraction, StopsWhenAskedAndKeepsWhatItHas)
{
    SaidModel said = twoStoreys();
    said.say("lowest", {{"count", "60"}});
    std::unique_ptr<Progress> progress = std::make_unique<Progress>();
    const auto solution = solve(said.model(), *progress, {}, {.frequencies = [&](const std::vector<double>& hertz) {
                                    if (hertz.size() > 5) progress->stop();
                                }});
    ASSERT_TRUE(solution);
    EXPECT_TRUE((*solution)->stopped);
    EXPECT_GE((*solution)->modes.size(), 5u);
    EXPECT_FALSE((*solution)->count.proven);
}

TEST(RunEstimate, MatchesTheFactorAndRefusesWhatDoesNotFit)
{
    SaidModel said = twoStoreys();
    const auto solution = said.solved();
    const auto analysis = Analysis::of(sum(solution->system->stiffness, 0.0, solution->system->mass));
    const RunEstimate estimate = estimateOf(*analysis, 1000, 20);
    EXPECT_NEAR(estimate.factorMegabytes, 8e-6 * solution->record.factorEntries, 1e-12);
    EXPECT_GT(estimate.seconds, 0.0);
    EXPECT_FALSE(tooLarge(estimate, estimate.megabytes() * 1.01));
    const auto refused = tooLarge(estimate, estimate.megabytes() * 0.5);
    ASSERT_TRUE(refused);
    EXPECT_EQ(refused->severity, Severity::error);
    EXPECT_NE(refused->what.find("are free"), std::string::npos);
    EXPECT_FALSE(refused->remedy.empty());
    RunEstimate manyModes = estimate;
    manyModes.basisMegabytes = 1e5;
    EXPECT_NE(tooLarge(manyModes, 1000.0)->remedy.find("fewer modes"), std::string::npos);
}

TEST(Extraction, FromShiftToShiftFindsWhatADenseSolverFinds)
{
    for (const bool held : {true, false}) {
        SaidModel said;
        said.say("frame", {{"bays-x", "2"}, {"bays-y", "2"}, {"storeys", "3"}, {"elements", "3"}})
            .say("material")
            .say("lowest", {{"count", "220"}});
        if (held) said.say("hold", {{"where", "feet of Frame"}, {"directions", "all"}});
        const auto solution = said.solved();
        EXPECT_GT(solution->record.shifts.size(), 2U) << "more than one shift is good for";
        expectGood(*solution);
        const auto& system = *solution->system;
        const double a = held ? 0.0 : 1e3;
        const Eigen::VectorXd dense = denseLambda(system, a);
        for (std::size_t at = held ? 0 : 6; at < solution->modes.size(); ++at)
            EXPECT_NEAR(std::sqrt(solution->modes[at].lambda), std::sqrt(dense[static_cast<Eigen::Index>(at)]),
                        1e-9 * std::sqrt(dense[static_cast<Eigen::Index>(at)]))
                << at;
        // And every mode up to a frequency, in the same way.
        Ask upTo;
        upTo.until = Ask::Until::frequency;
        std::size_t last = 180; // a place between two frequencies that are not the same
        while (solution->modes[last].frequency < 1.001 * solution->modes[last - 1].frequency)
            ++last;
        upTo.frequency = (solution->modes[last - 1].frequency + solution->modes[last].frequency) / 2.0;
        upTo.count = 1000;
        Progress progress;
        const auto below = *solve(said.model(), progress, {.ask = upTo});
        EXPECT_EQ(below->modes.size(), last);
        EXPECT_TRUE(below->count.proven);
    }
}
