#pragma once
#include "core/model/model.hpp"
#include "core/shapes/frame.hpp"

#include <optional>

namespace undisona {

/// The model, whose frame is given, with a pattern sentence replaced by tables of its points and members, which keep
/// their names.
/// Nothing for a sentence that is no pattern. Picks of its roles ("legs of Mast") are replaced by names.
std::optional<Model> brokenUp(const Model&, const Frame&, const std::string& sentence);

} // namespace undisona
