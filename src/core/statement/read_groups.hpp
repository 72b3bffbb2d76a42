#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

// A file a group: into a structure whose frame is there, and what it leaves out.

void readMaterials(const Model&, Structure&, Findings&);
void readJoints(const Model&, Structure&, Findings&);
void readSupports(const Model&, Structure&, Findings&);
void readMasses(const Model&, Structure&, Findings&);
/// The loads and the static states that they make.
void readLoads(const Model&, Structure&, Findings&);
void readExcitations(const Model&, Structure&, Findings&);
/// What is asked for, how it is found, and the hand checks.
void readAsk(const Model&, Structure&, Findings&);
/// Of the group Ask too: how large elements are, and of which kind.
void readSizes(const Model&, Structure&, Findings&);

} // namespace undisona
