// What stands beside an ask: how accurate, lumped or consistent, what is left out, residual vectors, a stop between
// slices.
#include "core/pencil/hertz.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

using namespace undisona;
using testing::HasSubstr;

namespace {

SaidModel tank(const Words& leaveOut = {})
{
    SaidModel said;
    said.say("frame", {{"bays-x", "1"}, {"bays-y", "1"}, {"storeys", "1"}, {"elements", "2"}})
        .say("material")
        .say("hold", {{"where", "feet of Frame"}, {"directions", "all"}})
        .say("ground-spring", {{"points", "Frame.1.1.1"}, {"kx", "2 kN/mm"}, {"label", "stay"}})
        .say("mass", {{"mass", "3 t"}, {"points", "roof of Frame"}, {"sharing", "shared over"}, {"label", "brine"}})
        .say("mass-spread", {{"mass", "6 kg/m"}, {"where", "everything"}, {"label", "ice"}})
        .say("lowest", {{"count", "4"}});
    if (!leaveOut.empty()) said.say("leave-out", leaveOut);
    return said;
}

/// The same without some sentences.
SaidModel without(const SaidModel& said, std::initializer_list<const char*> labels)
{
    SaidModel bare;
    for (const auto& sentence : said.model().sentences()) {
        const bool out = std::any_of(labels.begin(), labels.end(), [&](const char* label) {
            return sentence->has("label") && sentence->text("label") == label;
        });
        if (!out) bare.add(*sentence);
    }
    return bare;
}

/// The dense answer K^-1 F.
Eigen::MatrixXd staticAnswer(const System& system, const Eigen::MatrixXd& loads)
{
    const Eigen::MatrixXd k = system.stiffness * Eigen::MatrixXd::Identity(system.size(), system.size());
    return k.llt().solve(loads);
}

} // namespace

TEST(LeaveOut, HoldsSeveralStatesInOneModel)
{
    const struct {
        const char* what;
        std::initializer_list<const char*> labels;
    } states[] = {{"brine", {"brine"}}, {"ice, brine", {"ice", "brine"}}, {"stay", {"stay"}}};
    const auto full = tank().solved();
    for (const auto& [what, labels] : states) {
        const SaidModel said = tank({{"what", what}});
        const auto left = said.solved(), bare = without(tank(), labels).solved();
        EXPECT_NEAR(left->mass.mass, bare->mass.mass, 1e-9 * bare->mass.mass) << what;
        double change = 0.0;
        for (std::size_t at = 0; at < 4; ++at) {
            EXPECT_NEAR(left->modes[at].frequency, bare->modes[at].frequency, 1e-9 * bare->modes[at].frequency) << what;
            change = std::max(change, std::abs(left->modes[at].frequency / full->modes[at].frequency - 1.0));
        }
        EXPECT_GT(change, 1e-4) << what;
        EXPECT_NE(solveKey(said.model()), solveKey(tank().model())) << "another result, never shown for this one";
        EXPECT_EQ(left->structure->leftOut.size(), labels.size());
    }
    const auto byId = tank({{"what", "s5"}}).solved(); // as it stands in the file
    EXPECT_EQ(byId->structure->leftOut.count("s5"), 1u);
    const Findings wrong = tank({{"what", "oil"}}).findings();
    ASSERT_FALSE(wrong.empty());
    EXPECT_THAT(wrong[0].what, HasSubstr("\"oil\""));
    EXPECT_THAT(wrong[0].remedy, HasSubstr("stay"));
    EXPECT_THAT(wrong[0].remedy, HasSubstr("brine"));
}

TEST(LeaveOut, ANewLabelIsANewModelOnlyWhereItCounts)
{
    const auto renamed = [](SaidModel said) {
        for (const auto& sentence : said.model().group(Group::addedMass))
            if (sentence->text("label") == "ice")
                return said.model().replaced(sentence->with("label", std::string("snow")));
        return said.model();
    };
    EXPECT_EQ(solveKey(renamed(tank())), solveKey(tank().model())) << "a label is a word";
    const SaidModel left = tank({{"what", "ice"}});
    EXPECT_NE(solveKey(renamed(left)), solveKey(left.model())) << "but here it is what is left out";
}

