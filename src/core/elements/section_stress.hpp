#pragma once
#include "core/model/section.hpp"

#include <optional>

namespace undisona {

/// What a member carries through a section, in its principal axes: N and N m, each with the sign that it has on the
/// face towards the member's end.
struct SectionForces {
    double axial = 0.0;              ///< pulls where positive
    std::array<double, 2> shear{};   ///< along axis 1 and 2
    double twisting = 0.0;           ///< about x
    std::array<double, 2> bending{}; ///< about axis 1 and 2
};

/// Stress of one place, Pa.
struct Stress {
    double equivalent = 0.0;            ///< von Mises
    double greatest = 0.0, least = 0.0; ///< principal, the greatest and the least
};

/// The largest that the forces bring to a section: axial force and bending with the shear of twisting at the outer
/// fibres, or axial force with the shear of both at the axis. Plane sections, no warping, nothing that a weld, a hole
/// or a corner adds. Nothing of a section that is given by its figures alone, whose fibres are not known. Twisting:
/// closed thin walls by Bredt; open ones T t / J; the rectangle by Roark's Formulas for Stress and Strain (Young and
/// Budynas, 2002), table 10.1, case 4.
std::optional<Stress> largestStress(const Section&, const SectionForces&, double poisson);

/// Twisting moment per largest shear stress, m3; 0 where it is not known.
double twistingModulus(const Section&);

} // namespace undisona
