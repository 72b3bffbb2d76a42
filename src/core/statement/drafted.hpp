#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// A structure's shape and what it is made of, with nothing said of it but one sentence of the groups Joints, Supports
/// and Added mass: what that would do, before it is taken. Points that it makes are those that it made before.
Structure drafted(const Structure&, const Sentence&, Findings&);

} // namespace undisona
