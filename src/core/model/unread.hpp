#pragma once
#include "core/base/finding.hpp"
#include "core/model/model.hpp"

namespace undisona {

/// A word that could not be read as its field has it is kept as it was typed: a text where something else belongs, so
/// that a file opens with it, to be mended in its sentence.
bool isUnread(const Field&, const Value&);
bool isUnread(const Field& column, const Cell&);

/// An error for each such word of the active sentences, with what is the matter and what to write.
Findings unreadWords(const Model&);

/// The same with the fields' own fallbacks for such words, and without rows of tables that have one: nothing that reads
/// the model further meets them.
Model withoutUnread(const Model&);

} // namespace undisona
