#pragma once
#include "core/model/model.hpp"

namespace undisona {

/// 64-bit fingerprint of all active sentences whose kinds have a part in any of these (SentenceKind::touches), without
/// labels unless what is left out goes by them: what an answer that depends on these is kept under.
std::uint64_t keyOf(const Model&, const std::vector<Touch>& needs);

/// What the modes of a model depend on.
const std::vector<Touch>& modesNeed();

/// As solveKey, but of the contents of the files that it names, wherever they lie and whenever they were written: what
/// results are kept under in a file.
std::uint64_t lastingKey(const Model&);

} // namespace undisona
