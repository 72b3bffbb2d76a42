// Ritz vectors, residual vectors and the estimate of missing mass, against what they must be by construction.
#include "core/modal/answer_ask.hpp"
#include "core/modal/pencil_of.hpp"
#include "core/pencil/hertz.hpp"
#include "core/pencil/residual_vectors.hpp"
#include "tests/said_model.hpp"

using namespace undisona;

namespace {

SaidModel swayed(bool held)
{
    SaidModel said;
    said.say("frame", {{"bays-x", "2"}, {"bays-y", "1"}, {"storeys", "3"}, {"elements", "3"}}).say("material");
    if (held) said.say("hold", {{"where", "feet of Frame"}, {"directions", "all"}});
    said.say("mass", {{"mass", "500 kg"}, {"points", "Frame.1.1.2"}});
    return said;
}

std::shared_ptr<const Solution> solvedFor(const SaidModel& said, const Ask& ask)
{
    Progress progress;
    return *solve(said.model(), progress, {.ask = ask});
}

Ask ritzAsk(long most, double share = 0.0)
{
    Ask ask;
    ask.until = Ask::Until::ritz;
    ask.count = most;
    ask.share = share;
    ask.directions = {true, true, false};
    return ask;
}

/// How much of x lies outside the span of M-orthonormal columns, by its M-norm.
double outside(const System& system, const Eigen::MatrixXd& columns, const Eigen::VectorXd& x)
{
    const auto norm = [&](const Eigen::VectorXd& y) { return std::sqrt(y.dot((system.mass * y).col(0))); };
    return norm(x - columns * (columns.transpose() * (system.mass * x))) / norm(x);
}

} // namespace

TEST(RitzVectors, HoldTheStaticAnswersAndLieAboveTheModes)
{
    for (const bool held : {true, false}) {
        const auto ritz = solvedFor(swayed(held), ritzAsk(20));
        ASSERT_TRUE(ritz->ritz);
        ASSERT_EQ(ritz->modes.size(), held ? 20U : 26U) << "rigid motions come in addition";
        Ask lowest;
        lowest.count = 20;
        const auto modes = solvedFor(swayed(held), lowest);
        Progress progress;
        const auto& system = *ritz->system;
        auto prepared = ModeExtractor::prepare(*pencilOf(system), progress);
        auto& extractor = *prepared;
        const Eigen::MatrixXd answers = extractor->staticAnswer(loadsOf(ritzAsk(20).ritz, system));
        for (Eigen::Index at = 0; at < answers.cols() && held; ++at)
            EXPECT_LT(outside(system, ritz->shapes, answers.col(at)), 1e-9) << "the static answer is in their space";
        const Eigen::MatrixXd gram = ritz->shapes.transpose() * (system.mass * ritz->shapes);
        EXPECT_LT((gram - Eigen::MatrixXd::Identity(20, 20)).cwiseAbs().maxCoeff(), 1e-10);
        const std::size_t rigid = held ? 0 : 6;
        for (std::size_t at = 0; at < 20; ++at) {
            EXPECT_EQ(ritz->modes[at].rigid, at < rigid);
            EXPECT_EQ(ritz->modes[at].ritz, at >= rigid);
            if (at >= rigid)
                EXPECT_GE(ritz->modes[at].frequency, modes->modes[at].frequency * (1.0 - 1e-9))
                    << "Courant and Fischer";
        }
        EXPECT_FALSE(ritz->count.proven);
        EXPECT_FALSE(hasError(ritz->findings)) << ritz->findings[0].what;
        EXPECT_EQ(ritz->modes.back().name.rfind("like ", 0), 0U);
    }
}

TEST(RitzVectors, ReachATargetWithFewerThanModesDo)
{
    const auto ritz = solvedFor(swayed(true), ritzAsk(60, 0.98));
    Ask share = ritzAsk(200, 0.98);
    share.until = Ask::Until::massShare;
    const auto modes = solvedFor(swayed(true), share);
    const auto last = static_cast<Eigen::Index>(ritz->modes.size()) - 1;
    EXPECT_TRUE(targetReached(ritz->participation, ritzAsk(60, 0.98), last + 1));
    EXPECT_LT(ritz->modes.size(), modes->modes.size());
    EXPECT_LT(ritz->modes.size(), 60U);
}

TEST(RitzVectors, FromOneForceOnASymmetricFrameStayInItsSymmetry)
{
    SaidModel said;
    said.say("frame", {{"bays-x", "1"}, {"bays-y", "1"}, {"storeys", "1"}}).say("material");
    said.say("hold", {{"where", "feet of Frame"}, {"directions", "all"}});
    said.say("ritz-vectors", {{"from", "self weight"}, {"directions", "z"}, {"most", "4"}});
    const auto solution = said.solved();
    ASSERT_TRUE(solution->ritz);
    for (Eigen::Index at = 0; at < solution->participation.effective.rows(); ++at)
        for (const int direction : {0, 1, 5})
            EXPECT_LT(solution->participation.ofMovable(at, direction), 1e-9) << "vector " << at + 1;
}

