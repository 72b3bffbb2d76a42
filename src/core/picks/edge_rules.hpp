#pragma once
#include "core/shapes/frame.hpp"

#include <optional>

namespace undisona {

/// Rules that find edges of sheets and solids: "edges of Plate", "free edges of Plate", "rims of Plate", "rims of
/// radius 20 mm of Plate", "edges at x = 0 m", "edges at z = 1 m of Plate", "edge nearest to 0 0 1 m", "edges smooth
/// with edge nearest to 0 0 1 m" (that one and all that go on from it without a corner). "Of" a name may be left out,
/// and sheets are meant then, solids where there are none.
class EdgeRules {
public:
    explicit EdgeRules(const Frame& frame) : frame_(frame) {}

    /// Indices of frame.faces->edges; nothing where the words are no such rule.
    std::optional<std::vector<int>> read(const std::string& term) const;

private:
    struct Parts {
        std::vector<int> sheets, solids;
    };
    std::vector<int> outline(const Parts&) const;            ///< what bounds them, holes included
    bool isRim(int edge, const Parts&, double radius) const; ///< radius 0: of any
    bool boundsHole(int edge, const Parts&) const;           ///< of a face of a solid, or of sheet from a file
    bool ofOneSheet(int edge) const;
    std::vector<int> smoothWith(std::vector<int> edges) const; ///< and all that go on from them without a corner

    const Frame& frame_;
};

/// The rule that finds one edge alone.
std::string ruleForEdge(const Frame&, int edge);

} // namespace undisona
