#pragma once
#include "core/base/finding.hpp"
#include "core/pencil/pencil.hpp"
#include "core/system/assemble.hpp"

namespace undisona {

/// The pencil of a structure's equations, which must outlive it, with its rigid motions. Findings tell of what has no
/// modes: nothing that moves, a direction with neither stiffness nor mass, more rigid motions than mostRigidMotions.
Result<Pencil> pencilOf(const System&);

/// The same without a look at its rigid motions, which are ordinary eigenvectors then.
Pencil matricesOf(const System&);

} // namespace undisona
