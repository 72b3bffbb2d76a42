#include "core/system/line_joint.hpp"

#include "core/base/alike_findings.hpp"
#include "core/base/joined_sets.hpp"
#include "core/base/same_place.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/system/joint_words.hpp"

#include <fmt/format.h>

#include <set>

namespace undisona {

namespace {

/// How near places come to what they are to follow, m.
double nearestTo(const Structure& structure, const FrameMesh& mesh, const std::vector<SurfaceFacet>& leading,
                 const std::vector<Eigen::Vector3d>& places)
{
    const double span = std::max(structure.frame.span(), sameInShapes);
    double least = std::numeric_limits<double>::infinity();
    for (double reach = samePlace; reach < 4.0 * span && !std::isfinite(least); reach *= 4.0) {
        const auto found = nearestFacets(mesh, leading, places, reach);
        for (std::size_t at = 0; at < places.size(); ++at)
            if (found[at]) least = std::min(least, (places[at] - found[at]->at.place).norm());
    }
    return least;
}

/// Where a member may stand on a surface or go through it: its section there.
struct FootOfMember {
    int node;
    Eigen::Vector3d place, along, y, z; ///< of the centroid; of the section's drawing
    std::shared_ptr<const Section> section;
};

std::vector<FootOfMember> feetOf(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint::Line& line)
{
    std::vector<FootOfMember> feet;
    const FrameMember& member = structure.frame.members[static_cast<std::size_t>(line.member)];
    const auto begin = mesh.firstElement[static_cast<std::size_t>(line.member)],
               last = mesh.firstElement[static_cast<std::size_t>(line.member) + 1] - 1;
    const auto add = [&](int element, int end) {
        const MeshElement& own = mesh.elements[static_cast<std::size_t>(element)];
        const Eigen::Vector3d x = (mesh.end(own, 1) - mesh.end(own, 0)).normalized(),
                              z = (member.zAxis - member.zAxis.dot(x) * x).normalized();
        feet.push_back(
            {own.nodes[static_cast<std::size_t>(end)], mesh.end(own, end), x, z.cross(x), z, member.section});
    };
    add(begin, 0);
    add(last, 1);
    for (int element = begin; element < last; ++element)
        if (std::find(line.passes.begin(), line.passes.end(),
                      mesh.elements[static_cast<std::size_t>(element)].share[1]) != line.passes.end())
            add(element, 1);
    return feet;
}

/// Unit ways along the edges at each of their nodes; nothing where two of different ways meet.
std::map<int, Eigen::Vector3d> waysAlong(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint& joint)
{
    std::map<int, Eigen::Vector3d> ways;
    std::set<int> corners;
    for (const int edge : joint.edges)
        for (const auto& piece : mesh.piecesOfEdge(structure, edge)) {
            const Eigen::Vector3d way = (mesh.nodes[static_cast<std::size_t>(piece.second)].place -
                                         mesh.nodes[static_cast<std::size_t>(piece.first)].place)
                                            .normalized();
            for (const int node : {piece.first, piece.second}) {
                Eigen::Vector3d& sum = ways.try_emplace(node, Eigen::Vector3d::Zero()).first->second;
                constexpr double bend = 0.7; // cosine of the angle by which an edge may turn between two pieces
                if (!sum.isZero() && std::abs(sum.normalized().dot(way)) < bend) corners.insert(node);
                sum += sum.dot(way) < 0.0 ? Eigen::Vector3d(-way) : way;
            }
        }
    for (auto& [node, way] : ways)
        way = corners.contains(node) ? Eigen::Vector3d(Eigen::Vector3d::Zero()) : Eigen::Vector3d(way.normalized());
    return ways;
}

/// What follows the mean of the places of a section.
SurfaceFollower meanOver(const FrameMesh& mesh, const std::vector<SurfaceFacet>& leading, int node,
                         const std::vector<SectionFoot>& places, bool turning)
{
    double area = 0.0;
    Eigen::Vector3d centre = Eigen::Vector3d::Zero();
    for (const auto& place : places) {
        area += place.area;
        centre += place.area * place.on.at.place;
    }
    centre /= area;
    ShareOfNodes shift, moment;
    Eigen::Matrix3d inertia = Eigen::Matrix3d::Zero();
    for (const auto& place : places) {
        const SurfaceFacet& facet = leading[static_cast<std::size_t>(place.on.facet)];
        const Eigen::Vector3d arm = place.on.at.place - centre;
        const Matrix3X own = shiftWith(mesh, facet, place.on.at, place.on.at.place);
        addShare(shift, facet, own, place.area / area);
        addShare(moment, facet, crossing(arm) * own, place.area);
        inertia += place.area * (arm.squaredNorm() * Eigen::Matrix3d::Identity() - arm * arm.transpose());
    }
    const Eigen::Matrix3d inverse = inertia.inverse();
    const Eigen::Matrix3d carried = crossing(mesh.nodes[static_cast<std::size_t>(node)].place - centre);
    SurfaceFollower follower{node, std::move(shift), std::move(moment)};
    follower.ofMany = true;
    for (auto& [leader, turn] : follower.turn) {
        turn = inverse * turn;
        follower.shift.at(leader) -= carried * turn;
    }
    if (!turning) follower.turn.clear();
    return follower;
}

/// Members of a joint that neither it nor another of them joins to the other side.
void sayWhatIsOutOfReach(const Structure& structure, const SurfaceJoint& joint,
                         const std::vector<SurfaceFollower>& found, const std::string& parts, Findings& findings)
{
    const Frame& frame = structure.frame;
    JoinedSets together(frame.points.size());
    for (const auto& line : joint.members) {
        const FrameMember& member = frame.members[static_cast<std::size_t>(line.member)];
        together.join(member.from, member.to);
    }
    std::set<int> joined;
    for (const auto& follower : found)
        if (static_cast<std::size_t>(follower.node) < frame.points.size()) joined.insert(together.of(follower.node));
    std::vector<std::string> names;
    for (const auto& line : joint.members) {
        const FrameMember& member = frame.members[static_cast<std::size_t>(line.member)];
        if (line.passes.empty() && !joined.contains(together.of(member.from))) names.push_back(member.name);
    }
    if (names.empty()) return;
    const bool one = names.size() == 1;
    findings.push_back(warningAt(joint.sentence,
                                 fmt::format("{} {} farther from {} than others and {} not joined", someOf(names),
                                             one ? "is" : "are", parts, one ? "is" : "are"),
                                 "Say within how much, if it is to be more."));
}

/// A third of a piece of an edge, by one of Gauss's places.
struct EdgePlace {
    int part;
    std::array<int, 2> ends;
    double share, length;  ///< between the ends; that it stands for, m
    Eigen::Vector3d place; ///< m
};

std::vector<EdgePlace> placesAlong(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint& joint,
                                   const LinesOnSurface& on)
{
    std::set<int> led;
    for (const auto& facet : on.leading)
        led.insert(facet.nodes.begin(), facet.nodes.end());
    const auto placeOf = [&](int node) { return mesh.nodes[static_cast<std::size_t>(node)].place; };
    // Where the parts touch, both have a node in the place: the edge's own.
    const auto own = [&](int node) {
        if (!led.contains(node)) return node;
        for (const int other : on.nodes)
            if ((placeOf(other) - placeOf(node)).norm() < sameInShapes) return other;
        return node;
    };
    const JoinedFaces& faces = *structure.frame.faces;
    std::vector<EdgePlace> places;
    for (const int edge : joint.edges) {
        const int face = faces.edges[static_cast<std::size_t>(edge)].faces.front(),
                  part = structure.frame.partsOf(faces.faces[static_cast<std::size_t>(face)]).front();
        for (const auto& piece : mesh.piecesOfEdge(structure, edge))
            for (const auto& [at, weight] : plane::lineRule(3)) {
                const double share = (1.0 + at) / 2.0;
                const std::array<int, 2> ends{own(piece.first), own(piece.second)};
                places.push_back({part, ends, share, weight / 2.0 * piece.length,
                                  (1.0 - share) * placeOf(ends[0]) + share * placeOf(ends[1])});
            }
    }
    return places;
}

} // namespace

LinesOnSurface::LinesOnSurface(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint& joint,
                               Findings& findings)
    : leading(facetsOf(structure, mesh, joint.other))
{
    std::set<int> led, own;
    for (const auto& facet : leading)
        led.insert(facet.nodes.begin(), facet.nodes.end());
    const auto add = [&](const std::vector<int>& some) {
        for (const int node : some)
            if (!led.contains(node)) own.insert(node);
    };
    for (const int edge : joint.edges)
        add(mesh.nodesOf(Target::edge, edge));
    std::vector<FootOfMember> standing;
    for (const auto& line : joint.members) {
        if (line.lies) {
            add(mesh.nodesOf(Target::member, line.member));
            continue;
        }
        for (auto& end : feetOf(structure, mesh, line))
            if (!led.contains(end.node)) standing.push_back(std::move(end));
    }
    nodes.assign(own.begin(), own.end());
    std::vector<Eigen::Vector3d> places;
    for (const int node : nodes)
        places.push_back(mesh.nodes[static_cast<std::size_t>(node)].place);
    for (const auto& end : standing)
        places.push_back(end.place);
    const double nearest = nearestTo(structure, mesh, leading, places);
    reach = (joint.reach ? *joint.reach : 1.5 * nearest + samePlace) + sameInShapes;
    if (!std::isfinite(nearest) || nearest > reach) {
        findings.push_back(nothingFaces(joint, nearest));
        nodes.clear();
        return;
    }
    const auto near = nearestFacets(mesh, leading, places, reach);
    std::vector<Eigen::Vector3d> normals;
    for (std::size_t facet = 0; !standing.empty() && facet < leading.size(); ++facet) {
        const double middle = leading[facet].corners() == 3 ? 1.0 / 3.0 : 0.0;
        normals.push_back(placeOn(mesh, leading[facet], middle, middle).normal);
    }
    for (std::size_t at = 0; at < standing.size(); ++at) {
        if (!near[nodes.size() + at]) continue;
        const FootOfMember& end = standing[at];
        const auto section = placesOver(*end.section);
        std::vector<Eigen::Vector3d> over;
        double widest = 0.0;
        auto& outline = outlines.emplace_back(end.node, std::vector<Eigen::Vector3d>{}).second;
        for (const auto& [y, z] : end.section->outline)
            outline.emplace_back(end.place + y * end.y + z * end.z);
        for (const auto& place : section) {
            over.emplace_back(end.place + place.y * end.y + place.z * end.z);
            widest = std::max(widest, std::hypot(place.y, place.z));
            sections[end.node] += place.area;
        }
        // What the section looks at alone, not the sides of a body beside it.
        std::vector<SurfaceFacet> faced;
        std::vector<int> which;
        constexpr double least = 0.5; // the cosine of the angle by which it may stand askew
        for (std::size_t facet = 0; facet < leading.size(); ++facet)
            if (std::abs(normals[facet].dot(end.along)) > least) {
                faced.push_back(leading[facet]);
                which.push_back(int(facet));
            }
        const auto below = nearestFacets(mesh, faced, over, reach + widest);
        auto& feet = ends[end.node]; // none of them is said too
        for (std::size_t place = 0; place < over.size(); ++place)
            if (below[place])
                feet.push_back(
                    {{which[static_cast<std::size_t>(below[place]->facet)], below[place]->at}, section[place].area});
    }
}

std::vector<SurfaceFollower> lineFollowers(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint& joint,
                                           Findings& findings)
{
    const LinesOnSurface on(structure, mesh, joint, findings);
    const Turning turning = joint.hinged ? Turning::none : joint.edges.empty() ? Turning::acrossNormal : Turning::all;
    auto found = followersBeneath(mesh, on.leading, on.nodes, on.reach, turning);
    const std::string parts = partsOf(structure, on.leading);
    if (found.size() < on.nodes.size())
        findings.push_back(noteAt(
            joint.sentence,
            fmt::format("{} of {} nodes lie before {}; the others are free", found.size(), on.nodes.size(), parts),
            "Say within how much, if it is to be more."));
    if (joint.slides) {
        const auto ways = waysAlong(structure, mesh, joint);
        for (auto& follower : found)
            if (const auto way = ways.find(follower.node); way != ways.end()) follower.slides = way->second;
    }
    for (const auto& [node, places] : on.ends) {
        double covered = 0.0;
        for (const auto& place : places)
            covered += place.area;
        constexpr double enough = 0.95, tooLittle = 0.2;
        const double share = covered / on.sections.at(node);
        if (share < tooLittle) {
            findings.push_back(
                errorAt(joint.sentence,
                        fmt::format("no more than {:.0f} % of the section at {} stands on {}", 100.0 * share,
                                    placeText(mesh.nodes[static_cast<std::size_t>(node)].place), parts),
                        "Move the member inwards, or tie its end rigidly to a point of the part."));
            continue;
        }
        if (share < enough)
            findings.push_back(
                warningAt(joint.sentence,
                          fmt::format("{:.0f} % of the section at {} stands on {}, the rest stands out", 100.0 * share,
                                      placeText(mesh.nodes[static_cast<std::size_t>(node)].place), parts),
                          "Move the member inwards, or make the part wider."));
        found.push_back(meanOver(mesh, on.leading, node, places, !joint.hinged));
    }
    if (!found.empty()) sayWhatIsOutOfReach(structure, joint, found, parts, findings);
    if (!on.ends.empty())
        findings.push_back(
            noteAt(joint.sentence,
                   fmt::format("{} of members {} on {} by {} of {:.3g} cm2",
                               on.ends.size() == 1 ? "an end" : fmt::format("{} ends", on.ends.size()),
                               on.ends.size() == 1 ? "stands" : "stand", parts,
                               on.ends.size() == 1 ? "a section" : "sections", 1e4 * on.sections.begin()->second)));
    return found;
}

void eachSpringAlong(const Structure& structure, const FrameMesh& mesh, const SurfaceJoint& joint, Findings& findings,
                     const std::function<void(const SurfaceSprings&)>& take)
{
    const LinesOnSurface on(structure, mesh, joint, findings);
    if (on.nodes.empty()) return;
    const auto along = placesAlong(structure, mesh, joint, on);
    std::vector<Eigen::Vector3d> places;
    for (const auto& place : along)
        places.push_back(place.place);
    const auto below = nearestFacets(mesh, on.leading, places, on.reach);
    double length = 0.0;
    for (std::size_t at = 0; at < along.size(); ++at)
        if (below[at]) length += along[at].length;
    for (std::size_t at = 0; at < along.size(); ++at) {
        if (!below[at]) continue;
        const EdgePlace& place = along[at];
        const SurfaceFacet& facet = on.leading[static_cast<std::size_t>(below[at]->facet)];
        SurfaceSprings found{place.part, {place.ends[0], place.ends[1]}, {}};
        found.nodes.insert(found.nodes.end(), facet.nodes.begin(), facet.nodes.end());
        const auto size = 6 * Eigen::Index(found.nodes.size());
        const Eigen::Index motion = joint.springs ? 0 : 3; // shifts, or turns
        Matrix3X stretch = Matrix3X::Zero(3, size);
        stretch.middleCols<3>(motion) = -(1.0 - place.share) * Eigen::Matrix3d::Identity();
        stretch.middleCols<3>(6 + motion) = -place.share * Eigen::Matrix3d::Identity();
        Eigen::Matrix3d stiffness;
        if (joint.springs) {
            stretch.rightCols(size - 12) = shiftWith(mesh, facet, below[at]->at, place.place);
            stiffness = stiffnessAcross(below[at]->at.normal, joint.springs->over(length));
        } else {
            stretch.rightCols(size - 12) = turnWith(facet, below[at]->at);
            const Eigen::Vector3d about = (mesh.nodes[static_cast<std::size_t>(place.ends[1])].place -
                                           mesh.nodes[static_cast<std::size_t>(place.ends[0])].place)
                                              .normalized();
            stiffness = *joint.hingeStiffness * about * about.transpose();
        }
        found.stiffness = place.length * stretch.transpose() * stiffness * stretch;
        take(found);
    }
}

} // namespace undisona
