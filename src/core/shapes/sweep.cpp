#include "core/shapes/sweep.hpp"

#include "core/base/same_place.hpp"

#include <algorithm>
#include <cmath>
#include <optional>
#include <set>

namespace undisona {

Eigen::Vector3d SweepMotion::at(const Eigen::Vector3d& start, double share) const
{
    if (!turns) return start + share * extent * direction;
    return place + Eigen::AngleAxisd(share * extent, direction) * (start - place);
}

Eigen::Vector3d SweepMotion::wayFrom(const Eigen::Vector3d& start) const
{
    return turns ? direction.cross(start - place).normalized() : direction;
}

namespace {

class SweepFinder {
public:
    SweepFinder(const JoinedFaces& faces, const JoinedSolid& body) : faces_(faces), body_(body)
    {
        for (const int face : body.faces) {
            if (face_(face).loops.empty()) whole_ = false; // closes on itself both ways
            for (const int edge : edgesOf(face))
                edges_.insert(edge);
        }
    }

    std::vector<Sweep> found() const
    {
        std::vector<Sweep> sweeps;
        constexpr std::size_t most = 800; // walls are set against edges, each against each
        if (!whole_ || body_.faces.size() > most) return sweeps;
        for (const int from : body_.faces) {
            // Two ends and a wall to every edge of the first, or fewer where one lies on the axis.
            if (body_.faces.size() > edgesOf(from).size() + 2) continue;
            if (auto sweep = sweepFrom(from)) sweeps.push_back(std::move(*sweep));
        }
        std::stable_sort(sweeps.begin(), sweeps.end(),
                         [](const Sweep& one, const Sweep& other) { return one.length < other.length * (1.0 - 1e-9); });
        return sweeps;
    }

private:
    const JoinedFace& face_(int face) const { return faces_.faces[static_cast<std::size_t>(face)]; }
    const FaceEdge& edge_(int edge) const { return faces_.edges[static_cast<std::size_t>(edge)]; }
    const Eigen::Vector3d& vertex(int vertex) const { return faces_.vertices[static_cast<std::size_t>(vertex)]; }

    std::set<int> edgesOf(int face) const
    {
        std::set<int> edges;
        for (const auto& loop : face_(face).loops)
            for (const auto& use : loop)
                edges.insert(use.edge);
        return edges;
    }

    /// The motion that takes the first or last vertex of an edge along it.
    std::optional<SweepMotion> motionAlong(int rail, bool backwards) const
    {
        const auto at = [&](double share) { return faces_.onEdge(rail, backwards ? 1.0 - share : share); };
        const Eigen::Vector3d start = at(0.0), middle = at(0.5), end = at(1.0);
        if (edge_(rail).turn < 1e-6) return SweepMotion{false, start, (end - start).normalized(), (end - start).norm()};
        const Eigen::Vector3d a = middle - start, b = end - start, normal = a.cross(b);
        if (normal.norm() < 1e-9 * a.norm() * b.norm()) return std::nullopt;
        const Eigen::Vector3d centre = // of the circle through three places
            start +
            (a.squaredNorm() * b.cross(normal) + b.squaredNorm() * normal.cross(a)) / (2.0 * normal.squaredNorm());
        constexpr double far = 1e4; // lengths: it rises by less than two hundred-thousandths over its chord
        if ((centre - start).norm() > far * b.norm()) return SweepMotion{false, start, b.normalized(), b.norm()};
        SweepMotion motion{true, centre, normal.normalized(), 0.0};
        const Eigen::Vector3d one = start - centre, half = middle - centre;
        motion.extent = 2.0 * std::atan2(one.cross(half).dot(motion.direction), one.dot(half));
        return motion;
    }

