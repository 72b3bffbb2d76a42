// What runs have found is read back as it was, and nothing that can happen to a file makes it something else.
#include "core/studies/results_file.hpp"

#include "core/hdf5/hdf5_fields.hpp"
#include "core/model/takes.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

#include <csignal>
#include <filesystem>
#include <fstream>

#include <sys/wait.h>
#include <unistd.h>

using namespace undisona;
using testing::HasSubstr;
namespace fs = std::filesystem;

namespace {

class ResultsFile : public testing::Test {
protected:
    void SetUp() override
    {
        std::string name = (fs::temp_directory_path() / "results-XXXXXX").string();
        ASSERT_NE(mkdtemp(name.data()), nullptr);
        folder_ = name;
    }
    void TearDown() override { fs::remove_all(folder_); }
    std::string at(const char* name) const { return (folder_ / name).string(); }

    fs::path folder_;
    Progress progress_;
};

SaidModel frame()
{
    SaidModel said = straightBeam(3.0, 0.08, 0.05, 4);
    return said.say("hold", {{"where", "Beam.0"}, {"directions", "all"}})
        .say("mass", {{"mass", "20 kg"}, {"points", "Beam.1"}})
        .say("lowest", {{"count", "5"}});
}

/// Sheet and a body, held, with a look at a point by hand: every kind of thing that an answer is made of.
SaidModel sheetAndBody()
{
    SaidModel said;
    said.say("plate", {{"name", "Deck"}, {"length", "1 m"}, {"width", "0.6 m"}, {"thickness", "6 mm"}})
        .say("solid-box",
             {{"name", "Box"}, {"at", "3, 0, 0 m"}, {"x", "0.4 m"}, {"y", "0.3 m"}, {"z", "0.2 m"}, {"size", "0.1 m"}})
        .say("point", {{"name", "tip"}, {"at", "1, 0.3, 0 m"}})
        .say("material")
        .say("hold", {{"where", "edges at x = 0 m"}, {"directions", "all"}})
        .say("hold", {{"where", "faces at z = 0 m of Box"}, {"directions", "all"}});
    return said.say("lowest", {{"count", "6"}})
        .say("residual-vectors")
        .say("hand-check", {{"point", "tip"}, {"direction", "z"}});
}

std::string textOf(const std::string& path)
{
    std::ifstream stream(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(stream), {}};
}

std::vector<RunToKeep> runs(const char* name, const SaidModel& said, const std::shared_ptr<const Solution>& solution)
{
    return {{name, &said.model(), solution}};
}

} // namespace

TEST_F(ResultsFile, EveryWordOfAnAnswerComesBack)
{
    for (const SaidModel& said : {frame(), sheetAndBody()}) {
        ASSERT_EQ(said.problems(), "");
        const auto solution = said.solved();
        ASSERT_TRUE(solution);
        ASSERT_EQ(keepResults(at("one.h5"), runs("as built", said, solution), progress_), std::nullopt);

        const auto kept = keptModes(at("one.h5"), said.model());
        ASSERT_TRUE(kept && *kept);
        ModesAnswer answer = **kept;
        ASSERT_EQ(answer.found.findings.size(), solution->findings.size() + 1);
        EXPECT_THAT(answer.found.findings.back().what, HasSubstr("nothing was solved"));
        answer.found.findings.pop_back();
        EXPECT_EQ(bytesOf(answer), bytesOf(answerOf(*solution))) << "to the last bit, shapes and all";

        const auto read = solutionOf(said.model(), Result<ModesAnswer>(**kept));
        ASSERT_TRUE(read);
        EXPECT_EQ((*read)->motion(1, 2), solution->motion(1, 2));
    }
}

