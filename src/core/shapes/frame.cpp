#include "core/shapes/frame.hpp"

#include "core/base/number_text.hpp"
#include "core/shapes/joined_faces.hpp"

#include <fmt/format.h>

namespace undisona {

int Frame::pointNamed(std::string_view name) const
{
    for (std::size_t at = 0; at < points.size(); ++at)
        if (points[at].name == name) return static_cast<int>(at);
    return -1;
}

int Frame::memberNamed(std::string_view name) const
{
    for (std::size_t at = 0; at < members.size(); ++at)
        if (members[at].name == name) return static_cast<int>(at);
    return -1;
}

const std::string& Frame::partName(int part) const
{
    const auto at = static_cast<std::size_t>(part);
    return at < sheets.size() ? sheets[at].name : solids[at - sheets.size()].name;
}

const std::string& Frame::partSentence(int part) const
{
    const auto at = static_cast<std::size_t>(part);
    return at < sheets.size() ? sheets[at].sentence : solids[at - sheets.size()].sentence;
}

std::vector<int> Frame::partsOf(const JoinedFace& face) const
{
    std::vector<int> found;
    if (face.sheet >= 0) found.push_back(face.sheet);
    for (const int solid : face.solids)
        found.push_back(partOfSolid(solid));
    return found;
}

double Frame::length(const FrameMember& member) const
{
    return (points[static_cast<std::size_t>(member.to)].place - points[static_cast<std::size_t>(member.from)].place)
        .norm();
}

Eigen::Vector3d Frame::direction(const FrameMember& member) const
{
    return (points[static_cast<std::size_t>(member.to)].place - points[static_cast<std::size_t>(member.from)].place)
        .normalized();
}

double Frame::span() const
{
    const auto [low, high] = box();
    return (high - low).norm();
}

std::array<Eigen::Vector3d, 2> Frame::box() const
{
    Eigen::Vector3d low = Eigen::Vector3d::Constant(1e300), high = -low;
    const auto take = [&](const Eigen::Vector3d& place) {
        low = low.cwiseMin(place);
        high = high.cwiseMax(place);
    };
    for (const auto& point : points)
        take(point.place);
    if (faces)
        for (const auto& edge : faces->edges)
            for (const auto& place : edge.along)
                take(place);
    if (low.x() > high.x()) return {Eigen::Vector3d::Zero(), Eigen::Vector3d::Zero()};
    return {low, high};
}

Eigen::Vector3d sectionAxis(const Eigen::Vector3d& along, const Eigen::Vector3d* towards, double turned)
{
    const Eigen::Vector3d x = along.normalized();
    Eigen::Vector3d z;
    if (towards) {
        const Eigen::Vector3d wish = towards->normalized();
        z = wish - wish.dot(x) * x;
        if (!(z.norm() > 1e-6)) return Eigen::Vector3d::Zero();
    } else if (std::abs(x.z()) > 0.9999) {
        z = x.cross(Eigen::Vector3d::UnitY());
    } else {
        z = Eigen::Vector3d::UnitZ() - x.z() * x;
    }
    return Eigen::AngleAxisd(turned, x) * z.normalized();
}

std::string placeText(const Eigen::Vector3d& place)
{
    const auto part = [](double value) { return shortest(std::round(value * 1e6) / 1e6 + 0.0); };
    return fmt::format("{}, {}, {} m", part(place.x()), part(place.y()), part(place.z()));
}

} // namespace undisona
