#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// Asks that a caller may put in place of the model's own.
struct SolveOptions {
    std::optional<Ask> ask;
    KeptRuns* kept = nullptr; ///< what earlier runs left behind, and this one may; one run at a time
};

/// From the model to everything that is read of it. Findings tell why there is no solution; those of a
/// solution stand in it. A stopped run keeps the modes found so far.
Result<std::shared_ptr<const Solution>> solve(const Model&, Progress&, const SolveOptions& = {},
                                              const ModeExtractor::Listener& = {});

/// The same from a structure that has been built already.
Result<std::shared_ptr<const Solution>> solve(std::shared_ptr<const Structure>, Progress&,
                                              const ModeExtractor::Listener& = {}, KeptRuns* = nullptr);

} // namespace undisona
