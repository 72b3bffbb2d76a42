#pragma once
#include "core/model/sentence.hpp"
#include "core/shapes/frame.hpp"

namespace undisona {

/// A new sentence with what is there in place of the words that find nothing: the two parts nearest to each other where
/// it is about two, points of one place where it joins two, else the first of a kind that the word may name.
Sentence withFirstWords(const Frame&, Sentence);

} // namespace undisona
