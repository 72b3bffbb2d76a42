#pragma once
#include "core/model/grammar.hpp"

namespace undisona {

/// Kinds of sentences of one group that do alike things, in the order in which they are offered.
struct KindFamily {
    std::string_view title; ///< "Sheet", "Holes and openings"
    std::vector<std::string_view> keys;
};
/// Every kind of sentence is in one of them.
const std::vector<KindFamily>& kindFamilies();
const KindFamily& familyOf(const SentenceKind&);

} // namespace undisona
