#include "core/mesh/sheet_mesh.hpp"

#include "core/mesh/edge_division.hpp"
#include "core/mesh/plane_mesh.hpp"
#include "core/mesh/swept_surface.hpp"
#include "core/mesh/turned_body.hpp"
#include "core/shapes/kept_answers.hpp"
#include "core/shapes/kept_shape.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace undisona {

namespace {

using Two = Eigen::Vector2d;

class Mesher {
public:
    Mesher(const JoinedFaces& faces, const SurfaceRequest& request, Progress* progress)
        : faces_(faces), plan_(planSweeps(faces, request.bodies)), sizes_(plannedSizes(request)),
          division_(faces, sizes_, request.field, plan_, request.turns), turns_(std::max(1.0, request.turns)),
          progress_(progress)
    {
    }

    SheetMesh meshed()
    {
        mesh_.nodes = faces_.vertices;
        for (std::size_t edge = 0; edge < faces_.edges.size(); ++edge) {
            const auto& own = faces_.edges[edge];
            std::vector<int> nodes{own.first};
            for (long part = 1; part < division_.parts(static_cast<int>(edge)); ++part) {
                nodes.push_back(static_cast<int>(mesh_.nodes.size()));
                mesh_.nodes.push_back(faces_.onEdge(static_cast<int>(edge), shareOf(edge, part)));
            }
            nodes.push_back(own.last);
            mesh_.ofEdge.push_back(std::move(nodes));
        }
        markSweeps();
        middlesOfEdges();
        const auto work = [&](std::size_t face) { return faces_.faces[face].area / (sizes_[face] * sizes_[face]); };
        double all = 0.0, done = 0.0;
        for (std::size_t face = 0; face < faces_.faces.size(); ++face)
            all += work(face);
        for (std::size_t face = 0; face < faces_.faces.size() && !stopped(); ++face) {
            if (const int own = static_cast<int>(face); !follows_[face] && !mapped(own) && !ring(own)) fill(own);
            tell(done / all, (done + work(face)) / all);
            done += work(face);
        }
        mesh_.columns.resize(faces_.solids.size());
        for (const int body : plan_.order) {
            if (stopped()) break;
            const Sweep& sweep = *plan_.bodies[static_cast<std::size_t>(body)].sweep;
            straighten(sweep.from);
            SweptSurface(faces_, sweep, mesh_).addTo(body);
        }
        mesh_.outlines.resize(faces_.solids.size());
        for (std::size_t body = 0; body < plan_.bodies.size() && !stopped(); ++body)
            if (const auto& turn = plan_.bodies[body].turn)
                TurnedBody(faces_, *turn, mesh_, [&](int face, const Eigen::Vector3d& place) {
                    const SizeField& field = division_.field();
                    return field.empty() ? sizeOf(face) : field.at(place, sizeOf(face));
                }).addTo(static_cast<int>(body));
        mesh_.plan = plan_;
        return std::move(mesh_);
    }

private:
    /// How far it has come, whole per cents; bodies that are filled afterwards take the longer part.
    void tell(double before, double now)
    {
        const double share = faces_.solids.empty() ? 1.0 : surfaceShare;
        if (progress_ && std::floor(100.0 * share * before) != std::floor(100.0 * share * now))
            progress_->fraction(share * now);
    }
    bool stopped() const { return progress_ && progress_->stopped(); }
    double sizeOf(int face) const { return sizes_[static_cast<std::size_t>(face)]; }
    double shareOf(std::size_t edge, long part) const { return division_.shareOf(static_cast<int>(edge), part); }

    /// What a body's thickness asks of its faces comes on top of what is asked of these.
    std::vector<double> plannedSizes(const SurfaceRequest& request) const
    {
        std::vector<double> sizes = request.sizeOfFace;
        for (std::size_t body = 0; body < plan_.bodies.size(); ++body) {
            const BodyPlan& plan = plan_.bodies[body];
            const auto limit = [&](int face) {
                double& size = sizes[static_cast<std::size_t>(face)];
                size = std::min(size, plan.size);
            };
            if (plan.sweep)
                limit(plan.sweep->from);
            else if (!plan.turn)
                for (const int face : faces_.solids[body].faces) {
                    limit(face);
                    double& size = sizes[static_cast<std::size_t>(face)];
                    size = std::min(size, request.turns * curvedSize(face, plan.thickness, size));
                }
        }
        return sizes;
    }

