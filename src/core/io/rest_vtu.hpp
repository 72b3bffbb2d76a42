#pragma once
#include "core/studies/rest.hpp"

namespace undisona {

/// Unstructured VTK XML of static states, or of the one that is named: displacements, m, the equivalent stress, Pa (the
/// largest of what stands at a node), and the shapes in which they buckle. Findings where the answer cannot be drawn.
Result<std::string> restVtu(const Model&, const RestAnswer&, const std::string& only = {});

} // namespace undisona
