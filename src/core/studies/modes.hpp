#pragma once
#include "core/studies/answer_fields.hpp"
#include "core/studies/study.hpp"

namespace undisona {

struct ModesOrder {
    std::optional<MeshPlan> beside{}; ///< of a model like it (SolveOptions::beside)
    /// Path of a results file: modes that it keeps of the model are the answer, and nothing is solved; no findings, and
    /// no answer, where it keeps none.
    std::string results{};
};
inline auto fields(ModesOrder& of)
{
    return named("beside results", of.beside, of.results);
}

/// Natural frequencies and mode shapes: a solution without what follows from its model at no cost (structure, mesh,
/// motions).
struct ModesAnswer {
    MeshPlan plan;
    std::uint64_t places = 0; ///< placesKey of the mesh
    Solution found;
};
inline auto fields(ModesAnswer& of)
{
    Solution& s = of.found;
    return named(
        "plan places shapes modes pieceErrors shift allModes ritz residual participation energies count record "
        "handChecks findings timings peakMemoryMb stopped",
        of.plan, of.places, s.shapes, s.modes, s.pieceErrors, s.shift, s.allModes, s.ritz, s.residual, s.participation,
        s.energies, s.count, s.record, s.handChecks, s.findings, s.timings, s.peakMemoryMb, s.stopped);
}

using ModesStudy = StudyOf<ModesOrder, ModesAnswer>;
const ModesStudy& modesStudy();

/// A fingerprint of where the nodes are, to a millionth of the largest distance: the same plan makes the same mesh, or
/// shapes are not those of its nodes.
std::uint64_t placesKey(const FrameMesh&);

/// A solution as an answer.
ModesAnswer answerOf(const Solution&);

/// The solution of this very model; its system holds motions and elements, no matrices. Throws ArchiveError where the
/// answer cannot be of this model. At rest: its motions are those of what is held as it is then.
Result<std::shared_ptr<const Solution>> solutionOf(const Model&, Result<ModesAnswer>, bool atRest = false);

/// A question to the modes of a model.
template <class Order>
struct AboutModes {
    Order order{};
    std::optional<ModesAnswer> own{}; ///< a solution at hand; else it is solved first
};
template <class Order>
auto fields(AboutModes<Order>& of)
{
    return named("order own", of.order, of.own);
}
/// Those that a question is about.
Result<std::shared_ptr<const Solution>> modesFor(const Model&, const std::optional<ModesAnswer>& own, const StudyRun&);

// What a run says of itself on the way (StudyRun::partly).

inline constexpr std::string_view frequenciesOnTheWay = "frequencies"; ///< those that have converged, Hz: their bytes
inline constexpr std::string_view modesOnTheWay = "modes";             ///< FoundModes

std::string bytesOfFound(const FoundModes&);
FoundModes foundFrom(std::string_view bytes);
/// The rest is not read.
FoundHead headOfFound(std::string_view bytes);

} // namespace undisona