    /// How large elements on a curved wall may be: so large that their arcs rise over the chord by a tenth of the
    /// wall's thickness, since tetrahedra with curved sides turn inside out where it is much of it.
    double curvedSize(int face, double thickness, double size) const
    {
        double radius = 1e300;
        for (const auto& loop : faces_.faces[static_cast<std::size_t>(face)].loops)
            for (const auto& use : loop)
                if (const auto& edge = faces_.edges[static_cast<std::size_t>(use.edge)]; edge.turn > 0.1)
                    radius = std::min(radius, edge.length / edge.turn);
        if (radius > 1e299 || !(thickness > 0.0)) return 1e300;
        const double arc = std::min(size, radius * curvedTurn); // longer ones are parted anyway
        return arc * arc / (8.0 * radius) > 0.15 * thickness ? std::sqrt(0.8 * radius * thickness) : 1e300;
    }

    void markSweeps()
    {
        follows_.assign(faces_.faces.size(), 0);
        swept_.assign(faces_.faces.size(), 0);
        for (const auto& body : plan_.bodies) {
            if (body.turn)
                for (const auto& part : body.turn->parts)
                    follows_[static_cast<std::size_t>(part.face)] = 1;
            if (!body.sweep) continue;
            swept_[static_cast<std::size_t>(body.sweep->from)] = 1;
            follows_[static_cast<std::size_t>(body.sweep->to)] = 1;
            for (const auto& wall : body.sweep->walls)
                follows_[static_cast<std::size_t>(wall.face)] = 1;
        }
    }

    bool boundsSolid(int face) const { return !faces_.faces[static_cast<std::size_t>(face)].solids.empty(); }

    void middlesOfEdges()
    {
        for (std::size_t edge = 0; edge < faces_.edges.size(); ++edge) {
            const auto& faces = faces_.edges[edge].faces;
            if (std::none_of(faces.begin(), faces.end(), [&](int face) { return boundsSolid(face); })) continue;
            const auto& nodes = mesh_.ofEdge[edge];
            for (std::size_t part = 0; part + 1 < nodes.size(); ++part) {
                const double share =
                    (shareOf(edge, static_cast<long>(part)) + shareOf(edge, static_cast<long>(part) + 1)) / 2.0;
                mesh_.middleOf.emplace(std::minmax(nodes[part], nodes[part + 1]),
                                       faces_.onEdge(static_cast<int>(edge), share));
            }
        }
    }

    /// Takes an element into the mesh: cut in two, with the middles of its sides, where its face bounds tetrahedra;
    /// `places` are those of its corners in the face's own plane.
    void take(int face, const std::array<int, 4>& nodes, const std::array<Two, 4>& places)
    {
        if (!boundsSolid(face)) {
            mesh_.elements.push_back({face, nodes});
            return;
        }
        if (swept_[static_cast<std::size_t>(face)]) {
            takeSwept(face, nodes, places);
            return;
        }
        const auto triangle = [&](std::size_t a, std::size_t b, std::size_t c) {
            const std::array<std::size_t, 3> corner{a, b, c};
            for (std::size_t at = 0; at < 3; ++at) {
                const std::size_t i = corner[at], j = corner[(at + 1) % 3];
                if (nodes[i] == nodes[j]) return; // at a pole
                const std::pair<int, int> ends = std::minmax(nodes[i], nodes[j]);
                if (!mesh_.middleOf.contains(ends))
                    mesh_.middleOf.emplace(ends, faces_.place(face, (places[i] + places[j]) / 2.0));
            }
            mesh_.elements.push_back({face, {nodes[a], nodes[b], nodes[c], -1}});
        };
        if (nodes[3] < 0) return triangle(0, 1, 2);
        // A wide corner is parted: between two sides of one arc it would be flat.
        std::size_t widest = 0;
        double most = -1.0;
        for (std::size_t at = 0; at < 4; ++at)
            if (const double own = angleAt(places, at); own > most) {
                most = own;
                widest = at;
            }
        constexpr double wide = 0.7 * std::numbers::pi;
        if (most > wide ? widest % 2 == 0
                        : (places[2] - places[0]).norm() <= (places[3] - places[1]).norm() * (1.0 + 1e-9)) {
            triangle(0, 1, 2);
            triangle(0, 2, 3);
        } else {
            triangle(0, 1, 3);
            triangle(1, 2, 3);
        }
    }

