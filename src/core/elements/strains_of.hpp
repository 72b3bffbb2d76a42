#pragma once

namespace undisona {

/// What strains of an element are meant: those whose energy the stiffness has, assumed, projected or enhanced as the
/// family is; or those of the displacements that the mass has.
enum class StrainsOf { stiffness, displacements };

} // namespace undisona
