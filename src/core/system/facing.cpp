#include "core/system/facing.hpp"

#include "core/base/same_place.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/system/meeting_boxes.hpp"
#include "core/system/relations.hpp"

#include <numeric>

namespace undisona {

namespace {

using Polygon = std::vector<Eigen::Vector2d>;

/// The plane in the middle of a facet's corners.
struct FacetPlane {
    Eigen::Vector3d middle, normal, along, beside;

    Eigen::Vector2d flat(const Eigen::Vector3d& place) const
    {
        return {along.dot(place - middle), beside.dot(place - middle)};
    }
    Eigen::Vector3d raised(const Eigen::Vector2d& at) const { return middle + at.x() * along + at.y() * beside; }
};

const Eigen::Vector3d& placeOf(const FrameMesh& mesh, int node)
{
    return mesh.nodes[static_cast<std::size_t>(node)].place;
}

FacetPlane planeOf(const FrameMesh& mesh, const SurfaceFacet& facet)
{
    FacetPlane plane{Eigen::Vector3d::Zero(), Eigen::Vector3d::Zero(), {}, {}};
    const std::size_t corners = facet.corners();
    for (std::size_t at = 0; at < corners; ++at)
        plane.middle += placeOf(mesh, facet.nodes[at]) / double(corners);
    for (std::size_t at = 0; at < corners; ++at)
        plane.normal += (placeOf(mesh, facet.nodes[at]) - plane.middle)
                            .cross(placeOf(mesh, facet.nodes[(at + 1) % corners]) - plane.middle);
    plane.normal.normalize();
    plane.along = plane.normal.unitOrthogonal();
    plane.beside = plane.normal.cross(plane.along);
    return plane;
}

double areaOf(const Polygon& polygon)
{
    double twice = 0.0;
    for (std::size_t at = 0; at < polygon.size(); ++at) {
        const auto &a = polygon[at], &b = polygon[(at + 1) % polygon.size()];
        twice += a.x() * b.y() - a.y() * b.x();
    }
    return twice / 2.0;
}

/// Counter-clockwise, as it is seen from the plane's normal.
Polygon cornersIn(const FacetPlane& plane, const FrameMesh& mesh, const SurfaceFacet& facet)
{
    Polygon polygon;
    for (std::size_t at = 0; at < facet.corners(); ++at)
        polygon.push_back(plane.flat(placeOf(mesh, facet.nodes[at])));
    if (areaOf(polygon) < 0.0) std::reverse(polygon.begin(), polygon.end());
    return polygon;
}

/// What a convex polygon has in common with another one (Sutherland and Hodgman, Reentrant polygon clipping, 1974).
Polygon common(Polygon polygon, const Polygon& with)
{
    for (std::size_t at = 0; at < with.size() && !polygon.empty(); ++at) {
        const Eigen::Vector2d from = with[at], way = with[(at + 1) % with.size()] - from;
        const auto inside = [&](const Eigen::Vector2d& place) {
            return way.x() * (place.y() - from.y()) - way.y() * (place.x() - from.x());
        };
        Polygon kept;
        for (std::size_t k = 0; k < polygon.size(); ++k) {
            const auto &a = polygon[k], &b = polygon[(k + 1) % polygon.size()];
            const double ofA = inside(a), ofB = inside(b);
            if (ofA >= 0.0) kept.push_back(a);
            if ((ofA > 0.0 && ofB < 0.0) || (ofA < 0.0 && ofB > 0.0)) kept.push_back(a + ofA / (ofA - ofB) * (b - a));
        }
        polygon = std::move(kept);
    }
    return polygon.size() < 3 ? Polygon{} : polygon;
}

class Meeter {
public:
    Meeter(const FrameMesh& mesh, Facing& facing) : mesh_(mesh), facing_(facing)
    {
        const auto prepare = [&](const std::vector<SurfaceFacet>& facets, std::vector<FacetPlane>& planes,
                                 std::vector<double>& areas) {
            for (const auto& facet : facets) {
                planes.push_back(planeOf(mesh, facet));
                areas.push_back(areaOf(cornersIn(planes.back(), mesh, facet)));
            }
        };
        prepare(facing.ones, ofOnes_, facing.areaOfOne);
        prepare(facing.others, ofOthers_, facing.areaOfOther);
    }

