#pragma once
#include "core/statement/structure.hpp"

namespace undisona {

/// A lattice mast of so many bays, twelve members a bay, as the user would state it; one element a member.
Model statedMast(long bays, long modes);

/// A square plate of 10 m on supported edges in so many elements a side.
Model statedPlate(long side, long modes);

/// A solid cube of 1 m on a held face, of about so many elements a side.
Model statedCube(long side, long modes);

/// A house of equal bays and storeys, held at its feet, with one mass of 500 kg at a joint.
Model statedHouse(long bays, long storeys, const std::string& at, const std::string& mass, long modes, long elements);

} // namespace undisona
