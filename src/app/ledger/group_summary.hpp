#pragma once
#include "app/session/session.hpp"

namespace undisona {

enum class GroupState { settled, open, wrong };

/// The one line at a group's head: what it adds up to, and whether something is open or wrong.
struct GroupSummary {
    QString sum;
    GroupState state = GroupState::settled;
};
GroupSummary summaryOf(const Session&, Group);

/// The findings that belong to one sentence, worst first.
Findings findingsOf(const Session&, const std::string& sentence);

} // namespace undisona
