#pragma once
#include "core/model/target.hpp"
#include "core/shapes/frame.hpp"

#include <optional>
#include <string>

namespace undisona {

/// The end of a pick's term that keeps what lies in a part of space: "... between z = 0 m and 16 m" keeps what lies
/// there whole, "... within 2 m of (1, 0, 3 m)" or "... within 2 m of Mast.3.1" what comes so near to the place.
class PlaceRange {
public:
    bool holds(const Frame&, Target, int at) const;

private:
    friend struct RangedTerm;
    int axis_ = -1; ///< -1: about a place
    double low_ = 0.0, high_ = 0.0;
    Eigen::Vector3d place_ = Eigen::Vector3d::Zero();
    double reach_ = 0.0;
};

struct RangedTerm {
    std::string rule; ///< before the range
    PlaceRange range;
    std::string problem; ///< of words that begin as a range does and are none

    /// Nothing where no range is meant.
    static std::optional<RangedTerm> read(const Frame&, const std::string& term);
};

} // namespace undisona