    /// Of each so manieth facet of the one side alone where that is enough.
    std::vector<Facing::Meeting> within(double reach, int every = 1) const
    {
        std::vector<Facing::Meeting> found;
        std::set<std::pair<std::vector<int>, std::vector<int>>> seen; // a face that both sides name meets itself twice
        eachMeeting(boxes(facing_.ones, reach), boxes(facing_.others, 0.0), [&](int one, int other) {
            if (one % every != 0) return;
            const auto &a = facing_.ones[static_cast<std::size_t>(one)],
                       &b = facing_.others[static_cast<std::size_t>(other)];
            const auto &plane = ofOnes_[static_cast<std::size_t>(one)],
                       &its = ofOthers_[static_cast<std::size_t>(other)];
            const double faces = plane.normal.dot(its.normal);
            constexpr double least = 0.5; // the cosine of the angle between what faces each other
            if (a.part == b.part || (a.ofSolid && b.ofSolid ? -faces : std::abs(faces)) < least) return;
            const Polygon outline = common(cornersIn(plane, mesh_, a), cornersIn(plane, mesh_, b));
            const double area = outline.empty() ? 0.0 : areaOf(outline);
            if (!(area > 1e-9 * std::min(facing_.areaOfOne[std::size_t(one)], facing_.areaOfOther[std::size_t(other)])))
                return;
            Eigen::Vector2d middle = Eigen::Vector2d::Zero();
            for (const auto& corner : outline)
                middle += corner / double(outline.size());
            const Eigen::Vector3d from = plane.raised(middle);
            const double along = its.normal.dot(its.middle - from) / its.normal.dot(plane.normal);
            if (std::abs(along) > reach) return;
            const bool behindOne = along < 0.0, behindOther = (faces < 0.0 ? along : -along) < 0.0;
            const bool overlap = a.ofSolid ? behindOne : b.ofSolid && behindOther;
            if (a.ofSolid && b.ofSolid && !seen.emplace(std::minmax(a.nodes, b.nodes)).second) return;
            Facing::Meeting meeting{one,       other,      {}, area, overlap ? -std::abs(along) : std::abs(along),
                                    behindOne, behindOther};
            for (const auto& corner : outline)
                meeting.outline.push_back(plane.raised(corner));
            found.push_back(std::move(meeting));
        });
        return found;
    }

private:
    std::vector<Eigen::AlignedBox3d> boxes(const std::vector<SurfaceFacet>& facets, double reach) const
    {
        std::vector<Eigen::AlignedBox3d> found;
        for (const auto& facet : facets) {
            Eigen::AlignedBox3d box;
            for (const int node : facet.nodes)
                box.extend(placeOf(mesh_, node));
            const Eigen::Vector3d wider = Eigen::Vector3d::Constant(reach + 1e-6 * box.diagonal().norm());
            found.emplace_back(Eigen::Vector3d(box.min() - wider), Eigen::Vector3d(box.max() + wider));
        }
        return found;
    }