TEST(Accuracy, IsWhatWasAskedForAndNeverCostsAMode)
{
    SaidModel base;
    base.say("frame", {{"bays-x", "2"}, {"bays-y", "1"}, {"storeys", "3"}, {"elements", "3"}})
        .say("material")
        .say("hold", {{"where", "feet of Frame"}, {"directions", "all"}})
        .say("lowest", {{"count", "30"}});
    const auto exact = base.solved();
    long solves = 0;
    for (const char* error : {"1e-11", "1e-8", "1e-5", "1e-3"}) {
        SaidModel said = base;
        const auto solution = said.say("accuracy", {{"error", error}}).solved();
        const double allowed = std::stod(error);
        EXPECT_TRUE(solution->count.proven) << error;
        ASSERT_EQ(solution->modes.size(), exact->modes.size()) << error;
        for (std::size_t at = 0; at < 30; ++at) {
            EXPECT_LT(solution->modes[at].acceptedError, std::max(allowed, 10 * solution->modes[at].floor)) << error;
            EXPECT_NEAR(solution->modes[at].lambda / exact->modes[at].lambda, 1.0,
                        std::max(allowed, 10 * solution->modes[at].floor) + 1e-8)
                << error;
        }
        if (solves > 0) EXPECT_LE(solution->record.blockSolves, solves) << "a looser one takes no more work";
        solves = solution->record.blockSolves;
    }
    SaidModel silly = base;
    EXPECT_TRUE(std::holds_alternative<QuantityProblem>(
        readValue(*kindNamed("accuracy")->field("error"), "0.5", NumberStyle::file)));
    EXPECT_TRUE(std::holds_alternative<QuantityProblem>(
        readValue(*kindNamed("accuracy")->field("error"), "1e-16", NumberStyle::file)));
}

TEST(Accuracy, ALooseRunLeavesNothingThatAStrictOneRestsOn)
{
    KeptRuns kept;
    Progress progress;
    SaidModel loose = tank();
    ASSERT_TRUE(solve(loose.say("accuracy", {{"error", "1e-3"}}).model(), progress, {.kept = &kept}));
    const auto strict = *solve(tank().model(), progress, {.kept = &kept}), fresh = tank().solved();
    EXPECT_TRUE(strict->record.keptFactor);
    EXPECT_EQ(strict->record.keptModes, 0) << "modes of a thousandth are no modes to begin with";
    for (std::size_t at = 0; at < 4; ++at)
        EXPECT_NEAR(strict->modes[at].frequency, fresh->modes[at].frequency, 1e-10 * fresh->modes[at].frequency);
}

TEST(ResidualVectors, StandBesideAnyAskAndMakeTheStaticAnswerExact)
{
    for (const char* kind : {"lowest", "band", "up-to", "every-mode"}) {
        SaidModel said;
        said.say("frame", {{"bays-x", "1"}, {"bays-y", "1"}, {"storeys", "2"}, {"elements", "2"}})
            .say("material")
            .say("hold", {{"where", "feet of Frame"}, {"directions", "all"}})
            .say("mass", {{"mass", "400 kg"}, {"points", "Frame.1.1.2"}, {"centre", "0.3, 0.2, 0.1 m"}});
        said.say(kind, kind == std::string("lowest")  ? Words{{"count", "7"}}
                       : kind == std::string("band")  ? Words{{"from", "8 Hz"}, {"to", "40 Hz"}}
                       : kind == std::string("up-to") ? Words{{"frequency", "30 Hz"}, {"most", "50"}}
                                                      : Words{});
        said.say("residual-vectors",
                 {{"from", "unit forces"}, {"directions", "x z"}, {"at", "Frame.1.0.2, Frame.0.1.1"}});
        const auto solution = said.solved();
        const auto& system = *solution->system;
        EXPECT_EQ(solution->residual.loads, 4) << kind;
        EXPECT_LT(solution->residual.staticError, 1e-8) << kind;
        if (kind == std::string("every-mode")) {
            EXPECT_EQ(solution->residual.lambda.size(), 0) << "the modes say it all";
            continue;
        }
        EXPECT_EQ(solution->residual.lambda.size(), 4) << kind;
        // A force at a point along x, by hand: what moves there per unknown.
        Eigen::MatrixXd load = Eigen::MatrixXd::Zero(system.size(), 1);
        const auto& points = solution->structure->frame.points;
        for (std::size_t point = 0; point < points.size(); ++point)
            if (points[point].name == "Frame.1.0.2")
                for (Eigen::Index at = 0; at < system.size(); ++at) {
                    Eigen::VectorXd unit = Eigen::VectorXd::Zero(system.size());
                    unit[at] = 1.0;
                    load(at, 0) = system.motionOf(static_cast<int>(point), unit)[0];
                }
        const Eigen::VectorXd truth = staticAnswer(system, load).col(0);
        Eigen::VectorXd sum = Eigen::VectorXd::Zero(system.size());
        for (std::size_t at = 0; at < solution->modes.size(); ++at)
            sum += solution->shapes.col(Eigen::Index(at)) *
                   (solution->shapes.col(Eigen::Index(at)).dot(load.col(0)) / solution->modes[at].lambda);
        const double alone = (truth - sum).norm() / truth.norm();
        for (Eigen::Index at = 0; at < solution->residual.lambda.size(); ++at)
            sum += solution->residual.shapes.col(at) *
                   (solution->residual.shapes.col(at).dot(load.col(0)) / solution->residual.lambda[at]);
        EXPECT_GT(alone, 1e-5) << kind << ": or there was nothing to add";
        EXPECT_LT((truth - sum).norm() / truth.norm(), 1e-7) << kind;
        const Certificate certificate = certificateOf(*solution);
        EXPECT_TRUE(std::any_of(certificate.lines.begin(), certificate.lines.end(), [](const Certificate::Line& line) {
            return line.what == "residual vectors" && line.figures.starts_with("4 for 4 loads");
        })) << kind;
        EXPECT_TRUE(solution->count.proven) << "they are never counted";
    }
}

