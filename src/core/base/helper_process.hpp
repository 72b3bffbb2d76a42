#pragma once
#include "core/base/progress.hpp"

#include <string>
#include <vector>

namespace undisona {

/// What the program's own second process answered.
struct HelperAnswer {
    std::string bytes;   ///< its standard output
    std::string problem; ///< why there is none; empty if all is well
};

/// Runs undisona-cli, which lies beside the running program, with these words and the input on its standard input, for
/// what may take a library down: its death, more than so many seconds, or a stop is a problem and no more.
HelperAnswer askHelper(const std::vector<std::string>& words, double seconds, const Progress* = nullptr,
                       const std::string& input = {});
/// Whether that program is there.
bool hasHelper();

} // namespace undisona
