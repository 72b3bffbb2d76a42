#pragma once
#include <CLI/CLI.hpp>

namespace undisona {

/// Of which model, and how and where what is found is written: members of these names in a command's options.
template <class Options>
void addAnswerOptions(CLI::App& command, Options& options)
{
    command.add_option("--take", options.take, "a take or a state by name instead of the live model");
    command.add_option("--format", options.format, "table, csv or json")
        ->check(CLI::IsMember({"table", "csv", "json"}));
    command.add_option("--out", options.out, "file to write instead of standard output");
}

} // namespace undisona
