// The sentences of the group Loads, which make static states.
#include "core/model/grammar.hpp"

namespace undisona {

namespace {

using enum FieldType;
using K = QuantityKind;

Field direction(std::string label, std::string fallback)
{
    return vectorField("direction", std::move(label), K::number, std::move(fallback));
}

/// What every load has: the states that it belongs to, and what it is.
void addState(SentenceKind& kind)
{
    kind.fields.push_back(optionalField(
        textField("state", label, "the static states it belongs to, with commas; all of them unless said", "hung")));
    kind.fields.push_back(optionalField(textField("label", label, "what it is", "load")));
    kind.phrase += "[, in state {state}][: {label}]";
}

} // namespace

void addLoadKinds(std::vector<SentenceKind>& all)
{
    SentenceKind weight{
        "own-weight",
        Group::loads,
        "own weight",
        "Own weight[, {factor} times][, towards {direction}]",
        {optionalField(quantityField("factor", "how many times gravity", K::number, "1")),
         optionalField(direction("where it pulls; down along z unless said", "0, 0, -1"))},
        "Gravity on all mass there is, of parts and added: 9.80665 m/s2. It has no part in modes unless they are "
        "asked for about a static state."};
    addState(weight);
    all.push_back(weight);

    Field force = quantityField("load", "the force, in all or per length, area or volume", K::force, "10 kN");
    force.otherKinds = {K::forcePerLength, K::forcePerArea, K::forcePerVolume};
    SentenceKind push{"force",
                      Group::loads,
                      "a force",
                      "{load} along {direction} on {where}",
                      {force, direction("the direction", "0, 0, -1"),
                       whereField("where", spreadTargets | Target::point, "what it acts on", "highest points")},
                      "A static force that does not turn with what it acts on: kN/m is meant per length of members and "
                      "edges, kN/m2 per area of sheets and faces, N/m3 per volume, and kN is shared over all that is "
                      "named. Modes feel it only when they are asked for about a static state."};
    addState(push);
    all.push_back(push);

    SentenceKind moment{"moment",
                        Group::loads,
                        "a moment",
                        "{moment} about {direction} at {points}",
                        {quantityField("moment", "the moment", K::moment, "1 kN m"),
                         direction("the axis it turns about", "0, 0, 1"),
                         whereField("points", Target::point, "the points that share it", "highest points")},
                        "A static moment, shared evenly by the points that are named."};
    addState(moment);
    all.push_back(moment);

    SentenceKind pressure{
        "pressure",
        Group::loads,
        "a pressure",
        "{pressure} of pressure on {where}[, from {side}]",
        {quantityField("pressure", "the pressure", K::stress, "0.1 MPa"),
         whereField("where", Target::sheet | Target::face, "what it presses on", "everything"),
         optionalField(choiceField("side", "the side of sheet that it presses on", {"above", "below"}))},
        "Square to the surface: into a body, and onto the upper side of sheet unless the other is "
        "said; less than nothing sucks. The upper side is the one that its normal points to."};
    addState(pressure);
    all.push_back(pressure);

    SentenceKind tight{"pretension",
                       Group::loads,
                       "pretension of members",
                       "{force} of pretension in {members}",
                       {quantityField("force", "the force of each", K::force, "5 kN"),
                        whereField("members", Target::member, "the members", "everything")},
                       "Each is drawn tight by this force while its ends stand still; how much of it is left once "
                       "what it pulls at gives way stands under Rest. Less than nothing presses."};
    addState(tight);
    all.push_back(tight);

    SentenceKind warming{"warming",
                         Group::loads,
                         "a change of temperature",
                         "{where} warmer by {by}[, the upper side by {across} more]",
                         {whereField("where", partTargets, "what is warmer", "everything"),
                          quantityField("by", "the difference from when it was put together", K::warming, "40 K"),
                          optionalField(quantityField("across",
                                                      "how much warmer the upper side of sheet is than the "
                                                      "lower one",
                                                      K::warming, "10 K"))},
                         "What is warmed expands as its material does, and presses where it cannot. Less than nothing "
                         "is colder."};
    addState(warming);
    all.push_back(warming);

    SentenceKind shift{"shift",
                       Group::loads,
                       "shifted supports",
                       "Supports at {points} are shifted by {by}",
                       {whereField("points", Target::point, "the points, which are held that way", "points at z = 0 m"),
                        vectorField("by", "by how much, along x, y, z", K::length, "0, 0, -5 mm")},
                       "A footing that settles, a flange that comes along with the hull, a bearing that was set too "
                       "high: what is held there moves by that, and all else follows."};
    addState(shift);
    all.push_back(shift);

    SentenceKind spin{"spin",
                      Group::loads,
                      "spinning",
                      "Everything spins at {speed} about {direction} through {through}",
                      {positiveField(quantityField("speed", "the speed", K::frequency, "600 rpm")),
                       direction("the axis", "0, 0, 1"),
                       vectorField("through", "a point of the axis", K::length, "0, 0, 0 m")},
                      "A rotor, a disc, a blade, seen by one who spins with it: centrifugal forces pull it outwards, "
                      "which makes it stiffer, and its mass across the axis softer. Modes are those without "
                      "gyroscopic forces."};
    addState(spin);
    all.push_back(spin);

    SentenceKind bears{"bears-as-said",
                       Group::loads,
                       "whether one-sided supports bear",
                       "What bears on one side alone at {points} {how}",
                       {whereField("points", bearingTargets, "what it pushes or pulls", "everything"),
                        choiceField("how", "whether they bear", {"bears whatever the loads", "is open"})},
                       "In place of what the loads have it: a gap that dirt has closed, a hanger that is taken off. "
                       "Said of no state it is said of all, and of modes about none.",
                       {Touch::stiffness, Touch::load}};
    addState(bears);
    all.push_back(bears);

    Field rows{"rows", table, "the states it is made of", {}};
    rows.columns = {textField("state", label, "the state", "hung"),
                    quantityField("factor", "how many times", K::number, "1")};
    all.push_back({"combined-state",
                   Group::loads,
                   "a static state made of others",
                   "State {name} is {rows}",
                   {textField("name", label, "the name of the state", "hung and full"), rows},
                   "So many times this state and so many times that, a line each: a factor beside each name that "
                   "loads give."});
}

} // namespace undisona
