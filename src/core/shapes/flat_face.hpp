#pragma once
#include "core/shapes/sheet.hpp"

namespace undisona {

/// The same as a panel that holes can be cut into, where it is one flat face within lines and arcs: measured from the
/// origin of its file along the file's x axis (y, where x is square to it), both carried with the part. Names and
/// colours of the face are left behind.
std::optional<FlatPanel> flatPanelOf(const KeptFaces&);

} // namespace undisona
