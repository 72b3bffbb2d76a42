#pragma once
#include "core/modal/first_mesh.hpp"
#include "core/modal/mesh_error.hpp"

namespace undisona {

/// How far off the mesh leaves each mode: by its own strains, and of solids by the same modes on a coarser mesh too:
/// that of the first guess where it serves, else one that is made for it.
MeshErrors judged(const Structure&, const Pass&, Progress&, const FirstGuess& = {});

} // namespace undisona
