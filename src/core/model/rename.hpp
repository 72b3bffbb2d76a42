#pragma once
#include "core/model/model.hpp"

namespace undisona {

/// The model with a name replaced wherever a pick, a place, a section or a material uses it, also as the
/// lead of the names a pattern makes ("Mast.3.1") and after "of".
Model renamed(const Model&, const std::string& from, const std::string& to);

} // namespace undisona
