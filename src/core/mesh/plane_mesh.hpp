#pragma once
#include <Eigen/Dense>

#include <array>
#include <functional>
#include <vector>

namespace undisona {

/// A region of a plane with its boundary divided already.
struct PlaneRegion {
    std::vector<Eigen::Vector2d> points;      ///< of the boundary, of lines and points inside
    std::vector<std::vector<int>> loops;      ///< the outer one first, counter-clockwise; holes clockwise
    std::vector<std::array<int, 2>> segments; ///< lines inside that elements must follow
};

/// Three or four corners, counter-clockwise; -1 in the fourth place of a triangle.
using PlaneCell = std::array<int, 4>;

struct PlaneMesh {
    std::vector<Eigen::Vector2d> points; ///< first those of the region
    std::vector<PlaneCell> cells;
};

/// Fills a region with cells of about the given size, or smaller where `sizeAt` says so, which must change gently:
/// quadrilaterals round holes and on a grid along the longest edge, pairs of triangles between them, triangles to
/// close. No point is put on the boundary. The same region gives the same mesh.
PlaneMesh fillRegion(const PlaneRegion&, double size, const std::function<double(const Eigen::Vector2d&)>& sizeAt = {});

/// How near a cell is to a square or an even triangle: 1 for these, 0 or less where a corner is turned inside out.
double shapeOf(const std::vector<Eigen::Vector2d>& points, const PlaneCell&);

} // namespace undisona
