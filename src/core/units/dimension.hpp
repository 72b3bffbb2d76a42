#pragma once
#include <string>

namespace undisona {

/// Powers of the base quantities. Temperature is a difference of temperatures unless said otherwise.
struct Dimension {
    int length = 0, mass = 0, time = 0, temperature = 0, angle = 0;

    bool operator==(const Dimension&) const = default;
    Dimension operator*(const Dimension& other) const;
    Dimension power(int exponent) const;
};

/// What a number in a sentence means. Each kind has one dimension and one SI unit:
/// frequency and speed of turning are held in Hz, shares as fractions of one.
enum class QuantityKind {
    number,
    share,
    length,
    area,
    secondMoment,
    warpingConstant,
    mass,
    massPerLength,
    massPerArea,
    density,
    inertia,
    force,
    forcePerLength,
    forcePerArea,
    forcePerVolume,
    stress,
    stiffness,
    turningStiffness,
    turningStiffnessPerLength,
    stiffnessPerLength,
    stiffnessPerArea,
    stiffnessPerVolume,
    frequency,
    angle,
    temperature,
    acceleration,
    time,
    velocity,
    moment,
    energy,
    warming,
    expansion,
};

Dimension dimensionOf(QuantityKind);
/// "a mass", "a length", ... with its article.
std::string describe(QuantityKind);
/// "kg", "m", ...; empty for a number.
std::string siUnitOf(QuantityKind);
/// "a force" for a dimension that some kind has; else its powers, such as "m2 kg s-1".
std::string describe(const Dimension&);

} // namespace undisona
