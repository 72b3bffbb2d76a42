#pragma once
#include "core/model/model.hpp"

namespace undisona {

/// What differs between two states of a document, a line each in words: "only in the file: 85 kg on Mast.9.1",
/// "in the file: ...; here: ...". Sentences are matched by their id; takes by theirs. Empty if nothing does.
std::vector<std::string> differences(const Document& inFile, const Document& here);

/// The same of two models, one made from the other: "new: ...", "gone: ...", "was ...; now ...".
std::vector<std::string> differences(const Model& was, const Model& now);

} // namespace undisona
