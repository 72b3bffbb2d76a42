#pragma once
#include "core/base/progress.hpp"

#include <Eigen/Dense>

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace undisona {

/// A closed surface of triangles and what fills it.
struct FilledSurface {
    std::vector<Eigen::Vector3d> points; ///< first those of the surface, then new ones inside
    std::vector<std::array<int, 4>> tetrahedra;
    std::string problem; ///< empty if it was filled
};

/// Tetrahedra within a closed surface, whose triangles stay as they are, none larger than the volume, m3; with points
/// inside that keep them well formed (Si 2015). The same surface gives the same tetrahedra.
/// A large one is filled in a process of its own, which a stop or the lapse of ten minutes ends.
FilledSurface fillSurface(const std::vector<Eigen::Vector3d>& points, const std::vector<std::array<int, 3>>& triangles,
                          double largestVolume, const Progress* = nullptr);
/// What that process does: from what it reads to what it answers, in a binary form.
std::string fillForOther(const std::string& asked);

} // namespace undisona