    static double angleAt(const std::array<Two, 4>& places, std::size_t at)
    {
        const Two a = places[(at + 1) % 4] - places[at], b = places[(at + 3) % 4] - places[at];
        return std::acos(std::clamp(a.dot(b) / (a.norm() * b.norm()), -1.0, 1.0));
    }

    /// A corner between two sides of one arc is flat when they are curved: the element is parted there.
    void takeSwept(int face, const std::array<int, 4>& nodes, const std::array<Two, 4>& places)
    {
        constexpr double widest = 0.75 * std::numbers::pi;
        for (std::size_t at = 0; at < 4 && nodes[3] >= 0; ++at) {
            if (angleAt(places, at) < widest) continue;
            const auto node = [&](std::size_t step) { return nodes[(at + step) % 4]; };
            mesh_.elements.push_back({face, {node(0), node(1), node(2), -1}});
            mesh_.elements.push_back({face, {node(0), node(2), node(3), -1}});
            return;
        }
        mesh_.elements.push_back({face, nodes});
    }

    /// Where curved sides turn an element of a sweep's first face nearly inside out at a corner they become straight.
    void straighten(int face)
    {
        constexpr double least = 0.2; // of the sine of the angle there
        const auto place = [&](int node) { return mesh_.nodes[static_cast<std::size_t>(node)]; };
        for (const auto& element : mesh_.elements) {
            if (element.face != face) continue;
            const std::size_t corners = element.nodes[3] < 0 ? 3 : 4;
            const auto node = [&](std::size_t corner) { return element.nodes[corner % corners]; };
            const Eigen::Vector3d up = (place(node(1)) - place(node(0))).cross(place(node(2)) - place(node(0)));
            const auto start = [&](int from, int to) { // the direction in which the side leaves
                const auto known = mesh_.middleOf.find(std::minmax(from, to));
                const Eigen::Vector3d middle =
                    known == mesh_.middleOf.end() ? Eigen::Vector3d((place(from) + place(to)) / 2.0) : known->second;
                return Eigen::Vector3d(4.0 * middle - 3.0 * place(from) - place(to)).normalized();
            };
            for (std::size_t at = 0; at < corners; ++at) {
                const int own = node(at), next = node(at + 1), before = node(at + corners - 1);
                if (start(own, next).cross(start(own, before)).dot(up.normalized()) > least) continue;
                for (const int other : {next, before})
                    if (const auto known = mesh_.middleOf.find(std::minmax(own, other)); known != mesh_.middleOf.end())
                        known->second = (place(own) + place(other)) / 2.0;
            }
        }
    }

    struct Side {
        std::vector<int> nodes;
        std::vector<Two> places;
    };
    /// Nodes and their places on the face, the end of the last use left out.
    Side along(int face, int loop, const std::vector<int>& uses) const
    {
        Side side;
        for (const int use : uses) {
            const auto [edge, backwards] = faces_.faces[static_cast<std::size_t>(face)]
                                               .loops[static_cast<std::size_t>(loop)][static_cast<std::size_t>(use)];
            const auto& nodes = mesh_.ofEdge[static_cast<std::size_t>(edge)];
            const std::size_t parts = nodes.size() - 1;
            for (std::size_t part = 0; part < parts; ++part) {
                const std::size_t own = backwards ? parts - part : part;
                const double share = shareOf(static_cast<std::size_t>(edge), static_cast<long>(own));
                side.nodes.push_back(nodes[own]);
                side.places.push_back(faces_.onFace(face, loop, use, backwards ? 1.0 - share : share));
            }
        }
        return side;
    }

