#pragma once
#include "core/model/model.hpp"
#include "core/shapes/frame.hpp"

namespace undisona {

// What drawing in the scene says in the model. Points go into the last table of points, members into the last
// sentence of members that is on; a new sentence is made where there is none.

/// To the micrometre.
Quantity drawnLength(double metres);

struct DrawnPoint {
    Model model;
    std::string name;
};
/// A point at the place (m); the name of the point that stands there already, if one does.
DrawnPoint withDrawnPoint(const Model&, const Frame&, const Eigen::Vector3d& place);

/// A member between two points by name.
Model withDrawnMember(const Model&, const Frame&, const std::string& from, const std::string& to);

} // namespace undisona
