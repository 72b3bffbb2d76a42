#pragma once
#include "core/modal/self_weight.hpp"
#include "core/studies/answer_fields.hpp"
#include "core/studies/study.hpp"

namespace undisona {

/// At rest under its own weight: what each support carries, and how far it sinks.
struct SelfWeightOrder {
    std::optional<MeshPlan> plan{};    ///< that of a solution at hand; else the first mesh of a run
    std::vector<std::string> points{}; ///< where it is asked how stiff the structure is
};
inline auto fields(SelfWeightOrder& of)
{
    return named("plan points", of.plan, of.points);
}

inline auto fields(CarriedLoad& of)
{
    return named("sentence point force moment place", of.sentence, of.point, of.force, of.moment, of.place);
}
inline auto fields(PointStiffness& of)
{
    return named("point along about", of.point, of.along, of.about);
}
inline auto fields(SelfWeight& of)
{
    return named("mass weight carried unbalanced sinks moved at where unknowns stiffness", of.mass, of.weight,
                 of.carried, of.unbalanced, of.sinks, of.moved, of.at, of.where, of.unknowns, of.stiffness);
}

using SelfWeightStudy = StudyOf<SelfWeightOrder, SelfWeight>;
const SelfWeightStudy& selfWeightStudy();

} // namespace undisona