    void noteAcross(int face, long elements)
    {
        for (auto& body : plan_.bodies)
            if (body.sweep && body.sweep->from == face) body.across = elements;
    }

    bool mapped(int index)
    {
        const auto& sides = division_.sidesOf(index);
        const auto parts = [&](std::size_t at) { return division_.partsOfSide(index, at); };
        if (sides.empty() || parts(0) != parts(2) || parts(1) != parts(3)) return false;
        std::array<Side, 4> side;
        for (std::size_t at = 0; at < 4; ++at)
            side[at] = along(index, 0, sides[at]);
        const std::size_t columns = side[0].nodes.size(), rows = side[1].nodes.size();
        // By column and row; sides run round, so the third and the fourth run against it.
        std::vector<int> nodes((columns + 1) * (rows + 1), -1);
        std::vector<Two> places(nodes.size());
        const auto put = [&](std::size_t column, std::size_t row, const Side& from, std::size_t at) {
            nodes[row * (columns + 1) + column] = from.nodes[at];
            places[row * (columns + 1) + column] = from.places[at];
        };
        for (std::size_t at = 0; at < columns; ++at) {
            put(at, 0, side[0], at);
            put(columns - at, rows, side[2], at);
        }
        for (std::size_t at = 0; at < rows; ++at) {
            put(columns, at, side[1], at);
            put(0, rows - at, side[3], at);
        }
        const auto place = [&](std::size_t column, std::size_t row) { return places[row * (columns + 1) + column]; };
        for (std::size_t row = 1; row < rows; ++row)
            for (std::size_t column = 1; column < columns; ++column) { // transfinite (Gordon and Hall 1973)
                const double x = double(column) / double(columns), y = double(row) / double(rows);
                const Two inner = (1 - y) * place(column, 0) + y * place(column, rows) + (1 - x) * place(0, row) +
                                  x * place(columns, row) - (1 - x) * (1 - y) * place(0, 0) -
                                  x * (1 - y) * place(columns, 0) - x * y * place(columns, rows) -
                                  (1 - x) * y * place(0, rows);
                places[row * (columns + 1) + column] = inner;
            }
        for (std::size_t row = 0; row < rows; ++row) // a face that bends back on itself is filled instead
            for (std::size_t column = 0; column < columns; ++column) {
                const Two a = place(column + 1, row + 1) - place(column, row),
                          b = place(column, row + 1) - place(column + 1, row);
                if (!(a.x() * b.y() - a.y() * b.x() > 0.0)) return false;
            }
        noteAcross(index, static_cast<long>(std::min(rows, columns)));
        for (std::size_t row = 1; row < rows; ++row)
            for (std::size_t column = 1; column < columns; ++column) {
                nodes[row * (columns + 1) + column] = static_cast<int>(mesh_.nodes.size());
                mesh_.nodes.push_back(faces_.place(index, place(column, row)));
            }
        for (std::size_t row = 0; row < rows; ++row)
            for (std::size_t column = 0; column < columns; ++column) {
                const std::size_t at = row * (columns + 1) + column;
                take(index, {nodes[at], nodes[at + 1], nodes[at + columns + 2], nodes[at + columns + 1]},
                     {places[at], places[at + 1], places[at + columns + 2], places[at + columns + 1]});
            }
        return true;
    }

