#pragma once
#include "core/mesh/frame_mesh.hpp"

namespace undisona {

/// Adds the parts that come as meshes to a mesh that has the drawn ones. Their nodes at points of the frame are those
/// points'.
void addGiven(const Structure&, FrameMesh&);

/// The first part that comes as a mesh, and so has no other one; empty where none does.
std::string partWithOneMesh(const Structure&);

} // namespace undisona
