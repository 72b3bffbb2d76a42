#include "core/statement/bolt_stiffness.hpp"

#include <cmath>
#include <numbers>

namespace undisona {

BoltStiffness stiffnessOfBolt(double diameter, double grip, const Material& bolt, const Material& clamped)
{
    using std::numbers::pi;
    const double d = diameter, l = grip;
    constexpr double ofThread = 0.75;
    const double area = pi * d * d / 4.0;
    const double ofBolt = bolt.modulus * ofThread * area / (l + 0.9 * d);
    const double tangent = std::tan(pi / 6.0);
    const double cones =
        pi * clamped.modulus * d * tangent / (2.0 * std::log(5.0 * (tangent * l + 0.5 * d) / (tangent * l + 2.5 * d)));
    const double hollow = cones * l / clamped.modulus, outer = hollow + area; // areas of the cylinder and of its disc
    const double second = (outer * outer - area * area) / (4.0 * pi);         // of a ring: (A_o^2 - A_i^2) / (4 pi)
    const double secondOfBolt = area * area / (4.0 * pi);
    return {ofBolt + cones, clamped.shearModulus() * hollow / l,
            (clamped.modulus * second + bolt.modulus * secondOfBolt) / l,
            2.0 * (clamped.shearModulus() * second + bolt.shearModulus() * secondOfBolt) / l};
}

} // namespace undisona
