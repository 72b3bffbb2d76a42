#include "app/scene/colour_map.hpp"

#include <algorithm>
#include <cmath>

namespace undisona {

namespace {

/// A colour from lightness and two opponent axes (Oklab: Ottosson 2020).
QColor fromOklab(double l, double a, double b)
{
    const double x = std::pow(l + 0.3963377774 * a + 0.2158037573 * b, 3),
                 y = std::pow(l - 0.1055613458 * a - 0.0638541728 * b, 3),
                 z = std::pow(l - 0.0894841775 * a - 1.2914855480 * b, 3);
    const auto channel = [](double linear) {
        linear = std::clamp(linear, 0.0, 1.0);
        return static_cast<float>(linear <= 0.0031308 ? 12.92 * linear : 1.055 * std::pow(linear, 1.0 / 2.4) - 0.055);
    };
    return QColor::fromRgbF(channel(4.0767416621 * x - 3.3077115913 * y + 0.2309699292 * z),
                            channel(-1.2684380046 * x + 2.6097574011 * y - 0.3413193965 * z),
                            channel(-0.0041960863 * x - 0.7034186147 * y + 1.7076147010 * z));
}

} // namespace

QColor sizeColour(double share, bool dark)
{
    share = std::clamp(share, 0.0, 1.0);
    const double lightness = dark ? 0.34 + 0.58 * share : 0.90 - 0.64 * share;
    const double chroma =
        0.03 + 0.13 * std::sin(3.14159265 * (dark ? 0.75 - 0.55 * share : 0.25 + 0.55 * share)) * (0.35 + 0.65 * share);
    return fromOklab(lightness, 0.55 * chroma, -0.83 * chroma);
}

QColor kindColour(int kind, bool dark)
{
    const double turn = 2.0 * 3.14159265 * std::fmod(0.62 + 0.381966 * kind, 1.0); // by the golden section
    const std::array<double, 3> lightness = dark ? std::array{0.78, 0.58, 0.68} : std::array{0.52, 0.74, 0.63};
    return fromOklab(lightness[static_cast<std::size_t>(kind) % 3], 0.115 * std::cos(turn), 0.115 * std::sin(turn));
}

QColor signedColour(double value, bool dark)
{
    value = std::clamp(value, -1.0, 1.0);
    const double size = std::abs(value);
    const double lightness = dark ? 0.48 + 0.32 * size : 0.86 - 0.36 * size;
    const double chroma = 0.15 * size;
    return value < 0.0 ? fromOklab(lightness, -0.25 * chroma, -0.97 * chroma)
                       : fromOklab(lightness, 0.75 * chroma, 0.66 * chroma);
}

} // namespace undisona