    /// Between two rims with the same number of parts, when those lie beside each other well enough.
    bool ring(int index)
    {
        if (!division_.isRing(index)) return false;
        const Side outer = along(index, 0, {0}), inner = along(index, 1, {0});
        const std::size_t parts = outer.nodes.size();
        if (inner.nodes.size() != parts || parts < 3) return false;
        std::vector<std::size_t> beside(parts); // of the inner rim, which runs the other way
        const auto nearest = static_cast<std::size_t>(std::min_element(inner.places.begin(), inner.places.end(),
                                                                       [&](const Two& one, const Two& other) {
                                                                           return (one - outer.places[0]).norm() <
                                                                                  (other - outer.places[0]).norm();
                                                                       }) -
                                                      inner.places.begin());
        for (std::size_t at = 0; at < parts; ++at)
            beside[at] = (nearest + parts - at % parts) % parts;
        const Two middle = std::accumulate(outer.places.begin(), outer.places.end(), Two(0.0, 0.0)) / double(parts);
        const Two a = outer.places[0] - middle, b = inner.places[nearest] - middle;
        const double gap = a.norm() - b.norm(), slip = std::abs(std::atan2(a.x() * b.y() - a.y() * b.x(), a.dot(b)));
        const long rows = std::max(division_.leastAcross(index), std::lround(gap / sizeOf(index)));
        if (slip * b.norm() > 0.3 * gap) return false;
        noteAcross(index, rows);
        std::vector<int> last = outer.nodes;
        std::vector<Two> lastPlaces = outer.places;
        for (long row = 1; row <= rows; ++row) {
            std::vector<int> next(parts);
            std::vector<Two> nextPlaces(parts);
            for (std::size_t at = 0; at < parts; ++at) {
                const double share = double(row) / double(rows);
                nextPlaces[at] = (1.0 - share) * outer.places[at] + share * inner.places[beside[at]];
                next[at] = row == rows ? inner.nodes[beside[at]] : static_cast<int>(mesh_.nodes.size());
                if (row < rows) mesh_.nodes.push_back(faces_.place(index, nextPlaces[at]));
            }
            for (std::size_t at = 0; at < parts; ++at) {
                const std::size_t to = (at + 1) % parts;
                take(index, {last[at], last[to], next[to], next[at]},
                     {lastPlaces[at], lastPlaces[to], nextPlaces[to], nextPlaces[at]});
            }
            last = std::move(next);
            lastPlaces = std::move(nextPlaces);
        }
        return true;
    }

    /// About the least radius of curvature of a face, by its normals along the rim and in the middle, m.
    double radiusOf(int index) const
    {
        std::vector<Two> rim;
        for (std::size_t use = 0; use < faces_.faces[static_cast<std::size_t>(index)].loops[0].size(); ++use)
            for (const double share : {0.0, 0.5})
                rim.push_back(faces_.onFace(index, 0, static_cast<int>(use), share));
        const Two middle = std::accumulate(rim.begin(), rim.end(), Two(0.0, 0.0)) / double(rim.size());
        const Eigen::Vector3d place = faces_.place(index, middle), normal = faces_.normal(index, middle);
        double radius = 1e300;
        for (const Two& own : rim) {
            const double turn = (faces_.normal(index, own) - normal).norm(); // twice the sine of half of it
            if (turn > 0.05) radius = std::min(radius, (faces_.place(index, own) - place).norm() / turn);
        }
        return radius;
    }

