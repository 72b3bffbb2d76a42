#pragma once
#include "app/scene/work_plane.hpp"
#include "core/model/model.hpp"

namespace undisona {

/// What an outline drawn on the work plane becomes.
enum class OutlineKind { plate, solid };

/// A sentence of its corners (m, in the plane): a plate through them, or a solid drawn out square to the plane, whose
/// name is none of those taken.
Sentence drawnOutline(OutlineKind, const WorkPlane&, const std::vector<Eigen::Vector3d>& corners, const Model&);

} // namespace undisona
