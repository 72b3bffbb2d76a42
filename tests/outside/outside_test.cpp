#include "tests/outside/written_system.hpp"

#include <gtest/gtest.h>

#include <filesystem>

namespace {

std::string joined(const std::vector<std::string>& faults)
{
    std::string all;
    for (const auto& fault : faults)
        all += fault + "\n";
    return all;
}

std::string example(const char* name)
{
    return std::string(EXAMPLES) + "/" + name + ".undisona.json";
}

} // namespace

TEST(Outside, EveryExampleHoldsAgainstDenseLapack)
{
    for (const char* name : {"radar-mast", "hoist-gantry", "signal-lamps"})
        EXPECT_EQ(joined(faultsOf(runCommandLine(example(name)))), "") << name;
}

TEST(Outside, FiftyGeneratedModelsHold)
{
    const auto folder = std::filesystem::temp_directory_path() / "undisona-generated";
    const auto paths = generateModels(folder.string());
    ASSERT_EQ(paths.size(), 50u);
    for (const auto& path : paths)
        EXPECT_EQ(joined(faultsOf(runCommandLine(path))), "") << path;
    if (!HasFailure()) std::filesystem::remove_all(folder);
}

TEST(Outside, PlantedFaultsAreFound)
{
    const auto good = runCommandLine(example("signal-lamps"));
    ASSERT_EQ(joined(faultsOf(good)), "");
    auto dropped = good;
    dropped.modes["modes"].erase(7);
    EXPECT_NE(joined(faultsOf(dropped)), "") << "one mode dropped";
    auto repeated = good;
    repeated.modes["modes"].insert(repeated.modes["modes"].begin() + 8, nlohmann::json(repeated.modes["modes"][7]));
    EXPECT_NE(joined(faultsOf(repeated)), "") << "one mode repeated";
    auto doubled = good;
    for (int at = 0; at < doubled.size; ++at)
        doubled.m[static_cast<std::size_t>(at) * static_cast<std::size_t>(doubled.size + 1)] *= at < 6 ? 2.0 : 1.0;
    EXPECT_NE(joined(faultsOf(doubled)), "") << "a mass doubled";
    auto loose = good;
    for (int at = 0; at < loose.size; ++at)
        loose.k[static_cast<std::size_t>(at) * static_cast<std::size_t>(loose.size + 1)] -=
            at > 23 && at < 30 ? 60.0 : 0.0;
    EXPECT_NE(joined(faultsOf(loose)), "") << "a support left out";
}
