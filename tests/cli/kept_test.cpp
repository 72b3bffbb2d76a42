// Takes and kept results on the command line.
#include "tests/cli/ran.hpp"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <fstream>

namespace {

using Json = nlohmann::json;

std::string inScratch(const char* name)
{
    return (scratch() / name).string();
}

} // namespace

TEST(Kept, ResultsAreWrittenListedAndReadWithoutSolving)
{
    const std::string mast = example("radar-mast"), file = inScratch("mast.results.h5");
    const Ran made = run("results " + mast + " --to " + file + " --format json");
    ASSERT_EQ(made.code, 0) << made.err;
    const Json runs = Json::parse(made.out);
    ASSERT_EQ(runs.size(), 2u);
    EXPECT_EQ(runs[0]["name"], "heavier braces");
    EXPECT_EQ(runs[1]["name"], "now");
    EXPECT_EQ(Json::parse(run("results " + file + " --format json").out), runs);

    const auto modesOf = [&](const std::string& more) {
        const Ran ran = run("modes " + mast + " --format json --shapes " + more);
        EXPECT_EQ(ran.code, 0) << ran.err;
        return std::pair(Json::parse(ran.out), ran.err);
    };
    for (const std::string take : {"", " --take \"heavier braces\""}) {
        const auto [kept, said] = modesOf("--results " + file + take);
        EXPECT_NE(said.find("nothing was solved"), std::string::npos) << said;
        const auto [solved, none] = modesOf(take);
        ASSERT_EQ(kept["modes"].size(), solved["modes"].size());
        for (std::size_t at = 0; at < kept["modes"].size(); ++at) {
            EXPECT_EQ(kept["modes"][at]["frequency_hz"], solved["modes"][at]["frequency_hz"]);
            EXPECT_EQ(kept["modes"][at]["name"], solved["modes"][at]["name"]);
            EXPECT_EQ(kept["modes"][at]["shape"].size(), solved["modes"][at]["shape"].size());
        }
        EXPECT_EQ(kept["clashes"], solved["clashes"]);
    }
    // What the file has is not found again; a model that it does not have is solved, and said to be.
    const Ran again = run("results " + mast + " --to " + file + " --format json");
    EXPECT_EQ(Json::parse(again.out)[1]["found"], runs[1]["found"]);
    const Ran other = run("modes " + mast + " --leave-out gearbox --format csv --results " + file);
    EXPECT_EQ(other.code, 0);
    EXPECT_NE(other.err.find("keeps nothing of this model: it is solved"), std::string::npos) << other.err;
}

TEST(Kept, BadResultsFilesAreRefused)
{
    const std::string mast = example("radar-mast");
    std::ofstream(scratch() / "none.h5") << "no such thing";
    const Ran broken = run("modes " + mast + " --results " + inScratch("none.h5"));
    EXPECT_EQ(broken.code, 2);
    EXPECT_NE(broken.err.find("none.h5: the results file cannot be read: it is no HDF5 file"), std::string::npos)
        << broken.err;
    EXPECT_EQ(run("results " + inScratch("none.h5")).code, 2);
    const Ran asked = run("modes " + mast + " --count 3 --results " + inScratch("none.h5"));
    EXPECT_EQ(asked.code, 2);
    EXPECT_NE(asked.err.find("--results are of what the model asks for"), std::string::npos) << asked.err;
    const Ran over = run("results " + mast + " --to " + mast);
    EXPECT_EQ(over.code, 2) << "its own model is not written over";
    EXPECT_NE(over.err.find("read by the same run"), std::string::npos) << over.err;
}

TEST(Kept, TakesAreToldAsATree)
{
    Json model = Json::parse(contents(example("radar-mast")));
    Json built = model["takes"][0];
    built["id"] = "t2";
    built["name"] = "from it";
    built["from"] = "t1";
    built["note"] = "a try";
    built["model"]["added-mass"][0]["mass"] = "99 kg";
    model["takes"].push_back(built);
    model["from"] = "t1";
    const std::string file = written("tree.undisona.json", model.dump());
    const Ran table = run("takes " + file);
    ASSERT_EQ(table.code, 0) << table.err;
    EXPECT_EQ(table.out.rfind("heavier braces  (2031-05-04", 0), 0u) << table.out;
    EXPECT_NE(table.out.find("\n  from it  ("), std::string::npos) << table.out;
    EXPECT_NE(table.out.find("note: a try"), std::string::npos) << table.out;
    EXPECT_NE(table.out.find("now 99 kg"), std::string::npos) << table.out;
    EXPECT_NE(table.out.find("\n  now\n"), std::string::npos) << table.out;
    const Json list = Json::parse(run("takes " + file + " --format json").out);
    ASSERT_EQ(list.size(), 3u);
    EXPECT_EQ(list[1]["from"], "t1");
    EXPECT_EQ(list[1]["changes"].size(), 1u);
    EXPECT_EQ(list[2]["name"], "now");
}
