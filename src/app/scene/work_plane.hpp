#pragma once
#include "app/scene/camera.hpp"

#include <optional>
#include <vector>

namespace undisona {

/// The plane on which points are clicked: square to a global axis, with a square grid through the origin.
struct WorkPlane {
    int normal = 1;       ///< 0, 1, 2 for x, y, z
    double level = 0.0;   ///< m, where it cuts its normal
    double spacing = 1.0; ///< m, > 0

    /// The place of the grid nearest to what the cursor points at; none when the plane is seen on edge, or
    /// farther off than the grid is drawn.
    std::optional<Eigen::Vector3d> under(const Camera&, const QPointF& cursor, const QSizeF& view) const;

    struct Line {
        Eigen::Vector3d from, to;
        bool throughOrigin; ///< of the plane
    };
    /// The lines to draw, around what the camera looks at.
    std::vector<Line> lines(const Camera&) const;

private:
    double reach(const Camera&) const; ///< half of the drawn width, m
    Eigen::Vector3d middle(const Camera&) const;
};

} // namespace undisona
