// A run after a moved mass takes over what depends on the stiffness alone, and finds what a fresh run finds.
#include "core/modal/pencil_of.hpp"
#include "tests/dense_as_sparse.hpp"
#include "tests/said_model.hpp"

#include <random>

using namespace undisona;

namespace {

SaidModel laden(bool held, const std::string& mass, const std::string& at, const std::string& centre = "0, 0, 0 m")
{
    SaidModel said;
    said.say("frame", {{"bays-x", "2"}, {"bays-y", "1"}, {"storeys", "3"}, {"elements", "3"}})
        .say("material")
        .say("lowest", {{"count", "24"}});
    if (held) said.say("hold", {{"where", "feet of Frame"}, {"directions", "all"}});
    said.say("mass", {{"mass", mass}, {"points", at}, {"centre", centre}});
    return said;
}

std::shared_ptr<const Solution> solvedWith(const SaidModel& said, KeptRuns& kept)
{
    Progress progress;
    auto solution = solve(said.model(), progress, {.kept = &kept});
    EXPECT_TRUE(bool(solution)) << (solution ? "" : solution.findings()[0].what);
    return solution ? *solution : nullptr;
}

void expectSame(const Solution& a, const Solution& b, const std::string& what)
{
    ASSERT_GE(a.modes.size(), 24U) << what;
    ASSERT_EQ(a.modes.size(), b.modes.size()) << what;
    for (std::size_t at = 0; at < a.modes.size(); ++at) {
        EXPECT_NEAR(a.modes[at].frequency, b.modes[at].frequency, 1e-10 * a.modes.back().frequency) << what << at;
        EXPECT_LT(a.modes[at].acceptedError, 1e-8) << what << at;
    }
    EXPECT_TRUE(a.count.proven) << what;
}

} // namespace

TEST(KeptRuns, AMovedPartFindsWhatAFreshRunFinds)
{
    std::mt19937_64 dice(5);
    long updated = 0, resumed = 0;
    for (const bool held : {true, false}) {
        KeptRuns kept;
        const auto first = solvedWith(laden(held, "500 kg", "Frame.1.1.2"), kept);
        EXPECT_FALSE(first->record.keptFactor);
        for (int trial = 0; trial < 12; ++trial) {
            const auto number = [&](long low, long high) {
                return std::to_string(low + static_cast<long>(dice() % static_cast<std::uint64_t>(high - low + 1)));
            };
            const SaidModel moved =
                laden(held, number(50, 900) + " kg", "Frame." + number(0, 2) + "." + number(0, 1) + "." + number(1, 3),
                      trial % 3 == 0 ? "0.2, 0.1, 0.4 m" : "0, 0, 0 m");
            const auto again = solvedWith(moved, kept);
            expectSame(*again, *moved.solved(), (held ? "held " : "free ") + std::to_string(trial) + " mode ");
            EXPECT_TRUE(again->record.keptFactor) << trial;
            resumed += again->record.keptModes > 0;
            updated += again->record.countByUpdate;
        }
    }
    EXPECT_EQ(resumed, 24);
    EXPECT_GE(updated, 6) << "about every second time the old count's place lies above the modes asked for";
}

TEST(KeptRuns, AnotherStiffnessTakesNothingOver)
{
    KeptRuns kept;
    solvedWith(laden(true, "500 kg", "Frame.1.1.2"), kept);
    SaidModel stiffer = laden(true, "500 kg", "Frame.1.1.2");
    stiffer.say("hold", {{"where", "Frame.1.1.2"}, {"directions", "x"}});
    const auto solution = solvedWith(stiffer, kept);
    EXPECT_FALSE(solution->record.keptFactor);
    EXPECT_EQ(solution->record.keptModes, 0);
    expectSame(*solution, *stiffer.solved(), "mode ");
}

TEST(KeptRuns, AMassAllOverKeepsTheFactorAlone)
{
    KeptRuns kept;
    solvedWith(laden(true, "500 kg", "Frame.1.1.2"), kept);
    SaidModel heavier = laden(true, "500 kg", "Frame.1.1.2");
    heavier.say("mass-spread", {{"mass", "12 kg/m"}, {"where", "everything"}});
    const auto solution = solvedWith(heavier, kept);
    EXPECT_TRUE(solution->record.keptFactor);
    EXPECT_EQ(solution->record.keptModes, 0);
    expectSame(*solution, *heavier.solved(), "mode ");
}

TEST(KeptRuns, MoreModesOfTheSameModelGoOnFromThoseKnown)
{
    KeptRuns kept;
    const SaidModel said = laden(true, "500 kg", "Frame.1.1.2");
    solvedWith(said, kept);
    SaidModel more = laden(true, "500 kg", "Frame.1.1.2");
    Ask ask;
    ask.count = 60;
    Progress progress;
    const auto solution = *solve(more.model(), progress, {.ask = ask, .kept = &kept}),
               fresh = *solve(more.model(), progress, {.ask = ask});
    EXPECT_GE(solution->record.keptModes, 24);
    expectSame(*solution, *fresh, "mode ");
}