    void fill(int index)
    {
        const auto& face = faces_.faces[static_cast<std::size_t>(index)];
        if (face.loops.empty()) return;
        PlaneRegion region;
        std::vector<int> nodes;
        std::map<int, int> known; // points of the region by node; a seam has its nodes twice
        for (std::size_t loop = 0; loop < face.loops.size(); ++loop) {
            std::vector<int> uses(face.loops[loop].size());
            for (std::size_t use = 0; use < uses.size(); ++use)
                uses[use] = static_cast<int>(use);
            const Side side = along(index, static_cast<int>(loop), uses);
            region.loops.emplace_back();
            for (std::size_t at = 0; at < side.nodes.size(); ++at) {
                region.loops.back().push_back(static_cast<int>(region.points.size()));
                known[side.nodes[at]] = static_cast<int>(region.points.size());
                region.points.push_back(side.places[at]);
                nodes.push_back(side.nodes[at]);
            }
        }
        const auto pointOf = [&](int node, const Two& place) {
            const auto [at, isNew] = known.emplace(node, static_cast<int>(region.points.size()));
            if (isNew) {
                region.points.push_back(place);
                nodes.push_back(node);
            }
            return at->second;
        };
        for (std::size_t inner = 0; inner < face.innerEdges.size(); ++inner) {
            const auto& own = mesh_.ofEdge[static_cast<std::size_t>(face.innerEdges[inner])];
            int last = -1;
            for (std::size_t at = 0; at < own.size(); ++at) {
                const int point =
                    pointOf(own[at], faces_.insideFace(index, static_cast<int>(inner),
                                                       shareOf(static_cast<std::size_t>(face.innerEdges[inner]),
                                                               static_cast<long>(at))));
                if (last >= 0) region.segments.push_back({last, point});
                last = point;
            }
        }
        for (std::size_t inner = 0; inner < face.innerVertices.size(); ++inner)
            pointOf(face.innerVertices[inner], faces_.vertexOnFace(index, static_cast<int>(inner)));
        double size = sizeOf(index);
        if (boundsSolid(index)) {
            constexpr double tiny = 0.15; // rounds that are so small beside the elements need none of their own
            const double radius = radiusOf(index);
            if (radius > tiny * size) size = std::min(size, turns_ * curvedTurn * radius);
        }
        std::function<double(const Two&)> sizeAt;
        if (const SizeField& field = division_.field(); !field.empty())
            sizeAt = [&](const Two& own) { return field.at(faces_.place(index, own), size); };
        const PlaneMesh filled = fillRegion(region, size, sizeAt);
        for (std::size_t at = region.points.size(); at < filled.points.size(); ++at) {
            nodes.push_back(static_cast<int>(mesh_.nodes.size()));
            mesh_.nodes.push_back(faces_.place(index, filled.points[at]));
        }
        for (const auto& cell : filled.cells) {
            std::array<int, 4> own{-1, -1, -1, -1};
            std::array<Two, 4> places;
            for (std::size_t corner = 0; corner < 4; ++corner) {
                if (cell[corner] < 0) continue;
                own[corner] = nodes[static_cast<std::size_t>(cell[corner])];
                places[corner] = filled.points[static_cast<std::size_t>(cell[corner])];
            }
            take(index, own, places);
        }
    }

    const JoinedFaces& faces_;
    SweepPlan plan_;
    std::vector<double> sizes_; ///< by face
    EdgeDivision division_;
    double turns_;
    Progress* progress_;
    SheetMesh mesh_;
    std::vector<char> follows_; ///< by face: meshed by a sweep that moves over it
    std::vector<char> swept_;   ///< by face: the first one of a sweep
};

} // namespace

namespace {

/// All that a mesh of the faces follows from, as numbers.
std::vector<double> keyOf(const JoinedFaces& faces, const SurfaceRequest& request)
{
    std::vector<double> key{faces.stamp, request.turns, double(request.bodies.size())};
    key.insert(key.end(), request.sizeOfFace.begin(), request.sizeOfFace.end());
    for (const auto& body : request.bodies)
        key.insert(key.end(), {body.size, double(body.elements), double(body.through), double(body.unsaid)});
    for (const auto& source : request.field.sources())
        key.insert(key.end(), {source.place.x(), source.place.y(), source.place.z(), source.size, source.growth});
    return key;
}

} // namespace

std::shared_ptr<const SheetMesh> meshFaces(const std::shared_ptr<const JoinedFaces>& faces,
                                           const SurfaceRequest& request, Progress* progress)
{
    static KeptAnswers<std::shared_ptr<const SheetMesh>> lately(6, [](const std::shared_ptr<const SheetMesh>& one) {
        return 1e-6 * (sizeof(SheetMesh::Element) * double(one->elements.size()) +
                       60.0 * double(one->nodes.size() + one->middleOf.size()));
    });
    auto key = keyOf(*faces, request);
    if (const auto known = lately.find(key)) return *known;
    auto mesh = std::make_shared<SheetMesh>(Mesher(*faces, request, progress).meshed());
    mesh->stamp = newStamp();
    if (!progress || !progress->stopped()) lately.keep(std::move(key), mesh);
    return mesh;
}

double elementsOf(const JoinedFaces& faces, const std::vector<double>& sizeOfFace)
{
    double count = 0.0;
    for (std::size_t face = 0; face < faces.faces.size(); ++face)
        count += faces.faces[face].area / std::pow(sizeOfFace[face], 2);
    return count;
}

} // namespace undisona
