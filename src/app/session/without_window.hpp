#pragma once
#include "app/session/session.hpp"

namespace undisona {

// What the program does in place of opening its window.

/// Says it on standard error. @return 1
int refuse(const QString& problem);
int refuse(const Findings&);

/// The stave of the take or state of that name, or the live one for none, once it is solved; or why it is not. Waits.
Result<std::size_t> solvedStave(Session&, const QString& take);

} // namespace undisona
