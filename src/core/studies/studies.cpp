#include "core/studies/by_hand.hpp"
#include "core/studies/cost.hpp"
#include "core/studies/modes.hpp"
#include "core/studies/remedy.hpp"
#include "core/studies/rest.hpp"
#include "core/studies/self_weight.hpp"
#include "core/studies/settling.hpp"
#include "core/studies/stress.hpp"
#include "core/studies/sweep.hpp"
#include "core/studies/tolerances.hpp"

namespace undisona {

static_assert(
    allNamed<CostAnswer, NoOptions, ModesOrder, SettlingOrder, SettledFrequency, Settling::Round, Settling,
             SelfWeightOrder, CarriedLoad, SelfWeight, RemedyOrder, SideEffect, Proposal, SaidQuantity, WordSlope,
             Remedy, RemedyQuestion, SweepOrder, SweepStep, SweepMeeting, WordSweep, ToleranceOrder, Tolerance,
             ToleratedWord, FrequencyRange, ClashChance, ToleratedModes, ToleranceQuestion, Stress, SectionForces,
             PartStress, ModalStress, StressReading, StressQuestion, RestOrder, RestContact, RestState, Rest,
             RestAnswer, HandOrder, HandComparison, HandReading, HandQuestion>());

const std::vector<Study>& studies()
{
    static const std::vector<Study> all{modesStudy().untyped(),  settlingStudy().untyped(), selfWeightStudy().untyped(),
                                        remedyStudy().untyped(), sweepStudy().untyped(),    toleranceStudy().untyped(),
                                        stressStudy().untyped(), restStudy().untyped(),     handStudy().untyped(),
                                        costStudy().untyped()};
    return all;
}

const Study* studyNamed(std::string_view key)
{
    const auto found =
        std::find_if(studies().begin(), studies().end(), [&](const Study& one) { return one.key == key; });
    return found == studies().end() ? nullptr : &*found;
}

} // namespace undisona
