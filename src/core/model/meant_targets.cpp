#include "core/model/meant_targets.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// What a quantity of the kind is divided by; 0: by nothing.
int dividedBy(QuantityKind kind)
{
    switch (kind) {
    case QuantityKind::massPerLength:
    case QuantityKind::forcePerLength:
    case QuantityKind::stiffnessPerLength:
        return 1;
    case QuantityKind::massPerArea:
    case QuantityKind::forcePerArea:
    case QuantityKind::stiffnessPerArea:
        return 2;
    case QuantityKind::density:
    case QuantityKind::stiffnessPerVolume:
    case QuantityKind::forcePerVolume:
        return 3;
    default:
        return 0;
    }
}

/// The amount whose unit says what it is spread over; null where it is one in all.
const Quantity* amountPer(const Sentence& sentence)
{
    for (const auto& field : sentence.kind->fields) {
        const auto* amount = field.otherKinds.empty() ? nullptr : std::get_if<Quantity>(&sentence.value(field.key));
        if (amount && dividedBy(amount->kind) > 0) return amount;
    }
    return nullptr;
}

} // namespace

int dimensionsOf(Target target)
{
    switch (target) {
    case Target::point:
        return 0;
    case Target::member:
    case Target::edge:
        return 1;
    case Target::sheet:
    case Target::face:
        return 2;
    case Target::solid:
        break;
    }
    return 3;
}

Targets meantTargets(const Sentence& sentence, const Field& where)
{
    const Quantity* amount = amountPer(sentence);
    if (!amount) return where.targets;
    const auto extentOf = [&](Target target) { // where no volume is meant at all, a solid stands for its surface
        const bool surface =
            target == Target::solid && where.targets.has(Target::face) && !where.targets.has(Target::member);
        return surface ? dimensionsOf(Target::face) : dimensionsOf(target);
    };
    Targets meant;
    for (const Target target : everyTarget)
        if (where.targets.has(target) && extentOf(target) == dividedBy(amount->kind)) meant = meant | target;
    return meant.none() ? where.targets : meant; // of another side of a joint
}

std::string whyMeant(const Sentence& sentence, const Field& where)
{
    const Quantity* amount = amountPer(sentence);
    if (!amount) return {};
    return fmt::format("{} is {}, for {}.", amount->text, describe(amount->kind),
                       wordsOf(meantTargets(sentence, where), "and"));
}

} // namespace undisona
