#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// The options of `modes`, as typed.
struct ModesOptions {
    std::string model, take, upTo, band, nearest, share, ritz, of, directions = "XY", format = "table", out;
    std::string tolerance, massMatrix, leaveOut, about, residual, residualAt, ritzAt, results;
    std::vector<std::string> system; ///< two Matrix Market files in place of a model
    bool all = false, unproven = false, shapes = false, noMeshError = false, foldLocal = false;
    long count = 0;
    int threads = 0;
};

/// The ask that the options state in place of the model's own; a text when they cannot be read.
std::variant<std::optional<Ask>, std::string> askOf(const ModesOptions&);

} // namespace undisona
