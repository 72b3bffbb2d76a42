#pragma once

namespace undisona {

/// From now on every label and tooltip shows its text as it is, unless its format is set in so many words: what a
/// person typed as a name is no markup, and loads no picture. Call once, when there is an application.
void installPlainLabels();

} // namespace undisona
