#pragma once
#include "core/modal/solution.hpp"

namespace undisona {

/// Asks that a caller may put in place of the model's own.
struct SolveOptions {
    std::optional<Ask> ask;
    std::optional<MeshPlan> plan; ///< a mesh to solve on as it is, rather than one that the run chooses
    /// That of a model like this one, which is taken where it is fine enough for this one too: what differs between the
    /// two then differs by what they say alone.
    std::optional<MeshPlan> beside{};
    bool meshErrors = true;   ///< estimate how far off the mesh leaves each mode
    KeptRuns* kept = nullptr; ///< what earlier runs left behind, and this one may; one run at a time
};

/// Effective mass of the modes found so far.
struct MassSoFar {
    std::vector<double> hertz; ///< of the modes, ascending
    Eigen::MatrixXd sums;      ///< modes x 3: running sums along x, y, z as shares of the movable mass
};

/// Modes on the mesh that they belong to, as far as they are known while a run goes on.
struct FoundModes {
    MeshPlan plan;
    Extraction extraction;
    MassSoFar mass;
};

/// What is said while a run goes on; either may be empty.
struct RunListener {
    std::function<void(const std::vector<double>& hertz)> frequencies; ///< converged so far, ascending
    std::function<void(const FoundModes&)> modes; ///< to be kept should the run be cut short, and where it stands
};

/// The frequency that a first mesh is made for, Hz, where the ask alone tells it; else 0.
double statedFrequency(const Ask&);

/// Why a run of it would be refused, as far as that is known before modes are looked for; its first mesh is made and
/// factorised where that is short.
Findings refusalOf(const Structure&, Progress&);

/// From the model to everything that is read of it. Findings tell why there is no solution; those of a
/// solution stand in it. A stopped run keeps the modes found so far.
Result<std::shared_ptr<const Solution>> solve(const Model&, Progress&, const SolveOptions& = {},
                                              const RunListener& = {});

/// The same from a structure that has been built already.
Result<std::shared_ptr<const Solution>> solve(std::shared_ptr<const Structure>, Progress&, const RunListener& = {},
                                              KeptRuns* = nullptr);

/// What a run had found when it was cut short, as the result of a stopped run: nothing is factorised.
Result<std::shared_ptr<const Solution>> solutionFrom(const Model&, const FoundModes&, Progress&);

} // namespace undisona
