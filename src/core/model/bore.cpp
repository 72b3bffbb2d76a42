#include "core/model/bore.hpp"

#include <algorithm>
#include <numbers>

namespace undisona {


double Bore::lining(double thickness) const
{
    const double t = std::min(thickness, least);
    return t * (perimeter - (isRound ? std::numbers::pi : 4.0) * t);
}

std::optional<Bore> boreOf(const Section& section)
{
    if (section.shape == SectionShape::tube) {
        const double inner = section.sizes[0] - 2.0 * section.sizes[1];
        return Bore{std::numbers::pi * inner * inner / 4.0, std::numbers::pi * inner, inner / 2.0, true};
    }
    if (section.shape == SectionShape::box) {
        const double height = section.sizes[0] - 2.0 * section.sizes[2],
                     width = section.sizes[1] - 2.0 * section.sizes[2];
        return Bore{height * width, 2.0 * (height + width), std::min(height, width) / 2.0, false};
    }
    return std::nullopt;
}

double layerRound(const Section& section, double thickness)
{
    return thickness * (section.perimeter + std::numbers::pi * thickness);
}

} // namespace undisona
