#include "core/picks/place_range.hpp"

#include "core/base/number_text.hpp"
#include "core/base/same_place.hpp"
#include "core/picks/part_rule.hpp"
#include "core/shapes/joined_faces.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr std::string_view between = " between ", within = " within ";

/// The faces of a sheet or a solid.
std::vector<int> facesOf(const Frame& frame, Target target, int at)
{
    std::vector<int> found;
    for (std::size_t face = 0; frame.faces && face < frame.faces->faces.size(); ++face) {
        const JoinedFace& own = frame.faces->faces[face];
        const bool bounds = std::find(own.solids.begin(), own.solids.end(), at) != own.solids.end();
        if (target == Target::sheet ? own.sheet == at : bounds) found.push_back(static_cast<int>(face));
    }
    return found;
}

/// Of what has no faces: where it stands, or what it runs along from place to place.
std::vector<Eigen::Vector3d> lineOf(const Frame& frame, Target target, int at)
{
    const auto index = static_cast<std::size_t>(at);
    if (target == Target::point) return {frame.points[index].place};
    if (target == Target::edge) return frame.faces->edges[index].along;
    return {frame.points[static_cast<std::size_t>(frame.members[index].from)].place,
            frame.points[static_cast<std::size_t>(frame.members[index].to)].place};
}

bool hasFaces(Target target)
{
    return target == Target::face || target == Target::sheet || target == Target::solid;
}

Eigen::AlignedBox3d boxOf(const Frame& frame, Target target, int at)
{
    Eigen::AlignedBox3d box;
    if (hasFaces(target))
        for (const int face : target == Target::face ? std::vector<int>{at} : facesOf(frame, target, at))
            box.extend(frame.faces->box(face));
    else
        for (const auto& place : lineOf(frame, target, at))
            box.extend(place);
    return box;
}

double fromSegment(const Eigen::Vector3d& place, const Eigen::Vector3d& a, const Eigen::Vector3d& b)
{
    const double share = std::clamp((place - a).dot(b - a) / std::max((b - a).squaredNorm(), 1e-300), 0.0, 1.0);
    return (a + share * (b - a) - place).norm();
}

/// Whether something comes so near to a place; of faces, their boxes first.
bool isNear(const Frame& frame, Target target, int at, const Eigen::Vector3d& place, double reach)
{
    if (hasFaces(target)) {
        const auto faces = target == Target::face ? std::vector<int>{at} : facesOf(frame, target, at);
        return std::any_of(faces.begin(), faces.end(), [&](int face) {
            return frame.faces->box(face).exteriorDistance(place) <= reach &&
                   frame.faces->distance(face, place) <= reach;
        });
    }
    const auto line = lineOf(frame, target, at);
    for (std::size_t part = 0; part < line.size(); ++part)
        if (fromSegment(place, line[part == 0 ? 0 : part - 1], line[part]) <= reach) return true;
    return false;
}

/// A point's name, or coordinates.
std::optional<Eigen::Vector3d> placeIn(const Frame& frame, std::string_view text)
{
    std::string words(trimmed(text));
    if (words.size() >= 2 && words.front() == '"' && words.back() == '"') words = words.substr(1, words.size() - 2);
    if (const int point = frame.pointNamed(words); point >= 0)
        return frame.points[static_cast<std::size_t>(point)].place;
    return coordinatesIn(std::move(words));
}

} // namespace

bool PlaceRange::holds(const Frame& frame, Target target, int at) const
{
    const double near = sameCoordinate(frame.span());
    if (axis_ < 0) return isNear(frame, target, at, place_, reach_ + near);
    const Eigen::AlignedBox3d box = boxOf(frame, target, at);
    return !box.isEmpty() && box.min()[axis_] >= low_ - near && box.max()[axis_] <= high_ + near;
}

std::optional<RangedTerm> RangedTerm::read(const Frame& frame, const std::string& term)
{
    const auto first = term.rfind(between), second = term.rfind(within);
    const bool isBetween = first != std::string::npos && (second == std::string::npos || first > second);
    const auto at = isBetween ? first : second;
    if (at == std::string::npos || std::count(term.begin(), term.begin() + long(at), '"') % 2 != 0) return std::nullopt;
    RangedTerm ranged{std::string(trimmed(std::string_view(term).substr(0, at))), {}, {}};
    const std::string_view words = trimmed(std::string_view(term).substr(at + (isBetween ? between : within).size()));
    if (!isBetween) {
        const auto of = words.find(" of ");
        const auto reach =
            of == std::string_view::npos ? std::nullopt : lengthAfter(std::string(words.substr(0, of)), {});
        const auto place = reach ? placeIn(frame, words.substr(of + 4)) : std::nullopt;
        if (place) {
            ranged.range.place_ = *place;
            ranged.range.reach_ = *reach;
        } else {
            ranged.problem = fmt::format("\"within {}\" is no distance of a place", words);
        }
        return ranged;
    }
    const auto equals = words.find('='), both = words.find(" and ");
    const std::string_view axis = trimmed(words.substr(0, std::min(equals, words.size())));
    std::optional<double> low, high;
    if (equals != std::string_view::npos && both != std::string_view::npos && both > equals) {
        const std::string_view from = trimmed(words.substr(equals + 1, both - equals - 1)),
                               to = trimmed(words.substr(both + 5));
        high = lengthAfter(std::string(to), {});
        low = lengthAfter(std::string(from), {});
        if (!low) // "0.5 and 16 m": the last unit serves both
            if (const auto last = to.find_last_of(' '); last != std::string_view::npos)
                low = lengthAfter(std::string(from) + std::string(to.substr(last)), {});
    }
    if (low && high && axis.size() == 1 && axis[0] >= 'x' && axis[0] <= 'z') {
        ranged.range.axis_ = axis[0] - 'x';
        ranged.range.low_ = std::min(*low, *high);
        ranged.range.high_ = std::max(*low, *high);
    } else {
        ranged.problem = fmt::format("\"between {}\" is no range", words);
    }
    return ranged;
}

} // namespace undisona