    /// The edge outside `from` that one of its edges moves onto.
    std::optional<Sweep::Wall> imageOf(int edge, const std::set<int>& own, const SweepMotion& motion) const
    {
        const auto image = [&](double share) { return motion.at(faces_.onEdge(edge, share), 1.0); };
        for (const int other : edges_) {
            if (own.contains(other)) continue;
            if (std::abs(edge_(other).length - edge_(edge).length) > touching + 1e-6 * edge_(edge).length) continue;
            for (const bool against : {false, true}) {
                bool fits = true;
                for (const double share : {0.0, 0.25, 0.5, 1.0})
                    fits =
                        fits && (faces_.onEdge(other, against ? 1.0 - share : share) - image(share)).norm() < touching;
                if (fits) return Sweep::Wall{-1, edge, other, against};
            }
        }
        return std::nullopt;
    }

    std::optional<Sweep> sweepFrom(int from) const
    {
        if (!face_(from).plane || !face_(from).innerEdges.empty()) return std::nullopt;
        const std::set<int> own = edgesOf(from);
        std::set<int> corners;
        for (const int edge : own)
            corners.insert({edge_(edge).first, edge_(edge).last});
        for (const int rail : edges_) {
            if (own.contains(rail) || edge_(rail).first == edge_(rail).last) continue;
            const bool first = corners.contains(edge_(rail).first), last = corners.contains(edge_(rail).last);
            if (first == last) continue;
            const auto motion = motionAlong(rail, last);
            return motion ? sweptBy(from, own, corners, *motion) : std::nullopt; // all rails are alike
        }
        return std::nullopt;
    }

    std::optional<Sweep> sweptBy(int from, const std::set<int>& own, const std::set<int>& corners,
                                 const SweepMotion& motion) const
    {
        Sweep sweep{motion, from, -1, {}, {}, 0.0};
        std::set<int> far;
        for (const int edge : own) {
            const auto wall = imageOf(edge, own, motion);
            if (!wall || !far.insert(wall->end).second) return std::nullopt;
            sweep.walls.push_back(*wall);
        }
        std::set<int> rails;
        for (const int face : body_.faces) {
            if (face == from) continue;
            const auto& here = face_(face);
            if (!here.innerEdges.empty() || !here.innerVertices.empty()) return std::nullopt;
            const std::set<int> edges = edgesOf(face);
            if (edges == far && sweep.to < 0) {
                sweep.to = face;
                continue;
            }
            const auto wall = std::find_if(sweep.walls.begin(), sweep.walls.end(), [&](const Sweep::Wall& candidate) {
                return edges.contains(candidate.begin) && edges.contains(candidate.end);
            });
            if (wall == sweep.walls.end() || wall->face >= 0 || here.loops.size() != 1 || here.loops[0].size() != 4)
                return std::nullopt;
            wall->face = face;
            if (faces_.distance(face, motion.at(faces_.onEdge(wall->begin, 0.5), 0.5)) > touching) return std::nullopt;
            for (const int edge : edges)
                if (edge != wall->begin && edge != wall->end) rails.insert(edge);
        }
        if (sweep.to < 0 || rails.size() != corners.size()) return std::nullopt;
        for (const auto& wall : sweep.walls)
            if (wall.face < 0) return std::nullopt;
        for (const int rail : rails) {
            const auto& edge = edge_(rail);
            const bool forwards = corners.contains(edge.first);
            if (!forwards && !corners.contains(edge.last)) return std::nullopt;
            const Eigen::Vector3d start = vertex(forwards ? edge.first : edge.last);
            if ((faces_.onEdge(rail, 0.5) - motion.at(start, 0.5)).norm() > touching) return std::nullopt;
            sweep.rails.push_back(rail);
            sweep.length = std::max(sweep.length, edge.length);
        }
        return sweep;
    }

    const JoinedFaces& faces_;
    const JoinedSolid& body_;
    std::set<int> edges_;
    bool whole_ = true;
};

} // namespace

std::vector<Sweep> sweepsOf(const JoinedFaces& faces, const JoinedSolid& body)
{
    return SweepFinder(faces, body).found();
}

} // namespace undisona
