#include "core/shapes/placed_faces.hpp"

#include "core/base/same_place.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/shapes/kept_answers.hpp"

#include <algorithm>
#include <set>

namespace undisona {

namespace {

/// m, to an edge: to the nearest of its chords, then along the curve about there.
double distanceTo(const JoinedFaces& faces, int edge, const Eigen::Vector3d& place)
{
    const auto& along = faces.edges[static_cast<std::size_t>(edge)].along;
    const double chords = double(along.size() - 1);
    double best = 1e300, at = 0.0;
    for (std::size_t chord = 1; chord < along.size(); ++chord) {
        const Eigen::Vector3d way = along[chord] - along[chord - 1];
        const double share = way.squaredNorm() > 0.0
                                 ? std::clamp((place - along[chord - 1]).dot(way) / way.squaredNorm(), 0.0, 1.0)
                                 : 0.0;
        const double off = (along[chord - 1] + share * way - place).norm();
        if (off < best) {
            best = off;
            at = (double(chord - 1) + share) / chords;
        }
    }
    if (along.size() == 2) return best;
    const auto off = [&](double share) { return (faces.onEdge(edge, std::clamp(share, 0.0, 1.0)) - place).norm(); };
    double low = at - 1.5 / chords, high = at + 1.5 / chords;
    constexpr double golden = 0.6180339887498949;
    for (int step = 0; step < 60; ++step) {
        const double first = high - golden * (high - low), second = low + golden * (high - low);
        (off(first) < off(second) ? high : low) = off(first) < off(second) ? second : first;
    }
    return std::min(best, off((low + high) / 2.0));
}

/// The parts of a placed frame that something is of, as that frame counts them.
class PartsOf {
public:
    PartsOf(const Frame& whole, const PlacedFrame& placed) : whole_(whole), placed_(placed) {}