TEST(KeptRuns, ManyModesFromShiftToShiftTakeTheFactorOver)
{
    KeptRuns kept;
    for (const char* mass : {"500 kg", "350 kg"}) {
        Ask ask;
        ask.count = 120;
        Progress progress;
        const SaidModel said = laden(true, mass, "Frame.1.1.2");
        const auto solution = *solve(said.model(), progress, {.ask = ask, .kept = &kept}),
                   fresh = *solve(said.model(), progress, {.ask = ask});
        EXPECT_GT(solution->record.shifts.size(), 1U);
        expectSame(*solution, *fresh, "mode ");
    }
}

TEST(ChangeOf, FindsTheRankAndTheChange)
{
    Eigen::MatrixXd a = Eigen::MatrixXd::Identity(40, 40), b = a;
    Eigen::VectorXd u = Eigen::VectorXd::Zero(40);
    u[3] = 2.0, u[4] = -1.0, u[30] = 1e-3;
    b += 3.0 * u * u.transpose();
    b(7, 7) -= 0.5;
    const auto change = changeOf(sparse(a), sparse(b), 6);
    ASSERT_TRUE(change);
    EXPECT_EQ(change->columns.cols(), 2);
    EXPECT_LT((change->columns * change->weights.asDiagonal() * change->columns.transpose() - (b - a)).norm(), 1e-14);
    EXPECT_EQ(changeOf(sparse(a), sparse(a), 6)->columns.cols(), 0);
    EXPECT_FALSE(changeOf(sparse(a), sparse(b), 1));
}

TEST(ModeExtractor, CanBeAskedAgainAfterARunFromShiftToShift)
{
    const auto solution = laden(true, "500 kg", "Frame.1.1.2").solved();
    Progress progress;
    auto prepared = ModeExtractor::prepare(*pencilOf(*solution->system), progress);
    auto& extractor = *prepared;
    const Extraction many = extractor->find({.most = 120}), few = extractor->find({.most = 20});
    EXPECT_GT(many.record.shifts.size(), 1U);
    ASSERT_GE(few.lambda.size(), 20);
    EXPECT_TRUE(few.check.proven);
    for (Eigen::Index at = 0; at < 20; ++at)
        EXPECT_NEAR(few.lambda[at], many.lambda[at], 1e-9 * many.lambda[at]);
}

TEST(Beside, AModelLikeAnotherIsSolvedOnItsMeshWhereThatIsFineEnough)
{
    // A plate on legs, bare and with a device: one mesh, and so no difference but the device's.
    const auto deck = [](const std::string& mass, const char* count = "8") {
        SaidModel said = steel();
        said.say(
                "plate",
                {{"name", "Deck"}, {"length", "1.2 m"}, {"width", "0.8 m"}, {"at", "0, 0, 1 m"}, {"thickness", "8 mm"}})
            .say("points", {{"rows", "a|0 m|0 m|0 m\nb|1.2 m|0 m|0 m\nc|1.2 m|0.8 m|0 m\nd|0 m|0.8 m|0 m"}})
            .say("members", {{"name", "Legs"},
                             {"rows", "one|a|Deck.1\ntwo|b|Deck.2\nthree|c|Deck.3\nfour|d|Deck.4"},
                             {"section", "tube 60x4 mm"}})
            .say("hold", {{"where", "lowest points"}, {"directions", "all"}});
        if (!mass.empty()) said.say("mass-spread", {{"mass", mass}, {"where", "Deck"}});
        return said.say("lowest", {{"count", count}});
    };
    const auto solvedBeside = [](const SaidModel& said, const Solution& other) {
        Progress progress;
        const auto found = solve(said.model(), progress, {.beside = planOf(other.mesh)});
        EXPECT_TRUE(found);
        return *found;
    };
    const SaidModel bare = deck(""), light = deck("2 kg"), few = deck("", "1");
    const auto first = bare.solved();
    const auto second = solvedBeside(light, *first);
    EXPECT_EQ(planOf(second->mesh).splits, planOf(first->mesh).splits);
    EXPECT_EQ(second->mesh.nodes.size(), first->mesh.nodes.size());
    const auto own = light.solved();
    for (std::size_t mode = 0; mode < 8; ++mode) {
        EXPECT_LT(second->modes[mode].frequency, first->modes[mode].frequency);
        EXPECT_NEAR(second->modes[mode].frequency / own->modes[mode].frequency, 1.0, 0.01) << mode;
    }
    // A mesh that was made for low frequencies does not serve high ones: the model has its own then.
    const auto slow = few.solved();
    ASSERT_LT(slow->mesh.shells.size(), first->mesh.shells.size());
    EXPECT_EQ(solvedBeside(bare, *slow)->mesh.shells.size(), first->mesh.shells.size());
}
