#pragma once
#include <CLI/CLI.hpp>

#include <string>

namespace undisona {

/// The options of `stress`, as typed.
struct StressOptions {
    std::string model, take, displacement, velocity, acceleration, energy, stress, at, format = "table", out;
    int mode = 0;
};

CLI::App* addStressCommand(CLI::App&, StressOptions&);

/// Stresses and section forces of a mode that moves so strongly: a table, CSV or JSON.
int runStress(const StressOptions&);

} // namespace undisona
