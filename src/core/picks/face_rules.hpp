#pragma once
#include "core/shapes/frame.hpp"

#include <optional>

namespace undisona {

/// Rules that find faces of solids: "faces of Block", "faces at z = 0 m", "faces at x = 1 m of Block", "faces of radius
/// 20 mm of Block", "face nearest to 0 0 1 m", "faces smooth with face nearest to 0 0 1 m" (that one and all that go on
/// from it without a corner), "faces in one plane with face nearest to 0 0 1 m", "faces named Pad of Block" and "faces
/// of colour #cc2200 of Block" as the file has them. "Of" a name may be left out.
class FaceRules {
public:
    explicit FaceRules(const Frame& frame) : frame_(frame) {}

    /// Indices of frame.faces->faces; nothing where the words are no such rule.
    std::optional<std::vector<int>> read(const std::string& term) const;

private:
    std::vector<int> outside(const std::vector<int>& solids) const; ///< the faces of these, those between two left out

    std::vector<int> smoothWith(std::vector<int> faces) const;

    const Frame& frame_;
};

/// "#cc2200" for red, green, blue of 0...1.
std::string colourText(const Eigen::Vector3d& colour);

/// The rule that finds one face alone.
std::string ruleForFace(const Frame&, int face);

} // namespace undisona
