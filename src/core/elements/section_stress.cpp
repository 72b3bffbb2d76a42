#include "core/elements/section_stress.hpp"

#include <algorithm>
#include <cmath>

namespace undisona {

namespace {

/// Of an axial stress with a shear beside it.
Stress stressOf(double axial, double shear)
{
    const double radius = std::hypot(axial / 2.0, shear);
    return {std::sqrt(axial * axial + 3.0 * shear * shear), axial / 2.0 + radius, axial / 2.0 - radius};
}

/// The axial stresses of the outermost fibres, the greatest and the least.
std::array<double, 2> fibres(const Section& section, const SectionForces& forces)
{
    const double mean = forces.axial / section.area;
    if (section.shape == SectionShape::round || section.shape == SectionShape::tube) {
        const double bending = std::hypot(forces.bending[0], forces.bending[1]) * section.sizes[0] / 2.0 / section.i1;
        return {mean + bending, mean - bending};
    }
    const double cosine = std::cos(section.principalAngle), sine = std::sin(section.principalAngle);
    std::array<double, 2> ends{-1e300, 1e300};
    for (const auto& [y, z] : section.outline) {
        const double one = y * cosine + z * sine, two = z * cosine - y * sine;
        const double stress = mean + forces.bending[0] * two / section.i1 - forces.bending[1] * one / section.i2;
        ends = {std::max(ends[0], stress), std::min(ends[1], stress)};
    }
    return ends;
}

} // namespace

double twistingModulus(const Section& section)
{
    const auto& s = section.sizes;
    switch (section.shape) {
    case SectionShape::round:
    case SectionShape::tube:
        return section.torsion / (s[0] / 2.0);
    case SectionShape::rectangle: {
        const double a = std::max(s[0], s[1]) / 2.0, b = std::min(s[0], s[1]) / 2.0, r = b / a;
        return 8.0 * a * b * b / 3.0 /
               (1.0 + 0.6095 * r + 0.8865 * r * r - 1.8023 * r * r * r + 0.9100 * r * r * r * r);
    }
    case SectionShape::box:
        return 2.0 * (s[0] - s[2]) * (s[1] - s[2]) * s[2];
    case SectionShape::iShape:
    case SectionShape::channel:
    case SectionShape::tee:
        return section.torsion / std::max(s[2], s[3]);
    case SectionShape::angle:
        return section.torsion / s[2];
    case SectionShape::given:
        break;
    }
    return 0.0;
}

std::optional<Stress> largestStress(const Section& section, const SectionForces& forces, double poisson)
{
    if (section.outline.empty()) return std::nullopt;
    const double modulus = twistingModulus(section);
    const double twist = modulus > 0.0 ? std::abs(forces.twisting) / modulus : 0.0;
    std::array<double, 2> across{};
    for (int axis = 0; axis < 2; ++axis) {
        const double area = section.shearArea(axis, poisson);
        across[std::size_t(axis)] = forces.shear[std::size_t(axis)] / (area > 0.0 ? area : section.area);
    }
    const auto [greatest, least] = fibres(section, forces);
    const Stress candidates[] = {stressOf(greatest, twist), stressOf(least, twist),
                                 stressOf(forces.axial / section.area, twist + std::hypot(across[0], across[1]))};
    Stress most;
    for (const Stress& one : candidates) {
        most.equivalent = std::max(most.equivalent, one.equivalent);
        most.greatest = std::max(most.greatest, one.greatest);
        most.least = std::min(most.least, one.least);
    }
    return most;
}

} // namespace undisona
