#pragma once
#include "core/base/finding.hpp"
#include "core/model/model.hpp"

namespace undisona {

/// A model in one of its states: what a sentence "State iced: without crates, with ice" makes of it.
struct State {
    std::string sentence; ///< id of that one
    std::string name;
    Model model; ///< without the sentences that tell states
};

/// The static state that loads make where none of them names any.
inline constexpr const char* unnamedState = "loaded";

/// Each state that a model tells of, in its order: masses and supports left out by label or id, sentences of any group
/// that are off put on, the static state that its modes are about. Those whose names are wrong are there too; findings tell of them.
std::vector<State> statesOf(const Model&);

/// What may be left out by its label or its name: added masses, supports, and joints that have labels.
std::vector<SentencePtr> canBeLeftOut(const Model&);

/// Names in them that nothing has, states that change nothing, two of one name.
Findings stateFindings(const Model&);

} // namespace undisona
