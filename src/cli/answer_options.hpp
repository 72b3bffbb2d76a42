#pragma once
#include <CLI/CLI.hpp>

namespace undisona {

/// Of which model, and how and where what is found is written: members of these names in a command's options.
template <class Options>
void addAnswerOptions(CLI::App& command, Options& options,
                      const std::vector<std::string>& formats = {"table", "csv", "json"})
{
    std::string words = formats.front();
    for (std::size_t at = 1; at < formats.size(); ++at)
        words += (at + 1 < formats.size() ? ", " : " or ") + formats[at];
    command.add_option("--take", options.take, "a take or a state by name instead of the live model");
    command.add_option("--format", options.format, words)->check(CLI::IsMember(formats));
    command.add_option("--out", options.out, "file to write instead of standard output");
}

} // namespace undisona
