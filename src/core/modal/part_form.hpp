#pragma once
#include "core/mesh/frame_mesh.hpp"
#include "core/statement/structure.hpp"

namespace undisona {

/// A form whose modes have names of their own.
struct PartForm {
    enum class Kind { rectangle, disc, turned } kind;
    Eigen::Matrix3d axes; ///< z across what is flat, along the axis of what is turned
    Eigen::Vector3d origin;
};

/// A part with the nodes on its face, of curved elements those in the middle of sides too.
struct FormedPart {
    PartForm form;
    std::set<int> nodes;
};

/// A sheet or solid, as Frame::partName counts them, that has such a form: a flat rectangle or disc of sheet; whatever
/// is turned about an axis all the way, drawn or from a file, found by its mesh. None of others.
std::optional<FormedPart> formedPart(const Frame&, const FrameMesh&, int part);

} // namespace undisona