    std::set<int> inWhole(const JoinedFace& face) const
    {
        const Frame& own = *placed_.frame;
        std::set<int> parts;
        for (const int part : whole_.partsOf(face)) {
            const int sheet = part - placed_.firstSheet,
                      solid = part - static_cast<int>(whole_.sheets.size()) - placed_.firstSolid;
            if (part < static_cast<int>(whole_.sheets.size())) {
                if (sheet >= 0 && sheet < static_cast<int>(own.sheets.size())) parts.insert(sheet);
            } else if (solid >= 0 && solid < static_cast<int>(own.solids.size())) {
                parts.insert(own.partOfSolid(solid));
            }
        }
        return parts;
    }
    std::set<int> alone(const JoinedFace& face) const
    {
        const auto parts = placed_.frame->partsOf(face);
        return {parts.begin(), parts.end()};
    }

private:
    const Frame& whole_;
    const PlacedFrame& placed_;
};

/// Places that lie on a face and all together on no other: its middle, or where that is in a hole of it, places along
/// all of its edges.
std::vector<Eigen::Vector3d> tellingPlaces(const JoinedFaces& faces, int face, double near)
{
    const Eigen::Vector3d middle = faces.middle(face);
    if (faces.distance(face, middle) < near) return {middle};
    std::vector<Eigen::Vector3d> places;
    for (const auto& loop : faces.faces[static_cast<std::size_t>(face)].loops)
        for (const auto& use : loop)
            for (const double share : {0.0, 0.3, 0.6})
                places.push_back(faces.onEdge(use.edge, share));
    return places.empty() ? std::vector<Eigen::Vector3d>{middle} : places;
}

bool meet(const std::set<int>& one, const std::set<int>& other)
{
    return std::any_of(one.begin(), one.end(), [&](int part) { return other.contains(part); });
}

} // namespace

namespace {

PlacedFaces foundAgain(const Frame& whole, const PlacedFrame& placed)
{
    PlacedFaces found;
    const JoinedFaces &all = *whole.faces, &own = *placed.frame->faces;
    found.edges.resize(own.edges.size());
    found.faces.resize(own.faces.size());
    const PartsOf partsOf(whole, placed);
    const double near = 10.0 * std::max(samePlace, sameCoordinate(whole.span()));

    std::vector<std::set<int>> partsOfFace(own.faces.size()), partsOfEdge(own.edges.size());
    for (std::size_t face = 0; face < own.faces.size(); ++face)
        partsOfFace[face] = partsOf.alone(own.faces[face]);
    for (std::size_t edge = 0; edge < own.edges.size(); ++edge)
        for (const int face : own.edges[edge].faces)
            partsOfEdge[edge].insert(partsOfFace[static_cast<std::size_t>(face)].begin(),
                                     partsOfFace[static_cast<std::size_t>(face)].end());
    std::vector<Eigen::AlignedBox3d> boxOfEdge(own.edges.size());
    for (std::size_t edge = 0; edge < own.edges.size(); ++edge) {
        for (const auto& place : own.edges[edge].along)
            boxOfEdge[edge].extend(place);
        const Eigen::Vector3d margin = // what a curve bows beyond its chords
            Eigen::Vector3d::Constant(near + (own.edges[edge].along.size() > 2 ? 0.1 * own.edges[edge].length : 0.0));
        boxOfEdge[edge] = {boxOfEdge[edge].min() - margin, boxOfEdge[edge].max() + margin};
    }

    std::vector<std::set<int>> partsInWhole(all.faces.size());
    for (std::size_t face = 0; face < all.faces.size(); ++face) {
        const auto& parts = partsInWhole[face] = partsOf.inWhole(all.faces[face]);
        if (parts.empty()) continue;
        auto places = tellingPlaces(all, static_cast<int>(face), near);
        for (auto& place : places)
            place = placed.own(place);
        int best = -1;
        double least = near;
        for (std::size_t candidate = 0; candidate < own.faces.size(); ++candidate) {
            if (!meet(parts, partsOfFace[candidate])) continue;
            double off = 0.0; // the farthest of them
            for (const auto& place : places) {
                off = std::max(off, own.box(static_cast<int>(candidate)).exteriorDistance(place));
                if (off < near) off = std::max(off, own.distance(static_cast<int>(candidate), place));
                if (off >= least) break;
            }
            if (off >= least) continue;
            least = off;
            best = static_cast<int>(candidate);
        }
        if (best >= 0) found.faces[static_cast<std::size_t>(best)].push_back(static_cast<int>(face));
    }
    for (std::size_t edge = 0; edge < all.edges.size(); ++edge) {
        std::set<int> parts;
        for (const int face : all.edges[edge].faces)
            parts.insert(partsInWhole[static_cast<std::size_t>(face)].begin(),
                         partsInWhole[static_cast<std::size_t>(face)].end());
        if (parts.empty()) continue;
        std::array<Eigen::Vector3d, 3> places;
        for (std::size_t at = 0; at < 3; ++at)
            places[at] = placed.own(all.onEdge(static_cast<int>(edge), 0.2 + 0.3 * double(at)));
        for (std::size_t candidate = 0; candidate < own.edges.size(); ++candidate) {
            if (!meet(parts, partsOfEdge[candidate])) continue;
            if (std::all_of(places.begin(), places.end(), [&](const Eigen::Vector3d& place) {
                    return boxOfEdge[candidate].contains(place) &&
                           distanceTo(own, static_cast<int>(candidate), place) < near;
                })) {
                found.edges[candidate].push_back(static_cast<int>(edge));
                break;
            }
        }
    }
    return found;
}

} // namespace

PlacedFaces placedFaces(const Frame& whole, const PlacedFrame& placed)
{
    if (!placed.frame->faces || !whole.faces) return {};
    // Most edits leave shapes as they are.
    static KeptAnswers<PlacedFaces> known(64);
    std::vector<double> key{whole.faces->stamp, placed.frame->faces->stamp, whole.span(), double(placed.firstSheet),
                            double(placed.firstSolid)};
    key.insert(key.end(), placed.turn.data(), placed.turn.data() + 9);
    key.insert(key.end(), placed.shift.data(), placed.shift.data() + 3);
    if (auto found = known.find(key)) return std::move(*found);
    PlacedFaces found = foundAgain(whole, placed);
    known.keep(std::move(key), found);
    return found;
}

} // namespace undisona
