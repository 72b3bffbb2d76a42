#pragma once
#include "core/mesh/frame_mesh.hpp"

#include <set>

namespace undisona {

/// Nodes along edges where the surface of a body, or of two that are joined, turns inwards by more than a seventh of a
/// right angle or so, corners of elements alone: there stress has no bound.
std::set<int> nodesOfInnerEdges(const FrameMesh&);

} // namespace undisona
