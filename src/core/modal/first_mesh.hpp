#pragma once
#include "core/modal/pass.hpp"

namespace undisona {

/// What a short run on a coarse mesh tells of the one to come.
struct FirstGuess {
    double frequency = 0.0;     ///< that the mesh is made for, Hz; 0 where none is known or the user has said how fine all is
    MeshSizes sizes{};          ///< of that mesh, smaller in solids where the short run shows that they have to be
    std::optional<Pass> pass{}; ///< the short run, where it can be set against the whole one
};

/// The mesh of the short run: elements twice as large as they would be at most.
MeshPlan coarsePlan(const Structure&);

/// The frequency asked, or a guess from a short run; solids are looked at in a short run in any case.
FirstGuess firstGuess(const Structure&, Progress&, KeptRuns*);

} // namespace undisona
