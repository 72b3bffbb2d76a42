// What a results file costs: written over bytes written, opened over read, and one run of many over all of them. With
// the argument "large" over 2 GB.
#include "bench/seconds_of.hpp"
#include "core/studies/results_file.hpp"
#include "tests/said_model.hpp"

#include <fmt/format.h>

#include <cstring>
#include <filesystem>
#include <fstream>

using namespace undisona;

int main(int argc, char** argv)
{
    const bool large = argc > 1 && std::strcmp(argv[1], "large") == 0;
    SaidModel said = steel();
    said.say("plate", {{"name", "Plate"},
                       {"length", "2 m"},
                       {"width", "1 m"},
                       {"thickness", "10 mm"},
                       {"size", large ? "8 mm" : "16 mm"}})
        .say("hold", {{"where", "edges of Plate"}, {"directions", "x y z"}})
        .say("point", {{"name", "p"}, {"at", "1, 0.5, 0 m"}})
        .say("lowest", {{"count", "20"}});
    Progress progress;
    const auto solved = solve(said.model(), progress, {.meshErrors = false});
    if (!solved) return 1;
    // The same run under many models, as takes of one document would be.
    std::vector<SaidModel> takes(large ? 45 : 24, said);
    std::vector<RunToKeep> runs;
    for (std::size_t at = 0; at < takes.size(); ++at) {
        takes[at].say("mass", {{"mass", fmt::format("{} g", at + 1)}, {"points", "p"}});
        runs.push_back({fmt::format("take {}", at + 1), &takes[at].model(), *solved});
    }
    const std::string path = (std::filesystem::temp_directory_path() / "results-bench.h5").string();
    const double written = secondsOf([&] { keepResults(path, runs, progress); });
    const auto bytes = static_cast<double>(std::filesystem::file_size(path));
    fmt::print("{} runs of {} unknowns, 20 modes each: {:.2f} GB\n", runs.size(), (*solved)->system->size(),
               bytes / 1e9);
    const double plain = secondsOf([&] {
        const std::string some(std::size_t(1) << 24, 'x');
        writeWholeFile(path + ".plain", [&](const std::string& beside) -> std::optional<Finding> {
            std::ofstream file(beside, std::ios::binary);
            for (double left = bytes; left > 0.0; left -= double(some.size()))
                file << some;
            return std::nullopt;
        });
    });
    fmt::print("  written in {:.2f} s: {:.2f} of as many bytes written\n", written, written / plain);
    double opened = 0.0, one = 0.0;
    opened = secondsOf([&] { (void)runsIn(path); });
    one = secondsOf([&] { (void)keptModes(path, takes[takes.size() / 2].model()); });
    const double all = secondsOf([&] {
        for (const auto& take : takes)
            (void)keptModes(path, take.model());
    });
    fmt::print("  opened and listed in {:.3f} s (aim 1 s over 2 GB): {:.4f} of all read\n", opened, opened / all);
    fmt::print("  one run read in {:.3f} s: {:.3f} of all read\n", one, one / all);
    std::filesystem::remove(path);
    std::filesystem::remove(path + ".plain");
}
