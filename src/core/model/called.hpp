#pragma once
#include "core/model/sentence.hpp"

namespace undisona {

/// What a sentence is called in a list: its name, its label or its words.
std::string called(const Sentence&);

} // namespace undisona