TEST(ResidualVectors, WithoutPlaceOrSenseAreFindings)
{
    SaidModel nowhere = tank();
    nowhere.say("residual-vectors", {{"from", "unit forces"}, {"directions", "x"}});
    ASSERT_FALSE(nowhere.findings().empty());
    EXPECT_THAT(nowhere.findings()[0].what, HasSubstr("where the unit forces act"));
    SaidModel twice = tank();
    twice.say("residual-vectors").say("residual-vectors");
    ASSERT_FALSE(twice.findings().empty());
    EXPECT_THAT(twice.findings()[0].what, HasSubstr("twice"));
    SaidModel chain;
    chain
        .say("run",
             {{"name", "C"}, {"from", "0, 0, 0 m"}, {"to", "4, 0, 0 m"}, {"parts", "4"}, {"section", "round 20 mm"}})
        .say("material")
        .say("hold", {{"where", "C.0, C.4"}, {"directions", "all"}})
        .say("release", {{"members", "C"}, {"ends", "the second end"}, {"directions", "ry"}})
        .say("release", {{"members", "C.0-1"}, {"ends", "the first end"}, {"directions", "ry"}})
        .say("residual-vectors")
        .say("lowest", {{"count", "6"}});
    Progress progress;
    const auto loose = *solve(chain.model(), progress);
    EXPECT_TRUE(std::any_of(loose->findings.begin(), loose->findings.end(), [](const Finding& finding) {
        return finding.what.find("no residual vectors") != std::string::npos;
    }));
}

TEST(Proof, CanBeLeftOutAndIsThenSaidToBeMissing)
{
    for (const char* count : {"4", "40"}) {
        SaidModel plain = tank(), quick;
        for (const auto& sentence : plain.model().sentences())
            quick.add(sentence->kind->key == "lowest" ? sentence->with("count", std::stol(count)) : *sentence);
        SaidModel unproven = quick;
        unproven.say("proof", {{"proof", "Do not prove"}});
        const auto with = quick.solved(), without = unproven.solved();
        EXPECT_TRUE(with->count.proven);
        EXPECT_FALSE(without->count.proven);
        EXPECT_LT(without->record.factorisations, with->record.factorisations) << "it is not made in secret";
        EXPECT_THAT(certificateOf(*without).words, HasSubstr("Not proven"));
        EXPECT_TRUE(std::any_of(without->findings.begin(), without->findings.end(), [](const Finding& finding) {
            return finding.what.find("not counted, as asked") != std::string::npos;
        }));
        for (std::size_t at = 0; at < 4; ++at)
            EXPECT_NEAR(without->modes[at].frequency, with->modes[at].frequency, 1e-9 * with->modes[at].frequency);
    }
}

TEST(Stop, BetweenSlicesKeepsWhatWasCountedAndSaysThatThereIsMore)
{
    SaidModel said;
    said.say("frame", {{"bays-x", "2"}, {"bays-y", "2"}, {"storeys", "3"}, {"elements", "3"}})
        .say("material")
        .say("hold", {{"where", "feet of Frame"}, {"directions", "all"}})
        .say("lowest", {{"count", "220"}});
    const auto whole = said.solved();
    for (const std::size_t moment : {60u, 110u, 170u}) {
        Progress progress;
        const auto stopped = *solve(said.model(), progress, {}, {.frequencies = [&](const std::vector<double>& hertz) {
                                        if (hertz.size() >= moment) progress.stop();
                                    }});
        EXPECT_TRUE(stopped->stopped) << moment;
        EXPECT_TRUE(stopped->count.proven) << moment;
        EXPECT_EQ(stopped->count.found, std::int64_t(stopped->modes.size()));
        ASSERT_GE(stopped->modes.size(), 40u) << moment;
        ASSERT_LT(stopped->modes.size(), 220u) << moment;
        for (std::size_t at = 0; at < stopped->modes.size(); ++at)
            EXPECT_NEAR(stopped->modes[at].frequency, whole->modes[at].frequency, 1e-9 * whole->modes[at].frequency);
    }
}

