#include "core/picks/likeness.hpp"

#include "core/base/same_place.hpp"
#include "core/shapes/joined_faces.hpp"

namespace undisona {

bool Likeness::operator==(const Likeness& other) const
{
    const auto near = [](double a, double b, double share) {
        return std::abs(a - b) <= share * std::max(std::abs(a), std::abs(b));
    };
    if (part != other.part || !near(size, other.size, 1e-3) || !near(bend, other.bend, 1e-3)) return false;
    const auto sameAlong = [&](const Eigen::Vector3d& way) {
        return std::abs(way.dot(place - other.place)) < samePlace;
    };
    if (!normal.isZero()) return std::abs(normal.dot(other.normal)) > 1.0 - 1e-6 && sameAlong(normal);
    return sameAlong(Eigen::Vector3d::UnitX()) || sameAlong(Eigen::Vector3d::UnitY()) ||
           sameAlong(Eigen::Vector3d::UnitZ());
}

std::optional<Likeness> likenessOf(const Frame& frame, Target target, int at)
{
    const JoinedFaces& all = *frame.faces;
    if (target == Target::face) {
        const JoinedFace& face = all.faces[static_cast<std::size_t>(at)];
        if (face.solids.size() != 1 || (!face.plane && face.radius == 0.0)) return std::nullopt;
        return Likeness{frame.partsOf(face).front(), face.area, face.radius,
                        face.plane ? face.plane->normal : Eigen::Vector3d(Eigen::Vector3d::Zero()), all.middle(at)};
    }
    const FaceEdge& edge = all.edges[static_cast<std::size_t>(at)];
    constexpr double bent = 1.0; // rad
    if (edge.turn < bent || edge.along.size() < 3 || edge.faces.empty()) return std::nullopt;
    const auto &first = edge.along[0], &third = edge.along[edge.along.size() / 3],
               &next = edge.along[2 * edge.along.size() / 3];
    Eigen::Vector3d middle = Eigen::Vector3d::Zero();
    for (const auto& place : edge.along)
        middle += place / double(edge.along.size());
    return Likeness{frame.partsOf(all.faces[static_cast<std::size_t>(edge.faces.front())]).front(), edge.length,
                    edge.turn, (third - first).cross(next - first).normalized(), middle};
}

std::vector<int> allLike(const Frame& frame, Target target, const std::vector<int>& of)
{
    std::vector<Likeness> wanted;
    for (const int at : of)
        if (const auto own = likenessOf(frame, target, at)) wanted.push_back(*own);
    std::vector<int> found;
    const std::size_t count = target == Target::face ? frame.faces->faces.size() : frame.faces->edges.size();
    for (int at = 0; at < static_cast<int>(count); ++at)
        if (const auto own = likenessOf(frame, target, at);
            std::find(of.begin(), of.end(), at) != of.end() ||
            (own && std::find(wanted.begin(), wanted.end(), *own) != wanted.end()))
            found.push_back(at);
    return found;
}

} // namespace undisona
