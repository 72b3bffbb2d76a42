// What the command line writes of a study's answer, and of a system with relations apart from its matrices.
#include "tests/cli/ran.hpp"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <cmath>

TEST(CommandLine, PrintsAStudysAnswerMemberByMember)
{
    const std::string mast = example("radar-mast");
    const Ran study = run("study modes " + mast);
    ASSERT_EQ(study.code, 0) << study.err;
    const auto all = nlohmann::json::parse(study.out),
               read = nlohmann::json::parse(run("modes " + mast + " --format json").out);
    ASSERT_EQ(all["modes"].size(), read["modes"].size());
    for (std::size_t at = 0; at < all["modes"].size(); ++at) {
        EXPECT_EQ(all["modes"][at]["frequency"], read["modes"][at]["frequency_hz"]);
        EXPECT_EQ(all["modes"][at]["name"], read["modes"][at]["name"]);
        for (std::size_t direction = 0; direction < 6; ++direction)
            EXPECT_EQ(all["participation"]["effective"][at][direction], read["modes"][at]["effective_mass"][direction]);
    }
    EXPECT_EQ(all["shapes"].size(), read["unknowns"].get<std::size_t>()) << "matrices by rows";
    EXPECT_EQ(all["energies"]["rows"][0]["kind"], "member") << "kinds of things by their words";
    const auto cost = nlohmann::json::parse(run("study cost " + mast).out);
    EXPECT_GT(cost["unknowns"].get<int>(), 0);
    EXPECT_TRUE(cost["refused"].empty());
    const Ran none = run("study moods " + mast);
    EXPECT_EQ(none.code, 2);
    for (const char* known : {"moods", "modes: natural frequencies", "cost: what a run"})
        EXPECT_NE(none.err.find(known), std::string::npos) << none.err;
    // What has no answer is a list of findings, and the code says so.
    const Ran empty = run(
        "study modes " +
        written("empty.undisona.json",
                R"({ "format": "undisona", "version": 2, "name": "e", "units": "m kg N", "model": {}, "takes": [] })"));
    EXPECT_EQ(empty.code, 1) << empty.out << empty.err;
    EXPECT_NE(nlohmann::json::parse(empty.out)[0]["what"].get<std::string>().find("nothing to solve"),
              std::string::npos);
}

namespace {

/// Entries of a Matrix Market file: row, column, value.
std::vector<std::tuple<int, int, double>> entriesOf(const std::filesystem::path& path)
{
    std::ifstream stream(path);
    std::string line;
    std::vector<std::tuple<int, int, double>> entries;
    bool sizes = false;
    while (std::getline(stream, line)) {
        if (line[0] == '%') continue;
        int row = 0, column = 0;
        double value = 0.0;
        std::istringstream(line) >> row >> column >> value;
        if (sizes) entries.emplace_back(row - 1, column - 1, value);
        sizes = true;
    }
    return entries;
}

} // namespace

TEST(CommandLine, WritesTheRelationsOfAPointThatFollowsManyBesideItsMatrices)
{
    const std::string floor = written("floor.undisona.json", R"({
      "format": "undisona", "version": 2, "name": "floor", "units": "m kg N",
      "model": {
        "shape": [ { "id": "f", "kind": "plate", "name": "Floor", "at": "0, 0, 0 m", "length": "1.2 m", "width": "0.9 m",
                     "thickness": "8 mm", "size": "0.2 m" },
                   { "id": "p", "kind": "points", "rows": [ [ "device", "0.5 m", "0.4 m", "0.3 m" ] ] } ],
        "material": [ { "id": "m", "kind": "material", "what": "everything", "material": "structural steel" } ],
        "joints": [ { "id": "j", "kind": "mean", "point": "device", "of": "Floor" } ],
        "supports": [ { "id": "h", "kind": "hold", "where": "edges at x = 0 m", "directions": "all" } ],
        "added-mass": [ { "id": "w", "kind": "mass", "mass": "40 kg", "sharing": "on", "points": "device" } ],
        "ask": [ { "id": "a", "kind": "lowest", "count": 5 } ]
      },
      "takes": []
    })");
    const auto folder = scratch() / "floor";
    const Ran exported = run("export " + floor + " --what system --to \"" + folder.string() + "\"");
    ASSERT_EQ(exported.code, 0) << exported.err;
    const auto stiffness = entriesOf(folder / "K.mtx"), mass = entriesOf(folder / "M.mtx"),
               relations = entriesOf(folder / "relations.mtx");
    EXPECT_GT(relations.size(), 100u);
    const Ran modes = run("modes " + floor + " --format json --shapes");
    ASSERT_EQ(modes.code, 0) << modes.err;
    for (const auto& mode : nlohmann::json::parse(modes.out)["modes"]) {
        const auto shape = mode["shape"].get<std::vector<double>>();
        const auto energy = [&](const auto& entries) { // of a lower triangle
            double sum = 0.0;
            for (const auto& [row, column, value] : entries)
                sum += (row == column ? 1.0 : 2.0) * value * shape[std::size_t(row)] * shape[std::size_t(column)];
            return sum;
        };
        const double lambda = std::pow(2.0 * M_PI * mode["frequency_hz"].get<double>(), 2);
        EXPECT_NEAR(energy(mass), 1.0, 1e-9);
        EXPECT_NEAR(energy(stiffness), lambda, 1e-7 * lambda) << "nothing lent to a pivot is left in it";
        std::vector<double> sums(3, 0.0);
        double size = 0.0;
        for (const auto& [row, column, value] : relations) {
            sums.at(std::size_t(column)) += value * shape[std::size_t(row)];
            size += std::abs(value * shape[std::size_t(row)]);
        }
        for (const double sum : sums)
            EXPECT_LT(std::abs(sum), 1e-10 * size);
    }
}