TEST(Mechanisms, BesideManyModesDoNotEndTheRunEarly)
{
    SaidModel said;
    said.say("frame", {{"bays-x", "2"}, {"bays-y", "2"}, {"storeys", "3"}, {"elements", "3"}})
        .say("material")
        .say("hold", {{"where", "feet of Frame"}, {"directions", "all"}})
        .say("run",
             {{"name", "C"}, {"from", "20, 0, 0 m"}, {"to", "24, 0, 0 m"}, {"parts", "4"}, {"section", "round 20 mm"}})
        .say("hold", {{"where", "C.0, C.4"}, {"directions", "all"}})
        .say("release", {{"members", "C"}, {"ends", "the second end"}, {"directions", "ry"}})
        .say("release", {{"members", "C.0-1"}, {"ends", "the first end"}, {"directions", "ry"}})
        .say("material")
        .say("lowest", {{"count", "150"}});
    Progress progress;
    const auto solved = solve(said.model(), progress);
    ASSERT_TRUE(solved) << solved.findings()[0].what;
    const auto& solution = *solved;
    EXPECT_EQ(solution->modes.size(), 150u);
    EXPECT_TRUE(solution->count.proven);
    const auto loose =
        std::count_if(solution->modes.begin(), solution->modes.end(), [](const Mode& mode) { return mode.mechanism; });
    EXPECT_GT(loose, 0) << "the chain of hinges beside the house";
    EXPECT_LT(loose, 4);
}

TEST(Mechanisms, AreAllThereWhereTheRigidMotionsAloneReachAShare)
{
    // Free to slide along x as a whole, in which everything takes part; its far half swings about a hinge as well.
    SaidModel said;
    said.say("run",
             {{"name", "C"}, {"from", "0, 0, 0 m"}, {"to", "4, 0, 0 m"}, {"parts", "4"}, {"section", "round 20 mm"}})
        .say("hold", {{"where", "C.0"}, {"directions", "y z rx ry rz"}})
        .say("release", {{"members", "C.2-3"}, {"ends", "the first end"}, {"directions", "ry rz"}})
        .say("material")
        .say("mass-share", {{"share", "100 %"}, {"of", "movable"}, {"directions", "x"}, {"most", "80"}});
    const auto solution = said.solved();
    ASSERT_EQ(solution->modes.size(), 3u);
    EXPECT_TRUE(solution->modes[0].rigid);
    EXPECT_TRUE(solution->modes[1].mechanism && solution->modes[2].mechanism);
    EXPECT_TRUE(solution->count.proven) << wordsOf(solution->count);
}

TEST(Mechanisms, ARigidMotionThatMovesNoMassIsNoModeAtNothing)
{
    // 500 kg along x alone, at a corner of a block that hangs on a line of two points and may turn about it.
    SaidModel said = steel();
    said.say("solid-box", {{"name", "Block"}, {"x", "0.6 m"}, {"y", "0.4 m"}, {"z", "0.1 m"}, {"size", "0.2 m"}})
        .say("points", {{"rows", "q|0.6 m|0 m|0 m\nr|0.6 m|0.4 m|0 m\ns|0 m|0.4 m|0 m"}})
        .say("material-mass", {{"factor", "0 %"}})
        .say("hold", {{"where", "r, s"}, {"directions", "x y z"}})
        .say("mass", {{"mass", "500 kg"}, {"points", "q"}, {"only", "x"}})
        .say("lowest", {{"count", "3"}});
    Progress progress;
    const auto solved = solve(said.model(), progress);
    if (!solved) { // which is as right
        EXPECT_THAT(solved.findings()[0].what, HasSubstr("no mass acts that way"));
        return;
    }
    ASSERT_EQ((*solved)->modes.size(), 1u);
    EXPECT_FALSE((*solved)->modes[0].rigid);
    EXPECT_GT((*solved)->modes[0].frequency, 50.0);
}
