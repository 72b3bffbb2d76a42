#pragma once
#include <string>
#include <string_view>
#include <vector>

namespace undisona {

/// What the trade also calls a kind of sentence: the keys of the kinds that are meant, best first; empty for none.
std::vector<std::string> kindsMeantBy(std::string_view word);

/// What to know where the word is one for a force: it has no place in natural frequencies. Empty otherwise.
std::string aboutForces(std::string_view word);

/// The kinds whose keys are spelt most like the word, one or two letters off; best first.
std::vector<std::string> kindsSpeltLike(std::string_view word);

} // namespace undisona
