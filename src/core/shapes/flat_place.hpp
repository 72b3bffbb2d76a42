#pragma once
#include "core/shapes/frame.hpp"

#include <optional>

namespace undisona {

/// A place on a flat face of a part, and the direction away from the part there, unit.
struct FlatPlace {
    Eigen::Vector3d place, outward;
};

/// The place on the nearest face of the sheets and solids named, if that is flat; `failure` says what the CAD kernel
/// could not do.
std::optional<FlatPlace> flatPlace(const Frame&, const std::vector<int>& sheets, const std::vector<int>& solids,
                                   const Eigen::Vector3d& near, std::string& failure);

} // namespace undisona
