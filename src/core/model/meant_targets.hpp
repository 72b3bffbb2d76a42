#pragma once
#include "core/model/sentence.hpp"

namespace undisona {

/// 1 where it has a length, 2 an area, 3 a volume; 0 of a point.
int dimensionsOf(Target);

/// What a pick of a sentence may name: all that its field may, but where an amount beside it is meant per length, area
/// or volume by its unit, what has one.
Targets meantTargets(const Sentence&, const Field& where);

/// Why those alone, "12 kg/m2 is a mass per area, for sheets and faces."; empty where the field's own are meant.
std::string whyMeant(const Sentence&, const Field& where);

} // namespace undisona
