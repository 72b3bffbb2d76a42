#pragma once
#include "core/modal/modal_stress.hpp"
#include "core/statement/told_apart.hpp"

namespace undisona {

struct MemberSurface;
struct PartSurface;

/// What the colours of the structure in a mode say.
enum class Colouring {
    size,
    x,
    y,
    z,
    energy,
    energyDensity,
    stress,
    meshError,
    massSlope,
    springSlope,
    elementSize,
    material,
    section,
    thickness,
    part,
    subAssembly,
    plain
};

/// What parts are told apart by where the colours are those of their kinds, whatever the mode.
std::optional<ToldBy> toldBy(Colouring);

/// Figures of a mode that are coloured from 0 to the most.
struct ModeShares {
    std::vector<double> members;  ///< by member
    std::vector<double> parts;    ///< by sheet, then by solid; where there are none by vertex
    std::vector<double> vertices; ///< of the faces drawn; may be empty
    std::vector<double> stations; ///< of the members drawn, in place of `members`; may be empty
    double most = 1e-300;

    double at(std::size_t vertex, std::size_t part) const
    {
        return vertex < vertices.size() ? vertices[vertex] : parts[part];
    }
    double along(std::size_t station, std::size_t member) const
    {
        return station < stations.size() ? stations[station] : members[member];
    }
};

/// Of strain energy by part, how strained (the root of the energy per volume), or where the mesh error sits (the root
/// of a piece's error per area or volume), or what a kilogram or a spring would do in each place (Hz per kg, Hz per
/// N/m; their size); of a mode counted from 1. Of the equivalent stress (Pa at unit modal mass) where stresses of that
/// solution are there. Of the size of elements, m. Zeros for other colourings.
ModeShares modeShares(const Solution&, int mode, Colouring, const PartSurface&, const MemberSurface&,
                      const StressReading*);

} // namespace undisona
