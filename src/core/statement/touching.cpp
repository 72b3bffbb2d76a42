#include "core/statement/touching.hpp"

#include "core/shapes/joined_faces.hpp"

namespace undisona {

std::vector<Touching> touchingParts(const Structure& structure)
{
    std::map<std::pair<int, int>, std::array<int, 2>> common; // edges and faces
    if (!structure.frame.faces) return {};
    const JoinedFaces& faces = *structure.frame.faces;
    const auto count = [&](const std::set<int>& parts, std::size_t what) {
        for (auto one = parts.begin(); one != parts.end(); ++one)
            for (auto other = std::next(one); other != parts.end(); ++other)
                ++common[{*one, *other}][what];
    };
    for (const auto& edge : faces.edges) {
        std::set<int> parts;
        for (const int face : edge.faces)
            for (const int part : structure.frame.partsOf(faces.faces[static_cast<std::size_t>(face)]))
                parts.insert(part);
        count(parts, 0);
    }
    for (const auto& face : faces.faces) {
        const auto parts = structure.frame.partsOf(face);
        count({parts.begin(), parts.end()}, 1);
    }
    std::vector<Touching> pairs;
    for (const auto& [pair, number] : common) {
        const auto [first, second] = pair;
        const bool apart = std::any_of(structure.apart.begin(), structure.apart.end(),
                                       [&, a = first, b = second](const PartPair& said) {
                                           return (said[0] == a && said[1] == b) || (said[0] == b && said[1] == a);
                                       });
        pairs.push_back({first, second, number[0], number[1], !apart});
    }
    return pairs;
}

} // namespace undisona
