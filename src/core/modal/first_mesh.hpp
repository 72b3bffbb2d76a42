#pragma once
#include "core/modal/pass.hpp"

namespace undisona {

/// What a short run on a coarse mesh tells of the one to come.
struct FirstGuess {
    double frequency = 0.0; ///< that the mesh is made for, Hz; 0: none is known, or the user has said how fine all is
    MeshPlan plan{};        ///< of that mesh, smaller in solids where the short run shows that they have to be
    std::optional<Pass> pass{}; ///< the short run, where it can be set against the whole one
    bool whole = false;         ///< it is the whole one: details make its mesh as fine as the first one would be
};

/// So many times as many pieces as the waves want a body of tetrahedra may take for what is thin or steep in it.
inline constexpr double mostTimesForDetail = 2.5;

/// The mesh as far as it is known before anything has run: for the frequency asked; where none is, each part as coarse
/// as it may be.
MeshPlan plainPlan(const Structure&);

/// The mesh of the short run: elements twice as large as those.
MeshPlan coarsePlan(const Structure&);

/// Pieces; a run on fewer takes little time.
inline constexpr std::size_t veryManyPieces = 40'000;

/// The frequency asked, or a guess from a short run; solids are looked at in a short run in any case. One on very many
/// tetrahedra is no short one: it runs as a whole one, which it stays where waves want hardly more of them.
FirstGuess firstGuess(const Structure&, Progress&, const RunListener&, KeptRuns*,
                      std::size_t veryMany = veryManyPieces);

/// Whether a mesh of bodies has very many tetrahedra, and that for its details: on these sizes there would be nearly as
/// many.
bool governedByDetails(const Structure&, const FrameMesh&, const MeshSizes&, std::size_t veryMany = veryManyPieces);

} // namespace undisona
