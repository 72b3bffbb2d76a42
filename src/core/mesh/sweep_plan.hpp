#pragma once
#include "core/shapes/sweep.hpp"
#include "core/shapes/whole_turn.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

namespace undisona {

/// What is wanted of a body's mesh.
struct BodyRequest {
    double size; ///< of the elements, m
    BodyElements elements = BodyElements::byShape;
    long through = 0; ///< elements through the thickness, at least; 0: as the size has it
    long unsaid = 2;  ///< those through it where nobody says: one of the second order is a per cent off in twisting

    bool operator==(const BodyRequest&) const = default;
};

/// How a body is going to be meshed.
struct BodyPlan {
    std::optional<Sweep> sweep;    ///< of a part of a turn, or along a line
    std::optional<WholeTurn> turn; ///< of a whole turn; neither: tetrahedra
    bool linear = false;           ///< eight-node bricks
    long layers = 1;               ///< of a sweep, at least
    double size;                   ///< of the elements of its faces; of a sweep of those of its first face, m
    double thickness;              ///< of the thinnest direction, m
    bool thinAcross = false;       ///< a sweep that is thin in its profile, not along its way
    long leastAcross = 1;          ///< elements across a profile that is a ring or has four sides, at least
    long across = 0;               ///< and those that it got; 0: it is neither
    bool layered() const { return sweep || turn; }
    long through() const ///< about
    {
        return !thinAcross ? layers : across > 0 ? across : std::max(1L, std::lround(thickness / size));
    }
};

struct SweepPlan {
    std::vector<BodyPlan> bodies; ///< beside the faces' solids
    std::vector<int> order;       ///< of those with a sweep: each after those that mesh its first face
};

/// Bodies that are sweeps are swept, unless they share a face with one that cannot follow: quadrilaterals meet no
/// triangles. Of several ways the shortest is taken, so that a flat body is swept through its thickness.
SweepPlan planSweeps(const JoinedFaces&, const std::vector<BodyRequest>& ofBody);

} // namespace undisona
