#pragma once
#include "core/shapes/mesh_file.hpp"

namespace undisona {

/// Reads a VTU file in any of its encodings, by the VTK library. Linear triangles and quadrilaterals, bricks of 8 and
/// 20 nodes, wedges of 6 and 15 and tetrahedra of 10 are taken as they are; tetrahedra of 4 get nodes in the middle of
/// their sides; sheet of the second order is parted at its nodes; points and lines are left out, which is said. Groups:
/// whole numbers at cells, with names where the file has an array of strings of the same name; marks (0, 1) or named
/// numbers at points.
MeshFile readVtu(const std::string& path);

} // namespace undisona
