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

/// The options of `hand`, as typed.
struct HandOptions {
    std::string model, take, format = "table", out;
};

CLI::App* addHandCommand(CLI::App&, HandOptions&);

/// Estimates by hand beside the modes: a table, CSV or JSON.
int runHand(const HandOptions&);

/// Stresses and section forces of a mode that moves so strongly: a table, CSV or JSON.
int runStress(const StressOptions&);

} // namespace undisona
