// Whatever happens while a file is written, what was there stays or the whole of what is new stands there.
#include "core/base/file_writer.hpp"
#include "core/model/differences.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>

#include <csignal>
#include <filesystem>
#include <fstream>
#include <random>
#include <thread>

#include <fcntl.h>
#include <sys/mount.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace undisona;
using testing::HasSubstr;
namespace fs = std::filesystem;

namespace {

class FileWriter : public testing::Test {
protected:
    void SetUp() override
    {
        std::string name = (fs::temp_directory_path() / "writer-XXXXXX").string();
        ASSERT_NE(mkdtemp(name.data()), nullptr);
        folder_ = name;
    }
    void TearDown() override { fs::remove_all(folder_); }

    std::string at(const char* name) const { return (folder_ / name).string(); }
    static void put(const std::string& path, const std::string& text) { std::ofstream(path) << text; }
    static std::string textOf(const std::string& path)
    {
        std::ifstream stream(path, std::ios::binary);
        return {std::istreambuf_iterator<char>(stream), {}};
    }
    std::size_t files() const
    {
        return static_cast<std::size_t>(std::distance(fs::directory_iterator(folder_), fs::directory_iterator()));
    }

    fs::path folder_;
};

} // namespace

TEST_F(FileWriter, KeepsModeAndLinksAndLeavesNothingBeside)
{
    put(at("model"), "old");
    ASSERT_EQ(chmod(at("model").c_str(), 0640), 0);
    fs::create_symlink("model", at("link"));
    ASSERT_FALSE(writeWholeFile(at("link"), "new"));
    EXPECT_EQ(textOf(at("model")), "new");
    EXPECT_TRUE(fs::is_symlink(at("link"))) << "the link stays a link";
    struct stat there {};
    stat(at("model").c_str(), &there);
    EXPECT_EQ(there.st_mode & 0777, 0640u);
    fs::create_symlink("not there yet", at("dangling"));
    ASSERT_FALSE(writeWholeFile(at("dangling"), "made"));
    EXPECT_EQ(textOf(at("not there yet")), "made");
    fs::create_symlink("round", at("round"));
    EXPECT_THAT(writeWholeFile(at("round"), "x")->what, HasSubstr("circle"));
    EXPECT_EQ(files(), 5u) << "nothing else lies there";
}

TEST_F(FileWriter, RefusesInputsFoldersAndProtectedFiles)
{
    put(at("input"), "read");
    fs::create_hard_link(at("input"), at("the same"));
    EXPECT_THAT(writeWholeFile(at("the same"), "x", {.inputs = {at("input")}})->what,
                HasSubstr("read by the same run"));
    EXPECT_THAT(writeWholeFile(folder_.string(), "x")->what, HasSubstr("folder"));
    EXPECT_THAT(writeWholeFile(at("no/such/file"), "x")->what, HasSubstr("folder does not exist"));
    ASSERT_EQ(chmod(at("input").c_str(), 0444), 0);
    EXPECT_THAT(writeWholeFile(at("input"), "x")->what, HasSubstr("protected"));
    EXPECT_EQ(textOf(at("input")), "read");
    EXPECT_FALSE(writeWholeFile(at("input"), "asked for", {.inputs = {}, .overProtection = true}));
    EXPECT_EQ(textOf(at("input")), "asked for");
    struct stat there {};
    stat(at("input").c_str(), &there);
    EXPECT_EQ(there.st_mode & 0777, 0444u) << "and stays protected";
}

TEST_F(FileWriter, WritesIntoDevicesAndPipesAndNeverReplacesThem)
{
    EXPECT_FALSE(writeWholeFile("/dev/null", "gone"));
    EXPECT_TRUE(fs::is_character_file("/dev/null"));
    EXPECT_THAT(writeWholeFile("/dev/full", "x")->what, HasSubstr("the disk is full"));
    ASSERT_EQ(mkfifo(at("pipe").c_str(), 0600), 0);
    std::string heard;
    std::thread reader([&] { heard = textOf(at("pipe")); });
    EXPECT_FALSE(writeWholeFile(at("pipe"), "through"));
    reader.join();
    EXPECT_EQ(heard, "through");
    EXPECT_TRUE(fs::is_fifo(at("pipe")));
}

