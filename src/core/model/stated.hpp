#pragma once
#include "core/model/model.hpp"

namespace undisona {

/// The model with each statement said after what it says already. Fails where there is no such kind, sentence, row or
/// word, or a value cannot be read.
Result<Model> stated(Model, const std::vector<Statement>&);

} // namespace undisona
