#pragma once
#include "core/model/model.hpp"

namespace undisona {

/// What differs between two states of a document, a line each in words: "only in the file: 85 kg on Mast.9.1", "Deck:
/// its thickness in the file 6 mm, here 8 mm". Sentences are matched by their id; takes by theirs. Empty if nothing
/// does.
std::vector<std::string> differences(const Document& inFile, const Document& here);

/// The same of two models, one made from the other: "new: ...", "gone: ...", "Deck: its
/// thickness was 6 mm, now 8 mm"; whole sentences where most of their words differ.
std::vector<std::string> differences(const Model& was, const Model& now);

} // namespace undisona