TEST_F(ResultsFile, OtherProgramsReadItsNodesAndTheirMotions)
{
    const SaidModel said = sheetAndBody();
    const auto solution = said.solved();
    ASSERT_EQ(keepResults(at("one.h5"), runs("as built", said, solution), progress_), std::nullopt);
    const auto root = Hdf5Group::opened(at("one.h5"));
    EXPECT_EQ(root.said("what"), "undisona results");
    const auto all = root.group("runs").names();
    ASSERT_EQ(all.size(), 1u);
    const auto run = root.group("runs").group(all[0]);
    const auto nodes = solution->mesh.nodes.size();
    ASSERT_EQ(run.dimensions("nodes"), (std::vector<std::uint64_t>{nodes, 3}));
    ASSERT_EQ(run.dimensions("motion"), (std::vector<std::uint64_t>{6, nodes, 6}));
    std::vector<double> places(3 * nodes);
    std::vector<float> motion(6 * nodes * 6);
    run.read("nodes", NumberKind::f64, places.data());
    run.read("motion", NumberKind::f32, motion.data());
    for (const std::size_t node : {std::size_t(0), nodes / 2, nodes - 1})
        for (int along = 0; along < 3; ++along) {
            EXPECT_EQ(places[3 * node + std::size_t(along)], solution->mesh.nodes[node].place[along]);
            EXPECT_EQ(motion[(4 * nodes + node) * 6 + std::size_t(along)],
                      static_cast<float>(solution->motion(static_cast<int>(node), 4)[along]));
        }
    const auto document = readDocument(run.texts("model").at(0), "kept");
    ASSERT_TRUE(document);
    EXPECT_EQ(document->model, said.model());
}

TEST_F(ResultsFile, ListsItsRunsAndTakesOverThoseThatAreNotFoundAnew)
{
    const SaidModel built = frame();
    SaidModel heavier = frame();
    heavier.say("mass", {{"mass", "5 kg"}, {"points", "Beam.1"}});
    ASSERT_EQ(keepResults(at("all.h5"), {{"heavier", &heavier.model(), heavier.solved()}}, progress_), std::nullopt);
    ASSERT_EQ(keepResults(at("all.h5"),
                          {{"now", &built.model(), built.solved()}, {"heavier", &heavier.model(), nullptr}}, progress_),
              std::nullopt);
    const auto listed = runsIn(at("all.h5"));
    ASSERT_TRUE(listed);
    ASSERT_EQ(listed->size(), 2u);
    EXPECT_EQ((*listed)[0].name, "heavier");
    EXPECT_EQ((*listed)[0].key, lastingKey(heavier.model()));
    EXPECT_EQ((*listed)[0].lowest, heavier.frequencies()[0]);
    EXPECT_EQ((*listed)[1].modes, 5);
    SaidModel other = frame();
    other.say("mass", {{"mass", "6 kg"}, {"points", "Beam.1"}});
    const auto none = keptModes(at("all.h5"), other.model());
    ASSERT_TRUE(none);
    EXPECT_FALSE(*none) << "of another model nothing is kept";
}

TEST_F(ResultsFile, IsOfTheContentsOfFilesWhereverTheyLie)
{
    fs::create_directories(folder_ / "here");
    fs::create_directories(folder_ / "there");
    const auto write = [&](const char* name, const char* text) { std::ofstream(at(name)) << text; };
    write("here/body.step", "one");
    write("there/body.step", "one");
    const auto of = [&](const char* name) {
        SaidModel said;
        said.say("imported", {{"name", "Body"}, {"file", at(name)}});
        return said.model();
    };
    EXPECT_EQ(lastingKey(of("here/body.step")), lastingKey(of("there/body.step")));
    write("there/body.step", "two");
    EXPECT_NE(lastingKey(of("here/body.step")), lastingKey(of("there/body.step")));
}

