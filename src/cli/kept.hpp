#pragma once
#include "cli/loaded_model.hpp"
#include "core/modal/solution.hpp"

#include <CLI/CLI.hpp>

namespace undisona {

/// The options of `takes` and of `results`, as typed.
struct KeptOptions {
    std::string model, take, to, format = "table", out;
    int threads = 0;
    bool anew = false;
};

CLI::App* addTakesCommand(CLI::App&, KeptOptions&);
/// Which take came from which, when and why: a table, CSV or JSON.
int runTakes(const KeptOptions&);

CLI::App* addResultsCommand(CLI::App&, KeptOptions&);
/// What a results file keeps; or, with --to, one written of a model, its states and its takes.
int runResults(const KeptOptions&);

/// What a results file keeps of the model, null where that is nothing; why it cannot be told is reported, with `code`.
std::shared_ptr<const Solution> keptSolution(const std::string& results, const Model&, int& code);

} // namespace undisona
