#include "core/mesh/edge_division.hpp"

#include <Eigen/Geometry>

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

namespace undisona {

namespace {

using Two = Eigen::Vector2d;

/// Where the outline of a face turns by so much it has a corner.
constexpr double cornerTurn = std::numbers::pi / 5.0;
/// A curved edge is divided at least every so often; of a hole in a plane, and of a curved face.
constexpr double planeTurn = std::numbers::pi / 6.0, roundTurn = std::numbers::pi / 12.0;
constexpr double mostTurns = 3.0; ///< times as much at most
/// One curved side alone takes an arc that is shorter than a share of the size asked.
constexpr double tinyTurn = 1.8, tiny = 0.5;

/// How fast elements of bodies grow away from a detail: faster from one that is far smaller than what is asked, which
/// hardly bends where it is.
double growthFrom(double detail, double size)
{
    constexpr double fair = 2.0, most = 1.2;
    return std::clamp(SizeField::growth * std::sqrt(size / (fair * detail)), SizeField::growth, most);
}

} // namespace

EdgeDivision::EdgeDivision(const JoinedFaces& faces, const std::vector<double>& sizeOfFace, const SizeField& field,
                           const SweepPlan& plan, double turns)
    : faces_(faces), sizes_(sizeOfFace), field_(field), turns_(std::min(turns, mostTurns)),
      curved_(faces.faces.size(), 0), followed_(faces.faces.size(), 0), quadratic_(faces.faces.size(), 0), across_(faces.faces.size(), 1), atLeast_(faces.edges.size(), 1),
      even_(faces.edges.size(), 0)
{
    for (std::size_t edge = 0; edge < faces.edges.size(); ++edge)
        bonds_.push_back({static_cast<int>(edge), false});
    for (std::size_t face = 0; face < faces.faces.size(); ++face)
        curved_[face] = faces.faces[face].sheet < 0;
    for (std::size_t body = 0; body < plan.bodies.size(); ++body)
        for (const int face : faces.solids[body].faces)
            if (plan.bodies[body].linear) curved_[static_cast<std::size_t>(face)] = 0;
    bindSweeps(plan);
    findRings();
    divide(field_);
    findSides();
    partAcross();
    gradeShortEdges();
    match();
}

bool EdgeDivision::isPlane(int face) const
{
    if (faces_.faces[static_cast<std::size_t>(face)].loops.empty()) return false;
    const auto& loop = faces_.faces[static_cast<std::size_t>(face)].loops[0];
    const Eigen::Vector3d first = faces_.normal(face, faces_.onFace(face, 0, 0, 0.3));
    for (std::size_t use = 0; use < loop.size(); ++use)
        if (first.dot(faces_.normal(face, faces_.onFace(face, 0, static_cast<int>(use), 0.6))) < 1.0 - 1e-9)
            return false;
    return true;
}

/// By how much an element of this face may turn along the edge.
double EdgeDivision::turnOf(const FaceEdge& edge, int face, bool plane) const
{
    const double usual = plane ? planeTurn : roundTurn, size = sizes_[static_cast<std::size_t>(face)];
    if (!curved_[static_cast<std::size_t>(face)] || edge.turn <= usual) return usual;
    if (edge.length < tiny * size) return tinyTurn;
    return std::clamp(size * edge.turn / edge.length, usual, std::max(usual, curvedTurn));
}

void EdgeDivision::divide(const SizeField& field)
{
    parts_.clear();
    grading_.clear();
    std::vector<char> plane(faces_.faces.size());
    for (std::size_t face = 0; face < plane.size(); ++face)
        plane[face] = followed_[face] == 2 || isPlane(static_cast<int>(face)); // curved sides follow longer arcs
    for (const auto& edge : faces_.edges) {
        double wanted = 1.0;
        for (const int face : edge.faces) {
            wanted = std::max(wanted, edge.length / sizes_[static_cast<std::size_t>(face)] - 1e-6);
            wanted = std::max(wanted, edge.turn / (turns_ * turnOf(edge, face, plane[static_cast<std::size_t>(face)])) - 1e-6);
        }
        if (edge.first == edge.last) wanted = std::max(wanted, 3.0);
        wanted = std::max(wanted, double(atLeast_[parts_.size()]));
        grade(parts_.size(), wanted, field);
        parts_.push_back(static_cast<long>(std::ceil(wanted)));
    }
    gradeBound();
    matchBound();
}

/// Notes how the parts of an edge get smaller where the field says so, and how many there are then.
void EdgeDivision::grade(std::size_t edge, double& wanted, const SizeField& field)
{
    grading_.emplace_back();
    if (field.empty()) return;
    constexpr int samples = 128;
    const double even = faces_.edges[edge].length / wanted;
    std::vector<double> parts{0.0};
    double least = even;
    for (int sample = 0; sample < samples; ++sample) {
        const double size = field.at(faces_.onEdge(static_cast<int>(edge), (sample + 0.5) / samples), even);
        least = std::min(least, size);
        parts.push_back(parts.back() + faces_.edges[edge].length / samples / size);
    }
    if (least > 0.99 * even) return;
    wanted = std::max(wanted, parts.back() - 1e-6);
    grading_.back() = std::move(parts);
}

double EdgeDivision::shareOf(int index, long part) const
{
    const auto edge = static_cast<std::size_t>(index);
    const double even = double(part) / double(parts_[edge]);
    const auto& sums = grading_[edge];
    if (sums.empty() || part == 0 || part == parts_[edge]) return even;
    const double wanted = even * sums.back();
    const auto above = std::upper_bound(sums.begin(), sums.end(), wanted);
    const auto at = std::min<long>(above - sums.begin(), static_cast<long>(sums.size()) - 1);
    const double low = sums[static_cast<std::size_t>(at - 1)], high = sums[static_cast<std::size_t>(at)];
    return (double(at - 1) + (wanted - low) / (high - low)) / double(sums.size() - 1);
}

/// Whether the field asks for sizes on a face that are far from each other.
bool EdgeDivision::isGraded(int face) const
{
    if (field_.empty() || faces_.faces[static_cast<std::size_t>(face)].loops.empty()) return false;
    Two low = Two::Constant(1e300), high = -low;
    const auto& loop = faces_.faces[static_cast<std::size_t>(face)].loops[0];
    for (std::size_t use = 0; use < loop.size(); ++use)
        for (const double share : {0.0, 0.25, 0.5, 0.75}) {
            low = low.cwiseMin(faces_.onFace(face, 0, static_cast<int>(use), share));
            high = high.cwiseMax(faces_.onFace(face, 0, static_cast<int>(use), share));
        }
    double least = 1e300, most = 0.0;
    constexpr int steps = 16;
    for (int x = 0; x <= steps; ++x)
        for (int y = 0; y <= steps; ++y) {
            const Two own = low + (high - low).cwiseProduct(Two(x, y)) / steps;
            const double size = field_.at(faces_.place(face, own), sizes_[static_cast<std::size_t>(face)]);
            least = std::min(least, size);
            most = std::max(most, size);
        }
    return most > 1.4 * least;
}

/// The four sides of faces that have four corners, one loop and nothing inside; runs of uses of the loop.
void EdgeDivision::findSides()
{
    sides_.resize(faces_.faces.size());
    for (std::size_t index = 0; index < faces_.faces.size(); ++index) {
        const auto& face = faces_.faces[index];
        const int own = static_cast<int>(index);
        if (face.loops.size() != 1 || !face.innerEdges.empty() || !face.innerVertices.empty() || isGraded(own))
            continue;
        const int uses = static_cast<int>(face.loops[0].size());
        std::vector<int> corners; // uses that begin at one
        for (int use = 0; use < uses; ++use) {
            const int before = (use + uses - 1) % uses;
            const Two in = (faces_.onFace(own, 0, before, 1.0) - faces_.onFace(own, 0, before, 0.98)).normalized(),
                      out = (faces_.onFace(own, 0, use, 0.02) - faces_.onFace(own, 0, use, 0.0)).normalized();
            if (std::acos(std::clamp(in.dot(out), -1.0, 1.0)) <= cornerTurn) continue;
            corners.push_back(use);
            if (in.x() * out.y() - in.y() * out.x() < 0.0) corners.resize(5); // it turns inwards: no side of four
        }
        if (corners.size() != 4) continue;
        for (std::size_t side = 0; side < 4; ++side) {
            std::vector<int> run;
            for (int use = corners[side]; use != corners[(side + 1) % 4]; use = (use + 1) % uses)
                run.push_back(use);
            sides_[index].push_back(std::move(run));
        }
    }
}

/// A profile that is mapped gets so many elements across its short sides as its body asks for.
void EdgeDivision::partAcross()
{
    for (std::size_t face = 0; face < sides_.size(); ++face)
        for (std::size_t side = 0; side < sides_[face].size(); ++side) {
            if (partsOfSide(static_cast<int>(face), side) >= across_[face]) continue;
            const auto edge = static_cast<std::size_t>(
                faces_.faces[face].loops[0][static_cast<std::size_t>(sides_[face][side].front())].edge);
            atLeast_[edge] = parts_[edge] = across_[face];
        }
    matchBound();
}

/// Faces that will be filled grow coarser from their short edges and small arcs on, in place of meeting them with
/// slivers.
/// Where two rims of a face come near each other, such as a hole and the rim, two elements lie between them; one where it
/// becomes a 20-node brick or 15-node wedge, which bends by itself.
void EdgeDivision::narrowGaps(std::size_t face, std::vector<SizeField::Source>& sources) const
{
    const auto& loops = faces_.faces[face].loops;
    if (loops.size() < 2) return;
    // On other meshes of a study the same gaps are narrow, and their elements larger or smaller by as much.
    const double size = sizes_[face] / turns_, least = turns_ * size / (curved_[face] ? 6.0 : 12.0);
    const double across = quadratic_[face] ? 1.0 : curved_[face] ? 1.5 : 3.0;
    struct Rim {
        std::vector<Eigen::Vector3d> places;
        Eigen::AlignedBox3d box;
    };
    std::vector<Rim> rims;
    for (const auto& loop : loops) {
        Rim rim;
        for (const auto& [edge, backwards] : loop) {
            const long steps =
                std::clamp<long>(std::lround(2.0 * faces_.edges[static_cast<std::size_t>(edge)].length / size),
                                 2 * parts_[static_cast<std::size_t>(edge)], 400);
            for (long step = 0; step < steps; ++step) {
                const double share = double(step) / double(steps);
                rim.places.push_back(faces_.onEdge(edge, backwards ? 1.0 - share : share));
                rim.box.extend(rim.places.back());
            }
        }
        rims.push_back(std::move(rim));
    }
    const auto gap = [](const Rim& rim, const Eigen::Vector3d& from) {
        double nearest = 1e300;
        for (std::size_t at = 0; at < rim.places.size(); ++at) {
            const Eigen::Vector3d &a = rim.places[at], &b = rim.places[(at + 1) % rim.places.size()];
            const double length2 = (b - a).squaredNorm();
            const double share = length2 > 0.0 ? std::clamp((from - a).dot(b - a) / length2, 0.0, 1.0) : 0.0;
            nearest = std::min(nearest, (a + share * (b - a) - from).norm());
        }
        return nearest;
    };
    for (std::size_t one = 0; one < rims.size(); ++one)
        for (std::size_t other = 0; other < rims.size(); ++other) {
            if (one == other || rims[one].box.exteriorDistance(rims[other].box) > size) continue;
            for (const auto& place : rims[one].places) {
                if (rims[other].box.exteriorDistance(place) > size) continue;
                const double width = gap(rims[other], place);
                if (width >= size) continue;
                const double own = std::max(turns_ * width / across, least);
                sources.push_back({place, own, curved_[face] ? growthFrom(own, sizes_[face]) : SizeField::growth});
            }
        }
}

void EdgeDivision::gradeShortEdges()
{
    std::vector<SizeField::Source> sources = field_.sources();
    const std::size_t stated = sources.size();
    std::set<int> seen;
    for (std::size_t face = 0; face < faces_.faces.size(); ++face) {
        if (!sides_[face].empty() || ring_[face] || followed_[face]) continue;
        narrowGaps(face, sources);
        for (const auto& loop : faces_.faces[face].loops)
            for (const auto& [edge, backwards] : loop) {
                const auto at = static_cast<std::size_t>(edge);
                const double part = faces_.edges[at].length / double(parts_[at]);
                if (part > 0.6 * sizes_[face] || !grading_[at].empty()) continue;
                if (!seen.insert(edge).second) continue;
                for (long which = 0; which <= parts_[at]; ++which)
                    sources.push_back({faces_.onEdge(edge, double(which) / double(parts_[at])), part,
                                       curved_[face] ? growthFrom(part, sizes_[face]) : SizeField::growth});
            }
    }
    if (sources.size() == stated) return;
    own_ = SizeField(std::move(sources));
    divide(own_);
}

long EdgeDivision::partsOfSide(int index, std::size_t side) const
{
    const auto face = static_cast<std::size_t>(index);
    long sum = 0;
    for (const int use : sides_[face][side])
        sum += parts_[static_cast<std::size_t>(faces_.faces[face].loops[0][static_cast<std::size_t>(use)].edge)];
    return sum;
}

void EdgeDivision::match()
{
    for (int sweep = 0; sweep < 30; ++sweep) {
        const bool sides = matchSides(), bound = matchBound();
        if (!sides && !bound) return;
    }
    matchBound();
}

/// Opposite sides get the same number of parts, the coarser one more of them; says whether any had to.
bool EdgeDivision::matchSides()
{
    bool changed = false;
    for (std::size_t face = 0; face < sides_.size(); ++face)
        for (std::size_t side = 0; side < 2 && !sides_[face].empty(); ++side) {
            const long one = partsOfSide(static_cast<int>(face), side),
                       other = partsOfSide(static_cast<int>(face), side + 2);
            if (one == other) continue;
            const std::size_t coarse = one < other ? side : side + 2;
            int longest = -1; // by the length of its parts
            double most = 0.0;
            for (const int use : sides_[face][coarse]) {
                const int edge = faces_.faces[face].loops[0][static_cast<std::size_t>(use)].edge;
                const double length = faces_.edges[static_cast<std::size_t>(edge)].length /
                                      double(parts_[static_cast<std::size_t>(edge)]);
                if (length > most * (1.0 + 1e-9)) {
                    most = length;
                    longest = edge;
                }
            }
            parts_[static_cast<std::size_t>(longest)] += sides_[face][coarse].size() == 1 ? std::abs(one - other) : 1;
            changed = true;
        }
    return changed;
}

/// Bound edges get the parts of the one that has most of them.
bool EdgeDivision::matchBound()
{
    bool changed = false;
    std::vector<long> most(parts_.size(), 0);
    const auto first = [&](std::size_t edge) { return static_cast<std::size_t>(bondOf(static_cast<int>(edge)).first); };
    for (std::size_t edge = 0; edge < parts_.size(); ++edge)
        most[first(edge)] = std::max(most[first(edge)], parts_[edge]);
    for (std::size_t edge = 0; edge < parts_.size(); ++edge) {
        changed = changed || parts_[edge] != most[first(edge)];
        parts_[edge] = most[first(edge)];
    }
    return changed;
}

/// Bound edges get finer in the same way: as the one that gets finest has it.
void EdgeDivision::gradeBound()
{
    std::map<int, int> finest; // of each class
    std::set<int> even;
    for (std::size_t edge = 0; edge < parts_.size(); ++edge) {
        const int own = static_cast<int>(edge), first = bondOf(own).first;
        if (even_[edge]) even.insert(first);
        if (grading_[edge].empty()) continue;
        const auto [at, isNew] = finest.emplace(first, own);
        if (grading_[edge].back() > grading_[static_cast<std::size_t>(at->second)].back()) at->second = own;
    }
    for (std::size_t edge = 0; edge < parts_.size(); ++edge) {
        const Bond bond = bondOf(static_cast<int>(edge));
        const auto at = finest.find(bond.first);
        if (at == finest.end() || at->second == static_cast<int>(edge)) continue;
        std::vector<double> sums = grading_[static_cast<std::size_t>(at->second)];
        if (bondOf(at->second).against != bond.against) {
            const double all = sums.back();
            std::reverse(sums.begin(), sums.end());
            for (double& sum : sums)
                sum = all - sum;
        }
        grading_[edge] = std::move(sums);
    }
    for (std::size_t edge = 0; edge < parts_.size(); ++edge)
        if (even.contains(bondOf(static_cast<int>(edge)).first)) grading_[edge].clear();
}

EdgeDivision::Bond EdgeDivision::bondOf(int edge) const
{
    Bond bond{edge, false};
    while (bonds_[static_cast<std::size_t>(bond.first)].first != bond.first) {
        const Bond& next = bonds_[static_cast<std::size_t>(bond.first)];
        bond = {next.first, bond.against != next.against};
    }
    return bond;
}

void EdgeDivision::bind(int one, int other, bool against)
{
    const Bond a = bondOf(one), b = bondOf(other);
    if (a.first == b.first) return;
    bonds_[static_cast<std::size_t>(std::max(a.first, b.first))] = {std::min(a.first, b.first),
                                                                    (a.against != b.against) != against};
}

void EdgeDivision::bindSweeps(const SweepPlan& plan)
{
    for (const auto& body : plan.bodies) {
        if (body.turn) {
            int first = -1;
            for (const auto& part : body.turn->parts) {
                followed_[static_cast<std::size_t>(part.face)] = body.linear ? 1 : 2;
                if (part.to < 0) continue;
                const auto at = static_cast<std::size_t>(part.to);
                if (first < 0) first = part.to;
                bind(first, part.to, false);
                even_[at] = 1;
                atLeast_[at] = std::max(atLeast_[at], body.layers);
            }
        }
        if (!body.sweep) continue;
        followed_[static_cast<std::size_t>(body.sweep->to)] = 1;
        quadratic_[static_cast<std::size_t>(body.sweep->from)] = !body.linear;
        long& across = across_[static_cast<std::size_t>(body.sweep->from)];
        across = std::max(across, body.leastAcross);
        for (const auto& wall : body.sweep->walls) {
            bind(wall.begin, wall.end, wall.against);
            followed_[static_cast<std::size_t>(wall.face)] = body.linear ? 1 : 2;
        }
        for (const int rail : body.sweep->rails) {
            const auto at = static_cast<std::size_t>(rail);
            bind(body.sweep->rails.front(), rail, false);
            even_[at] = 1;
            atLeast_[at] = std::max(atLeast_[at], body.layers);
        }
    }
}

void EdgeDivision::findRings()
{
    constexpr double narrowest = 0.45; // inner over outer radius
    ring_.assign(faces_.faces.size(), 0);
    for (std::size_t index = 0; index < faces_.faces.size(); ++index) {
        const auto& face = faces_.faces[index];
        const int own = static_cast<int>(index);
        if (!face.plane || face.loops.size() != 2 || !face.innerEdges.empty() || !face.innerVertices.empty()) continue;
        if (face.loops[0].size() != 1 || face.loops[1].size() != 1 || isGraded(own)) continue;
        std::array<Eigen::Vector3d, 2> centre;
        std::array<double, 2> radius{};
        bool round = true;
        for (std::size_t loop = 0; loop < 2; ++loop) {
            const int edge = face.loops[loop][0].edge;
            const auto at = [&](double share) { return faces_.onEdge(edge, share); };
            centre[loop] = (at(0.0) + at(0.5)) / 2.0;
            radius[loop] = (at(0.0) - at(0.5)).norm() / 2.0;
            for (const double share : {0.125, 0.25, 0.625})
                round = round && std::abs((at(share) - centre[loop]).norm() - radius[loop]) < 1e-6 * radius[loop];
        }
        if (!round || (centre[0] - centre[1]).norm() > 1e-6 * radius[0] || radius[1] < narrowest * radius[0]) continue;
        ring_[index] = 1;
        const int one = face.loops[0][0].edge, other = face.loops[1][0].edge;
        bind(one, other, false);
        even_[static_cast<std::size_t>(one)] = even_[static_cast<std::size_t>(other)] = 1;
    }
}

} // namespace undisona
