#include "core/system/joint_words.hpp"

#include "core/base/alike_findings.hpp"

#include <fmt/format.h>

#include <set>

namespace undisona {

std::string millimetres(double length)
{
    return fmt::format("{:.3g} mm", std::round(1e6 * length) / 1e3);
}

std::string partsOf(const Structure& structure, const std::vector<SurfaceFacet>& facets)
{
    std::set<int> parts;
    for (const auto& facet : facets)
        parts.insert(facet.part);
    std::vector<std::string> names;
    for (const int part : parts)
        names.push_back(structure.frame.partName(part));
    return someOf(names);
}

Finding nothingFaces(const SurfaceJoint& joint, double nearest)
{
    return errorAt(
        joint.sentence,
        joint.reach ? fmt::format("nothing of the two sides faces each other within {}", millimetres(*joint.reach))
                    : std::string("nothing of the two sides faces each other"),
        std::isfinite(nearest)
            ? fmt::format("The nearest is {} away: say within how much, or move one of them.", millimetres(nearest))
            : std::string("Name surfaces that lie before each other."));
}

} // namespace undisona
