#pragma once
#include <array>
#include <vector>

namespace undisona {

/// A straight wall of constant thickness along its midline, m.
struct ThinWall {
    std::array<double, 2> from, to;
    double thickness;
};

/// An open section as a tree of walls. The walls run from free ends towards a common point or on through
/// other walls: each wall that starts where others end takes up their shear flow.
using ThinWalls = std::vector<ThinWall>;

struct ShearFlowConstants {
    std::array<double, 2> shearCentre; ///< y, z in the coordinates of the walls, m
    std::array<double, 2> shearAreas;  ///< along axes turned by the given angle from y and z, m2
    double warping;                    ///< m6, about the shear centre
};

/// Vlasov's theory of thin-walled open sections (Vlasov, Thin-Walled Elastic Beams, 1961; Pilkey 2005, ch. 3).
ShearFlowConstants shearFlowConstants(const ThinWalls&, double axisAngle);

} // namespace undisona
