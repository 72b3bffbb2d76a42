#include "core/units/dimension.hpp"

#include <array>

namespace undisona {

namespace {

struct KindRow {
    QuantityKind kind;
    const char* words;
    const char* unit;
    Dimension dimension; // length, mass, time, temperature, angle
};

constexpr std::array<KindRow, 32> kindRows{{
    {QuantityKind::number, "a plain number", "", {}},
    {QuantityKind::share, "a share", "%", {}},
    {QuantityKind::length, "a length", "m", {1, 0, 0, 0, 0}},
    {QuantityKind::area, "an area", "m2", {2, 0, 0, 0, 0}},
    {QuantityKind::secondMoment, "a second moment of area", "m4", {4, 0, 0, 0, 0}},
    {QuantityKind::warpingConstant, "a warping constant", "m6", {6, 0, 0, 0, 0}},
    {QuantityKind::mass, "a mass", "kg", {0, 1, 0, 0, 0}},
    {QuantityKind::massPerLength, "a mass per length", "kg/m", {-1, 1, 0, 0, 0}},
    {QuantityKind::massPerArea, "a mass per area", "kg/m2", {-2, 1, 0, 0, 0}},
    {QuantityKind::density, "a density", "kg/m3", {-3, 1, 0, 0, 0}},
    {QuantityKind::inertia, "a rotary inertia", "kg m2", {2, 1, 0, 0, 0}},
    {QuantityKind::force, "a force", "N", {1, 1, -2, 0, 0}},
    {QuantityKind::stress, "a stress", "Pa", {-1, 1, -2, 0, 0}},
    {QuantityKind::stiffness, "a stiffness", "N/m", {0, 1, -2, 0, 0}},
    {QuantityKind::turningStiffness, "a turning stiffness", "N m/rad", {2, 1, -2, 0, -1}},
    {QuantityKind::turningStiffnessPerLength, "a turning stiffness per length", "N m/rad/m", {1, 1, -2, 0, -1}},
    {QuantityKind::stiffnessPerLength, "a stiffness per length", "N/m2", {-1, 1, -2, 0, 0}},
    {QuantityKind::stiffnessPerArea, "a stiffness per area", "N/m3", {-2, 1, -2, 0, 0}},
    {QuantityKind::stiffnessPerVolume, "a stiffness per volume", "N/m4", {-3, 1, -2, 0, 0}},
    {QuantityKind::forcePerLength, "a force per length", "N/m", {0, 1, -2, 0, 0}},
    {QuantityKind::forcePerArea, "a force per area", "N/m2", {-1, 1, -2, 0, 0}},
    {QuantityKind::forcePerVolume, "a force per volume", "N/m3", {-2, 1, -2, 0, 0}},
    {QuantityKind::frequency, "a frequency or a speed of turning", "Hz", {0, 0, -1, 0, 0}},
    {QuantityKind::angle, "an angle", "rad", {0, 0, 0, 0, 1}},
    {QuantityKind::temperature, "a temperature", "K", {0, 0, 0, 1, 0}},
    {QuantityKind::acceleration, "an acceleration", "m/s2", {1, 0, -2, 0, 0}},
    {QuantityKind::time, "a time", "s", {0, 0, 1, 0, 0}},
    {QuantityKind::velocity, "a velocity", "m/s", {1, 0, -1, 0, 0}},
    {QuantityKind::moment, "a moment or an energy", "N m", {2, 1, -2, 0, 0}},
    {QuantityKind::energy, "an energy", "J", {2, 1, -2, 0, 0}},
    {QuantityKind::warming, "a difference of temperatures", "K", {0, 0, 0, 1, 0}},
    {QuantityKind::expansion, "an expansion by temperature", "1/K", {0, 0, 0, -1, 0}},
}};

const KindRow& rowOf(QuantityKind kind)
{
    for (const auto& row : kindRows)
        if (row.kind == kind) return row;
    return kindRows.front();
}

} // namespace

Dimension Dimension::operator*(const Dimension& other) const
{
    return {length + other.length, mass + other.mass, time + other.time, temperature + other.temperature,
            angle + other.angle};
}

Dimension Dimension::power(int exponent) const
{
    return {length * exponent, mass * exponent, time * exponent, temperature * exponent, angle * exponent};
}

Dimension dimensionOf(QuantityKind kind)
{
    return rowOf(kind).dimension;
}
std::string describe(QuantityKind kind)
{
    return rowOf(kind).words;
}
std::string siUnitOf(QuantityKind kind)
{
    return rowOf(kind).unit;
}

std::string describe(const Dimension& dimension)
{
    for (const auto& row : kindRows)
        if (row.dimension == dimension) return row.words;
    std::string powers;
    const std::pair<const char*, int> bases[] = {{"m", dimension.length},
                                                 {"kg", dimension.mass},
                                                 {"s", dimension.time},
                                                 {"K", dimension.temperature},
                                                 {"rad", dimension.angle}};
    for (const auto& [symbol, exponent] : bases) {
        if (exponent == 0) continue;
        if (!powers.empty()) powers += ' ';
        powers += symbol;
        if (exponent != 1) powers += std::to_string(exponent);
    }
    return "something in " + powers;
}

} // namespace undisona
