#pragma once
#include "core/base/finding.hpp"
#include "core/model/model.hpp"

#include <set>

namespace undisona {

/// A model as a run takes it.
struct Expanded {
    Model model;                   ///< whose every word can be read and which says nothing that is left out
    std::set<std::string> leftOut; ///< ids of the masses and supports that it goes without
    Findings findings;
};

/// The first stage, from model to model: words that cannot be read are dropped and said, and so are the added masses
/// and supports that an Ask sentence leaves out of the run ("Leave out gearbox, cables"), by their label or by the id
/// that stands in the file. Findings tell of a name that nothing has, with those that there are.
Expanded expanded(const Model&);

} // namespace undisona