// A limit on the size of files stands for a disk that fills: the write fails half-way.
TEST_F(FileWriter, WhatDoesNotFitLeavesTheOldFileWhole)
{
    put(at("model"), "old and whole");
    const pid_t child = fork();
    if (child == 0) {
        std::signal(SIGXFSZ, SIG_IGN);
        const rlimit small{4096, 4096};
        setrlimit(RLIMIT_FSIZE, &small);
        const auto problem = writeWholeFile(at("model"), std::string(100000, 'x'));
        _exit(problem && problem->what.find("larger than") != std::string::npos ? 0 : 1);
    }
    int status = 0;
    waitpid(child, &status, 0);
    EXPECT_EQ(status, 0);
    EXPECT_EQ(textOf(at("model")), "old and whole");
    EXPECT_EQ(files(), 1u);
}

// Killed at random moments, twenty times while it writes one text after the other.
TEST_F(FileWriter, AKillLeavesOneWholeTextOrTheOther)
{
    const std::string one(300000, '1'), two(700000, '2');
    put(at("model"), one);
    std::mt19937 chance(7);
    for (int kill_ = 0; kill_ < 20; ++kill_) {
        const pid_t child = fork();
        if (child == 0)
            for (int round = 0;; ++round)
                writeWholeFile(at("model"), round % 2 ? one : two);
        usleep(1000 + chance() % 30000);
        kill(child, SIGKILL);
        int status = 0;
        waitpid(child, &status, 0);
        const std::string text = textOf(at("model"));
        ASSERT_TRUE(text == one || text == two) << "a file of " << text.size() << " bytes";
    }
}

TEST(Differences, SayWhatStandsOnWhichSide)
{
    SaidModel said;
    said.say("mass", {{"mass", "85 kg"}, {"points", "a"}}).say("hold", {{"where", "b"}, {"directions", "all"}});
    Document here, there;
    here.model = there.model = said.model();
    EXPECT_TRUE(differences(there, here).empty());
    const auto mass = there.model.group(Group::addedMass)[0];
    there.model = there.model.replaced(mass->with("mass", quantityIn(90, QuantityKind::mass, "kg")));
    here.model = here.model.removed(here.model.group(Group::supports)[0]->id);
    const auto lines = differences(there, here);
    ASSERT_EQ(lines.size(), 2u);
    EXPECT_THAT(lines, testing::Contains(HasSubstr("90 kg")));
    EXPECT_THAT(lines, testing::Contains(testing::AllOf(HasSubstr("only in the file"), HasSubstr("Hold"))));
}

TEST(Differences, SayTheWordsThatDiffer)
{
    SaidModel said;
    said.say("plate", {{"name", "Deck"}, {"length", "2 m"}, {"width", "1 m"}, {"thickness", "6 mm"}})
        .say("points", {{"rows", "a|0 m|0 m|0 m\nb|1 m|0 m|0 m"}})
        .say("mass", {{"mass", "85 kg"}, {"points", "a"}, {"label", "gearbox"}});
    const Model was = said.model();
    const auto deck = was.group(Group::shape)[0];
    Model now = was.replaced(deck->with("thickness", quantityIn(0.008, QuantityKind::length, "mm")));
    EXPECT_THAT(differences(was, now),
                testing::ElementsAre(testing::AllOf(testing::StartsWith("Deck: "), HasSubstr("was 6 mm, now 8 mm"))));
    now = now.replaced(was.group(Group::addedMass)[0]->switched(false));
    EXPECT_THAT(differences(was, now), testing::Contains("gearbox: was on, now off"));
    // Of a table the rows that one side alone has; of what is another altogether both sentences.
    SaidModel other;
    other.say("points", {{"rows", "a|0 m|0 m|0 m\nb|1 m|0 m|0.5 m"}});
    Sentence moved = *was.group(Group::shape)[1];
    moved.values["rows"] = other.model().group(Group::shape)[0]->value("rows");
    const auto lines = differences(was, was.replaced(moved));
    ASSERT_EQ(lines.size(), 1u);
    EXPECT_THAT(lines[0], testing::AllOf(HasSubstr("0.5 m"), testing::Not(HasSubstr("a, 0 m"))));
    Sentence renamed = deck->with("name", std::string("Floor"));
    EXPECT_THAT(differences(was, was.replaced(renamed)), testing::ElementsAre(testing::StartsWith("was Deck: plate")));
}
