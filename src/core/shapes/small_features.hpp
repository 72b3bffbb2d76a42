#pragma once
#include "core/shapes/solid.hpp"

namespace undisona {

/// A rounded edge, a bore or a mark on a body, which a mesh for its modes can do without.
struct SmallFeature {
    enum class Kind { round, hole, mark };
    Kind kind;
    double size;           ///< m; a round's radius, a hole's diameter, a mark's extent
    Eigen::Vector3d place; ///< m, about its middle
};

/// Which of them are meant.
struct SmallFeatureRule {
    bool rounds = true, holes = true, marks = true;
    double below;                      ///< m
    std::vector<Eigen::Vector3d> keep; ///< the feature nearest to each of these stays
};

struct WithoutFeatures {
    std::optional<KeptShape> shape;   ///< none where nothing was taken away
    std::vector<SmallFeature> gone;   ///< the largest first
    std::vector<SmallFeature> stayed; ///< those that the faces about them cannot close over
    std::vector<SmallFeature> asked;  ///< those that were to be kept
};

/// The body with its small features closed over by the faces about them. What was made lately is kept.
/// A round: faces of one small radius that go on smoothly into those about them, with all others they reach so; a hole:
/// a whole turn about an axis from which the material lies outward, with its bottom; a mark: all faces within one line
/// on a face, all of it within the size.
WithoutFeatures withoutSmall(const SolidShape&, const SmallFeatureRule&);

} // namespace undisona