    const FrameMesh& mesh_;
    const Facing& facing_;
    std::vector<FacetPlane> ofOnes_, ofOthers_;
};

double leastGap(const std::vector<Facing::Meeting>& meetings)
{
    double least = std::numeric_limits<double>::infinity();
    for (const auto& meeting : meetings)
        least = std::min(least, std::abs(meeting.gap));
    return least;
}

/// Of what lies behind other things the nearest alone: no part of a facet meets twice on the same side of it.
void dropHidden(Facing& facing)
{
    std::sort(facing.meetings.begin(), facing.meetings.end(), [](const auto& a, const auto& b) {
        return std::tuple(std::abs(a.gap), a.one, a.other) < std::tuple(std::abs(b.gap), b.one, b.other);
    });
    using BySide = std::vector<std::array<double, 2>>; // before the facet and behind it, m2
    BySide ofOne(facing.ones.size(), {0.0, 0.0}), ofOther(facing.others.size(), {0.0, 0.0});
    constexpr double full = 1.0 + 1e-3; // neighbours that are bent against each other overlap by a hair
    std::vector<Facing::Meeting> kept;
    for (auto& meeting : facing.meetings) {
        const auto one = static_cast<std::size_t>(meeting.one), other = static_cast<std::size_t>(meeting.other);
        double &here = ofOne[one][meeting.behindOne], &there = ofOther[other][meeting.behindOther];
        if (here + meeting.area > full * facing.areaOfOne[one] ||
            there + meeting.area > full * facing.areaOfOther[other])
            continue;
        here += meeting.area;
        there += meeting.area;
        kept.push_back(std::move(meeting));
    }
    std::sort(kept.begin(), kept.end(),
              [](const auto& a, const auto& b) { return std::pair(a.one, a.other) < std::pair(b.one, b.other); });
    facing.meetings = std::move(kept);
    const auto either = [](const BySide& sides, const std::vector<double>& areas, std::vector<double>& covered) {
        bool both = false;
        for (std::size_t at = 0; at < sides.size(); ++at) {
            covered.push_back(std::max(sides[at][0], sides[at][1]));
            both = both || std::min(sides[at][0], sides[at][1]) > 0.5 * areas[at];
        }
        return both;
    };
    facing.onesLieBetween = either(ofOne, facing.areaOfOne, facing.coveredOfOne);
    facing.othersLieBetween = either(ofOther, facing.areaOfOther, facing.coveredOfOther);
}

/// By how much r and s change for a step along the surface, at a place with its tangents.
Eigen::Vector2d stepOf(const Eigen::Matrix<double, 3, 2>& tangents, const Eigen::Vector3d& way)
{
    const Eigen::Matrix2d metric = tangents.transpose() * tangents;
    return metric.inverse() * (tangents.transpose() * way);
}

Eigen::Matrix<double, 3, 2> tangentsAt(const FrameMesh& mesh, const SurfaceFacet& facet,
                                       const std::vector<plane::Shape>& shapes)
{
    Eigen::Matrix<double, 3, 2> tangents = Eigen::Matrix<double, 3, 2>::Zero();
    for (std::size_t node = 0; node < shapes.size(); ++node) {
        tangents.col(0) += shapes[node].r * placeOf(mesh, facet.nodes[node]);
        tangents.col(1) += shapes[node].s * placeOf(mesh, facet.nodes[node]);
    }
    return tangents;
}

Eigen::Vector2d middleOf(const SurfaceFacet& facet)
{
    return facet.corners() == 3 ? Eigen::Vector2d::Constant(1.0 / 3.0) : Eigen::Vector2d::Zero();
}

bool isOn(const SurfaceFacet& facet, double r, double s)
{
    constexpr double hair = 1e-6;
    return facet.corners() == 3 ? r > -hair && s > -hair && r + s < 1.0 + hair
                                : std::abs(r) < 1.0 + hair && std::abs(s) < 1.0 + hair;
}

constexpr int steps = 12; // of Newton's way, which is there after one where the facet is flat

/// Foot of the perpendicular from a place on a facet, or its continuation.
FacetPlace placeBelow(const FrameMesh& mesh, const SurfaceFacet& facet, const Eigen::Vector3d& from)
{
    Eigen::Vector2d at = middleOf(facet);
    FacetPlace found = placeOn(mesh, facet, at.x(), at.y());
    for (int step = 0; step < steps; ++step) {
        const auto tangents = tangentsAt(mesh, facet, surfaceShapes(facet.nodes.size(), at.x(), at.y()));
        const Eigen::Vector2d change = stepOf(tangents, from - found.place);
        at = (at + change).cwiseMax(-4.0).cwiseMin(4.0);
        found = placeOn(mesh, facet, at.x(), at.y());
        if (change.norm() < 1e-13) break;
    }
    return found;
}

} // namespace

double Facing::area() const
{
    return std::accumulate(meetings.begin(), meetings.end(), 0.0,
                           [](double sum, const Meeting& meeting) { return sum + meeting.area; });
}

std::array<double, 2> Facing::gaps() const
{
    std::array<double, 2> found{std::numeric_limits<double>::infinity(), -std::numeric_limits<double>::infinity()};
    for (const auto& meeting : meetings)
        found = {std::min(found[0], meeting.gap), std::max(found[1], meeting.gap)};
    return found;
}

std::vector<SurfaceFacet> facetsOf(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint::Side& side)
{
    std::set<int> sheets, solids, faces;
    for (const auto& [target, at] : side)
        (target == Target::sheet ? sheets : target == Target::solid ? solids : faces).insert(at);
    std::vector<SurfaceFacet> facets;
    for (const auto& shell : mesh.shells)
        if (sheets.contains(shell.sheet) || faces.contains(shell.face))
            facets.push_back({shell.sheet,
                              false,
                              !structure.sheets[static_cast<std::size_t>(shell.sheet)].membrane,
                              {shell.nodes.begin(), shell.nodes.begin() + long(shell.corners())}});
    for (const auto& piece : mesh.outer) {
        if (!solids.contains(piece.solid) && !faces.contains(piece.face)) continue;
        SurfaceFacet facet{structure.frame.partOfSolid(piece.solid),
                           true,
                           false,
                           {piece.corners.begin(), piece.corners.begin() + long(piece.count())}};
        if (piece.curved())
            facet.nodes.insert(facet.nodes.end(), piece.middles.begin(), piece.middles.begin() + long(piece.count()));
        facets.push_back(std::move(facet));
    }
    return facets;
}

Facing facingOf(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint& joint)
{
    Facing facing;
    facing.ones = facetsOf(structure, mesh, joint.one);
    facing.others = facetsOf(structure, mesh, joint.other);
    const Meeter meeter(mesh, facing);
    if (joint.reach) facing.meetings = meeter.within(*joint.reach + sameInShapes);
    if (facing.meetings.empty()) { // the nearest that there is
        const double span = std::max(structure.frame.span(), sameInShapes);
        constexpr std::size_t pairs = 2000000; // where nothing is near, everything is looked at
        const auto every = static_cast<int>(1 + facing.ones.size() * facing.others.size() / pairs);
        for (double reach = samePlace; reach < 4.0 * span && !std::isfinite(facing.nearest); reach *= 4.0)
            facing.nearest = leastGap(meeter.within(reach, every));
        if (!joint.reach && std::isfinite(facing.nearest))
            facing.meetings = meeter.within(1.5 * facing.nearest + samePlace);
    }
    dropHidden(facing);
    return facing;
}

FacetPlace placeOn(const FrameMesh& mesh, const SurfaceFacet& facet, double r, double s)
{
    const auto shapes = surfaceShapes(facet.nodes.size(), r, s);
    const auto tangents = tangentsAt(mesh, facet, shapes);
    FacetPlace found{r, s, Eigen::Vector3d::Zero(), tangents.col(0).cross(tangents.col(1)).normalized(), {}, {}};
    const Eigen::Matrix2d inverse = Eigen::Matrix2d(tangents.transpose() * tangents).inverse();
    found.slopes.resize(3, Eigen::Index(shapes.size()));
    for (std::size_t node = 0; node < shapes.size(); ++node) {
        found.place += shapes[node].value * placeOf(mesh, facet.nodes[node]);
        found.values.push_back(shapes[node].value);
        found.slopes.col(Eigen::Index(node)) = tangents * (inverse * Eigen::Vector2d(shapes[node].r, shapes[node].s));
    }
    return found;
}

FacetPlace placeAcross(const FrameMesh& mesh, const SurfaceFacet& facet, const Eigen::Vector3d& from,
                       const Eigen::Vector3d& way)
{
    Eigen::Vector2d at = middleOf(facet);
    for (int step = 0; step < steps; ++step) {
        const auto shapes = surfaceShapes(facet.nodes.size(), at.x(), at.y());
        Eigen::Vector3d place = Eigen::Vector3d::Zero();
        for (std::size_t node = 0; node < shapes.size(); ++node)
            place += shapes[node].value * placeOf(mesh, facet.nodes[node]);
        Eigen::Matrix3d equations;
        equations << tangentsAt(mesh, facet, shapes), -way;
        const Eigen::Vector3d change = equations.partialPivLu().solve(from - place);
        at += change.head<2>();
        if (change.head<2>().norm() < 1e-13) break;
    }
    return placeOn(mesh, facet, at.x(), at.y());
}

void eachPlace(const FrameMesh& mesh, const Facing& facing, const Facing::Meeting& meeting,
               const std::function<void(const FacetPlace&, const FacetPlace&, double)>& take)
{
    const SurfaceFacet &one = facing.ones[static_cast<std::size_t>(meeting.one)],
                       &other = facing.others[static_cast<std::size_t>(meeting.other)];
    const Eigen::Vector3d way = planeOf(mesh, one).normal;
    static const auto rule = plane::triangleRule();
    for (std::size_t at = 1; at + 1 < meeting.outline.size(); ++at) {
        const Eigen::Vector3d &a = meeting.outline[0], ab = meeting.outline[at] - a, ac = meeting.outline[at + 1] - a;
        const double twice = ab.cross(ac).norm();
        for (const auto& [r, s, weight] : rule) {
            const Eigen::Vector3d place = a + r * ab + s * ac;
            take(placeAcross(mesh, one, place, way), placeAcross(mesh, other, place, way), weight * twice);
        }
    }
}

Matrix3X turnWith(const SurfaceFacet& facet, const FacetPlace& at)
{
    Matrix3X turn = Matrix3X::Zero(3, 6 * Eigen::Index(facet.nodes.size()));
    for (Eigen::Index node = 0; node < at.slopes.cols(); ++node) {
        if (facet.turns) {
            turn.middleCols<3>(6 * node + 3) = at.values[static_cast<std::size_t>(node)] * Eigen::Matrix3d::Identity();
            continue;
        }
        // Of a surface: its normal tilts as its height slopes, and it turns in its plane by half of its curl.
        const Eigen::Vector3d across = at.normal.cross(at.slopes.col(node));
        turn.middleCols<3>(6 * node) = at.normal * across.transpose() / 2.0 - across * at.normal.transpose();
    }
    return turn;
}

Matrix3X shiftWith(const FrameMesh& mesh, const SurfaceFacet& facet, const FacetPlace& at, const Eigen::Vector3d& to)
{
    Matrix3X shift = Matrix3X::Zero(3, 6 * Eigen::Index(facet.nodes.size()));
    for (Eigen::Index node = 0; node < at.slopes.cols(); ++node)
        shift.middleCols<3>(6 * node) = at.values[static_cast<std::size_t>(node)] * Eigen::Matrix3d::Identity();
    for (std::size_t side = 0; facet.turns && side < facet.corners(); ++side) { // by an eighth of side times turn
        const std::size_t next = (side + 1) % facet.corners();
        const Eigen::Vector3d along = placeOf(mesh, facet.nodes[next]) - placeOf(mesh, facet.nodes[side]);
        const Eigen::Matrix3d bow = plane::edgeShape(facet.corners(), side, at.r, at.s).value / 8.0 * at.normal *
                                    along.cross(at.normal).transpose();
        shift.middleCols<3>(6 * Eigen::Index(side) + 3) += bow;
        shift.middleCols<3>(6 * Eigen::Index(next) + 3) -= bow;
    }
    const Eigen::Vector3d arm = to - at.place;
    if (!arm.isZero(0.0)) shift -= crossing(arm) * turnWith(facet, at);
    return shift;
}

std::vector<std::optional<NearFacet>> nearestFacets(const FrameMesh& mesh, const std::vector<SurfaceFacet>& facets,
                                                    const std::vector<Eigen::Vector3d>& places, double reach)
{
    const Eigen::Vector3d around = Eigen::Vector3d::Constant(reach);
    std::vector<Eigen::AlignedBox3d> small, large;
    for (const auto& place : places)
        small.emplace_back(Eigen::Vector3d(place - around), Eigen::Vector3d(place + around));
    for (const auto& facet : facets) {
        auto& box = large.emplace_back();
        for (const int node : facet.nodes)
            box.extend(placeOf(mesh, node));
    }
    std::vector<std::optional<NearFacet>> found(places.size());
    std::vector<double> least(places.size(), reach);
    eachMeeting(small, large, [&](int which, int facet) {
        const auto at = static_cast<std::size_t>(which);
        FacetPlace place = placeBelow(mesh, facets[static_cast<std::size_t>(facet)], places[at]);
        const double off = (places[at] - place.place).norm();
        if (off > least[at] || !isOn(facets[static_cast<std::size_t>(facet)], place.r, place.s)) return;
        least[at] = off;
        found[at] = {facet, std::move(place)};
    });
    return found;
}

} // namespace undisona
