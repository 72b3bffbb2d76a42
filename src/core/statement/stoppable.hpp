#pragma once
#include "core/base/progress.hpp"
#include "core/statement/structure.hpp"

namespace undisona {

/// The same as buildStructure(model), which ends early where the progress is stopped while parts are made and joined;
/// then there is nothing but a finding that says so.
StructureAndFindings buildStructure(const Model&, const Progress&);

} // namespace undisona
