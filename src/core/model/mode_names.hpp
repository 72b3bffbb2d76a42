#pragma once
#include "core/model/model.hpp"

#include <map>

namespace undisona {

/// Names that a model gives to its modes, by what the program calls them.
using ModeNames = std::map<std::string, std::string, std::less<>>;

ModeNames modeNamesOf(const Model&);

/// A model that gives this name to what the program calls so; empty takes it back.
Model withModeName(Model, const std::string& mode, const std::string& name);

} // namespace undisona
