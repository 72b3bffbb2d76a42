#pragma once
#include <CLI/CLI.hpp>

#include <string>

namespace undisona {

/// The options of `rest` and `buckling`, as typed.
struct RestOptions {
    std::string model, take, state, format = "table", out;
    std::vector<std::string> at; ///< points
    long count = 4;
};

CLI::App* addRestCommand(CLI::App&, RestOptions&);
CLI::App* addBucklingCommand(CLI::App&, RestOptions&);

/// Where a model comes to rest under its loads: a table, CSV (of one state), JSON or VTU.
int runRest(const RestOptions&);
/// By which factors its static states buckle.
int runBuckling(const RestOptions&);

} // namespace undisona
