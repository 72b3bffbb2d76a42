#pragma once
#include "core/modal/solve.hpp"
#include "core/studies/finding_fields.hpp"

namespace undisona {

// The members of all that answers are made of, and the words of their kinds of things.

/// The little of modes on their way that is looked at while the run goes on.
struct FoundHead {
    MassSoFar mass;
    bool proven = false;
};

constexpr std::string_view wordOf(PartKind kind)
{
    constexpr std::array<std::string_view, 10> words{"member", "sheet",   "solid", "mass",   "spread mass",
                                                     "spring", "support", "bed",   "tension"};
    return words[static_cast<std::size_t>(kind)];
}
constexpr std::string_view wordOf(OwnerKind kind)
{
    constexpr std::array<std::string_view, 6> words{"member", "sheet", "solid", "edge", "point"};
    return words[static_cast<std::size_t>(kind)];
}

inline auto fields(CountCheck& of)
{
    return named("aboveHz belowHz expected found before method proven shown lastHz cutHz", of.aboveHz, of.belowHz,
                 of.expected, of.found, of.before, of.method, of.proven, of.shown, of.lastHz, of.cutHz);
}
inline auto fields(RunRecord& of)
{
    return named("shifts held factorisations blockSolves restarts block lookedAgain factorEntries orthogonality "
                 "countGrowth keptFactor keptModes countByUpdate",
                 of.shifts, of.held, of.factorisations, of.blockSolves, of.restarts, of.block, of.lookedAgain,
                 of.factorEntries, of.orthogonality, of.countGrowth, of.keptFactor, of.keptModes, of.countByUpdate);
}
inline auto fields(Extraction& of)
{
    return named(
        "lambda shapes acceptedError residual floor rigid mechanisms nextLambda all ritz cutShort check record",
        of.lambda, of.shapes, of.acceptedError, of.residual, of.floor, of.rigid, of.mechanisms, of.nextLambda, of.all,
        of.ritz, of.cutShort, of.check, of.record);
}
inline auto fields(ResidualVectors& of)
{
    return named("lambda shapes loads staticError", of.lambda, of.shapes, of.loads, of.staticError);
}
inline auto fields(MassSoFar& of)
{
    return named("hertz sums", of.hertz, of.sums);
}
inline auto fields(FoundHead& of)
{
    return named("mass proven", of.mass, of.proven);
}
inline auto fields(SizeField::Source& of)
{
    return named("place size growth", of.place, of.size, of.growth);
}
inline auto fields(MeshSizes& of)
{
    return named("ofPart places ofStated", of.ofPart, of.places, of.ofStated);
}
inline auto fields(MeshPlan& of)
{
    return named("splits sizes", of.splits, of.sizes);
}
inline auto fields(Mode& of)
{
    return named("number group lambda frequency rigid mechanism ritz acceptedError residual floor meshError "
                 "meshErrorEither part motion name local matters noMass",
                 of.number, of.group, of.lambda, of.frequency, of.rigid, of.mechanism, of.ritz, of.acceptedError,
                 of.residual, of.floor, of.meshError, of.meshErrorEither, of.part, of.motion, of.name, of.local,
                 of.matters, of.noMass);
}
inline auto fields(Participation& of)
{
    return named("reference total movable factor effective", of.reference, of.total, of.movable, of.factor,
                 of.effective);
}
inline auto fields(EnergyRow& of)
{
    return named("kind sentence of owner name", of.kind, of.sentence, of.of, of.owner, of.name);
}
inline auto fields(Energies& of)
{
    return named("rows strain kinetic axial twisting bending", of.rows, of.strain, of.kinetic, of.axial, of.twisting,
                 of.bending);
}
inline auto fields(HandEstimate& of)
{
    return named("sentence deflection stiffness mass frequency nearestMode", of.sentence, of.deflection, of.stiffness,
                 of.mass, of.frequency, of.nearestMode);
}

// A member that is added to one of these and not to its fields above would be left behind without a word.
static_assert(allNamed<CountCheck, RunRecord, Extraction, ResidualVectors, MassSoFar, FoundHead, SizeField::Source,
                       MeshSizes, MeshPlan, Mode, Participation, EnergyRow, Energies, HandEstimate>());

} // namespace undisona
