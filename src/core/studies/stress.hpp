#pragma once
#include "core/modal/modal_stress.hpp"
#include "core/studies/modes.hpp"

namespace undisona {

inline auto fields(Stress& of)
{
    return named("equivalent greatest least", of.equivalent, of.greatest, of.least);
}
inline auto fields(SectionForces& of)
{
    return named("axial shear twisting bending", of.axial, of.shear, of.twisting, of.bending);
}
inline auto fields(PartStress& of)
{
    return named("of owner name sentence most place where jump forces known bears", of.of, of.owner, of.name,
                 of.sentence, of.most, of.place, of.where, of.jump, of.forces, of.known, of.bears);
}
inline auto fields(ModalStress& of)
{
    return named("mode parts", of.mode, of.parts);
}
inline auto fields(StressReading& of)
{
    return named("modes places atPlaces atEnds", of.modes, of.places, of.atPlaces, of.atEnds);
}

using StressQuestion = AboutModes<NoOptions>;
/// Stresses of every mode, of unit modal mass.
using StressStudy = StudyOf<StressQuestion, StressReading>;
const StressStudy& stressStudy();

} // namespace undisona
