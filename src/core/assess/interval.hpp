#pragma once
#include <string>

namespace undisona {

/// A ratio of frequencies as the nearest interval of twelve equal semitones and what is left of it in cents (hundredths
/// of a semitone; Ellis 1885): "octave and a minor third, +14 cents"; with "lower" for a ratio below
/// one, the cents then counted downwards.
std::string intervalWords(double ratio);

} // namespace undisona
