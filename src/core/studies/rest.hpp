#pragma once
#include "core/modal/rest.hpp"
#include "core/studies/modes.hpp"
#include "core/studies/self_weight.hpp"
#include "core/studies/stress.hpp"

namespace undisona {

/// The static states that a model's loads make.
struct RestOrder {
    std::optional<MeshPlan> plan{}; ///< that of a solution at hand; else the first mesh of a run
    long factors = 4;               ///< buckling factors of each; 0: none
};
inline auto fields(RestOrder& of)
{
    return named("plan factors", of.plan, of.factors);
}

inline auto fields(RestContact& of)
{
    return named("point sentence against pushes bears force gap stated sideways slides places bearing", of.point,
                 of.sentence, of.against, of.pushes, of.bears, of.force, of.gap, of.stated, of.sideways, of.slides,
                 of.places, of.bearing);
}
inline auto fields(RestState& of)
{
    return named("name force moment carried contacts passes unbalanced moves moved at where parts buckles bucklesKnown",
                 of.name, of.force, of.moment, of.carried, of.contacts, of.passes, of.unbalanced, of.moves, of.moved,
                 of.at, of.where, of.parts, of.buckles, of.bucklesKnown);
}
inline auto fields(Rest& of)
{
    return named("states motions buckled fields endForces endShares unknowns", of.states, of.motions, of.buckled,
                 of.fields, of.endForces, of.endShares, of.unknowns);
}
struct RestAnswer {
    MeshPlan plan;
    std::uint64_t places = 0; ///< placesKey of the mesh
    Rest found;
};
inline auto fields(RestAnswer& of)
{
    return named("plan places found", of.plan, of.places, of.found);
}

using RestStudy = StudyOf<RestOrder, RestAnswer>;
const RestStudy& restStudy();

/// The mesh of an answer and its motions as a solution that can be looked at: a mode a state, or a mode a buckling
/// factor, without frequencies. Throws ArchiveError where the answer cannot be of this model.
Result<std::shared_ptr<const Solution>> restAsShapes(const Model&, const RestAnswer&, bool buckled);

} // namespace undisona
