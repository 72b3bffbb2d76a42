#pragma once
#include "core/pencil/kept_runs.hpp"
#include "core/pencil/run_estimate.hpp"
#include "core/statement/structure.hpp"

namespace undisona {

/// A guess at the number of unknowns, free of cost; it is about right where members are not split finely.
std::int64_t unknownsAbout(const Structure&);

/// What a run of the model would cost, from its first mesh: members that are split on the way to a result make it
/// dearer. Nothing where the model has an error or the run is over as soon as it is begun. The analysis is kept for it.
std::optional<RunEstimate> estimateAhead(const Model&, Progress&, KeptRuns&);

} // namespace undisona
