#pragma once
#include "core/base/finding.hpp"
#include "core/model/model.hpp"

#include <set>

namespace undisona {

/// The added masses and supports that an Ask sentence leaves out of the run ("Leave out gearbox, cables"), by sentence
/// id. They are named by their label, or by the id that stands in the file. Findings tell of a name that nothing has,
/// with those that there are.
std::set<std::string> leftOut(const Model&, Findings&);

} // namespace undisona