TEST(ResidualVectors, MakeTheStaticAnswerExact)
{
    for (const bool held : {true, false}) {
        const SaidModel said = swayed(held);
        Ask few;
        few.count = 10;
        const auto solution = solvedFor(said, few);
        const auto& system = *solution->system;
        Progress progress;
        auto prepared = ModeExtractor::prepare(*pencilOf(system), progress);
        auto& extractor = *prepared;
        const Extraction modes = extractor->find({.most = 10});
        const LoadPatterns force{.from = LoadPatterns::From::force, .points = {7, 11}};
        const Eigen::MatrixXd loads = loadsOf(force, system), whole = extractor->staticAnswer(loads);
        const ResidualVectors rest = residualVectors(matricesOf(system), *extractor, modes, loads);
        ASSERT_EQ(rest.lambda.size(), 4) << held << " " << loads.colwise().norm();
        Eigen::MatrixXd all(system.size(), modes.shapes.cols() + 4);
        all << modes.shapes, rest.shapes;
        const Eigen::MatrixXd gram = all.transpose() * (system.mass * all);
        EXPECT_LT((gram - Eigen::MatrixXd::Identity(gram.rows(), gram.cols())).cwiseAbs().maxCoeff(), 1e-8);
        // The sum over modes and residual vectors of phi (phi' F) / lambda is K^-1 F.
        Eigen::VectorXd lambda(all.cols());
        lambda << modes.lambda, rest.lambda;
        const Eigen::VectorXd inverse = lambda.unaryExpr([](double value) { return value > 0.0 ? 1.0 / value : 0.0; });
        const Eigen::MatrixXd sum = all * (inverse.asDiagonal() * (all.transpose() * loads));
        EXPECT_LT((sum - whole).norm(), 1e-7 * whole.norm()) << held;
        EXPECT_GT(rest.lambda.minCoeff(), modes.lambda[modes.lambda.size() - 1] * (1.0 - 1e-6))
            << "what is left is stiffer than what was found";
    }
}

TEST(MissingMass, TellsAboutWhereItLies)
{
    Ask few;
    few.until = Ask::Until::massShare;
    few.count = 6;
    few.share = 0.95;
    few.directions = {false, false, true};
    const auto solution = solvedFor(swayed(true), few);
    const auto note = std::find_if(solution->findings.begin(), solution->findings.end(), [](const Finding& finding) {
        return finding.what.find("lies mostly between") != std::string::npos;
    });
    ASSERT_NE(note, solution->findings.end());
    // The true number of modes up to the target, on the same mesh.
    Progress progress;
    auto prepared = ModeExtractor::prepare(*pencilOf(*solution->system), progress);
    auto& extractor = *prepared;
    const Extraction modes = extractor->find({.most = 6});
    const double movable = solution->participation.movable[2],
                 wanted = 0.95 * movable - solution->participation.effective.col(2).sum();
    const auto missing = missingMass(*solution->system, *extractor, modes.shapes, 2, wanted);
    ASSERT_TRUE(missing);
    const Extraction all = extractor->find({.most = solution->system->size()});
    const auto participation =
        participationOf(*solution->system, all.shapes, solution->mass, solution->participation.reference);
    Eigen::Index needed = 0;
    while (needed < all.lambda.size() && participation.effective.col(2).head(needed + 1).sum() < 0.95 * movable)
        ++needed;
    EXPECT_GT(double(missing->modesBelow), 0.5 * double(needed));
    EXPECT_LT(double(missing->modesBelow), 2.0 * double(needed));
    EXPECT_GT(missing->highHz, 0.5 * toHertz(all.lambda[needed]));
    EXPECT_LT(missing->highHz, 2.0 * toHertz(all.lambda[needed]));
}

TEST(MassShare, EachDirectionMayHaveATargetOfItsOwn)
{
    SaidModel said = swayed(true);
    said.say("mass-share",
             {{"share", "60 %"}, {"of", "movable"}, {"directions", "x y"}, {"share-y", "95 %"}, {"most", "80"}});
    const auto solution = said.solved();
    const auto last = static_cast<Eigen::Index>(solution->modes.size()) - 1;
    EXPECT_GE(solution->participation.sumOfMovable(last, 0), 0.60);
    EXPECT_GE(solution->participation.sumOfMovable(last, 1), 0.95);
    EXPECT_LT(solution->participation.sumOfMovable(last - 1, 1), 0.95) << "and not one mode more";
    EXPECT_TRUE(solution->count.proven);
}
