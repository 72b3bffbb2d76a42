#pragma once
#include "core/modal/self_weight.hpp"
#include "core/studies/answer_fields.hpp"
#include "core/studies/study.hpp"

namespace undisona {

/// At rest under its own weight: what each support carries, and how far it sinks.
struct SelfWeightOrder {
    std::optional<MeshPlan> plan{}; ///< that of a solution at hand; else the first mesh of a run
};
inline auto fields(SelfWeightOrder& of)
{
    return named("plan", of.plan);
}

inline auto fields(CarriedLoad& of)
{
    return named("sentence point force place", of.sentence, of.point, of.force, of.place);
}
inline auto fields(SelfWeight& of)
{
    return named("mass weight carried unbalanced sinks moved at where unknowns", of.mass, of.weight, of.carried,
                 of.unbalanced, of.sinks, of.moved, of.at, of.where, of.unknowns);
}

using SelfWeightStudy = StudyOf<SelfWeightOrder, SelfWeight>;
const SelfWeightStudy& selfWeightStudy();

} // namespace undisona
