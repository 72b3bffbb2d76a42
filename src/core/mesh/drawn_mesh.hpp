#pragma once
#include "core/mesh/frame_mesh.hpp"
#include "core/shapes/joined_faces.hpp"

namespace undisona {

/// The faces that are meshed here: all but those of parts that come as meshes.
const JoinedFaces& drawnFaces(const Structure&);

/// By face of those, m: the least of what it belongs to and of what is stated for it.
std::vector<double> faceSizes(const Structure&, const MeshSizes&);

/// Adds the sheets and solids that are drawn to a mesh that has the frame's points and sizes. Where elements of a
/// body's surface are in each other's way, smaller ones are tried there, which its sizes have then.
void addDrawn(const Structure&, FrameMesh&, Progress*);

} // namespace undisona