TEST_F(ResultsFile, WhatIsNoneOrHalfOfOneIsSaid)
{
    const SaidModel said = frame();
    const auto whyNot = [&](const std::string& path) {
        const auto kept = keptModes(path, said.model());
        return kept ? std::string(*kept ? "kept" : "nothing kept") : kept.findings()[0].what;
    };
    EXPECT_THAT(whyNot(at("missing.h5")), HasSubstr("no HDF5 file"));
    std::ofstream(at("text.h5")) << "these are no results";
    EXPECT_THAT(whyNot(at("text.h5")), HasSubstr("no HDF5 file"));
    {
        const auto other = Hdf5Group::created(at("other.h5"));
        other.say("what", "somebody's measurements");
    }
    EXPECT_THAT(whyNot(at("other.h5")), HasSubstr("something else"));

    ASSERT_EQ(keepResults(at("whole.h5"), runs("now", said, said.solved()), progress_), std::nullopt);
    ASSERT_EQ(whyNot(at("whole.h5")), "kept");
    const std::string whole = textOf(at("whole.h5"));
    for (std::size_t part = 1; part < 12; ++part) { // each in a process of its own, which must not fall
        const pid_t child = fork();
        if (child == 0) {
            std::ofstream(at("half.h5"), std::ios::binary) << whole.substr(0, whole.size() * part / 12);
            _exit(whyNot(at("half.h5")).find("cannot be read") != std::string::npos ? 0 : 1);
        }
        int status = 0;
        waitpid(child, &status, 0);
        EXPECT_EQ(status, 0) << part << " of 12 parts of the file";
    }
}

TEST_F(ResultsFile, ShapesOfAnotherMeshAreRefused)
{
    const SaidModel said = sheetAndBody();
    ModesAnswer answer = answerOf(*said.solved());
    answer.places ^= 1;
    EXPECT_THROW(solutionOf(said.model(), Result<ModesAnswer>(answer)), ArchiveError);
    answer.places ^= 1;
    EXPECT_NO_THROW(solutionOf(said.model(), Result<ModesAnswer>(answer)));
    ModesAnswer uneven = answer;
    uneven.found.participation.factor.conservativeResize(3, 6);
    EXPECT_THROW(solutionOf(said.model(), Result<ModesAnswer>(uneven)), ArchiveError);
    uneven = answer;
    uneven.found.modes[2].number = 900;
    EXPECT_THROW(solutionOf(said.model(), Result<ModesAnswer>(uneven)), ArchiveError);
    uneven = answer;
    uneven.found.energies.rows[0].owner = 77;
    EXPECT_THROW(solutionOf(said.model(), Result<ModesAnswer>(uneven)), ArchiveError);
}

TEST_F(ResultsFile, EndedAtAnyMomentLeavesAWholeOne)
{
    const SaidModel said = sheetAndBody();
    const auto solution = said.solved();
    ASSERT_EQ(keepResults(at("one.h5"), runs("now", said, solution), progress_), std::nullopt);
    int ended = 0;
    for (int moment = 0; moment < 25; ++moment) {
        const pid_t child = fork();
        if (child == 0) {
            keepResults(at("one.h5"), runs("now", said, solution), progress_);
            _exit(0);
        }
        usleep(static_cast<useconds_t>(400 * moment));
        kill(child, SIGKILL);
        int status = 0;
        waitpid(child, &status, 0);
        ended += WIFSIGNALED(status);
        const auto kept = keptModes(at("one.h5"), said.model());
        ASSERT_TRUE(kept && *kept) << "after " << moment;
    }
    EXPECT_GT(ended, 3) << "or nothing was tried";
}

TEST_F(ResultsFile, AStoppedWriteLeavesTheOneBefore)
{
    const SaidModel said = frame();
    const auto solution = said.solved();
    ASSERT_EQ(keepResults(at("one.h5"), runs("now", said, solution), progress_), std::nullopt);
    const std::string before = textOf(at("one.h5"));
    Progress stopped;
    stopped.stop();
    const auto problem = keepResults(at("one.h5"), runs("now", said, solution), stopped);
    ASSERT_TRUE(problem);
    EXPECT_THAT(problem->what, HasSubstr("stopped"));
    EXPECT_EQ(textOf(at("one.h5")), before);
    EXPECT_EQ(std::distance(fs::directory_iterator(folder_), fs::directory_iterator()), 1)
        << "nothing is left beside it";
}
