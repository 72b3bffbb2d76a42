#pragma once
#include <CLI/CLI.hpp>

#include <string>
#include <vector>

namespace undisona {

/// The options of `remedy`, as typed.
struct RemedyOptions {
    std::string model, take, above, below, most, notOn, format = "table", out, to;
    std::vector<std::string> sections, only;
    int mode = 0, choose = 0;
    bool words = false;
};

CLI::App* addRemedyCommand(CLI::App&, RemedyOptions&);

/// The options of `sweep`, as typed.
struct SweepOptions {
    std::string model, take, word, from, to, format = "table", out;
    long steps = 12;
};

CLI::App* addSweepCommand(CLI::App&, SweepOptions&);

/// Frequencies over one word of a model.
int runSweep(const SweepOptions&);

/// The options of `tolerances`, as typed.
struct ToleranceOptions {
    std::string model, take, format = "table", out;
    long samples = 0, seed = 1;
    bool noCorners = false;
};

CLI::App* addToleranceCommand(CLI::App&, ToleranceOptions&);

/// How far frequencies go within what is not known exactly.
int runTolerances(const ToleranceOptions&);

/// What moves a mode out of the way: a table, CSV or JSON; one of the proposals as a take of the model.
int runRemedy(const RemedyOptions&);

} // namespace undisona
